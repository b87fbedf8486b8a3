// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/edge_sharpness.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "base/luma.h"
#include "image/robust.h"

namespace rigmatch::chart {
namespace {

constexpr double kLeastPatchPx = 20.0;
constexpr double kReachShare = 0.3;  // of a patch to each side of the edge
constexpr double kOverFrom = 0.6;    // of the reach: beyond, the step is over
constexpr double kAlongShare = 0.6;  // of the edge's length
constexpr double kBinPx = 0.25;
constexpr int kSegments = 6;
constexpr double kLeastStep = 0.05;  // signal
constexpr double kForeignShare = 0.1;
constexpr double kReadShare = 0.55;
constexpr std::size_t kLeastPixels = 30;

/// One pixel near an edge: place along it and distance from it (+ is the card), px, and luma.
struct Spot {
    double along = 0.0;
    double across = 0.0;
    double luma = 0.0;
};

std::vector<Spot> spotsAt(const image::CodedFrame& frame, const std::array<image::Point, 4>& quad) {
    const image::Point from = quad[3];
    const image::Point to = quad[2];
    const double length = image::distancePx(from, to);
    const double reach = kReachShare * image::distancePx(quad[0], quad[3]);
    const double ax = (to.x - from.x) / length;
    const double ay = (to.y - from.y) / length;
    // The normal that leads away from the patch.
    const double side = (quad[0].x - from.x) * -ay + (quad[0].y - from.y) * ax > 0 ? -1.0 : 1.0;
    const image::PixelRect rect =
        image::boundsOf(std::array<image::Point, 2>{from, to}, reach + 1.0);
    const int x0 = std::clamp(rect.x, 0, frame.width - 1);
    const int y0 = std::clamp(rect.y, 0, frame.height - 1);
    const image::Frame part = image::signalFrame(frame, {x0, y0, rect.width, rect.height});
    std::vector<Spot> spots;
    for (int y = 0; y < part.height; ++y) {
        for (int x = 0; x < part.width; ++x) {
            const double dx = x + x0 - from.x;
            const double dy = y + y0 - from.y;
            const double along = dx * ax + dy * ay;
            const double across = side * (dx * -ay + dy * ax);
            const double margin = 0.5 * (1.0 - kAlongShare) * length;
            if (along < margin || along > length - margin || std::abs(across) > reach) continue;
            const std::array<float, 3> rgb{part.at(0, x, y), part.at(1, x, y), part.at(2, x, y)};
            spots.push_back({along, across, base::lumaOf(rgb)});
        }
    }
    return spots;
}

/// Both levels of the step: the patch's and the card's.
struct Step {
    double light = 0.0;
    double dark = 0.0;
    double reach = 0.0;
};

std::optional<Step> stepOf(const std::vector<Spot>& spots) {
    Step step;
    for (const Spot& spot : spots) step.reach = std::max(step.reach, std::abs(spot.across));
    std::vector<double> light, dark;
    for (const Spot& spot : spots) {
        if (spot.across < -kOverFrom * step.reach) light.push_back(spot.luma);
        if (spot.across > kOverFrom * step.reach) dark.push_back(spot.luma);
    }
    if (light.size() < 10 || dark.size() < 10) return std::nullopt;
    step.light = image::median(light);
    step.dark = image::median(dark);
    if (step.light - step.dark < kLeastStep) return std::nullopt;
    return step;
}

/// Bins into which no pixel fell (an upright edge has its pixels at whole distances only) lie on
/// the line between their neighbours.
void fillGaps(std::vector<double>& values, const std::vector<double>& weights) {
    std::optional<std::size_t> last;
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (weights[i] <= 0.0) continue;
        const std::size_t from = last.value_or(i);
        for (std::size_t k = last ? from + 1 : 0; k < i; ++k) {
            const double share =
                last ? static_cast<double>(k - from) / static_cast<double>(i - from) : 1.0;
            values[k] = values[from] * (1.0 - share) + values[i] * share;
        }
        last = i;
    }
    for (std::size_t k = last.value_or(0) + 1; k < values.size(); ++k) values[k] = values[*last];
}

/// Mean luma in bins across the edge; the bins run from -reach to +reach.
std::vector<double> binned(const std::vector<Spot>& spots, double reach) {
    const auto count = static_cast<std::size_t>(std::ceil(2.0 * reach / kBinPx));
    std::vector<double> sums(count), weights(count);
    for (const Spot& spot : spots) {
        const double place = (spot.across + reach) / kBinPx - 0.5;
        // Shared between the two nearest bins: no bin stays empty, no edge jumps.
        const double low = std::floor(place);
        for (const double bin : {low, low + 1.0}) {
            if (bin < 0.0 || bin >= static_cast<double>(count)) continue;
            const double weight = 1.0 - std::abs(place - bin);
            sums[static_cast<std::size_t>(bin)] += weight * spot.luma;
            weights[static_cast<std::size_t>(bin)] += weight;
        }
    }
    for (std::size_t i = 0; i < count; ++i) {
        if (weights[i] > 0.0) sums[i] /= weights[i];
    }
    fillGaps(sums, weights);
    return sums;
}

/// Where the profile last falls through a share of the step, px from its middle.
std::optional<double> crossing(const std::vector<double>& profile, const Step& step, double share) {
    const double level = step.dark + share * (step.light - step.dark);
    const auto middle = static_cast<double>(profile.size()) / 2.0;
    for (std::size_t i = 0; i + 1 < profile.size(); ++i) {
        if (profile[i] >= level && profile[i + 1] < level) {
            const double part = (profile[i] - level) / (profile[i] - profile[i + 1]);
            return (static_cast<double>(i) + 0.5 + part - middle) * kBinPx;
        }
    }
    return std::nullopt;
}

/// Straightens the edge: finds it piece by piece and takes the line through the pieces off.
bool straighten(std::vector<Spot>& spots, const Step& step) {
    double first = 1e9;
    double last = -1e9;
    for (const Spot& spot : spots) {
        first = std::min(first, spot.along);
        last = std::max(last, spot.along);
    }
    double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0;
    for (int segment = 0; segment < kSegments; ++segment) {
        const double from = first + (last - first) * segment / kSegments;
        const double to = first + (last - first) * (segment + 1) / kSegments;
        std::vector<Spot> part;
        for (const Spot& spot : spots) {
            if (spot.along >= from && spot.along <= to) part.push_back(spot);
        }
        const auto at = crossing(binned(part, step.reach), step, 0.5);
        if (!at) continue;
        const double x = 0.5 * (from + to);
        n += 1.0;
        sx += x;
        sy += *at;
        sxx += x * x;
        sxy += x * *at;
    }
    if (n < kSegments - 1) return false;
    const double slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
    const double offset = (sy - slope * sx) / n;
    for (Spot& spot : spots) spot.across -= offset + slope * spot.along;
    return true;
}

/// How far the profile stands above the light level before the edge and below the dark one after
/// it, signal, both added. The place of each peak is looked for on one half of the edge and its
/// height read on the other half, both ways: the largest of noisy bins is always too high, and
/// another half's value at that place is not.
double overshootOf(const std::vector<Spot>& spots, const Step& step) {
    std::vector<double> places;
    places.reserve(spots.size());
    for (const Spot& spot : spots) places.push_back(spot.along);
    const double middle = image::median(places);
    std::array<std::vector<Spot>, 2> halves;
    for (const Spot& spot : spots) halves[spot.along < middle ? 0 : 1].push_back(spot);
    if (halves[0].empty() || halves[1].empty()) return 0.0;
    const std::array<std::vector<double>, 2> profiles{binned(halves[0], step.reach),
                                                      binned(halves[1], step.reach)};
    const auto half = static_cast<long>(profiles[0].size() / 2);
    double sum = 0.0;
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}}) {
        const std::vector<double>& seen = profiles[side];
        const std::vector<double>& read = profiles[1 - side];
        const auto high = std::max_element(seen.begin(), seen.begin() + half) - seen.begin();
        const auto low = std::min_element(seen.begin() + half, seen.end()) - seen.begin();
        sum += read[static_cast<std::size_t>(high)] - step.light;
        sum += step.dark - read[static_cast<std::size_t>(low)];
    }
    return 0.5 * sum;
}

