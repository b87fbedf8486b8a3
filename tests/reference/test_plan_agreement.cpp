// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "colour/primaries.h"
#include "colour/white_point.h"
#include "plan/analysis.h"
#include "plan/edit.h"
#include "plan/furnisher.h"
#include "plan/lamp_advice.h"
#include "plan/sight.h"
#include "sim/camera_model.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

constexpr int kWidth = 960;
constexpr int kHeight = 540;
constexpr double kHeightTolerance = 0.01;  // 1 % of the frame's height, as asked

image::Frame rendered(const rig::Rig& rig, int width = kWidth) {
    sim::View view = *sim::planView(rig, rig.cameras[0]);
    view.width = width;
    view.height = width * 9 / 16;
    return *sim::render(sim::sceneOf(*rig.plan), view, {});
}

double brightness(const image::Frame& frame, int x, int y) {
    return 0.2126 * double(frame.at(0, x, y)) + 0.7152 * double(frame.at(1, x, y)) +
           0.0722 * double(frame.at(2, x, y));
}

rig::Rig singleRig(double lensHeight, double distance, double focal, double facing) {
    rig::Rig rig = sim::clockBenchRig();
    rig::SetPlan plan = sim::clockBenchPlan();
    std::erase_if(plan.objects, [](const rig::PlanObject& o) {
        const bool isLamp = o.kind == rig::PlanKind::Light && o.lightType != "practical lamp";
        return !isLamp && o.id != "person-1" && o.cameraId != "camera-1";
    });
    rig::PlanObject& person = *rig::findObject(plan, "person-1");
    person.xMetres = 2.6;
    person.zMetres = 1.2;
    person.facingDegrees = facing;
    person.hasGlasses = false;  // the closed form knows no rims
    rig::PlanObject& camera = *rig::findPlanCamera(plan, "camera-1");
    camera.xMetres = 2.6;
    camera.zMetres = 1.2 + distance;
    camera.heightMetres = lensHeight;
    camera.aimXMetres = 2.6;
    camera.aimZMetres = 1.2;
    camera.aimHeightMetres = 1.30;
    camera.targetId = "person-1";
    rig.plan = plan;
    rig.cameras[0].lens.focalLengthMm = focal;
    return rig;
}

/// Top row of the head, as a share of the height: the first with three bright pixels before black
/// walls, on which no shadow shows.
double headTopOf(rig::Rig rig) {
    rig.plan->wallReflectance = rig.plan->floorReflectance = rig.plan->ceilingReflectance = 0.01;
    const image::Frame frame = rendered(rig);
    for (int y = 0; y < kHeight; ++y) {
        int count = 0;
        for (int x = 0; x < kWidth; ++x) {
            if (brightness(frame, x, y) > 0.04) ++count;
        }
        if (count >= 3) return double(y) / kHeight;
    }
    return 1.0;
}

/// Mean light on a spot of skin, measured in the picture: the brightness of a small field about
/// where the spot is seen, over the reflectance it is known to have.
double measuredLight(const image::Frame& frame,
                     const plan::CameraView& view,
                     const plan::SkinSpot& spot,
                     double reflectance) {
    const auto at = view.project(spot.point);
    const auto cx = static_cast<int>(std::lround(at->x * frame.width - 0.5));
    const auto cy = static_cast<int>(std::lround(at->y * frame.height - 0.5));
    double sum = 0.0;
    int count = 0;
    for (int y = cy - 2; y <= cy + 2; ++y) {
        for (int x = cx - 2; x <= cx + 2; ++x) {
            sum += brightness(frame, x, y);
            ++count;
        }
    }
    return sum / count / reflectance * sim::kNominalLux;
}

}  // namespace

