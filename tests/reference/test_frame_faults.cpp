// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>
#include <random>
#include <set>

#include "media/clip_writer.h"
#include "media/media_reader.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"
#include "timing/frame_watch.h"

using namespace rigmatch;

namespace {

constexpr int kWide = 960, kHigh = 540;

/// A set with a textured wall and some textured things that move over it. Moments are frames of
/// the source's own clock.
class MovingSet {
public:
    explicit MovingSet(std::uint64_t seed) : m_random(seed) {
        std::uniform_real_distribution<double> uniform(0.0, 1.0);
        m_wall = texture(uniform(m_random) * 0.3 + 0.2);
        const int things = 1 + static_cast<int>(2.0 * uniform(m_random));
        for (int i = 0; i < things; ++i) {
            Thing thing;
            thing.texture = texture(0.5);
            thing.size = 60 + static_cast<int>(120.0 * uniform(m_random));
            thing.x = kWide * (0.3 + 0.4 * uniform(m_random));
            thing.y = kHigh * (0.3 + 0.4 * uniform(m_random));
            thing.period = 60.0 + 120.0 * uniform(m_random);
            thing.phase = 6.28 * uniform(m_random);
            // Half a pixel to four a frame on average.
            const double speed = 0.5 * std::pow(8.0, uniform(m_random));
            thing.reach = speed * thing.period / 4.0;
            m_things.push_back(std::move(thing));
        }
        m_noise = 0.012 * uniform(m_random);
    }

    image::Frame at(double moment) {
        image::Frame frame = image::blankFrame(kWide, kHigh);
        std::vector<float> luma = m_wall;
        for (const Thing& thing : m_things) {
            const double turn = 6.28318 * moment / thing.period + thing.phase;
            draw(thing,
                 thing.x + thing.reach * std::sin(turn),
                 thing.y + 0.6 * thing.reach * std::cos(turn),
                 luma);
        }
        std::normal_distribution<float> normal(0.0F, static_cast<float>(m_noise));
        for (std::size_t i = 0; i < luma.size(); ++i) {
            const float value = luma[i] + normal(m_random);
            for (auto& channel : frame.channels) channel[i] = value;
        }
        return frame;
    }

private:
    struct Thing {
        std::vector<float> texture;
        int size = 80;
        double x = 0, y = 0, period = 80, phase = 0, reach = 20;
    };

    std::vector<float> texture(double contrast) {
        std::uniform_real_distribution<double> uniform(0.0, 1.0);
        std::vector<float> made(static_cast<std::size_t>(kWide * kHigh), 0.4F);
        for (int blob = 0; blob < 400; ++blob) {
            const double cx = kWide * uniform(m_random), cy = kHigh * uniform(m_random),
                         r = 4.0 + 30.0 * uniform(m_random);
            const auto height = static_cast<float>(contrast * (uniform(m_random) - 0.5));
            for (int y = std::max(0, int(cy - r)); y < std::min(kHigh, int(cy + r)); ++y)
                for (int x = std::max(0, int(cx - r)); x < std::min(kWide, int(cx + r)); ++x)
                    if (std::hypot(x - cx, y - cy) < r)
                        made[static_cast<std::size_t>(y * kWide + x)] += height;
        }
        return made;
    }

