// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/transfer.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch::colour;

namespace {

constexpr double kLastDigit =
    0.0006;  // tables print one decimal of a percent, HLG rounded up there

struct NamedCurve {
    const char* name;
    TransferCurve curve;
};

std::vector<NamedCurve> allCurves() {
    std::vector<NamedCurve> curves;
    for (const auto& [name, kind] : {std::pair{"linear", CurveKind::Linear},
                                     {"BT.709", CurveKind::Bt709},
                                     {"sRGB", CurveKind::Srgb},
                                     {"BT.1886", CurveKind::Bt1886},
                                     {"HLG", CurveKind::Hlg},
                                     {"log", CurveKind::Log},
                                     {"standard", CurveKind::Standard}}) {
        curves.push_back({name, curveOf(kind)});
    }
    TransferCurve bent = curveOf(CurveKind::Standard);
    bent.standard = {0.38, 0.05};
    curves.push_back({"strongly bent standard", bent});
    return curves;
}

}  // namespace

class TestTransfer : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void decodeUndoesEncodeAndBothRise() {
        for (const NamedCurve& named : allCurves()) {
            double before = -1e9;
            for (double linear = -0.02; linear < 2.0; linear += 0.0037) {
                const double signal = named.curve.encode(linear);
                QVERIFY2(signal > before, named.name);
                QVERIFY2(std::abs(named.curve.decode(signal) - linear) < 1e-9, named.name);
                before = signal;
            }
        }
    }
    /// sources 5.5, calculated there from the published formulas.
    void reflectancesGiveThePublishedSignals_data() {
        QTest::addColumn<double>("reflectance");
        QTest::addColumn<double>("bt709");
        QTest::addColumn<double>("srgb");
        QTest::addColumn<double>("hlg");
        QTest::addColumn<double>("log");
        QTest::newRow("black card") << 0.0316 << 0.133 << 0.195 << 0.159 << 0.270;
        QTest::newRow("9 percent") << 0.09 << 0.273 << 0.332 << 0.268 << 0.357;
        QTest::newRow("mid-grey") << 0.18 << 0.409 << 0.461 << 0.378 << 0.414;
        QTest::newRow("36 percent") << 0.36 << 0.595 << 0.634 << 0.533 << 0.471;
        QTest::newRow("half") << 0.50 << 0.706 << 0.735 << 0.608 << 0.498;
        QTest::newRow("90 percent") << 0.90 << 0.949 << 0.955 << 0.729 << 0.546;
        QTest::newRow("diffuse white") << 1.00 << 1.000 << 1.000 << 0.750 << 0.555;
    }
    void reflectancesGiveThePublishedSignals() {
        QFETCH(double, reflectance);
        const auto check = [&](CurveKind kind, double expected) {
            const double got = curveOf(kind).encode(reflectance);
            QVERIFY2(std::abs(got - expected) <= kLastDigit + 1e-9,
                     qPrintable(QString::number(got)));
        };
        QFETCH(double, bt709);
        QFETCH(double, srgb);
        QFETCH(double, hlg);
        QFETCH(double, log);
        check(CurveKind::Bt709, bt709);
        check(CurveKind::Srgb, srgb);
        check(CurveKind::Hlg, hlg);
        check(CurveKind::Log, log);
    }
    /// sources 11.1, BT.1886 with Lw 100, Lb 0.1.
    void bt1886GivesTheWorkedLuminances() {
        const std::vector<std::pair<double, double>> rows{{0.0, 0.1000},
                                                          {0.1, 1.0638},
                                                          {0.409, 14.111},
                                                          {0.5, 21.605},
                                                          {0.75, 52.421},
                                                          {0.9, 78.827},
                                                          {1.0, 100.0}};
        for (const auto& [signal, luminance] : rows)
            QVERIFY(std::abs(bt1886Luminance(signal, 100.0, 0.1) - luminance) < luminance * 5e-5);
        QVERIFY(std::abs(bt1886Luminance(0.5, 100.0, 0.0) - 18.946) < 0.0005);
    }
    /// sources 11.8 (AMPAS S-2016-001): one stop is 0.05708 of signal; the tangent joins at
    /// 0.155251.
    void logStopsAreEvenAndTheJoinIsSmooth() {
        const TransferCurve log = curveOf(CurveKind::Log);
        QVERIFY(std::abs(log.encode(0.36) - log.encode(0.18) - 0.05708) < 1e-5);
        QVERIFY(std::abs(log.encode(0.0078125) - 0.155251) < 1e-6);
        QVERIFY(std::abs(log.encode(0.0) - 0.0729) < 1e-4);
    }
    void standardKeepsGreyAndBendsContrast() {
        const TransferCurve standard = curveOf(CurveKind::Standard);
        QVERIFY(std::abs(standard.encode(0.18) - 0.409) < 0.001);
        QVERIFY(standard.encode(0.36) > curveOf(CurveKind::Bt709).encode(0.36));
        QVERIFY(standard.encode(0.05) < curveOf(CurveKind::Bt709).encode(0.05));
    }
};

RIG_TEST(TestTransfer);
#include "test_transfer.moc"