/// The plan's closed form against what the rendered set shows. Figures asked for: 1 % of the
/// frame's height, 0.05 stop, 0.1 stop.
class TestPlanAgreement : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// What the plan says a turned lamp does to chart and colour, against rendered pictures of a
    /// grey card there, whose light is traced and knows nothing of the plan's sums.
    void turnedLampsChangeThePictureAsThePlanSays() {
        rig::Rig rig = sim::clockBenchRig();
        rig.plan = sim::clockBenchPlan();
        rig::PlanObject* chart = nullptr;
        for (rig::PlanObject& object : rig.plan->objects) {
            if (object.kind == rig::PlanKind::Chart) chart = &object;
        }
        chart->leanDegrees = 0.0;
        const plan::Vec place = plan::placeOf(*chart);
        plan::Furnisher(*rig.plan).addBox(rig::PlanKind::Prop,
                                          "grey card",
                                          {place.x(), place.y() - 0.1, place.z() - 0.02},
                                          {0.29, 0.2, 0.02},
                                          0.18,
                                          "plain");
        const auto* stands = rig::findPlanCamera(*rig.plan, rig.cameras[0].id);
        const auto seenAt =
            plan::CameraView::of(*rig.plan, rig.cameras[0], *stands)->project(place);
        QVERIFY(seenAt.has_value());
        const image::Frame before = rendered(rig);
        const plan::LightChange wanted{-0.6, 15.0};
        const auto advice = plan::lampAdvice(*rig.plan, wanted);
        QVERIFY(advice.size() >= 2);
        double stops = 0.0, mired = 0.0;
        for (const plan::LampAdvice& one : advice) {
            stops += one.stops;
            mired += one.mired;
            rig.plan = plan::withLampTurn(*rig.plan, one.turn, true);
        }
        const image::Frame after = rendered(rig);
        std::array<double, 3> then{}, now{};
        for (int i = 0; i < 9 * 9; ++i) {
            const int x = int(seenAt->x * before.width) + i % 9 - 4;
            const int y = int(seenAt->y * before.height) + i / 9 - 4;
            for (std::size_t c = 0; c < 3; ++c) {
                then[c] += double(before.at(int(c), x, y));
                now[c] += double(after.at(int(c), x, y));
            }
        }
        const auto luminance = [](const std::array<double, 3>& rgb) {
            return 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
        };
        const auto miredOf = [](const std::array<double, 3>& rgb) {
            const colour::Vector3 xyz =
                colour::rgbToXyz(colour::kBt709) * colour::Vector3(rgb[0], rgb[1], rgb[2]);
            return colour::whitePointOf(colour::chromaticityOf(xyz))->mired.value();
        };
        const double seen = std::log2(luminance(now) / luminance(then));
        const double warmer = miredOf(now) - miredOf(then);
        const QString told = QString("stops: wanted %1, told %2, seen %3; mired: %4, %5, %6")
                                 .arg(*wanted.stops)
                                 .arg(stops)
                                 .arg(seen)
                                 .arg(*wanted.mired)
                                 .arg(mired)
                                 .arg(warmer);
        QVERIFY2(std::abs(seen - stops) < 0.08, qPrintable(told));
        QVERIFY2(std::abs(seen - *wanted.stops) < 0.1, qPrintable(told));
        QVERIFY2(std::abs(warmer - mired) < 3.0, qPrintable(told));
        QVERIFY2(std::abs(warmer - *wanted.mired) < 4.0, qPrintable(told));
    }
    void headTopAgrees_data() {
        QTest::addColumn<double>("lensHeight");
        QTest::addColumn<double>("distance");
        QTest::addColumn<double>("focal");
        QTest::addColumn<double>("facing");
        QTest::newRow("at eye height, 50 mm") << 1.40 << 2.5 << 50.0 << 0.0;
        QTest::newRow("close, 85 mm") << 1.42 << 3.0 << 85.0 << 10.0;
        QTest::newRow("from above, 35 mm") << 1.90 << 2.0 << 35.0 << 0.0;
        QTest::newRow("from below, 50 mm") << 1.00 << 2.2 << 50.0 << -20.0;
    }
    void headTopAgrees() {
        QFETCH(double, lensHeight);
        QFETCH(double, distance);
        QFETCH(double, focal);
        QFETCH(double, facing);
        const rig::Rig rig = singleRig(lensHeight, distance, focal, facing);
        const plan::SetAnalysis set(rig);
        const plan::PlacedCamera* camera = set.cameraOf("camera-1");
        QVERIFY(camera != nullptr && camera->view);
        const auto box = plan::headBox(*camera->view, *camera->subject);
        const double seen = headTopOf(rig);
        qInfo("crown predicted %.4f, measured %.4f of the height", box->crown.y, seen);
        QVERIFY(std::abs(box->crown.y - seen) < kHeightTolerance);
    }
    /// With the crown (above) the second mark of a head's size: the row of the eyes, found by their
    /// whites, at two distances.
    void eyeLineAgrees() {
        const rig::Rig nearRig = singleRig(1.40, 2.0, 50.0, 0.0);
        const rig::Rig farRig = singleRig(1.40, 3.0, 50.0, 0.0);
        const auto height = [](const rig::Rig& rig) {
            const plan::SetAnalysis set(rig);
            const plan::PlacedCamera* camera = set.cameraOf("camera-1");
            const auto box = plan::headBox(*camera->view, *camera->subject);
            return std::pair(box->crown.y, box->eyes.y);
        };
        for (const rig::Rig& rig : {nearRig, farRig}) {
            const image::Frame frame = rendered(rig);
            const auto [crown, eyes] = height(rig);
            // The whites of the eyes are the brightest pixels of the face's upper half.
            double best = 0.0;
            int row = 0;
            for (int y = static_cast<int>((crown + 0.03) * kHeight);
                 y < static_cast<int>((eyes + 0.04) * kHeight);
                 ++y) {
                double most = 0.0;
                for (int x = kWidth / 2 - 60; x < kWidth / 2 + 60; ++x) {
                    most = std::max(most, brightness(frame, x, y));
                }
                if (most > best) {
                    best = most;
                    row = y;
                }
            }
            qInfo("eyes predicted %.4f, measured %.4f", eyes, double(row) / kHeight);
            QVERIFY(std::abs(eyes - double(row) / kHeight) < kHeightTolerance);
        }
    }
    /// The line where back wall and ceiling meet, and what enters the frame at an edge.
    void ceilingLineAndIntrudersAgree() {
        rig::Rig rig = singleRig(1.40, 3.0, 24.0, 0.0);
        rig.plan->ceilingReflectance = 0.9;
        rig.plan->wallReflectance = 0.1;
        rig::PlanObject& key = *rig::findObject(*rig.plan, "light-1");
        key.xMetres = 1.35;
        key.zMetres = 1.4;
        const plan::SetAnalysis set(rig);
        const plan::PlacedCamera* camera = set.cameraOf("camera-1");
        const auto line = camera->view->project({2.6, rig.plan->heightMetres, 0.0});
        const image::Frame frame = rendered(rig);
        // Down a column beside the person, the largest step in brightness is the ceiling's edge.
        int row = 0;
        double step = 0.0;
        for (int y = 1; y < kHeight / 2; ++y) {
            const double change =
                std::abs(std::log2(brightness(frame, 600, y) / brightness(frame, 600, y - 1)));
            if (change > step) {
                step = change;
                row = y;
            }
        }
        qInfo("ceiling line predicted %.4f, measured %.4f", line->y, double(row) / kHeight);
        QVERIFY(std::abs(line->y - double(row) / kHeight) < kHeightTolerance);
        const auto intruders = set.intruders(*camera);
        const auto found = [&](const std::string& text) {
            return std::find_if(intruders.begin(), intruders.end(), [&](const plan::Intruder& i) {
                return words::inEnglish(i.text) == text;
            });
        };
        const auto ceiling = found("the ceiling");
        QVERIFY(ceiling != intruders.end());
        QVERIFY(std::abs(ceiling->share - double(row) / kHeight) < 0.02);
        // The lamp's head hangs in from the top, as far as told.
        const auto lamp = found("key");
        QVERIFY(lamp != intruders.end());
        QCOMPARE(lamp->edge, std::string("edge.top"));
        const auto middle = camera->view->project(plan::placeOf(key));
        const int x = static_cast<int>(middle->x * kWidth);
        int reach = 0;
        while (reach < kHeight && brightness(frame, x, reach) > 2.0) ++reach;
        qInfo("lamp: predicted %.4f from the top, measured %.4f",
              lamp->share,
              double(reach) / kHeight);
        QVERIFY(std::abs(lamp->share - double(reach) / kHeight) < kHeightTolerance);
        QVERIFY(found("stand of key") != intruders.end());
    }
    void exposureDifferenceAgrees() {
        rig::Rig rig = sim::clockBenchRig();
        for (rig::Camera& camera : rig.cameras) {
            camera.settings.isAutoExposure = camera.settings.isAutoWhiteBalance = false;
            camera.simulated->sensitivityStops = 0.0;
            camera.simulated->glassStops = 0.0;
            camera.lens.transmissionStops = camera.letter == "C" ? 0.3 : 0.0;
        }
        rig.cameras[2].settings.fNumber = 4.0;
        rig.cameras[3].filterStops = 0.5;
        rig.cameras[3].settings.shutterSeconds = 0.01;
        const rig::Rig placed = sim::placedRig(rig);
        for (std::size_t i = 1; i < 4; ++i) {
            const double predicted =
                plan::plannedDifferenceStops(rig, rig.cameras[i], rig.cameras[0]);
            // Measured: linear light that one grey gives behind both lenses.
            const auto recorded = [&](std::size_t k) {
                rig::Camera camera = placed.cameras[k];
                camera.sheet.profiles.clear();
                camera.settings.knobs.clear();
                camera.simulated->curve = colour::curveOf(colour::CurveKind::Bt709);
                camera.simulated->noiseAtBase = 0.0;
                camera.simulated->vignetteStops = 0.0;
                camera.simulated->crosstalk = 0.0;
                camera.simulated->saturation = 1.0;
                image::Frame linear = image::blankFrame(8, 8);
                for (auto& channel : linear.channels)
                    std::fill(channel.begin(), channel.end(), 0.1F);
                const double signal =
                    double(sim::CameraModel(camera).develop(linear, 1).at(1, 4, 4));
                return camera.simulated->curve.decode(signal);
            };
            const double measured = std::log2(recorded(i) / recorded(0));
            qInfo("camera %s: predicted %+.3f, measured %+.3f",
                  rig.cameras[i].letter.c_str(),
                  predicted,
                  measured);
            QVERIFY(std::abs(predicted - measured) < 0.05);
        }
    }
    void keyToFillAgrees_data() {
        QTest::addColumn<double>("keyX");
        QTest::addColumn<double>("keyHeight");
        QTest::addColumn<double>("fillLux");
        QTest::newRow("45 degrees, some fill") << 0.9 << 2.1 << 500.0;
        QTest::newRow("30 degrees, more fill") << 1.5 << 1.9 << 1500.0;
        QTest::newRow("60 degrees, hardly any fill") << 0.4 << 2.0 << 100.0;
        QTest::newRow("high key") << 1.2 << 2.55 << 700.0;
    }
    void keyToFillAgrees() {
        QFETCH(double, keyX);
        QFETCH(double, keyHeight);
        QFETCH(double, fillLux);
        rig::Rig rig = singleRig(1.40, 2.2, 85.0, 0.0);
        rig::PlanObject& key = *rig::findObject(*rig.plan, "light-1");
        key.xMetres = keyX;
        key.zMetres = 2.9;
        key.heightMetres = keyHeight;
        key.aimXMetres = 2.6;
        key.aimZMetres = 1.2;
        key.aimHeightMetres = 1.35;
        rig::PlanObject& fill = *rig::findObject(*rig.plan, "light-2");
        fill.luxAtOneMetre = fillLux;
        const plan::SetAnalysis set(rig);
        const plan::PlacedCamera* camera = set.cameraOf("camera-1");
        const plan::FaceLight* face = set.faceOf("person-1");
        const image::Frame frame = rendered(rig, 2 * kWidth);
        const double left = measuredLight(frame,
                                          *camera->view,
                                          plan::cheekOf(*camera->subject, plan::FaceSide::Left),
                                          camera->subject->skinReflectance);
        const double right = measuredLight(frame,
                                           *camera->view,
                                           plan::cheekOf(*camera->subject, plan::FaceSide::Right),
                                           camera->subject->skinReflectance);
        const double measured = std::abs(std::log2(left / right));
        qInfo(
            "lit : shadow predicted %.3f, measured %.3f stop (left %.1f / %.1f lx, right %.1f / "
            "%.1f)",
            face->ratioStops,
            measured,
            face->left.totalLux,
            left,
            face->right.totalLux,
            right);
        QVERIFY(std::abs(face->ratioStops - measured) < 0.1);
        QVERIFY(std::abs(std::log2(left / face->left.totalLux)) < 0.15);
        QVERIFY(std::abs(std::log2(right / face->right.totalLux)) < 0.15);
    }
};

RIG_TEST(TestPlanAgreement);
#include "test_plan_agreement.moc"