    static void draw(const Thing& thing, double cx, double cy, std::vector<float>& luma) {
        for (int y = std::max(0, int(cy) - thing.size); y < std::min(kHigh, int(cy) + thing.size);
             ++y) {
            for (int x = std::max(0, int(cx) - thing.size);
                 x < std::min(kWide, int(cx) + thing.size);
                 ++x) {
                const double u = x - cx + kWide / 2.0, v = y - cy + kHigh / 2.0;
                if (std::hypot(x - cx, y - cy) > thing.size) continue;
                const auto ux = static_cast<int>(std::floor(u)),
                           vy = static_cast<int>(std::floor(v));
                if (ux < 0 || vy < 0 || ux + 1 >= kWide || vy + 1 >= kHigh) continue;
                const auto fx = static_cast<float>(u - ux), fy = static_cast<float>(v - vy);
                const auto at = [&](int dx, int dy) {
                    return thing.texture[static_cast<std::size_t>((vy + dy) * kWide + ux + dx)];
                };
                luma[static_cast<std::size_t>(y * kWide + x)] =
                    (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) +
                    (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
            }
        }
    }

    std::mt19937_64 m_random;
    std::vector<float> m_wall;
    std::vector<Thing> m_things;
    double m_noise = 0.0;
};

timing::FrameReport watched(const QString& file) {
    auto reader = media::MediaReader::open(file.toStdString());
    if (!reader) return {};
    timing::FrameWatch watch;
    while (auto frame = *reader->next()) watch.take(*frame);
    return watch.report();
}

int near(const std::vector<double>& times, double seconds) {
    return static_cast<int>(std::count_if(
        times.begin(), times.end(), [&](double one) { return std::abs(one - seconds) < 0.045; }));
}

}  // namespace

class TestFrameFaults : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Faults written into clips of moving things, through lossy codecs: found, none invented.
    void faultsAreFound() {
        const QTemporaryDir folder;
        const int clips = support::isFullSample() ? 50 : 2;
        int repeats = 0, foundRepeats = 0, missing = 0, foundMissing = 0, invented = 0,
            unjudged = 0;
        for (int c = 0; c < clips; ++c) {
            // The bounds were set on seeds 300 to 499.
            const auto seed = 500 + static_cast<std::uint64_t>(c);
            std::mt19937_64 random(seed);
            std::uniform_real_distribution<double> uniform(0.0, 1.0);
            MovingSet set(seed);
            media::ClipOptions options;
            options.width = kWide;
            options.height = kHigh;
            options.codec = c % 2 == 0 ? media::ClipCodec::H264 : media::ClipCodec::Hevc;
            options.bitDepth = c % 2 == 0 ? 8 : 10;
            options.quality = 18 + c % 10;
            const QString file = folder.filePath(QString("%1.mov").arg(c));
            auto writer = media::ClipWriter::create(file.toStdString(), options);
            QVERIFY(writer.has_value());
            std::vector<double> trueRepeats, trueMissing;
            double moment = 0.0;
            const int frames = 125;
            image::Frame picture = set.at(0.0);
            int nextFault = 15 + static_cast<int>(15.0 * uniform(random));
            for (int f = 0; f < frames; ++f) {
                if (f == nextFault && f < frames - 8) {
                    const double kind = uniform(random);
                    if (kind < 0.35) {  // shown again in place of the next
                        moment += 1.0;
                        trueRepeats.push_back(f / 25.0);
                    } else if (kind < 0.6) {  // shown again in between
                        trueRepeats.push_back(f / 25.0);
                    } else {
                        moment += 2.0;
                        picture = set.at(moment);
                        trueMissing.push_back(f / 25.0);
                    }
                    nextFault = f + 9 + static_cast<int>(25.0 * uniform(random));
                } else if (f > 0) {
                    moment += 1.0;
                    picture = set.at(moment);
                }
                QVERIFY(writer->append(picture).has_value());
            }
            QVERIFY(writer->finish().has_value());
            const auto report = watched(file);
            const auto isJudged = [&](double seconds) {
                const auto holds = [&](const timing::TimeSpan& span) {
                    return seconds > span.startSeconds - 0.05 && seconds < span.endSeconds + 0.05;
                };
                return std::none_of(report.notJudged.begin(), report.notJudged.end(), holds) &&
                       std::none_of(report.unsteady.begin(), report.unsteady.end(), holds);
            };
            for (const double t : trueRepeats) {
                if (!isJudged(t)) {
                    ++unjudged;
                    continue;
                }
                ++repeats;
                foundRepeats += near(report.repeated, t) > 0 ? 1 : 0;
                if (near(report.repeated, t) == 0 && qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                    qInfo("clip %d: repeat at %.2f not found", c, t);
            }
            for (const double t : trueMissing) {
                if (!isJudged(t)) {
                    ++unjudged;
                    continue;
                }
                ++missing;
                foundMissing += near(report.missing, t) > 0 ? 1 : 0;
                if (near(report.missing, t) == 0 && qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                    qInfo("clip %d: missing at %.2f not found", c, t);
            }
            for (const double t : report.repeated)
                if (near(trueRepeats, t) == 0) {
                    ++invented;
                    qInfo("clip %d: invented repeat at %.2f", c, t);
                }
            for (const double t : report.missing)
                if (near(trueMissing, t) == 0) {
                    ++invented;
                    qInfo("clip %d: invented missing at %.2f", c, t);
                }
        }
        qInfo("repeats %d of %d, missing %d of %d, invented %d, unjudged %d",
              foundRepeats,
              repeats,
              foundMissing,
              missing,
              invented,
              unjudged);
        QVERIFY(unjudged <= 0.1 * (unjudged + repeats + missing) + 1);
        QVERIFY(foundRepeats >= 0.99 * repeats);
        QVERIFY(foundMissing >= 0.95 * missing - 1);
        QCOMPARE(invented, 0);
    }
};

RIG_TEST(TestFrameFaults);
#include "test_frame_faults.moc"
