// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/compare_job.h"

#include <Eigen/Core>
#include <algorithm>
#include <cmath>

#include "colour/viewing_lut.h"
#include "image/frame.h"
#include "image/robust.h"
#include "match/judge.h"
#include "match/predict.h"
#include "media/media_reader.h"

namespace rigmatch::jobs {
namespace {

// Tables are fine enough for an error far below one 10-bit code.
constexpr double kLowest = -0.5;
constexpr double kHighest = 1.6;
constexpr int kSteps = 3000;

/// The region's signal as a frame of its own that scopes can count: floating point R'G'B'.
struct FloatFrame {
    image::Frame signal;
    image::CodedFrame coded;
};

std::shared_ptr<FloatFrame> floatFrame(image::Frame signal) {
    auto made = std::make_shared<FloatFrame>();
    made->signal = std::move(signal);
    image::CodedFrame& coded = made->coded;
    coded.width = made->signal.width;
    coded.height = made->signal.height;
    coded.bitDepth = 32;
    coded.samples = image::SampleKind::Float32;
    coded.tags.matrix = image::Matrix::None;
    coded.tags.range = image::Range::Full;
    for (std::size_t c = 0; c < 3; ++c) {
        coded.planes[c] = {reinterpret_cast<const std::byte*>(made->signal.channels[c].data()),
                           static_cast<std::ptrdiff_t>(sizeof(float)) * coded.width,
                           coded.width,
                           coded.height};
    }
    return made;
}

/// A function of one number by a table of kSteps parts.
class Table {
public:
    template <class Of>
    Table(double lowest, double highest, const Of& of)
        : m_lowest(lowest), m_scale(kSteps / (highest - lowest)) {
        for (int i = 0; i <= kSteps; ++i)
            m_values.push_back(static_cast<float>(of(lowest + i / m_scale)));
    }
    [[nodiscard]] float at(float x) const {
        const float place = std::clamp(
            (x - static_cast<float>(m_lowest)) * static_cast<float>(m_scale), 0.0F, float(kSteps));
        const auto index = std::min(static_cast<std::size_t>(place), std::size_t{kSteps - 1});
        const float share = place - static_cast<float>(index);
        return m_values[index] * (1.0F - share) + m_values[index + 1] * share;
    }

private:
    double m_lowest, m_scale;
    std::vector<float> m_values;
};

/// What the turns do to a signal, fast enough for pictures.
class TurnedMap {
public:
    explicit TurnedMap(const match::BodyModel::Map& map)
        : m_toStops(kLowest,
                    kHighest,
                    [&](double coded) { return std::max(map.curve().stopsAt(coded), kDarkest); }),
          m_toCoded(
              kDarkest, kBrightest, [&](double stops) { return map.curve().signalAt(stops); }),
          m_toTurned(
              kDarkest, kBrightest, [&](double stops) { return map.curveAfter().signalAt(stops); }),
          m_black(static_cast<float>(map.black())),
          m_undone(map.toCoded().cast<float>()),
          m_light(map.lightToLight().cast<float>()),
          m_done(map.toSignal().cast<float>()) {}

