// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

#include "media/media_reader.h"
#include "sim/camera_model.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "sim/random_frames.h"
#include "sim/shoot.h"
#include "sim/truth.h"
#include "support/developed_truth.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

rig::Camera smallCamera(std::size_t index = 0) {
    rig::Camera camera = sim::placedRig(sim::clockBenchRig()).cameras[index];
    camera.settings.width = 320;
    camera.settings.height = 180;
    return camera;
}

}  // namespace

class TestSim : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void sameSeedSameFrame() {
        sim::RandomFrameOptions options;
        options.width = 320;
        options.height = 180;
        const auto a = image::signalFrame(sim::randomFrame(5, options).frame);
        const auto b = image::signalFrame(sim::randomFrame(5, options).frame);
        const auto c = image::signalFrame(sim::randomFrame(6, options).frame);
        QVERIFY(a.channels == b.channels);
        QVERIFY(a.channels != c.channels);
    }
    void nominalCameraRecordsGreyOnItsCurve() {
        rig::Camera camera = smallCamera();
        camera.settings = sim::nominalSettings();
        camera.sheet.profiles.clear();
        rig::SimulatedBody body;
        body.curve = colour::curveOf(colour::CurveKind::Bt709);
        body.vignetteStops = 0.0;
        body.noiseAtBase = 0.0;
        camera.simulated = body;
        image::Frame linear = image::blankFrame(4, 4);
        for (auto& channel : linear.channels) std::fill(channel.begin(), channel.end(), 0.18F);
        const image::Frame signal = sim::CameraModel(camera).develop(linear, 1);
        for (int c = 0; c < 3; ++c) QVERIFY(std::abs(signal.at(c, 2, 2) - 0.409F) < 0.002F);
    }
    /// sources 11.5: 18 % grey moved by +20 mired has R/G 1.0823 and B/G 0.8778 (gains relative to
    /// D65 as (0.9992, 0.9989)).
    void warmthFollowsThePublishedRatios() {
        rig::SimulatedBody body;
        body.warmthMired = 20.0;
        const auto gains = sim::neutralGains(body, sim::nominalSettings());
        QVERIFY(std::abs(gains[0] - 1.0823 / 0.9992) < 0.006);
        QVERIFY(std::abs(gains[2] - 0.8778 / 0.9989) < 0.006);
    }
    void truthKnowsItsSigns() {
        rig::Camera reference = smallCamera();
        rig::Camera camera = reference;
        camera.simulated->sensitivityStops += 0.4;
        camera.simulated->warmthMired += 12.0;
        camera.simulated->tintDuv -= 0.002;
        const auto truth = sim::trueDifference(camera, reference);
        QVERIFY(std::abs(truth.exposureStops - 0.4) < 0.03);
        QVERIFY(std::abs(truth.whiteBalanceMired - 12.0) < 0.2);
        QVERIFY(std::abs(truth.tintDuv + 0.002) < 0.0002);
        QVERIFY(std::abs(sim::trueDifference(reference, reference).exposureStops) < 1e-5);
    }
    /// What truth.json says of the demo's cameras, against the definitions worked out on flat
    /// pictures that they develop.
    void truthIsWhatThePicturesShow() {
        const rig::Rig rig = sim::placedRig(sim::clockBenchRig());
        for (const rig::Camera& camera : rig.cameras) {
            if (camera.id == rig.referenceId) continue;
            const rig::Camera& reference = *rig::findCamera(rig, rig.referenceId);
            const auto told = sim::trueDifference(camera, reference);
            const support::NeutralDifference shown = support::neutralDifference(
                support::developedTruth(camera), support::developedTruth(reference));
            const QString all = QString("%1: %2 %3, %4 %5, %6 %7")
                                    .arg(QString::fromStdString(camera.letter))
                                    .arg(told.exposureStops)
                                    .arg(shown.exposureStops)
                                    .arg(told.whiteBalanceMired)
                                    .arg(shown.mired)
                                    .arg(told.tintDuv)
                                    .arg(shown.duv);
            QVERIFY2(std::abs(told.exposureStops - shown.exposureStops) < 0.01, qPrintable(all));
            QVERIFY2(std::abs(told.whiteBalanceMired - shown.mired) < 0.3, qPrintable(all));
            QVERIFY2(std::abs(told.tintDuv - shown.duv) < 0.0002, qPrintable(all));
        }
    }
    void dialAndTintWorkAgainstTheHiddenTruth() {
        rig::Camera reference = smallCamera();
        rig::Camera camera = reference;
        camera.simulated->warmthMired += 20.0;
        camera.settings.whiteBalanceKelvin =
            1e6 / (1e6 / camera.settings.whiteBalanceKelvin + 20.0);
        QVERIFY(std::abs(sim::trueDifference(camera, reference).whiteBalanceMired) < 1e-6);
    }
    void chartRestsInTheMiddleOfTheTake() {
        QVERIFY(!sim::chartPlace(sim::clockBenchPlan(), 0.0, 2.0));
        QVERIFY(!sim::chartPlace(sim::clockBenchPlan(), 1.99, 2.0));
        const auto early = sim::chartPlace(sim::clockBenchPlan(), 0.6, 2.0);
        const auto late = sim::chartPlace(sim::clockBenchPlan(), 1.4, 2.0);
        QVERIFY(early && late && (early->corners[0] - late->corners[0]).norm() < 1e-12);
    }
    void automaticsChooseForThemselves() {
        rig::Camera camera = smallCamera(3);
        image::Frame bright = image::blankFrame(8, 8);
        for (auto& channel : bright.channels) std::fill(channel.begin(), channel.end(), 0.8F);
        image::Frame dark = bright;
        for (auto& channel : dark.channels) std::fill(channel.begin(), channel.end(), 0.02F);
        QVERIFY(sim::usedSettings(camera, bright).isoValue <
                sim::usedSettings(camera, dark).isoValue);
        camera.settings.isAutoExposure = false;
        camera.settings.isAutoWhiteBalance = false;
        QVERIFY(sim::usedSettings(camera, dark) == camera.settings);
    }
    void shotClipsCarryTheirTagsAndCanBeRepeated() {
        const QTemporaryDir folder;
        sim::SimulatedSet set;
        const auto file = [&](const char* name) {
            return folder.filePath(QString::fromUtf8(name)).toStdString();
        };
        sim::ShootOptions options;
        options.seconds = 0.4;
        QVERIFY(set.shoot(smallCamera(), options, file("a.mov"), {}).has_value());
        QVERIFY(set.shoot(smallCamera(), options, file("b.mov"), {}).has_value());
        auto first = media::MediaReader::open(file("a.mov"));
        auto second = media::MediaReader::open(file("b.mov"));
        QVERIFY(first && second);
        QCOMPARE(first->info().codec, std::string("hevc"));
        QCOMPARE(first->info().bitDepth, 10);
        QVERIFY(first->info().tags.isRangeTagged && first->info().tags.isMatrixTagged);
        QVERIFY(image::signalFrame(*first->next().value()).channels ==
                image::signalFrame(*second->next().value()).channels);
    }
    void cancelledShootLeavesNoFile() {
        const QTemporaryDir folder;
        const std::string file = folder.filePath("a.mov").toStdString();
        sim::SimulatedSet set;
        const base::Progress progress;
        progress.cancel();
        const auto shot = set.shoot(smallCamera(), {}, file, progress);
        QVERIFY(!shot && shot.error().code == base::ErrorCode::Cancelled);
        QVERIFY(!std::filesystem::exists(file));
    }
    void realCamerasCannotShoot() {
        rig::Camera camera = smallCamera();
        camera.simulated.reset();
        sim::SimulatedSet set;
        QCOMPARE(set.shoot(camera, {}, "/tmp/never.mov", {}).error().code,
                 base::ErrorCode::OutOfRange);
        sim::ShootOptions endless;
        endless.seconds = 1e9;
        QVERIFY(
            words::inEnglish(endless.validate().error().detail).find("0.2 to 60 s is allowed") !=
            std::string::npos);
    }
};

RIG_TEST(TestSim);
#include "test_sim.moc"
