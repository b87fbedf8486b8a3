// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/patch_reader.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

namespace rigmatch::chart {
namespace {

using base::ErrorCode;
using base::Result;

constexpr double kMiddleShare = 0.55;  // sources 5.4: the central 50-60 %
constexpr double kSmallestPatchPx = 6.0;
constexpr int kMostSamples = 20;  // per side: 400 pixels of a patch are plenty (sources 11.15)
constexpr double kTrim = 0.15;    // share of samples dropped at either end
constexpr double kPlateauFrom = 0.985;  // signal above which equal samples mean clipping
constexpr double kPlateauWidth = 0.006;

/// Order statistics of a patch's samples. They are only parted at the quantiles that are asked for:
/// sorting them all took longer than reading them.
class Spread {
public:
    explicit Spread(std::vector<float>& values) : m_values(values) {
        const std::size_t count = values.size();
        const auto cut = static_cast<std::size_t>(kTrim * static_cast<double>(count));
        const std::size_t quarter = count / 4;
        const std::size_t middle = count / 2;
        part(0, middle, count);
        part(0, quarter, middle);
        part(0, cut, quarter);
        part(middle + 1, count - 1 - quarter, count);
        part(count - quarter, count - 1 - cut, count);
        m_middle = at(middle);
        // Standard deviation from the middle half: deaf to specks.
        m_sigma = (at(count - 1 - quarter) - at(quarter)) / 1.349;
        double sum = 0.0;
        for (std::size_t i = cut; i < count - cut; ++i) sum += at(i);
        m_trimmedMean = sum / static_cast<double>(count - 2 * cut);
    }

    [[nodiscard]] double trimmedMean() const { return m_trimmedMean; }
    [[nodiscard]] double sigma() const { return m_sigma; }
    [[nodiscard]] double middle() const { return m_middle; }
    [[nodiscard]] double highest() const {
        return double(*std::max_element(m_values.begin(), m_values.end()));
    }
    [[nodiscard]] double shareFrom(double level) const {
        return share([&](float v) { return double(v) >= level; });
    }
    [[nodiscard]] double shareAbove(double level) const {
        return share([&](float v) { return double(v) > level; });
    }
    [[nodiscard]] double shareBelow(double level) const {
        return share([&](float v) { return double(v) < level; });
    }

private:
    [[nodiscard]] double at(std::size_t i) const { return double(m_values[i]); }
    template <class Is>
    [[nodiscard]] double share(Is is) const {
        return static_cast<double>(std::count_if(m_values.begin(), m_values.end(), is)) /
               static_cast<double>(m_values.size());
    }
    void part(std::size_t from, std::size_t nth, std::size_t to) {
        if (from > nth || nth >= to) return;
        const auto begin = m_values.begin();
        std::nth_element(begin + static_cast<std::ptrdiff_t>(from),
                         begin + static_cast<std::ptrdiff_t>(nth),
                         begin + static_cast<std::ptrdiff_t>(to));
    }

    std::vector<float>& m_values;
    double m_middle = 0.0, m_sigma = 0.0, m_trimmedMean = 0.0;
};

/// Share of samples that no longer follow the light: at the last codes, or crowded on a plateau
/// near white.
double clippedShare(const Spread& samples, double clipSignal) {
    const double top = samples.highest();
    if (top < kPlateauFrom) return 0.0;
    const double atTop = samples.shareFrom(clipSignal);
    const double onPlateau = samples.shareFrom(top - kPlateauWidth);
    return onPlateau > 0.8 ? std::max(atTop, onPlateau) : atTop;
}

/// Share of samples far above the middle, less those as far below: noise stands out to both sides,
/// a reflection upward alone (sources 5.9).
double glareShare(const Spread& samples) {
    constexpr double kSigmas = 4.0;
    constexpr double kLeast = 0.02;  // signal
    const double reach = std::max(kSigmas * samples.sigma(), kLeast);
    return std::max(0.0,
                    samples.shareAbove(samples.middle() + reach) -
                        samples.shareBelow(samples.middle() - reach));
}

/// Reads the patches of one frame at one pose.
class PatchSampler {
public:
    PatchSampler(const image::CodedFrame& frame, const ChartPose& pose)
        : m_frame(frame),
          m_pose(pose),
          m_map(pose.fieldToPicture()),
          m_signal(frame),
          m_clipSignal(image::clipSignal(frame)),
          m_rounding(image::roundingError(frame)) {}

