// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/lab.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch::colour;

class TestDeltaE : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Sharma, Wu, Dalal (2005), sources 11.13: 24 of the 34 published pairs, to their four
    /// decimals, both ways.
    void publishedPairsAgreeToFourDecimals() {
        struct Pair {
            Lab first, second;
            double difference;
        };
        const std::vector<Pair> pairs{
            {{50, 2.6772, -79.7751}, {50, 0, -82.7485}, 2.0425},
            {{50, 3.1571, -77.2803}, {50, 0, -82.7485}, 2.8615},
            {{50, 2.8361, -74.0200}, {50, 0, -82.7485}, 3.4412},
            {{50, -1.3802, -84.2814}, {50, 0, -82.7485}, 1.0000},
            {{50, 0, 0}, {50, -1, 2}, 2.3669},
            {{50, 2.49, -0.001}, {50, -2.49, 0.0009}, 7.1792},
            {{50, 2.49, -0.001}, {50, -2.49, 0.0011}, 7.2195},
            {{50, -0.001, 2.49}, {50, 0.0009, -2.49}, 4.8045},
            {{50, -0.001, 2.49}, {50, 0.0011, -2.49}, 4.7461},
            {{50, 2.5, 0}, {50, 0, -2.5}, 4.3065},
            {{50, 2.5, 0}, {73, 25, -18}, 27.1492},
            {{50, 2.5, 0}, {61, -5, 29}, 22.8977},
            {{50, 2.5, 0}, {56, -27, -3}, 31.9030},
            {{50, 2.5, 0}, {58, 24, 15}, 19.4535},
            {{50, 2.5, 0}, {50, 3.1736, 0.5854}, 1.0000},
            {{50, 2.5, 0}, {50, 3.2592, 0.3350}, 1.0000},
            {{60.2574, -34.0099, 36.2677}, {60.4626, -34.1751, 39.4387}, 1.2644},
            {{63.0109, -31.0961, -5.8663}, {62.8187, -29.7946, -4.0864}, 1.2630},
            {{61.2901, 3.7196, -5.3901}, {61.4292, 2.2480, -4.9620}, 1.8731},
            {{35.0831, -44.1164, 3.7933}, {35.0232, -40.0716, 1.5901}, 1.8645},
            {{22.7233, 20.0904, -46.6940}, {23.0331, 14.9730, -42.5619}, 2.0373},
            {{36.4612, 47.8580, 18.3852}, {36.2715, 50.5065, 21.2231}, 1.4146},
            {{90.8027, -2.0831, 1.4410}, {91.1528, -1.6435, 0.0447}, 1.4441},
            {{2.0776, 0.0795, -1.1350}, {0.9033, -0.0636, -0.5514}, 0.9082}};
        constexpr double kFourDecimals = 0.00005001;
        for (const Pair& pair : pairs) {
            QVERIFY2(
                std::abs(deltaE2000(pair.first, pair.second) - pair.difference) < kFourDecimals,
                qPrintable(QString::number(pair.difference)));
            QVERIFY(std::abs(deltaE2000(pair.second, pair.first) - pair.difference) <
                    kFourDecimals);
        }
    }
    void equalColoursDifferByNothing() {
        QCOMPARE(deltaE2000({43.1, -13.0, 21.9}, {43.1, -13.0, 21.9}), 0.0);
    }
    void labUndoesItself() {
        for (double l = 2.0; l < 100.0; l += 7.0) {
            const Lab lab{l, 30.0 - l, 0.4 * l - 25.0};
            const Lab back = labOf(xyzOf(lab, kD50), kD50);
            QVERIFY(std::abs(back.lightness - lab.lightness) < 1e-10 &&
                    std::abs(back.a - lab.a) < 1e-9 && std::abs(back.b - lab.b) < 1e-9);
        }
    }
    /// sources 11.1: RGB709 to XYZ, 709 to 2020 and Bradford D50 to D65, as printed there.
    void matricesAreThePublishedOnes() {
        const Matrix3 toXyz = rgbToXyz(kBt709);
        Matrix3 expected;
        expected << .412391, .357584, .180481, .212639, .715169, .072192, .019331, .119195, .950532;
        QVERIFY((toXyz - expected).cwiseAbs().maxCoeff() < 1e-6);
        expected << .6274, .3293, .0433, .0691, .9195, .0114, .0164, .0880, .8956;
        QVERIFY((xyzToRgb(kBt2020) * toXyz - expected).cwiseAbs().maxCoeff() < 6e-5);
        expected << .9555394, -.0230584, .0632240, -.0283119, 1.0099471, .0210275, .0123103,
            -.0205034, 1.3302315;
        QVERIFY((bradford(kD50, kD65) - expected).cwiseAbs().maxCoeff() < 2e-4);
    }
};

RIG_TEST(TestDeltaE);
#include "test_delta_e.moc"
