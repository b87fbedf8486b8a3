// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QTemporaryDir>
#include <random>

#include "match/details.h"
#include "match/differences.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using match::Quality;
using match::Verdict;
using support::IdealCamera;

namespace {

match::CameraDifferences compared(const IdealCamera& camera, const IdealCamera& reference = {}) {
    static rig::Reading mine;
    static rig::Reading theirs;
    mine = support::idealReading(camera);
    theirs = support::idealReading(reference);
    return match::compare({&mine, {}, {}}, {&theirs, {}, {}}, match::Judging::Recorded);
}

double valueOf(const match::CameraDifferences& d, Quality quality) {
    return d.of(quality).value.value_or(1e9);
}

}  // namespace

class TestDifferences : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void equalCamerasDifferByNothing() {
        const auto d = compared({});
        QVERIFY(std::abs(valueOf(d, Quality::Exposure)) < 1e-6);
        QVERIFY(std::abs(valueOf(d, Quality::WhiteBalance)) < 1e-6);
        QVERIFY(std::abs(valueOf(d, Quality::Tint)) < 1e-9);
        QVERIFY(std::abs(valueOf(d, Quality::Contrast) - 1.0) < 1e-9);
        QVERIFY(std::abs(valueOf(d, Quality::Saturation) - 1.0) < 1e-9);
        QVERIFY(std::abs(valueOf(d, Quality::Hue)) < 1e-9);
        QVERIFY(std::abs(valueOf(d, Quality::BlackLevel)) < 1e-9);
        QCOMPARE(d.colour.mean, 0.0);
        // Skin stands apart: it is compared between people, not between charts.
        for (std::size_t i = 0; i <= static_cast<std::size_t>(Quality::DeltaE); ++i)
            QCOMPARE(d.qualities[i].verdict, Verdict::Good);
    }
    /// sources 11.15, case 1: -0.50 stop must be reported as -0.50 +-0.02.
    void halfAStopDarkerIsReportedSo() {
        const auto d = compared({colour::curveOf(colour::CurveKind::Bt709), -0.5});
        QVERIFY(std::abs(valueOf(d, Quality::Exposure) + 0.5) < 0.02);
        QCOMPARE(d.of(Quality::Exposure).verdict, Verdict::Off);
        QVERIFY(std::abs(valueOf(d, Quality::Contrast) - 1.0) < 0.03);
    }
    /// sources 11.15, case 2: +20 mired must be reported as +20 +-1; case 3: pink is negative Duv.
    void castsAreReportedWithTheirSigns() {
        IdealCamera warm;
        warm.whiteBalanceMired = 20.0;
        QVERIFY(std::abs(valueOf(compared(warm), Quality::WhiteBalance) - 20.0) < 1.0);
        IdealCamera pink;
        pink.tintDuv = -0.003;
        const auto d = compared(pink);
        QVERIFY(std::abs(valueOf(d, Quality::Tint) + 0.003) < 0.0002);
        QCOMPARE(d.of(Quality::Tint).verdict, Verdict::Near);
    }
    /// sources 11.15, case 5: at +1 stop white and neutral 8 clip in BT.709; the result is still
    /// +1.00.
    void clippedNeutralsAreLeftOut() {
        const auto d = compared({colour::curveOf(colour::CurveKind::Bt709), 1.0});
        QVERIFY(d.fit->patchesUsed < 6);
        QVERIFY2(std::abs(valueOf(d, Quality::Exposure) - 1.0) < 0.02,
                 qPrintable(QString::number(valueOf(d, Quality::Exposure))));
    }
    void everyCurveGivesItsOwnStops_data() {
        QTest::addColumn<int>("kind");
        for (const auto kind : {colour::CurveKind::Bt709,
                                colour::CurveKind::Srgb,
                                colour::CurveKind::Hlg,
                                colour::CurveKind::Log,
                                colour::CurveKind::Standard}) {
            QTest::newRow(colour::curveName(colour::curveOf(kind)).c_str()) << int(kind);
        }
    }
    void everyCurveGivesItsOwnStops() {
        QFETCH(int, kind);
        const auto curve = colour::curveOf(static_cast<colour::CurveKind>(kind));
        for (double stops : {-1.3, -0.66, -0.2, 0.3, 0.8}) {
            const auto d = compared({curve, stops}, {curve, 0.0});
            QVERIFY2(std::abs(valueOf(d, Quality::Exposure) - stops) < 0.03,
                     qPrintable(QString("%1: %2").arg(stops).arg(valueOf(d, Quality::Exposure))));
        }
    }
    /// sources 11.15, case 14: a log camera and an HLG camera on the same scene differ by 0.00
    /// +-0.02 stop once linearised.
    void sceneExposureComparesUnlikeDeclaredCurves() {
        const auto log = colour::curveOf(colour::CurveKind::Log);
        const auto hlg = colour::curveOf(colour::CurveKind::Hlg);
        const rig::Reading mine = support::idealReading({log, 0.0});
        const rig::Reading theirs = support::idealReading({hlg, 0.0});
        const auto d = match::compare({&mine, log, {}}, {&theirs, hlg, {}}, match::Judging::Linear);
        QVERIFY(d.sceneExposure && std::abs(*d.sceneExposure->value) < 0.02);
        QVERIFY(d.of(Quality::DeltaE).value && *d.of(Quality::DeltaE).value < 0.1);
        QVERIFY2(!d.notes.empty(), "unlike profiles are said");
        QVERIFY(std::abs(valueOf(d, Quality::Exposure)) > 0.1);
    }
    void linearJudgingWithoutCurvesIsUnknown() {
        const rig::Reading reading = support::idealReading({});
        const auto d =
            match::compare({&reading, {}, {}}, {&reading, {}, {}}, match::Judging::Linear);
        QVERIFY(!d.of(Quality::DeltaE).value);
        QCOMPARE(words::inEnglish(d.of(Quality::DeltaE).reason),
                 std::string("Judging in linear light needs a declared curve on both cameras."));
    }
    void saturationAndHueAreRecovered() {
        IdealCamera camera;
        camera.saturation = 1.12;
        camera.hueDegrees = 5.0;
        const auto d = compared(camera);
        QVERIFY2(std::abs(valueOf(d, Quality::Saturation) - 1.12) < 0.01,
                 qPrintable(QString::number(valueOf(d, Quality::Saturation))));
        QVERIFY(std::abs(valueOf(d, Quality::Hue) - 5.0) < 0.3);
        QCOMPARE(d.of(Quality::Saturation).verdict, Verdict::Off);
    }
    void pedestalIsABlackLevel() {
        auto lifted = colour::curveOf(colour::CurveKind::Standard);
        lifted.standard.pedestal = 0.03;
        const auto d = compared({lifted, 0.0}, {colour::curveOf(colour::CurveKind::Standard), 0.0});
        QVERIFY(valueOf(d, Quality::BlackLevel) > 1.5 && valueOf(d, Quality::BlackLevel) < 3.5);
    }
    /// A camera recorded at half the signal and seen through a LUT that doubles it shows what the
    /// reference shows; without the LUT it is far off.
    void judgingThroughLutsLooksThroughThem() {
        const QTemporaryDir folder;
        QFile file(folder.filePath("double.cube"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("LUT_1D_SIZE 2\n0 0 0\n2 2 2\n");
        file.close();
        const auto lut = colour::ViewingLut::read(file.fileName().toStdString());
        QVERIFY(lut.has_value());
        const rig::Reading reference = support::idealReading({});
        rig::Reading camera = reference;
        for (rig::PatchReading& patch : camera.patches) {
            for (double& value : patch.signal) value *= 0.5;
        }
        const match::Side mine{&camera, {}, {}, *lut, false};
        const match::Side theirs{&reference, {}, {}, {}, false};
        const auto through = match::compare(mine, theirs, match::Judging::ThroughLut);
        const auto recorded = match::compare(mine, theirs, match::Judging::Recorded);
        QVERIFY(through.colour.mean < 0.3);
        QVERIFY(recorded.colour.mean > 10.0);
    }
    /// A distance never averages to zero: with the noise of both sides taken out, the mean of equal
    /// cameras covers zero, and that of unlike ones their true distance, in nine of ten draws.
    void colourDifferencesCoverTheirTruth_data() {
        QTest::addColumn<double>("stops");
        QTest::addColumn<double>("mineNoise");
        QTest::addColumn<double>("theirNoise");
        QTest::newRow("equal, noise on both") << 0.0 << 0.004 << 0.004;
        QTest::newRow("equal, noise on the reference alone") << 0.0 << 0.0 << 0.006;
        QTest::newRow("near, noise on both") << 0.05 << 0.003 << 0.003;
        QTest::newRow("apart, noise on the reference alone") << 0.3 << 0.0 << 0.004;
        QTest::newRow("apart, noise on the camera alone") << 0.3 << 0.004 << 0.0;
    }
    void colourDifferencesCoverTheirTruth() {
        QFETCH(double, stops);
        QFETCH(double, mineNoise);
        QFETCH(double, theirNoise);
        const rig::Reading camera =
            support::idealReading({colour::curveOf(colour::CurveKind::Bt709), stops});
        const rig::Reading reference = support::idealReading({});
        const double truth =
            match::colourDifference(match::signalsOf(camera), {}, match::signalsOf(reference), {})
                .mean;
        std::mt19937 random(5);
        std::normal_distribution<double> normal;
        const auto noisy = [&](rig::Reading reading, double noise) {
            for (rig::PatchReading& patch : reading.patches) {
                for (std::size_t c = 0; c < 3; ++c) {
                    patch.signal[c] += noise * normal(random);
                    patch.standardError[c] = noise;
                }
            }
            return reading;
        };
        int covered = 0;
        constexpr int kDraws = 200;
        for (int draw = 0; draw < kDraws; ++draw) {
            const rig::Reading mine = noisy(camera, mineNoise);
            const rig::Reading theirs = noisy(reference, theirNoise);
            const auto d =
                match::compare({&mine, {}, {}}, {&theirs, {}, {}}, match::Judging::Recorded);
            const match::Difference& deltaE = d.of(Quality::DeltaE);
            covered += std::abs(*deltaE.value - truth) <= 2.0 * deltaE.uncertainty ? 1 : 0;
            QVERIFY(d.colour.noiseFloor > 0.1);
        }
        QVERIFY2(covered >= 0.9 * kDraws, qPrintable(QString::number(covered)));
    }
    /// Noise weighs alike on whichever side it is.
    void noiseOfTheReferenceCounts() {
        rig::Reading quiet = support::idealReading({});
        rig::Reading loud = support::idealReading({colour::curveOf(colour::CurveKind::Bt709), 0.2});
        for (rig::PatchReading& patch : loud.patches) patch.standardError = {0.004, 0.004, 0.004};
        const auto onCamera =
            match::compare({&loud, {}, {}}, {&quiet, {}, {}}, match::Judging::Recorded);
        const auto onReference =
            match::compare({&quiet, {}, {}}, {&loud, {}, {}}, match::Judging::Recorded);
        for (const Quality quality : {Quality::DeltaE, Quality::BlackLevel, Quality::Saturation}) {
            const double first = onCamera.of(quality).uncertainty;
            const double second = onReference.of(quality).uncertainty;
            QVERIFY2(std::abs(first - second) < 0.35 * std::max(first, second),
                     qPrintable(QString("%1: %2, %3").arg(int(quality)).arg(first).arg(second)));
        }
    }
    /// The noise of the black patch itself is in the uncertainty of the black level.
    void blackLevelCarriesItsOwnNoise() {
        rig::Reading mine = support::idealReading({});
        const rig::Reading theirs = support::idealReading({});
        mine.patches[23].standardError = {0.002, 0.002, 0.002};
        const auto d = match::compare({&mine, {}, {}}, {&theirs, {}, {}}, match::Judging::Recorded);
        QVERIFY(d.of(Quality::BlackLevel).uncertainty >= 0.2);
    }
    /// A ratio and its inverse have one verdict, and so has every way to show it.
    void ratiosAreJudgedByTheirLogarithm() {
        match::Difference d = match::toleranceOf(Quality::Contrast);
        for (const auto& [ratio, verdict] : {std::pair{1.05, Verdict::Good},
                                             std::pair{1.0 / 1.05, Verdict::Good},
                                             std::pair{1.051, Verdict::Near},
                                             std::pair{1.0 / 1.051, Verdict::Near},
                                             std::pair{1.1, Verdict::Near},
                                             std::pair{1.0 / 1.1, Verdict::Near},
                                             std::pair{1.0 / 1.11, Verdict::Off},
                                             std::pair{0.0, Verdict::Off},
                                             std::pair{-1.0, Verdict::Off}}) {
            d.value = ratio;
            QVERIFY2(match::verdictOf(d, true) == verdict, qPrintable(QString::number(ratio)));
        }
    }
    void valuesAreRoundedOnceBeforeTheyAreJudged() {
        match::Difference d = match::toleranceOf(Quality::Exposure);
        match::setValue(d, Quality::Exposure, 0.1004, 0.01);
        QCOMPARE(*d.value, 0.1);
        QCOMPARE(d.verdict, Verdict::Good);
        match::setValue(d, Quality::Exposure, 0.1006, 0.01, 0.02);
        QVERIFY(std::abs(*d.value - 0.101) < 1e-12);
        QCOMPARE(d.verdict, Verdict::Near);
        QVERIFY(std::abs(d.uncertainty - std::hypot(0.01, 0.02)) < 1e-12);
        match::Difference none = match::toleranceOf(Quality::Exposure);
        match::setValue(none, Quality::Exposure, std::nan(""), 0.01);
        QVERIFY(!none.value && none.verdict == Verdict::Unknown);
    }
    /// Where no grey lies on the curve in red and blue there is no cast to tell: not zero.
    void aCastBeyondTheCurveIsUnknown() {
        rig::Reading mine = support::idealReading({});
        for (std::size_t i = 18; i < 24; ++i) {
            mine.patches[i].signal[0] = 1.05;
            mine.patches[i].signal[2] = 0.0;
        }
        const rig::Reading theirs = support::idealReading({});
        const auto d = match::compare({&mine, {}, {}}, {&theirs, {}, {}}, match::Judging::Recorded);
        QVERIFY(d.of(Quality::Exposure).value.has_value());
        for (const Quality quality : {Quality::WhiteBalance, Quality::Tint}) {
            QVERIFY(!d.of(quality).value);
            QVERIFY(words::inEnglish(d.of(quality).reason)
                        .find("No grey lies within the measured curve") != std::string::npos);
        }
    }
    /// Two charts of one name: another grid, or values that were edited in between.
    void unlikeChartsAreToldApart() {
        const rig::Reading theirs = support::idealReading({});
        rig::Reading fewer = theirs;
        fewer.rows = 3;
        fewer.patches.resize(18);
        QVERIFY(words::inEnglish(*match::chartMismatch(fewer, theirs)).find("6 × 3 patches") !=
                std::string::npos);
        const auto d =
            match::compare({&fewer, {}, {}}, {&theirs, {}, {}}, match::Judging::Recorded);
        QVERIFY(!d.of(Quality::Exposure).value);
        rig::Reading edited = theirs;
        edited.patches[4].nominalLinear[1] *= 1.05;
        QVERIFY(
            words::inEnglish(*match::chartMismatch(edited, theirs)).find("its file was edited") !=
            std::string::npos);
        QVERIFY(!match::chartMismatch(theirs, theirs));
        const auto sectors = match::hueSectors(fewer, compared({}), theirs);
        QVERIFY(!sectors[0].saturationRatio.value);
        QVERIFY(words::inEnglish(sectors[0].saturationRatio.reason).find("unlike charts") !=
                std::string::npos);
    }
    void doubtfulColoursMakeNoDifference() {
        rig::Reading mine = support::idealReading({});
        mine.areColoursDoubtful = true;
        const rig::Reading theirs = support::idealReading({});
        const auto d = match::compare({&mine, {}, {}}, {&theirs, {}, {}}, match::Judging::Recorded);
        QVERIFY(!d.of(Quality::Exposure).value);
        QVERIFY(words::inEnglish(d.of(Quality::Exposure).reason).find("no turn is made") !=
                std::string::npos);
    }
    void missingReadingsSayWhy() {
        const rig::Reading reading = support::idealReading({});
        const auto d = match::compare({nullptr, {}, base::asIs("No clip in this take.")},
                                      {&reading, {}, {}},
                                      match::Judging::Recorded);
        for (std::size_t i = 0; i < match::kQualityCount; ++i) {
            QVERIFY(!d.qualities[i].value);
            QCOMPARE(d.qualities[i].verdict, Verdict::Unknown);
            QVERIFY(d.qualities[i].reason == base::asIs("No clip in this take."));
        }
    }
    void tooFewNeutralsAreUnmeasurable() {
        rig::Reading reading = support::idealReading({});
        for (std::size_t i = 18; i < 22; ++i) reading.patches[i].clippedShare = 1.0;
        const auto fit = match::fitNeutrals(reading);
        QVERIFY(!fit.has_value());
        QCOMPARE(
            words::inEnglish(fit.error().detail),
            std::string("Only 2 of 6 neutral patches are unclipped and rising; 3 are needed."));
    }
    void toneCurveUndoesItselfAndStaysMonotone() {
        const auto d = compared({colour::curveOf(colour::CurveKind::Standard), 0.4});
        double before = -1e9;
        for (double stops = -6.0; stops < 4.0; stops += 0.03) {
            const double signal = d.fit->curve.signalAt(stops);
            QVERIFY(signal > before);
            QVERIFY(std::abs(d.fit->curve.stopsAt(signal) - stops) < 1e-6);
            before = signal;
        }
    }
};

RIG_TEST(TestDifferences);
#include "test_differences.moc"