    [[nodiscard]] image::Point centrePx(std::size_t patch) const {
        return m_map.apply(m_pose.patchCentre(patch));
    }
    [[nodiscard]] PatchSample read(std::size_t patch);

private:
    void collect(std::size_t patch);

    const image::CodedFrame& m_frame;
    const ChartPose& m_pose;
    image::Homography m_map;
    image::SignalSampler m_signal;
    double m_clipSignal;
    std::array<double, 3> m_rounding;
    std::array<std::vector<float>, 3> m_values;
};

/// Signals of a grid of pixels over the middle of the patch.
void PatchSampler::collect(std::size_t patch) {
    const image::Point centre = m_pose.patchCentre(patch);
    const double halfX = 0.5 * kMiddleShare * m_pose.patchShare / m_pose.stepsAcross();
    const double halfY = 0.5 * kMiddleShare * m_pose.patchShare / m_pose.stepsDown();
    const auto at = [&](double across, double down) {
        return m_map.apply({centre.x + across * halfX, centre.y + down * halfY});
    };
    const double side =
        std::sqrt(std::abs(image::signedArea({at(-1, -1), at(1, -1), at(1, 1), at(-1, 1)})));
    const int samples = std::clamp(static_cast<int>(side), 3, kMostSamples);
    for (auto& list : m_values) list.clear();
    for (int row = 0; row < samples; ++row) {
        for (int column = 0; column < samples; ++column) {
            const image::Point p =
                at((2.0 * column + 1.0) / samples - 1.0, (2.0 * row + 1.0) / samples - 1.0);
            const auto rgb =
                m_signal.at(std::clamp(static_cast<int>(std::lround(p.x)), 0, m_frame.width - 1),
                            std::clamp(static_cast<int>(std::lround(p.y)), 0, m_frame.height - 1));
            for (std::size_t c = 0; c < 3; ++c) m_values[c].push_back(rgb[c]);
        }
    }
}

PatchSample PatchSampler::read(std::size_t patch) {
    collect(patch);
    PatchSample sample;
    sample.centrePx = centrePx(patch);
    sample.pixels = static_cast<int>(m_values[0].size());
    sample.rounding = m_rounding;
    for (std::size_t c = 0; c < 3; ++c) {
        const Spread samples(m_values[c]);
        sample.signal[c] = samples.trimmedMean();
        sample.noise[c] = samples.sigma();
        sample.glareShare = std::max(sample.glareShare, glareShare(samples));
        sample.clippedShare = std::max(sample.clippedShare, clippedShare(samples, m_clipSignal));
    }
    return sample;
}

}  // namespace

Result<PatchSamples> readPatches(const image::CodedFrame& frame,
                                 const ChartPose& pose,
                                 const ReferenceChart& chart) {
    if (!pose.fieldToPicture().isSane(1.0, 1.0)) {
        return base::fail(ErrorCode::OutOfRange,
                          base::say("patchReader.cannotReadPatches"),
                          base::say("patchReader.fourCornersMake"),
                          base::say("patchReader.putThemFour"));
    }
    PatchSampler sampler(frame, pose);
    for (std::size_t i = 0; i < pose.patchCount(); ++i) {
        const image::Point p = sampler.centrePx(i);
        if (p.x < 0 || p.y < 0 || p.x > frame.width - 1 || p.y > frame.height - 1) {
            return base::fail(
                ErrorCode::OutOfRange,
                base::say("patchReader.cannotReadPatches"),
                base::say("patchReader.liesOutsidePicture", {{"patch", chart.patches[i].name}}),
                base::say("patchReader.keepAllFour"));
        }
    }
    if (pose.patchSizePx() < kSmallestPatchPx) {
        return base::fail(ErrorCode::TooFewPixels,
                          base::say("patchReader.cannotReadPatches"),
                          base::say("patchReader.smallestPatchPx",
                                    {{"width", base::Number{pose.patchSizePx(), 1}},
                                     {"least", base::Number{kSmallestPatchPx}}}),
                          base::say("patchReader.bringChartNearer"));
    }
    PatchSamples samples;
    for (std::size_t i = 0; i < pose.patchCount(); ++i) samples.push_back(sampler.read(i));
    return samples;
}

}  // namespace rigmatch::chart
