// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <random>

#include "match/curve_error.h"
#include "support/qt_test.h"
#include "support/synthetic_reading.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

/// The chart through that curve, every patch off by noise of its standard error.
rig::Reading noisyReading(const support::IdealCamera& camera, double error, unsigned seed) {
    rig::Reading reading = support::idealReading(camera);
    std::mt19937 random(seed);
    std::normal_distribution<double> noise(0.0, error);
    for (rig::PatchReading& patch : reading.patches) {
        patch.standardError = {error, error, error};
        for (double& signal : patch.signal) signal += noise(random);
    }
    return reading;
}

}  // namespace

class TestCurveError : public QObject {
    Q_OBJECT
    static void addCurves() {
        QTest::addColumn<int>("kind");
        QTest::newRow("BT.709") << int(colour::CurveKind::Bt709);
        QTest::newRow("sRGB") << int(colour::CurveKind::Srgb);
        QTest::newRow("HLG") << int(colour::CurveKind::Hlg);
        QTest::newRow("log") << int(colour::CurveKind::Log);
        QTest::newRow("camera look") << int(colour::CurveKind::Standard);
    }

private Q_SLOTS:
    void theTrueCurveLiesWithinTheError_data() { addCurves(); }
    /// Between the darkest and the brightest grey the published curve itself, in closed form, is
    /// the truth: nine of ten places must lie within twice the stated error, at any noise, and the
    /// error must not be so large that it says nothing.
    void theTrueCurveLiesWithinTheError() {
        QFETCH(int, kind);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<colour::CurveKind>(kind));
        int within = 0;
        int all = 0;
        double largest = 0.0;
        for (const double error : {0.0002, 0.001, 0.004}) {
            for (unsigned seed = 1; seed <= 12; ++seed) {
                const auto fit = match::fitNeutrals(noisyReading(camera, error, seed));
                QVERIFY(fit.has_value());
                const double first = fit->greys.front().stops;
                const double last = fit->greys.back().stops;
                for (double stops = first; stops <= last; stops += 0.1) {
                    const double truth = camera.curve.encode(0.18 * std::exp2(stops));
                    const double stated = match::signalErrorAt(*fit, stops);
                    within += std::abs(fit->curve.signalAt(stops) - truth) <= 2.0 * stated ? 1 : 0;
                    largest = std::max(largest, stated);
                    ++all;
                }
            }
        }
        qInfo("%.1f %% within, largest error %.4f of signal", 100.0 * within / all, largest);
        QVERIFY(within >= 0.9 * all);
        QVERIFY(largest < 0.02);
    }
    void theTrueSlopeLiesWithinTheError_data() { addCurves(); }
    void theTrueSlopeLiesWithinTheError() {
        QFETCH(int, kind);
        support::IdealCamera camera;
        camera.curve = colour::curveOf(static_cast<colour::CurveKind>(kind));
        int within = 0;
        for (unsigned seed = 1; seed <= 40; ++seed) {
            const auto fit = match::fitNeutrals(noisyReading(camera, 0.001, seed));
            const auto signal = [&](double stops) {
                return camera.curve.encode(0.18 * std::exp2(stops));
            };
            const double truth = (signal(0.01) - signal(-0.01)) / 0.02;
            const double stated = match::slopeErrorAt(*fit, 0.0);
            QVERIFY(stated < 0.2 * truth);
            within += std::abs(fit->curve.slopeAt(0.0) - truth) <= 2.0 * stated ? 1 : 0;
        }
        QVERIFY2(within >= 36, qPrintable(QString::number(within)));
    }
    void beyondTheGreysItGrows() {
        const auto fit = match::fitNeutrals(support::idealReading({}));
        const double last = fit->greys.back().stops;
        QVERIFY(match::signalErrorAt(*fit, last + 1.0) > 2.0 * match::signalErrorAt(*fit, last));
        QVERIFY(match::signalErrorAt(*fit, last + 2.0) > match::signalErrorAt(*fit, last + 1.0));
        QCOMPARE(match::beyondCurve(fit->curve, last), 0.0);
        QVERIFY(std::abs(match::beyondCurve(fit->curve, last + 1.0) - 0.15) < 1e-9);
    }
    /// One grey: sure where it stands, the less so the farther from it.
    void anAssumedCurveIsSureAtItsGrey() {
        rig::Reading card = support::idealReading({});
        std::erase_if(card.patches, [](const rig::PatchReading& patch) {
            return !patch.isNeutral || std::abs(std::log2(patch.nominalLinear[1] / 0.18)) > 0.3;
        });
        QVERIFY(!card.patches.empty());
        const auto fit = match::fitNeutrals(card);
        QVERIFY(fit && fit->isCurveAssumed);
        const double grey = fit->greys.front().stops;
        QVERIFY(match::signalErrorAt(*fit, grey) < 0.001);
        QVERIFY(match::signalErrorAt(*fit, grey + 1.0) > 0.05);
        QVERIFY(match::slopeErrorAt(*fit, grey) > 0.5 * fit->curve.slopeAt(grey));
    }
};

RIG_TEST(TestCurveError);
#include "test_curve_error.moc"
