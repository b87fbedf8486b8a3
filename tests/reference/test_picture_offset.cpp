// SPDX-License-Identifier: GPL-3.0-or-later
// Two cameras see one person's hands from other sides: places in space are projected here by the
// pinhole formula, with other rates, phases, exposures, rolling shutters and grain. No code of the
// program draws any of it.
#include <cmath>
#include <cstdio>
#include <random>

#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"
#include "timing/frame_watch.h"
#include "timing/picture_offset.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

constexpr int kHandsWidth = 256, kHandsHeight = 144;
constexpr double kHandsSeconds = 14.0;

/// A smooth random path: knots that a cubic joins.
class SmoothPath {
public:
    SmoothPath(std::mt19937_64& random, double pace, double reach) : m_pace(pace) {
        std::normal_distribution<double> normal(0.0, reach);
        for (int i = 0; i < 80; ++i) m_knots.push_back(normal(random));
    }
    [[nodiscard]] double at(double seconds) const {
        const double place = std::clamp(seconds / m_pace + 3.0, 1.0, 77.0);
        const auto i = static_cast<std::size_t>(place);
        const double u = place - static_cast<double>(i);
        const double a = m_knots[i - 1], b = m_knots[i], c = m_knots[i + 1], d = m_knots[i + 2];
        return b + 0.5 * u * (c - a + u * (2 * a - 5 * b + 4 * c - d + u * (3 * (b - c) + d - a)));
    }

private:
    double m_pace;
    std::vector<double> m_knots;
};

struct Hand {
    SmoothPath x, y, z;
    double radius;
};

/// People move, and rest: how far the movement has come at a time.
class Bursts {
public:
    explicit Bursts(std::mt19937_64& random) {
        std::uniform_real_distribution<double> uniform(0.0, 1.0);
        bool isMoving = false;
        double left = 0.3;
        for (int i = 0; i < 4000; ++i) {
            left -= kStep;
            if (left <= 0.0) {
                isMoving = !isMoving;
                left = isMoving ? 0.15 + 0.4 * uniform(random) : 0.8 + 2.5 * uniform(random);
            }
            // It starts and stops within a tenth of a second.
            m_speed += std::clamp((isMoving ? 1.0 : 0.0) - m_speed, -10.0 * kStep, 10.0 * kStep);
            m_gone.push_back((m_gone.empty() ? 0.0 : m_gone.back()) + m_speed * kStep);
        }
    }
    [[nodiscard]] double at(double seconds) const {
        const double place = std::clamp(seconds / kStep, 0.0, 3998.0);
        const auto i = static_cast<std::size_t>(place);
        const double u = place - static_cast<double>(i);
        return m_gone[i] + u * (m_gone[i + 1] - m_gone[i]);
    }

private:
    static constexpr double kStep = 0.005;
    double m_speed = 0.0;
    std::vector<double> m_gone;
};

struct HandsScene {
    Bursts bursts;
    std::vector<Hand> hands;
    std::vector<double> wall;

    explicit HandsScene(std::mt19937_64& random) : bursts(random) {
        std::uniform_real_distribution<double> uniform(0.0, 1.0);
        const int count = 2 + static_cast<int>(2.0 * uniform(random));
        for (int i = 0; i < count; ++i) {
            const double pace = 0.35 + 0.4 * uniform(random);
            hands.push_back({SmoothPath(random, pace, 0.18),
                             SmoothPath(random, pace, 0.12),
                             SmoothPath(random, pace, 0.15),
                             0.06 + 0.05 * uniform(random)});
        }
        wall.resize(64 * 36);
        for (double& value : wall) value = 60.0 + 80.0 * uniform(random);
    }
};

struct HandsCamera {
    double degrees = 0.0;  ///< about the person
    double pixelsPerMetre = 130.0;
    double rate = 25.0;
    double startSeconds = 0.0;
    double openSeconds = 0.02;
    double readoutSeconds = 0.0;  ///< rolling shutter, from the first line to the last
    double grain = 1.0;
    double gain = 1.0;
};

