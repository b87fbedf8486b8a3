// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/mired.h"
#include "colour/white_point.h"
#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using namespace rigmatch::colour;

class TestWhitePoint : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// sources 11.4: x, y by integrating Planck's law with the CIE 1931 observer (calculated there
    /// at 5 nm).
    void planckianFollowsTheIntegratedLocus() {
        const std::vector<std::array<double, 3>> rows{{2000, .5267, .4133},
                                                      {2856, .4475, .4074},
                                                      {3200, .4234, .3990},
                                                      {4000, .3805, .3768},
                                                      {5000, .3451, .3516},
                                                      {5600, .3302, .3391},
                                                      {6500, .3135, .3237},
                                                      {10000, .2807, .2884}};
        constexpr double kTenNanometres =
            0.00016;  // 10 nm against 5 nm, and the last printed digit
        for (const auto& [kelvin, x, y] : rows) {
            const auto c = planckian(base::Kelvin(kelvin));
            QVERIFY(c.has_value());
            QVERIFY2(std::abs(c->x - x) < kTenNanometres && std::abs(c->y - y) < kTenNanometres,
                     qPrintable(QString::number(kelvin)));
        }
    }
    /// sources 11.3, daylight locus of CIE 15, calculated there.
    void daylightFollowsThePublishedPolynomial() {
        const std::vector<std::array<double, 3>> rows{{4000, .38234, .38377},
                                                      {5003, .34565, .35860},
                                                      {5503, .33243, .34755},
                                                      {6504, .31271, .32912},
                                                      {10000, .27880, .29197}};
        for (const auto& [kelvin, x, y] : rows) {
            const auto c = colour::daylight(base::Kelvin(kelvin));
            QVERIFY(std::abs(c->x - x) < 6e-6 && std::abs(c->y - y) < 6e-6);
        }
    }
    /// sources 11.3: CCT (McCamy, calculated, good to a few K here) and Duv of standard
    /// illuminants.
    void illuminantsHaveTheirPublishedCctAndDuv() {
        const std::vector<std::array<double, 4>> rows{{.44757, .40745, 2857, 0.0000},
                                                      {.34567, .35850, 5002, 0.0032},
                                                      {.33242, .34743, 5503, 0.0033},
                                                      {.31271, .32902, 6504, 0.0032},
                                                      {.29902, .31485, 7502, 0.0031},
                                                      {.33333, .33333, 5459, -0.0044}};
        for (const auto& [x, y, cct, duv] : rows) {
            const auto white = whitePointOf({x, y});
            QVERIFY(white.has_value());
            QVERIFY2(std::abs(1e6 / white->mired.value() - cct) < 0.003 * cct,
                     qPrintable(QString::number(1e6 / white->mired.value())));
            QVERIFY2(std::abs(white->duv.value() - duv) < 0.00011,
                     qPrintable(QString::number(white->duv.value())));
        }
    }
    /// An independent formula: Ohno (2014), sources 11.4, Duv as a polynomial of the angle in u,v.
    void duvAgreesWithOhnosPolynomial() {
        for (double mired = 120.0; mired <= 400.0; mired += 20.0) {
            for (double duv : {-0.01, -0.003, 0.0, 0.004, 0.01}) {
                const auto c = chromaticityOf(WhitePoint{base::Mired(mired), base::Duv(duv)});
                const Uv uv = uvOf(*c);
                const double length = std::hypot(uv.u - 0.292, uv.v - 0.24);
                const double angle = std::acos((uv.u - 0.292) / length);
                const std::array<double, 7> k{
                    -0.471106, 1.925865, -2.4243787, 1.5317403, -0.5179722, 0.0893944, -0.00616793};
                double locus = 0.0;
                for (std::size_t i = k.size(); i-- > 0;) locus = locus * angle + k[i];
                QVERIFY2(std::abs(length - locus - duv) < 0.0002,
                         qPrintable(QString("%1 %2").arg(mired).arg(length - locus)));
            }
        }
    }
    void bothDirectionsUndoEachOther() {
        for (double mired = 60.0; mired <= 500.0; mired += 11.0) {
            for (double duv : {-0.02, -0.001, 0.0, 0.015}) {
                const auto back =
                    whitePointOf(*chromaticityOf(WhitePoint{base::Mired(mired), base::Duv(duv)}));
                QVERIFY(std::abs(back->mired.value() - mired) < 1e-3);
                QVERIFY(std::abs(back->duv.value() - duv) < 1e-7);
            }
        }
    }
    void absurdTemperaturesAreRefusedByName() {
        const auto c = planckian(base::Kelvin(12.0));
        QVERIFY(!c.has_value());
        QCOMPARE(words::inEnglish(c.error().detail),
                 std::string("12 K was given; 1000 to 100000 K is allowed."));
        QVERIFY(!colour::daylight(base::Kelvin(3200.0)).has_value());
        QVERIFY(!whitePointOf({0.15, 0.70}).has_value());
    }
    /// sources 4.7, worked examples.
    void dialsFollowMiredArithmetic() {
        QCOMPARE(std::round(dialFor(base::Kelvin(5600), base::Mired(20))->value()), 5036.0);
        QCOMPARE(std::round(dialFor(base::Kelvin(5600), base::Mired(-12))->value()), 6003.0);
        QVERIFY(std::abs(miredShift(base::Kelvin(3200), base::Kelvin(5600))->value() + 133.9) <
                0.05);
        QCOMPARE(std::round(kelvinOf(miredOf(base::Kelvin(3200)) + base::Mired(-131)).value()),
                 5510.0);
        QVERIFY(!dialFor(base::Kelvin(5600), base::Mired(-178.0)).has_value());
    }
};

RIG_TEST(TestWhitePoint);
#include "test_white_point.moc"
