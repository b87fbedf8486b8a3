// SPDX-License-Identifier: GPL-3.0-or-later
// Casts, hue sectors, uneven light, glare and drift against closed-form readings.
#include "match/curve_identity.h"
#include "match/details.h"
#include "match/match_report.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using colour::CurveKind;
using support::idealReading;

namespace {

/// The chart under light that falls off: `across` stops from left to right, `down` from top to
/// foot.
rig::Reading unevenReading(const support::IdealCamera& camera, double across, double down) {
    rig::Reading reading = idealReading(camera);
    for (std::size_t i = 0; i < reading.patches.size(); ++i) {
        const double x = static_cast<double>(i % 6) / 5.0 - 0.5;
        const double y = static_cast<double>(i / 6) / 3.0 - 0.5;
        support::IdealCamera here = camera;
        here.exposureStops += across * x + down * y;
        reading.patches[i] = idealReading(here).patches[i];
    }
    return reading;
}

match::CameraDifferences compared(const rig::Reading& camera, const rig::Reading& reference) {
    return match::compare(
        {&camera, {}, {}, {}, false}, {&reference, {}, {}, {}, false}, match::Judging::Recorded);
}

}  // namespace

class TestDetails : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void unevenLightIsFoundWhateverTheCurve_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<double>("across");
        QTest::addColumn<double>("down");
        for (const auto& [name, kind] : {std::pair("BT.709", CurveKind::Bt709),
                                         std::pair("HLG", CurveKind::Hlg),
                                         std::pair("log", CurveKind::Log),
                                         std::pair("camera look", CurveKind::Standard)}) {
            QTest::addRow("%s, even", name) << int(kind) << 0.0 << 0.0;
            QTest::addRow("%s, to the right", name) << int(kind) << -0.4 << 0.0;
            QTest::addRow("%s, a stop down and some across", name) << int(kind) << 0.25 << -1.0;
        }
    }
    void unevenLightIsFoundWhateverTheCurve() {
        QFETCH(int, kind);
        QFETCH(double, across);
        QFETCH(double, down);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<CurveKind>(kind));
        camera.exposureStops = -0.7;  // nothing clips under the brightest corner
        const rig::Reading reading = unevenReading(camera, across, down);
        const auto fit = match::fitNeutrals(reading);
        QVERIFY(fit.has_value());
        const auto fall = match::lightFall(reading, *fit);
        QVERIFY(fall.has_value());
        QVERIFY2(std::abs(fall->acrossStops.value - across) < 0.06,
                 qPrintable(QString::number(fall->acrossStops.value)));
        QVERIFY2(std::abs(fall->downStops.value - down) < 0.06,
                 qPrintable(QString::number(fall->downStops.value)));
    }
    /// Two equal cameras, one of which sees the chart unevenly lit: evened, they agree.
    void evenedReadingsAgreeAgain() {
        support::IdealCamera camera;
        camera.curve = colour::curveOf(CurveKind::Standard);
        camera.exposureStops = -0.5;
        const rig::Reading even = idealReading(camera);
        const rig::Reading uneven = unevenReading(camera, -0.5, 0.3);
        QVERIFY(!match::evened(even).has_value());
        const auto mended = match::evened(uneven);
        QVERIFY(mended.has_value());
        const auto before = compared(uneven, even);
        const auto after = compared(*mended, even);
        const auto offBy = [](const match::CameraDifferences& d) {
            return std::abs(*d.of(match::Quality::Contrast).value - 1.0);
        };
        QVERIFY(offBy(before) > 0.05);
        QVERIFY(offBy(after) < 0.02);
        QVERIFY(std::abs(*after.of(match::Quality::Exposure).value) < 0.03);
    }

    /// A camera whose neutrals warm up toward white: red's curve is steeper.
    void aCastThatChangesWithLevelIsToldApart() {
        rig::Reading reading = idealReading({});
        const colour::TransferCurve curve = colour::curveOf(CurveKind::Bt709);
        for (std::size_t i : {std::size_t{18}, std::size_t{19}}) {
            rig::PatchReading& patch = reading.patches[i];
            patch.signal[0] = curve.encode(patch.nominalLinear[0] * std::exp2(0.10));
            patch.signal[2] = curve.encode(patch.nominalLinear[2] * std::exp2(-0.10));
            patch.clippedShare = 0.0;
        }
        const auto fit = match::fitNeutrals(reading);
        QVERIFY(fit.has_value());
        // 18 alone would lie above the measured curve: the mean of those inside counts.
        const auto high = match::highlightCast(reading, *fit);
        QVERIFY(high.has_value());
        // 0.2 stop of red against blue is 13 mired on the daylight locus (sources 11.5).
        QVERIFY2(std::abs(high->mired.value - 13.2) < 2.0,
                 qPrintable(QString::number(high->mired.value)));
        const auto low = match::shadowCast(reading, *fit);
        QVERIFY(low.has_value());
        QVERIFY(std::abs(low->mired.value) < 1.0);
    }

    void sectorsFindOneHueAlone() {
        const rig::Reading reference = idealReading({});
        rig::Reading camera = reference;
        // Red and moderate red lose a tenth of their colour.
        for (const std::size_t i : {std::size_t{8}, std::size_t{14}}) {
            auto& s = camera.patches[i].signal;
            const double y = 0.2126 * s[0] + 0.7152 * s[1] + 0.0722 * s[2];
            for (double& value : s) value = y + 0.9 * (value - y);
        }
        const auto sectors = match::hueSectors(camera, compared(camera, reference), reference);
        QCOMPARE(sectors[0].name, std::string("red"));
        // Orange and purple fall into the sector too and keep their colour.
        QVERIFY(*sectors[0].saturationRatio.value < 0.96);
        QVERIFY(*sectors[0].saturationRatio.value > 0.89);
        QVERIFY(std::abs(*sectors[0].hueDegrees.value) < 1.0);
        QVERIFY(std::abs(*sectors[2].saturationRatio.value - 1.0) < 0.01);
        // Cyan's only patch lies outside BT.709; bluish green stands in, or nothing is said.
        QVERIFY(sectors[3].saturationRatio.value || !sectors[3].saturationRatio.reason.empty());
    }

    /// sources 5.9: the veil is what the black patch reads above its nominal 3.1 %.
    void aVeilIsMeasured() {
        const colour::TransferCurve curve = colour::curveOf(CurveKind::Bt709);
        rig::Reading reading = idealReading({});
        for (rig::PatchReading& patch : reading.patches) {
            for (std::size_t c = 0; c < 3; ++c)
                patch.signal[c] = curve.encode(patch.nominalLinear[c] + 0.02);
        }
        const auto veil = match::veil(reading, curve);
        QVERIFY(veil.has_value());
        // Neutral 5 is lifted too and taken as the scale: 0.0512 x 0.1915 / 0.2115 - 0.0311.
        QVERIFY2(std::abs(veil->value - 0.0152) < 0.001, qPrintable(QString::number(veil->value)));
        QVERIFY(std::abs(match::veil(idealReading({}), curve)->value) < 1e-4);
    }

    void driftIsToldInStopsAndMired() {
        rig::Reading reading = idealReading({});
        const auto fit = match::fitNeutrals(reading);
        const double slope = fit->curve.slopeAt(fit->curve.stopsAt(reading.patches[21].signal[1]));
        QVERIFY(!match::driftOf(reading, *fit).has_value());
        rig::DriftReading drift;
        drift.seconds = 4.0;
        drift.signalPerSecond = {0.05 * slope, 0.05 * slope, 0.05 * slope};
        drift.standardError = {0.001, 0.001, 0.001};
        reading.drift = drift;
        const auto found = match::driftOf(reading, *fit);
        QVERIFY(std::abs(found->stops.value - 0.2) < 0.005);
        QVERIFY(std::abs(found->mired.value) < 0.5);
        QVERIFY(found->isNotable);
        const auto notes = compared(reading, idealReading({})).notes;
        QVERIFY(std::any_of(notes.begin(), notes.end(), [](const base::Text& note) {
            return words::inEnglish(note).find("+0.20 stop") != std::string::npos;
        }));
    }

    void publishedCurvesAreNamed_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<QString>("name");
        QTest::addColumn<double>("stops");
        for (const double stops : {-0.8, 0.0}) {
            for (const CurveKind kind : {CurveKind::Bt709, CurveKind::Srgb, CurveKind::Hlg})
                QTest::addRow("%s at %g stop", curveName(colour::curveOf(kind)).c_str(), stops)
                    << int(kind) << QString::fromStdString(curveName(colour::curveOf(kind)))
                    << stops;
        }
    }
    void publishedCurvesAreNamed() {
        QFETCH(int, kind);
        QFETCH(QString, name);
        QFETCH(double, stops);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<CurveKind>(kind));
        camera.exposureStops = stops;
        const auto identity = match::identifyCurve(idealReading(camera));
        QVERIFY(identity.has_value());
        QCOMPARE(QString::fromStdString(identity->best().name), name);
        QVERIFY(identity->isIdentified);
        QVERIFY(std::abs(identity->best().exposureStops - stops) < 0.01);
    }
    /// A camera's own look is no published curve, and none is claimed for it.
    void aCamerasOwnLookIsNotNamed() {
        support::IdealCamera camera;
        camera.curve = colour::curveOf(CurveKind::Standard);
        camera.curve.standard.bend = 0.3;
        camera.exposureStops = -0.3;
        const auto identity = match::identifyCurve(idealReading(camera));
        QVERIFY(identity.has_value());
        QVERIFY(!identity->isIdentified);
        rig::Reading dark = idealReading(camera);
        for (std::size_t i = 18; i < 21; ++i) dark.patches[i].clippedShare = 1.0;
        QVERIFY(!match::identifyCurve(dark).has_value());
    }
    void picturesAreClassedInWords_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<QString>("name");
        QTest::newRow("BT.709") << int(CurveKind::Bt709) << "finished";
        QTest::newRow("camera look") << int(CurveKind::Standard) << "finished";
        QTest::newRow("log") << int(CurveKind::Log) << "log";
        QTest::newRow("HLG") << int(CurveKind::Hlg) << "HLG";
    }
    void picturesAreClassedInWords() {
        QFETCH(int, kind);
        QFETCH(QString, name);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<CurveKind>(kind));
        const rig::Reading reading = idealReading(camera);
        const auto fit = match::fitNeutrals(reading);
        QCOMPARE(QString::fromStdString(
                     match::profileClass(reading, *fit, match::identifyCurve(reading)).name),
                 name);
    }
    /// The cos^4 law (published lens theory): 18 mm off the axis behind 18 mm of focal length is 45
    /// degrees, where a quarter of the light is left: two stops.
    void fallOffFollowsTheFourthPowerOfTheCosine() {
        rig::Camera camera;
        camera.sensorWidthMm = 36.0;
        camera.lens.focalLengthMm = 18.0;
        rig::Reading reading = support::idealReading({});
        reading.width = 1920;
        reading.height = 1080;
        const auto around = [&](double x, double y) {
            reading.corners = {rig::PicturePoint{x - 50.5, y - 30.5},
                               {x + 49.5, y - 30.5},
                               {x + 49.5, y + 29.5},
                               {x - 50.5, y + 29.5}};
        };
        around(960.0, 540.0);
        const auto middle = match::offMiddle(reading, camera, 25.0);
        QVERIFY(middle && std::abs(middle->naturalStops) < 1e-9 && !middle->isNotable);
        around(1920.0, 540.0);
        const auto edge = match::offMiddle(reading, camera, 25.0);
        QVERIFY2(std::abs(edge->naturalStops + 2.0) < 1e-6,
                 qPrintable(QString::number(edge->naturalStops)));
        QVERIFY(edge->isNotable);
        // A longer lens sees the same place under a smaller angle.
        camera.lens.focalLengthMm = 200.0;
        QVERIFY(match::offMiddle(reading, camera, 25.0)->naturalStops > -0.05);
        reading.hasChart = false;
        QVERIFY(!match::offMiddle(reading, camera, 25.0));
    }
    /// A log picture of 8 bit is told with the codes that a stop has at grey.
    void logInEightBitIsTold() {
        support::IdealCamera camera;
        camera.curve = colour::curveOf(colour::CurveKind::Log);
        rig::Reading reading = support::idealReading(camera);
        const auto told = [&] {
            const auto d =
                match::compare({&reading, {}, {}}, {&reading, {}, {}}, match::Judging::Recorded);
            return std::any_of(d.notes.begin(), d.notes.end(), [](const base::Text& note) {
                return words::inEnglish(note).find("A log picture in 8 bit: 1") !=
                       std::string::npos;
            });
        };
        reading.bitDepth = 8;
        // One stop is 0.05708 of the signal (AMPAS S-2016-001, from memory), 219 codes to it.
        QVERIFY(told());
        reading.bitDepth = 10;
        QVERIFY(!told());
    }
};

RIG_TEST(TestDetails);
#include "test_details.moc"
