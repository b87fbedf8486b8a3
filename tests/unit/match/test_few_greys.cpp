// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/differences.h"
#include "match/match_report.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using match::Quality;

namespace {

/// The reading of a reference with these greys alone, in closed form.
rig::Reading greysOnly(const support::IdealCamera& camera,
                       const std::vector<double>& lights,
                       base::ValueTrust trust = base::ValueTrust::Nominal) {
    rig::Reading all = support::idealReading(camera);
    const rig::PatchReading grey = all.patches[21];
    const auto d65 = colour::whitePointOf(colour::kD65);
    const auto gains = *match::gainsOf(
        {d65->mired + base::Mired(camera.whiteBalanceMired), d65->duv + base::Duv(camera.tintDuv)});
    const auto neutral = *match::gainsOf(*d65);
    rig::Reading reading = all;
    reading.layout = "greys-" + std::to_string(lights.size());
    reading.columns = static_cast<int>(lights.size());
    reading.rows = 1;
    reading.trust = trust;
    reading.patches.clear();
    for (const double light : lights) {
        rig::PatchReading patch = grey;
        patch.name = "grey";
        patch.nominalLinear = {light, light, light};
        for (std::size_t c = 0; c < 3; ++c)
            patch.signal[c] = camera.curve.encode(light * std::exp2(camera.exposureStops) *
                                                  gains[c] / neutral[c]);
        reading.patches.push_back(patch);
    }
    return reading;
}

match::CameraDifferences fewCompared(const rig::Reading& camera,
                                     const rig::Reading& reference,
                                     const std::optional<colour::TransferCurve>& declared = {}) {
    return match::compare(
        {&camera, declared, {}}, {&reference, declared, {}}, match::Judging::Recorded);
}

bool covers(const match::Difference& difference, double truth) {
    return difference.value &&
           std::abs(*difference.value - truth) <= 2.0 * difference.uncertainty + 1e-9;
}

}  // namespace