/// Grain is drawn once and laid on from another place in every line.
double grainAt(std::size_t place) {
    static const std::vector<double> kGrain = [] {
        std::mt19937_64 random(71);
        std::normal_distribution<double> normal(0.0, 1.0);
        std::vector<double> made(1U << 18U);
        for (double& value : made) value = normal(random);
        return made;
    }();
    return kGrain[place % kGrain.size()];
}

image::CodedFrame handsFrame(const HandsScene& scene,
                             const HandsCamera& camera,
                             int index,
                             std::mt19937_64& random) {
    constexpr int kMoments = 3;
    auto pixels = std::make_shared<std::vector<std::uint8_t>>(
        static_cast<std::size_t>(kHandsWidth) * kHandsHeight);
    const double turn = camera.degrees * 3.14159265 / 180.0;
    for (int y = 0; y < kHandsHeight; ++y) {
        const std::size_t grain = random();
        struct Spot {
            double x, y, radius;
            std::size_t hand;
        };
        std::vector<std::vector<Spot>> moments;
        for (int m = 0; m < kMoments; ++m) {
            const double t = scene.bursts.at(camera.startSeconds + index / camera.rate +
                                             camera.readoutSeconds * y / kHandsHeight +
                                             camera.openSeconds * (m + 0.5) / kMoments);
            std::vector<Spot> spots;
            for (std::size_t h = 0; h < scene.hands.size(); ++h) {
                const Hand& hand = scene.hands[h];
                const double x = hand.x.at(t), z = hand.z.at(t);
                const double side = x * std::cos(turn) + z * std::sin(turn);
                const double near = 2.0 / (2.0 - (z * std::cos(turn) - x * std::sin(turn)));
                const double scale = camera.pixelsPerMetre * near;
                spots.push_back({kHandsWidth / 2 + scale * side,
                                 kHandsHeight / 2 + scale * hand.y.at(t),
                                 scale * hand.radius,
                                 h});
            }
            moments.push_back(std::move(spots));
        }
        for (int x = 0; x < kHandsWidth; ++x) {
            double sum = 0.0;
            for (const auto& spots : moments) {
                double value = scene.wall[static_cast<std::size_t>(y / 4 * 64 + x / 4)];
                for (const Spot& spot : spots) {
                    const double dx = x - spot.x, dy = y - spot.y;
                    if (dx * dx + dy * dy < spot.radius * spot.radius)
                        value = 150.0 + 40.0 * std::sin(0.6 * dx + static_cast<double>(spot.hand)) *
                                            std::sin(0.5 * dy);
                }
                sum += value;
            }
            const double value = camera.gain * sum / kMoments +
                                 camera.grain * grainAt(grain + static_cast<std::size_t>(x));
            (*pixels)[static_cast<std::size_t>(y) * kHandsWidth + static_cast<std::size_t>(x)] =
                static_cast<std::uint8_t>(std::clamp(value, 0.0, 255.0));
        }
    }
    image::CodedFrame frame;
    frame.width = kHandsWidth;
    frame.height = kHandsHeight;
    frame.planeCount = 1;
    frame.planes[0] = {
        reinterpret_cast<const std::byte*>(pixels->data()), kHandsWidth, kHandsWidth, kHandsHeight};
    frame.seconds = index / camera.rate;
    frame.owner = pixels;
    return frame;
}

timing::PictureCurve handsCurve(const HandsScene& scene,
                                const HandsCamera& camera,
                                std::mt19937_64& random) {
    timing::FrameWatch watch;
    for (int i = 0; i < static_cast<int>(kHandsSeconds * camera.rate); ++i)
        watch.take(handsFrame(scene, camera, i, random));
    return watch.curve();
}