/// One edge and the level of what lies beyond it.
struct MeasuredEdge {
    EdgeSharpness edge;
    Step step;
};

std::optional<MeasuredEdge> edgeOf(const image::CodedFrame& frame,
                                   const std::array<image::Point, 4>& quad) {
    std::vector<Spot> spots = spotsAt(frame, quad);
    const auto rough = stepOf(spots);
    if (!rough || rough->light > image::clipSignal(frame) - 0.02) return std::nullopt;
    if (!straighten(spots, *rough)) return std::nullopt;
    const auto step = stepOf(spots);
    if (!step) return std::nullopt;
    const std::vector<double> profile = binned(spots, step->reach);
    const auto high = crossing(profile, *step, 0.9);
    const auto low = crossing(profile, *step, 0.1);
    if (!high || !low || *low <= *high) return std::nullopt;
    EdgeSharpness edge;
    edge.widthPx = *low - *high;
    edge.overshootPercent = 50.0 * overshootOf(spots, *step) / (step->light - step->dark);
    edge.edges = 1;
    return MeasuredEdge{edge, *step};
}

}  // namespace

std::optional<EdgeSharpness> edgeSharpness(const image::CodedFrame& frame,
                                           const ChartPose& pose,
                                           std::span<const std::size_t> patches) {
    if (pose.patchSizePx() < kLeastPatchPx) return std::nullopt;
    std::vector<MeasuredEdge> edges;
    double darkest = 1e9;
    for (const std::size_t patch : patches) {
        const auto edge = edgeOf(frame, pose.patchQuad(patch, 1.0));
        if (!edge) continue;
        edges.push_back(*edge);
        darkest = std::min(darkest, edge->step.dark);
    }
    EdgeSharpness mean;
    for (const MeasuredEdge& edge : edges) {
        // A finger on the card's border is lighter than the card: that edge tells nothing.
        const double step = edge.step.light - edge.step.dark;
        if (edge.step.dark > darkest + kForeignShare * step) continue;
        mean.widthPx += edge.edge.widthPx;
        mean.overshootPercent += edge.edge.overshootPercent;
        ++mean.edges;
    }
    if (mean.edges == 0) return std::nullopt;
    mean.widthPx /= mean.edges;
    mean.overshootPercent /= mean.edges;
    return mean;
}

