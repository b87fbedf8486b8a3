// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/compare_job.h"

#include <algorithm>
#include <cmath>

#include "colour/viewing_lut.h"
#include "image/robust.h"
#include "match/judge.h"
#include "match/predict.h"
#include "media/media_reader.h"

namespace rigmatch::jobs {
namespace {

// Tables are fine enough for an error far below one 10-bit code.
constexpr double kLowest = -0.2;
constexpr double kHighest = 1.3;
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

}  // namespace

struct StageMap::Map {
    std::array<std::vector<float>, 3> tables;  ///< empty: a LUT does it
    std::optional<colour::ViewingLut> lut;

    [[nodiscard]] double looked(std::size_t channel, double signal) const {
        const double place =
            std::clamp((signal - kLowest) / (kHighest - kLowest), 0.0, 1.0) * kSteps;
        const auto index = std::min(static_cast<std::size_t>(place), std::size_t{kSteps - 1});
        const double share = place - static_cast<double>(index);
        const auto& table = tables[channel];
        return double(table[index]) * (1.0 - share) + double(table[index + 1]) * share;
    }
};

StageMap StageMap::afterTurns(const match::CameraMatch& match) {
    StageMap stage;
    if (!match.differences.fit || match.plan.turns.empty()) return stage;
    const match::ChangeMap change(*match.differences.fit, match.plan.total);
    auto map = std::make_shared<Map>();
    for (std::size_t c = 0; c < 3; ++c) {
        for (int i = 0; i <= kSteps; ++i) {
            const double signal = kLowest + (kHighest - kLowest) * i / kSteps;
            map->tables[c].push_back(static_cast<float>(change.apply(c, signal)));
        }
    }
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
    std::array<double, 3> result{};
    for (std::size_t c = 0; c < 3; ++c) result[c] = m_map->looked(c, signal[c]);
    return result;
}

void StageMap::apply(image::Frame& signal) const {
    if (!m_map) return;
    if (m_map->lut) {
        m_map->lut->apply(signal.channels);
        return;
    }
    for (std::size_t c = 0; c < 3; ++c) {
        for (float& value : signal.channels[c])
            value = static_cast<float>(m_map->looked(c, double(value)));
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