    [[nodiscard]] Eigen::Vector3f apply(const Eigen::Vector3f& signal) const {
        const Eigen::Vector3f coded = m_undone * signal;
        Eigen::Vector3f light;
        for (int c = 0; c < 3; ++c) light[c] = std::exp2(m_toStops.at(coded[c]));
        const Eigen::Vector3f moved = m_light * light;
        Eigen::Vector3f after;
        // As the exact map: what the model misses of a colour stays with it.
        for (int c = 0; c < 3; ++c) {
            after[c] = m_black + (1.0F - m_black) * coded[c];
            if (light[c] > kLeast && moved[c] > kLeast)
                after[c] = coded[c] + m_toTurned.at(std::log2(moved[c])) -
                           m_toCoded.at(std::log2(light[c]));
        }
        return (m_done * after).cwiseMin(kTop);
    }

private:
    static constexpr double kDarkest = -12.0, kBrightest = 8.0;
    static constexpr float kLeast = 3e-4F;  // a little above the darkest
    static constexpr float kTop = 1.09F;
    Table m_toStops, m_toCoded, m_toTurned;
    float m_black;
    Eigen::Matrix3f m_undone, m_light, m_done;
};

}  // namespace

struct StageMap::Map {
    std::optional<TurnedMap> turned;
    std::optional<colour::ViewingLut> lut;
};

StageMap StageMap::afterTurns(const match::CameraMatch& match) {
    if (!match.body || match.plan.turns.empty()) return {};
    return turned(*match.body, match.plan.dial);
}

StageMap StageMap::turned(const match::BodyModel& body, const match::Change& dial) {
    StageMap stage;
    auto map = std::make_shared<Map>();
    map->turned.emplace(match::BodyModel::Map(body, dial));
    stage.m_map = map;
    return stage;
}

base::Result<StageMap> StageMap::throughLut(const std::filesystem::path& lut) {
    auto read = colour::ViewingLut::read(lut);
    if (!read) return tl::unexpected(read.error());
    StageMap stage;
    auto map = std::make_shared<Map>();
    map->lut = std::move(*read);
    stage.m_map = map;
    return stage;
}

bool StageMap::isIdentity() const { return m_map == nullptr; }

std::array<double, 3> StageMap::apply(const std::array<double, 3>& signal) const {
    if (!m_map) return signal;
    if (m_map->lut) return m_map->lut->apply(signal);
    const Eigen::Vector3f result =
        m_map->turned->apply({float(signal[0]), float(signal[1]), float(signal[2])});
    return {double(result[0]), double(result[1]), double(result[2])};
}

void StageMap::apply(image::Frame& signal) const {
    if (!m_map) return;
    if (m_map->lut) {
        m_map->lut->apply(signal.channels);
        return;
    }
    auto& [red, green, blue] = signal.channels;
    for (std::size_t i = 0; i < red.size(); ++i) {
        const Eigen::Vector3f after = m_map->turned->apply({red[i], green[i], blue[i]});
        red[i] = after[0];
        green[i] = after[1];
        blue[i] = after[2];
    }
}

double secondsOf(const rig::Reading& reading, Moment moment) {
    if (reading.isStill) return 0.0;
    const double chart = 0.5 * (reading.spanStartSeconds + reading.spanEndSeconds);
    const bool hasFaces = !reading.faces.empty();
    if (moment == Moment::Faces && hasFaces) return reading.faces.front().atSeconds;
    if (reading.hasChart) return chart;
    return hasFaces ? reading.faces.front().atSeconds : 0.5 * reading.durationSeconds;
}

struct ComparedFrame::State {
    image::CodedFrame frame;
};

ComparedFrame::ComparedFrame(std::shared_ptr<const State> state) : m_state(std::move(state)) {}

base::Result<ComparedFrame> ComparedFrame::load(const std::filesystem::path& media,
                                                double seconds,
                                                const CodeReading& codes) {
    auto frame = frameAt(media, seconds, codes);
    if (!frame) return tl::unexpected(frame.error());
    return ComparedFrame(std::make_shared<const State>(State{std::move(*frame)}));
}

int ComparedFrame::width() const { return m_state->frame.width; }
int ComparedFrame::height() const { return m_state->frame.height; }

Picture ComparedFrame::picture(const StageMap& stage) const {
    image::Frame signal = image::signalFrame(m_state->frame);
    stage.apply(signal);
    return {signal.width, signal.height, bytesOf(signal), m_state->frame.seconds};
}

Picture ComparedFrame::smallPicture(const StageMap& stage, int width) const {
    const int step = std::max(1, m_state->frame.width / std::max(width, 1));
    image::Frame signal = image::shrunkSignal(m_state->frame, step);
    stage.apply(signal);
    return {signal.width, signal.height, bytesOf(signal), m_state->frame.seconds};
}

std::optional<SpotSignal> ComparedFrame::signalAt(double x,
                                                  double y,
                                                  int reach,
                                                  const StageMap& stage) const {
    const int column = static_cast<int>(std::lround(x));
    const int row = static_cast<int>(std::lround(y));
    if (column < 0 || row < 0 || column >= width() || row >= height()) return std::nullopt;
    image::Frame signal = image::signalFrame(
        m_state->frame, {column - reach, row - reach, 2 * reach + 1, 2 * reach + 1});
    stage.apply(signal);
    SpotSignal spot;
    std::vector<double> lumas;
    for (std::size_t i = 0; i < signal.channels[0].size(); ++i) {
        std::array<double, 3> pixel{};
        for (std::size_t c = 0; c < 3; ++c) {
            pixel[c] = double(signal.channels[c][i]);
            spot.signal[c] += pixel[c] / static_cast<double>(signal.channels[c].size());
        }
        lumas.push_back(100.0 * match::lumaOf(pixel));
    }
    const image::MeanSigma luma = image::meanSigma(lumas);
    spot.lumaPercent = luma.mean;
    constexpr double kTied = 4.0;
    const double alone = std::max(1.0, static_cast<double>(lumas.size()) / kTied);
    const double halfCode = 50.0 / image::lumaCodes(m_state->frame).perSignal;
    const bool isCoded = m_state->frame.samples != image::SampleKind::Float32;
    spot.lumaUncertainty = std::hypot(luma.sigma / std::sqrt(alone), isCoded ? halfCode : 0.0);
    return spot;
}

namespace {

/// The region at a stage: the frame itself where nothing changes it, else a changed copy.
template <class Count>
auto counted(const image::CodedFrame& frame,
             const scope::ScopeOptions& options,
             const StageMap& stage,
             const Count& count) {
    if (stage.isIdentity()) return count(frame, options);
    const image::PixelRect whole{0, 0, frame.width, frame.height};
    image::Frame signal = image::signalFrame(frame, options.region.value_or(whole));
    stage.apply(signal);
    const auto changed = floatFrame(std::move(signal));
    scope::ScopeOptions inside = options;
    inside.region.reset();
    return count(changed->coded, inside);
}

}  // namespace

base::Result<scope::Waveform> ComparedFrame::waveform(scope::WaveformKind kind,
                                                      const scope::ScopeOptions& options,
                                                      const StageMap& stage) const {
    return counted(m_state->frame, options, stage, [kind](const auto& frame, const auto& area) {
        return scope::waveformOf(frame, kind, area);
    });
}

base::Result<scope::Vectorscope> ComparedFrame::vectorscope(const scope::ScopeOptions& options,
                                                            const StageMap& stage) const {
    return counted(m_state->frame, options, stage, [](const auto& frame, const auto& area) {
        return scope::vectorscopeOf(frame, area);
    });
}

base::Result<scope::Histogram> ComparedFrame::histogram(const scope::ScopeOptions& options,
                                                        const StageMap& stage) const {
    return counted(m_state->frame, options, stage, [](const auto& frame, const auto& area) {
        return scope::histogramOf(frame, area);
    });
}

match::PatchSignals patchesAt(const rig::Reading& reading, const StageMap& stage) {
    match::PatchSignals signals = match::signalsOf(reading);
    for (auto& signal : signals) signal = stage.apply(signal);
    return signals;
}

}  // namespace rigmatch::jobs