/// References of one to three greys: a grey card, an area of the set, a white-grey-black card.
class TestFewGreys : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void oneGreyTellsExposureAndWhiteBalance_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<bool>("isDeclared");
        for (const auto kind :
             {colour::CurveKind::Bt709, colour::CurveKind::Log, colour::CurveKind::Standard}) {
            QTest::addRow("kind %d, declared", int(kind)) << int(kind) << true;
            QTest::addRow("kind %d, assumed", int(kind)) << int(kind) << false;
        }
    }
    void oneGreyTellsExposureAndWhiteBalance() {
        QFETCH(int, kind);
        QFETCH(bool, isDeclared);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<colour::CurveKind>(kind));
        const rig::Reading reference = greysOnly(camera, {0.18});
        camera.exposureStops = 0.4;
        camera.whiteBalanceMired = 8.0;
        const auto declared = isDeclared ? std::optional(camera.curve) : std::nullopt;
        const auto result = fewCompared(greysOnly(camera, {0.18}), reference, declared);
        // A log picture read through BT.709 is far off, and the uncertainty says so.
        QVERIFY2(covers(result.of(Quality::Exposure), 0.4),
                 qPrintable(QString::number(*result.of(Quality::Exposure).value)));
        QVERIFY2(covers(result.of(Quality::WhiteBalance), 8.0),
                 qPrintable(QString::number(*result.of(Quality::WhiteBalance).value)));
        QVERIFY(*result.of(Quality::Exposure).value > 0.1);
        for (const Quality quality :
             {Quality::Contrast, Quality::BlackLevel, Quality::Saturation, Quality::Hue}) {
            QVERIFY(!result.of(quality).value.has_value());
            QVERIFY(!result.of(quality).reason.empty());
        }
        const bool saysAssumed =
            std::any_of(result.notes.begin(), result.notes.end(), [](const base::Text& note) {
                return words::inEnglish(note).find("Declare the camera's curve") !=
                       std::string::npos;
            });
        QCOMPARE(saysAssumed, !isDeclared);
    }
    /// Without a declared curve stops are less sure, and an area of the set less than a card.
    void uncertaintyGrowsWithWhatIsNotKnown() {
        support::IdealCamera camera;
        const rig::Reading card = greysOnly(camera, {0.18});
        const rig::Reading area = greysOnly(camera, {0.18}, base::ValueTrust::Found);
        const rig::Reading full = support::idealReading(camera);
        camera.exposureStops = -0.5;
        const auto error = [](const match::CameraDifferences& d) {
            return d.of(Quality::Exposure).uncertainty;
        };
        const double chart = error(fewCompared(support::idealReading(camera), full));
        const double declared = error(fewCompared(greysOnly(camera, {0.18}), card, camera.curve));
        const double assumed = error(fewCompared(greysOnly(camera, {0.18}), card));
        const double found = error(
            fewCompared(greysOnly(camera, {0.18}, base::ValueTrust::Found), area, camera.curve));
        QVERIFY(chart < declared);
        QVERIFY(declared < assumed);
        QVERIFY(declared < found);
        const auto result =
            fewCompared(greysOnly(camera, {0.18}, base::ValueTrust::Found), area, camera.curve);
        QVERIFY(result.of(Quality::WhiteBalance).uncertainty >= 3.0);
        QVERIFY(words::inEnglish(result.notes.front()).find("without a chart") !=
                std::string::npos);
    }
    /// 90, 18 and 3.5 %: three points make a curve of their own.
    void threeGreysMakeACurve() {
        support::IdealCamera camera;
        const rig::Reading reference = greysOnly(camera, {0.9, 0.18, 0.035});
        camera.exposureStops = -0.6;
        camera.whiteBalanceMired = -12.0;
        const auto result = fewCompared(greysOnly(camera, {0.9, 0.18, 0.035}), reference);
        QVERIFY(result.fit && !result.fit->isCurveAssumed);
        QVERIFY2(std::abs(*result.of(Quality::Exposure).value + 0.6) < 0.06,
                 qPrintable(QString::number(*result.of(Quality::Exposure).value)));
        QVERIFY(std::abs(*result.of(Quality::WhiteBalance).value + 12.0) < 2.0);
        QVERIFY(result.of(Quality::Contrast).value.has_value());
    }
    void referencesAreNotMixed() {
        const rig::Reading card = greysOnly({}, {0.18});
        const rig::Reading full = support::idealReading({});
        const auto result = fewCompared(card, full);
        for (std::size_t i = 0; i < match::kQualityCount; ++i)
            QVERIFY(!result.qualities[i].value.has_value());
        QVERIFY(words::inEnglish(result.of(Quality::Exposure).reason).find("another chart") !=
                std::string::npos);
        rig::Rig rig;
        rig::Take take;
        for (const auto& [id, reading] : {std::pair{"a", full}, std::pair{"b", card}}) {
            rig::Camera camera;
            camera.id = id;
            rig.cameras.push_back(camera);
            rig::Shot shot;
            shot.cameraId = id;
            shot.reading = reading;
            take.shots.push_back(shot);
        }
        rig.referenceId = "a";
        const match::MatchReport report = match::matchTake(rig, take, false, {});
        QVERIFY(!report.worstNow.has_value());
        QVERIFY(report.turns().empty());
    }
    void turnsFollowFromOneGrey() {
        rig::Rig rig;
        rig::Take take;
        support::IdealCamera camera;
        for (const auto& [id, stops] : {std::pair{"a", 0.0}, std::pair{"b", -0.5}}) {
            rig::Camera body;
            body.id = id;
            rig.cameras.push_back(body);
            rig::Shot shot;
            shot.cameraId = id;
            camera.exposureStops = stops;
            shot.reading = greysOnly(camera, {0.18});
            take.shots.push_back(shot);
        }
        rig.referenceId = "a";
        const match::MatchReport report = match::matchTake(rig, take, false, {});
        QVERIFY(!report.turns().empty());
        QVERIFY(report.worstAfter->deltaE < report.worstNow->deltaE);
    }
    void aClippedGreyCardIsNotMeasured() {
        rig::Reading card = greysOnly({}, {0.18});
        card.patches[0].clippedShare = 0.5;
        const auto fit = match::fitNeutrals(card);
        QVERIFY(!fit.has_value());
        QVERIFY(words::inEnglish(fit.error().detail).find("0 of 1") != std::string::npos);
    }
};

RIG_TEST(TestFewGreys);
#include "test_few_greys.moc"
