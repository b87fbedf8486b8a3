// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <QTemporaryDir>
#include <QtTest>

#include "match/differences.h"
#include "support/synthetic_reading.h"

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
    /// Handbook 11.15, case 1: -0.50 stop must be reported as -0.50 +-0.02.
    void halfAStopDarkerIsReportedSo() {
        const auto d = compared({colour::curveOf(colour::CurveKind::Bt709), -0.5});
        QVERIFY(std::abs(valueOf(d, Quality::Exposure) + 0.5) < 0.02);
        QCOMPARE(d.of(Quality::Exposure).verdict, Verdict::Off);
        QVERIFY(std::abs(valueOf(d, Quality::Contrast) - 1.0) < 0.03);
    }
    /// Handbook 11.15, case 2: +20 mired must be reported as +20 +-1; case 3: pink is negative Duv.
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
    /// Handbook 11.15, case 5: at +1 stop white and neutral 8 clip in BT.709; the result is still
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
    /// Handbook 11.15, case 14: a log camera and an HLG camera on the same scene differ by 0.00
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
        QCOMPARE(d.of(Quality::DeltaE).reason,
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
    void missingReadingsSayWhy() {
        const rig::Reading reading = support::idealReading({});
        const auto d = match::compare(
            {nullptr, {}, "No clip in this take."}, {&reading, {}, {}}, match::Judging::Recorded);
        for (std::size_t i = 0; i < match::kQualityCount; ++i) {
            QVERIFY(!d.qualities[i].value);
            QCOMPARE(d.qualities[i].verdict, Verdict::Unknown);
            QCOMPARE(d.qualities[i].reason, std::string("No clip in this take."));
        }
    }
    void tooFewNeutralsAreUnmeasurable() {
        rig::Reading reading = support::idealReading({});
        for (std::size_t i = 18; i < 22; ++i) reading.patches[i].clippedShare = 1.0;
        const auto fit = match::fitNeutrals(reading);
        QVERIFY(!fit.has_value());
        QCOMPARE(
            fit.error().detail,
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

QTEST_APPLESS_MAIN(TestDifferences)
#include "test_differences.moc"