HandsCamera anyHandsCamera(std::mt19937_64& random) {
    std::uniform_real_distribution<double> uniform(0.0, 1.0);
    constexpr std::array<double, 5> kRates{24.0, 25.0, 30.0, 30000.0 / 1001.0, 50.0};
    HandsCamera camera;
    camera.degrees = 90.0 * (uniform(random) - 0.5);
    camera.pixelsPerMetre = 90.0 + 110.0 * uniform(random);
    camera.rate = kRates[static_cast<std::size_t>(5.0 * uniform(random))];
    camera.startSeconds = 4.0 * uniform(random);
    camera.openSeconds = (0.1 + 0.9 * uniform(random)) / camera.rate;
    camera.readoutSeconds = 0.8 * uniform(random) / camera.rate;
    camera.grain = 0.5 + 2.0 * uniform(random);
    camera.gain = 0.7 + 0.5 * uniform(random);
    return camera;
}

}  // namespace

class TestPictureOffset : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// A frame counts from the middle of its exposure, in the middle of its readout: that is where
    /// the truth is taken.
    void handsTellTheOffset() {
        const int pairs = support::isFullSample() ? 100 : 3;
        int halves = 0, wholes = 0, covered = 0, told = 0;
        for (int i = 0; i < pairs; ++i) {
            std::mt19937_64 random(4000U + static_cast<unsigned>(i));
            const HandsScene scene(random);
            const HandsCamera one = anyHandsCamera(random), two = anyHandsCamera(random);
            const auto found = timing::findPictureOffset(handsCurve(scene, one, random),
                                                         handsCurve(scene, two, random));
            if (!found) {
                if (qEnvironmentVariableIntValue("RIGMATCH_TELL") != 0)
                    std::printf("%d: %s\n", i, words::inEnglish(found.error()).c_str());
                continue;
            }
            ++told;
            const auto middle = [](const HandsCamera& camera) {
                return camera.startSeconds + 0.5 * camera.openSeconds + 0.5 * camera.readoutSeconds;
            };
            const double truth = middle(one) - middle(two);
            const double frame = 1.0 / std::min(one.rate, two.rate);
            const double error = std::abs(found->offsetSeconds - truth);
            halves += error <= 0.5 * frame ? 1 : 0;
            wholes += error <= frame ? 1 : 0;
            covered += error <= 2.0 * found->uncertaintySeconds ? 1 : 0;
            if (qEnvironmentVariableIntValue("RIGMATCH_TELL") != 0)
                std::printf("%d: error %.4f s, %.2f frames, likeness %.2f, %.0f and %.0f degrees\n",
                            i,
                            found->offsetSeconds - truth,
                            error / frame,
                            found->likeness,
                            one.degrees,
                            two.degrees);
        }
        std::printf("by picture: %d of %d told; within half a frame %d, a frame %d; covered %d\n",
                    told,
                    pairs,
                    halves,
                    wholes,
                    covered);
        // What is told is right, and most is told.
        QVERIFY(support::isFullSample() ? 10 * told >= 8 * pairs : 3 * told >= 2 * pairs);
        QVERIFY(wholes + told / 100 >= told);
        QVERIFY(4 * halves >= 3 * told);
        QVERIFY(10 * covered >= 9 * told - 9);
    }
    /// Other hands, or the same at another time than both recorded: nothing is made up.
    void otherHandsTellNone() {
        const int pairs = support::isFullSample() ? 60 : 2;
        int invented = 0;
        for (int i = 0; i < pairs; ++i) {
            std::mt19937_64 random(9000U + static_cast<unsigned>(i));
            const HandsScene one(random), two(random);
            invented += timing::findPictureOffset(handsCurve(one, anyHandsCamera(random), random),
                                                  handsCurve(two, anyHandsCamera(random), random))
                                .has_value()
                            ? 1
                            : 0;
        }
        std::printf("by picture: %d of %d unlike pairs were laid on each other\n", invented, pairs);
        QCOMPARE(invented, 0);
    }
};

RIG_TEST(TestPictureOffset);
#include "test_picture_offset.moc"
