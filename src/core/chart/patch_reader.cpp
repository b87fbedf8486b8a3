// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/patch_reader.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

namespace rigmatch::chart {
namespace {

using base::ErrorCode;
using base::Result;

constexpr double kMiddleShare = 0.55;  // handbook 5.4: the central 50-60 %
constexpr double kSmallestPatchPx = 6.0;
constexpr int kMostSamples = 20;  // per side: 400 pixels of a patch are plenty (handbook 11.15)
constexpr double kTrim = 0.15;    // share of samples dropped at either end
constexpr double kPlateauFrom = 0.985;  // signal above which equal samples mean clipping
constexpr double kPlateauWidth = 0.006;

double trimmedMean(std::vector<double>& values) {
    std::sort(values.begin(), values.end());
    const auto cut = static_cast<std::size_t>(kTrim * static_cast<double>(values.size()));
    double sum = 0.0;
    for (std::size_t i = cut; i < values.size() - cut; ++i) sum += values[i];
    return sum / static_cast<double>(values.size() - 2 * cut);
}

/// Standard deviation from the middle half of sorted values: deaf to specks.
double spreadOf(const std::vector<double>& sorted) {
    const std::size_t quarter = sorted.size() / 4;
    return (sorted[sorted.size() - 1 - quarter] - sorted[quarter]) / 1.349;
}

/// Share of samples that no longer follow the light: at the last codes, or crowded on a plateau
/// near white.
double clippedShare(const std::vector<double>& sorted, double clipSignal) {
    const double top = sorted.back();
    if (top < kPlateauFrom) return 0.0;
    const auto from = [&](double level) {
        const auto above = sorted.end() - std::lower_bound(sorted.begin(), sorted.end(), level);
        return static_cast<double>(above) / static_cast<double>(sorted.size());
    };
    const double atTop = from(clipSignal);
    const double onPlateau = from(top - kPlateauWidth);
    return onPlateau > 0.8 ? std::max(atTop, onPlateau) : atTop;
}

/// Share of samples far above the middle, less those as far below: noise stands out to both sides,
/// a reflection upward alone (handbook 5.9).
double glareShare(const std::vector<double>& sorted) {
    constexpr double kSigmas = 4.0;
    constexpr double kLeast = 0.02;  // signal
    const double middle = sorted[sorted.size() / 2];
    const double reach = std::max(kSigmas * spreadOf(sorted), kLeast);
    const auto above =
        sorted.end() - std::upper_bound(sorted.begin(), sorted.end(), middle + reach);
    const auto below =
        std::lower_bound(sorted.begin(), sorted.end(), middle - reach) - sorted.begin();
    return static_cast<double>(std::max<std::ptrdiff_t>(0, above - below)) /
           static_cast<double>(sorted.size());
}

PatchSample readPatch(const image::CodedFrame& frame, const ChartPose& pose, std::size_t patch) {
    const std::array<image::Point, 4> quad = pose.patchQuad(patch, kMiddleShare);
    const image::PixelRect bounds = image::boundsOf(quad);
    const int x0 = std::clamp(bounds.x, 0, frame.width - 1);
    const int y0 = std::clamp(bounds.y, 0, frame.height - 1);
    const image::Frame part = image::signalFrame(
        frame, {x0, y0, bounds.x + bounds.width - x0, bounds.y + bounds.height - y0});
    const double side = std::sqrt(std::abs(image::signedArea(quad)));
    const int samples = std::clamp(static_cast<int>(side), 3, kMostSamples);
    const auto map = image::Homography::fit(
        std::array<image::Point, 4>{image::Point{0, 0}, {1, 0}, {1, 1}, {0, 1}}, quad);
    std::array<std::vector<double>, 3> values;
    for (int row = 0; map && row < samples; ++row) {
        for (int column = 0; column < samples; ++column) {
            const image::Point p = map->apply({(column + 0.5) / samples, (row + 0.5) / samples});
            const int x = std::clamp(static_cast<int>(std::lround(p.x)) - x0, 0, part.width - 1);
            const int y = std::clamp(static_cast<int>(std::lround(p.y)) - y0, 0, part.height - 1);
            for (std::size_t c = 0; c < 3; ++c)
                values[c].push_back(static_cast<double>(part.at(int(c), x, y)));
        }
    }
    PatchSample sample;
    sample.centrePx = pose.patchCentrePx(patch);
    sample.pixels = static_cast<int>(values[0].size());
    if (values[0].empty()) return sample;
    for (std::size_t c = 0; c < 3; ++c) {
        sample.signal[c] = trimmedMean(values[c]);
        sample.noise[c] = spreadOf(values[c]);
        sample.glareShare = std::max(sample.glareShare, glareShare(values[c]));
        sample.clippedShare =
            std::max(sample.clippedShare, clippedShare(values[c], image::clipSignal(frame)));
    }
    return sample;
}

}  // namespace

Result<PatchSamples> readPatches(const image::CodedFrame& frame,
                                 const ChartPose& pose,
                                 const ReferenceChart& chart) {
    if (!pose.fieldToPicture().isSane(1.0, 1.0)) {
        return base::fail(
            ErrorCode::OutOfRange,
            "Cannot read the patches",
            "The four corners make no four-sided field.",
            "Put them on the four outer corners of the patches, clockwise from the first.");
    }
    for (std::size_t i = 0; i < pose.patchCount(); ++i) {
        const image::Point p = pose.patchCentrePx(i);
        if (p.x < 0 || p.y < 0 || p.x > frame.width - 1 || p.y > frame.height - 1) {
            return base::fail(ErrorCode::OutOfRange,
                              "Cannot read the patches",
                              "\"" + chart.patches[i].name + "\" lies outside the picture.",
                              "Keep all four corners inside the picture.");
        }
    }
    if (pose.patchSizePx() < kSmallestPatchPx) {
        return base::fail(
            ErrorCode::TooFewPixels,
            "Cannot read the patches",
            "The smallest patch is " + base::fixed(pose.patchSizePx(), 1) + " px wide; " +
                base::fixed(kSmallestPatchPx, 0) + " px are needed.",
            "Bring the chart nearer to this camera, or record at a higher resolution.");
    }
    PatchSamples samples;
    for (std::size_t i = 0; i < pose.patchCount(); ++i)
        samples.push_back(readPatch(frame, pose, i));
    return samples;
}

}  // namespace rigmatch::chart
