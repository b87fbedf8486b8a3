// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "face/skin_patch.h"
#include "sim/random.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

const std::vector<image::Point> kTriangle{{40, 40}, {120, 40}, {80, 110}};

/// A flat colour with noise; what lies outside the triangle is black.
image::Frame skinFrame(double noise) {
    image::Frame frame = image::blankFrame(160, 120);
    sim::Random random(3);
    const std::array<double, 3> colour{0.55, 0.42, 0.35};
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = 40; y <= 110; ++y) {
            for (int x = 40; x <= 120; ++x) {
                frame.channels[c][static_cast<std::size_t>(y * 160 + x)] =
                    static_cast<float>(colour[c] + noise * random.normal());
            }
        }
    }
    return frame;
}

}  // namespace

class TestSkinPatch : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void meanIsThatOfTheOutline() {
        const auto patch =
            face::skinPatch(image::codedFromSignal(skinFrame(0.01), {}, 10, 0), kTriangle);
        QVERIFY(patch.has_value());
        QVERIFY(std::abs(patch->signal[0] - 0.55) < 4.0 * patch->standardError[0]);
        QVERIFY(std::abs(patch->signal[1] - 0.42) < 4.0 * patch->standardError[1]);
        QVERIFY(std::abs(patch->signal[2] - 0.35) < 4.0 * patch->standardError[2]);
        // Half of 80 x 70, and a quarter of them counts: 0.01 / sqrt(700).
        QVERIFY(patch->pixels > 2400 && patch->pixels < 2900);
        QVERIFY(patch->standardError[1] > 0.0003 && patch->standardError[1] < 0.0006);
    }
    void hairAndShineAreLeftOut() {
        image::Frame frame = skinFrame(0.01);
        for (std::size_t c = 0; c < 3; ++c) {
            for (int y = 42; y < 52; ++y) {
                for (int x = 60; x < 72; ++x) {
                    frame.channels[c][static_cast<std::size_t>(y * 160 + x)] =
                        y < 47 ? 0.03F : 0.93F;
                }
            }
        }
        const auto patch = face::skinPatch(image::codedFromSignal(frame, {}, 10, 0), kTriangle);
        QVERIFY(patch && std::abs(patch->signal[1] - 0.42) < 0.002);
    }
    void clippedPixelsAreCountedNotAveraged() {
        image::Frame frame = skinFrame(0.005);
        for (std::size_t c = 0; c < 3; ++c) {
            for (int y = 40; y < 58; ++y) {
                for (int x = 40; x <= 120; ++x) {
                    frame.channels[c][static_cast<std::size_t>(y * 160 + x)] = 1.2F;
                }
            }
        }
        const auto patch = face::skinPatch(image::codedFromSignal(frame, {}, 8, 0), kTriangle);
        QVERIFY(patch && patch->clippedShare > 0.3 && patch->clippedShare < 0.6);
        QVERIFY(std::abs(patch->signal[1] - 0.42) < 0.01);
    }
    void tooLittleSkinIsNoReading() {
        const auto frame = image::codedFromSignal(skinFrame(0.01), {}, 8, 1);
        QVERIFY(!face::skinPatch(frame, {}));
        QVERIFY(!face::skinPatch(frame, {{50, 50}, {53, 50}, {53, 53}}));
        QVERIFY(!face::skinPatch(frame, {{-90, -90}, {-10, -90}, {-50, -20}}));
        QVERIFY(!face::skinPatch(frame, {{500, 500}, {900, 500}, {700, 900}}));
    }
};

RIG_TEST(TestSkinPatch);
#include "test_skin_patch.moc"