std::optional<std::array<double, 3>> temporalNoise(const image::CodedFrame& first,
                                                   const image::CodedFrame& second,
                                                   const ChartPose& pose,
                                                   std::size_t patch) {
    const std::array<image::Point, 4> quad = pose.patchQuad(patch, kReadShare);
    if (first.width != second.width || first.height != second.height) return std::nullopt;
    // The largest upright rectangle inside the middle, about: half-way between corners and centre.
    const image::PixelRect rect = image::boundsOf(quad, -0.1 * image::distancePx(quad[0], quad[1]));
    const bool isInside = rect.x >= 0 && rect.y >= 0 && rect.width > 2 && rect.height > 2 &&
                          rect.x + rect.width <= first.width &&
                          rect.y + rect.height <= first.height;
    if (!isInside) return std::nullopt;
    const image::Frame before = image::signalFrame(first, rect);
    const image::Frame after = image::signalFrame(second, rect);
    if (before.channels[0].size() < kLeastPixels) return std::nullopt;
    std::array<double, 3> noise{};
    for (std::size_t c = 0; c < 3; ++c) {
        std::vector<double> differences;
        for (std::size_t i = 0; i < before.channels[c].size(); ++i)
            differences.push_back(double(after.channels[c][i]) - double(before.channels[c][i]));
        noise[c] = image::meanSigma(differences).sigma / std::sqrt(2.0);
    }
    return noise;
}

}  // namespace rigmatch::chart
