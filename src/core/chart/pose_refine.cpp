// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/pose_refine.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "image/robust.h"
#include "image/shrunk_part.h"

namespace rigmatch::chart {
namespace {

using image::Homography;
using image::Point;
using Colour = std::array<double, 3>;

constexpr double kInner = 0.12;  // profiles start here, in steps from the patch centre
constexpr double kOuter = 0.62;  // and end beyond the middle of the gap
constexpr double kMiddleOfGap = 0.5;
constexpr double kLeastContrast = 0.015;  // signal; below, an edge cannot be told from noise
constexpr std::size_t kFewestPatches = 8;
constexpr double kEnoughStepPx = 36.0;  // from patch to patch; twice that is shrunk to it
constexpr int kMostShrink = 8;
constexpr std::array<double, 5> kLines{-0.22, -0.11, 0.0, 0.11, 0.22};

/// The part of the frame around the chart as signal, read with bilinear interpolation. A large
/// chart's edges show as well in a smaller picture, which holds less noise and is made sooner.
class Patchwork {
public:
    Patchwork(const image::CodedFrame& frame,
              const Homography& map,
              std::size_t columns,
              std::size_t rows) {
        const double far = static_cast<double>(columns) - 0.2;
        const double low = static_cast<double>(rows) - 0.2;
        double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
        for (const Point corner : {Point{-0.8, -0.8}, {far, -0.8}, {far, low}, {-0.8, low}}) {
            const Point p = map.apply(corner);
            left = std::min(left, p.x);
            right = std::max(right, p.x);
            top = std::min(top, p.y);
            bottom = std::max(bottom, p.y);
        }
        const double stepPx = std::min((right - left) / static_cast<double>(columns),
                                       (bottom - top) / static_cast<double>(rows));
        m_shrink = std::clamp(static_cast<int>(stepPx / kEnoughStepPx), 1, kMostShrink);
        left = std::clamp(left, 0.0, frame.width - 1.0) / m_shrink;
        top = std::clamp(top, 0.0, frame.height - 1.0) / m_shrink;
        right = std::clamp(right, 1.0, double(frame.width)) / m_shrink;
        bottom = std::clamp(bottom, 1.0, double(frame.height)) / m_shrink;
        m_left = std::min(static_cast<int>(left), image::shrunkSize(frame.width, m_shrink) - 1);
        m_top = std::min(static_cast<int>(top), image::shrunkSize(frame.height, m_shrink) - 1);
        m_signal = image::shrunkPart(frame,
                                     {m_left,
                                      m_top,
                                      static_cast<int>(std::ceil(right)) - m_left,
                                      static_cast<int>(std::ceil(bottom)) - m_top},
                                     m_shrink);
    }

    /// How many pixels of the frame are one of it.
    [[nodiscard]] int shrink() const { return m_shrink; }

    /// `p` in pixels of the frame.
    [[nodiscard]] Colour at(Point p) const {
        const double px = (p.x + 0.5) / m_shrink - 0.5, py = (p.y + 0.5) / m_shrink - 0.5;
        const double x = std::clamp(px - m_left, 0.0, std::max(m_signal.width - 1.001, 0.0));
        const double y = std::clamp(py - m_top, 0.0, std::max(m_signal.height - 1.001, 0.0));
        const int x0 = static_cast<int>(x);
        const int y0 = static_cast<int>(y);
        const int x1 = std::min(x0 + 1, m_signal.width - 1);
        const int y1 = std::min(y0 + 1, m_signal.height - 1);
        const double fx = x - x0;
        const double fy = y - y0;
        Colour colour{};
        for (int c = 0; c < 3; ++c) {
            const double upper =
                double(m_signal.at(c, x0, y0)) * (1 - fx) + double(m_signal.at(c, x1, y0)) * fx;
            const double lower =
                double(m_signal.at(c, x0, y1)) * (1 - fx) + double(m_signal.at(c, x1, y1)) * fx;
            colour[static_cast<std::size_t>(c)] = upper * (1 - fy) + lower * fy;
        }
        return colour;
    }

private:
    int m_left = 0;  ///< of the shrunken picture
    int m_top = 0;
    int m_shrink = 1;
    image::Frame m_signal;
};

Colour meanAround(
    const Patchwork& picture, const Homography& map, Point centre, Point along, double reach) {
    Colour sum{};
    constexpr int kSamples = 5;
    for (int i = 0; i < kSamples; ++i) {
        const double t = reach * (2.0 * i / (kSamples - 1) - 1.0);
        const Colour c = picture.at(map.apply({centre.x + t * along.x, centre.y + t * along.y}));
        for (std::size_t k = 0; k < 3; ++k) sum[k] += c[k] / kSamples;
    }
    return sum;
}

/// Distance from the patch centre to its edge in direction `out`, in steps; nothing where it does
/// not show.
std::optional<double> edgeDistance(
    const Patchwork& picture, const Homography& map, Point centre, Point out, const Colour& patch) {
    const Point along{-out.y, out.x};
    const Point gapCentre{centre.x + kMiddleOfGap * out.x, centre.y + kMiddleOfGap * out.y};
    const Colour gap = meanAround(picture, map, gapCentre, along, 0.22);
    double contrast = 0.0;
    Colour weight{};
    for (std::size_t k = 0; k < 3; ++k) {
        weight[k] = patch[k] - gap[k];
        contrast += weight[k] * weight[k];
    }
    if (std::sqrt(contrast) < kLeastContrast) return std::nullopt;
    const double stepPx =
        image::distancePx(map.apply(centre), map.apply({centre.x + out.x, centre.y + out.y})) /
        picture.shrink();
    const int samples = std::clamp(static_cast<int>(stepPx * (kOuter - kInner) * 2.0), 12, 200);
    std::vector<double> distances;
    distances.reserve(kLines.size());
    for (double line : kLines) {
        double before = 1.0;
        for (int i = 0; i <= samples; ++i) {
            const double reach = kInner + (kOuter - kInner) * i / samples;
            const Colour c = picture.at(map.apply({centre.x + reach * out.x + line * along.x,
                                                   centre.y + reach * out.y + line * along.y}));
            double level = 0.0;
            for (std::size_t k = 0; k < 3; ++k) level += weight[k] * (c[k] - gap[k]) / contrast;
            if (level < 0.5) {
                const double share = i == 0 ? 0.0 : (before - 0.5) / std::max(before - level, 1e-6);
                distances.push_back(reach - (kOuter - kInner) / samples * (1.0 - share));
                break;
            }
            before = level;
        }
    }
    if (distances.size() < 3) return std::nullopt;
    return image::median(distances);
}

struct EdgeFit {
    std::vector<Point> chart;    // refined patch centres: where they belong …
    std::vector<Point> picture;  // … and where they were found
    std::vector<double> widths;
};

EdgeFit measureEdges(const Patchwork& picture,
                     const Homography& map,
                     std::size_t columns,
                     std::size_t rows) {
    EdgeFit fit;
    for (std::size_t patch = 0; patch < columns * rows; ++patch) {
        const int column = static_cast<int>(patch % columns);
        const int row = static_cast<int>(patch / columns);
        const Point centre{double(column), double(row)};
        const Colour colour = meanAround(picture, map, centre, {0.7, 0.7}, 0.15);
        const auto left = edgeDistance(picture, map, centre, {-1, 0}, colour);
        const auto right = edgeDistance(picture, map, centre, {1, 0}, colour);
        const auto up = edgeDistance(picture, map, centre, {0, -1}, colour);
        const auto down = edgeDistance(picture, map, centre, {0, 1}, colour);
        if (left && right) fit.widths.push_back(*left + *right);
        if (up && down) fit.widths.push_back(*up + *down);
        if (!left || !right || !up || !down) continue;
        const Point found{centre.x + 0.5 * (*right - *left), centre.y + 0.5 * (*down - *up)};
        if (std::abs(found.x - centre.x) > 0.3 || std::abs(found.y - centre.y) > 0.3) continue;
        fit.chart.push_back(centre);
        fit.picture.push_back(map.apply(found));
    }
    return fit;
}

/// Least squares, once more without the centres that lie three medians off.
std::optional<Homography> robustFit(const EdgeFit& edges, std::size_t& used, double& residualPx) {
    auto map = Homography::fit(edges.chart, edges.picture);
    for (int pass = 0; pass < 2 && map; ++pass) {
        std::vector<double> residuals;
        for (std::size_t i = 0; i < edges.chart.size(); ++i) {
            residuals.push_back(image::distancePx(map->apply(edges.chart[i]), edges.picture[i]));
        }
        residualPx = image::median(residuals);
        const double limit = 3.0 * residualPx + 0.05;
        std::vector<Point> from;
        std::vector<Point> to;
        for (std::size_t i = 0; i < residuals.size(); ++i) {
            if (residuals[i] > limit) continue;
            from.push_back(edges.chart[i]);
            to.push_back(edges.picture[i]);
        }
        used = from.size();
        if (used < kFewestPatches) return std::nullopt;
        map = Homography::fit(from, to);
    }
    return map;
}

}  // namespace

Homography roughMap(const ChartPose& pose) {
    const double f = pose.patchShare;
    Eigen::Matrix3d toField;
    const double across = pose.stepsAcross();
    const double down = pose.stepsDown();
    toField << 1.0 / across, 0, 0.5 * f / across, 0, 1.0 / down, 0.5 * f / down, 0, 0, 1;
    return pose.fieldToPicture().after(Homography(toField));
}

std::optional<RefinedPose> refinePose(const image::CodedFrame& frame,
                                      const Homography& rough,
                                      std::size_t columns,
                                      std::size_t rows) {
    Homography map = rough;
    RefinedPose refined;
    double half = 0.43;
    const Patchwork picture(frame, rough, columns, rows);
    for (int round = 0; round < 2; ++round) {
        const EdgeFit edges = measureEdges(picture, map, columns, rows);
        if (edges.chart.size() < kFewestPatches) return std::nullopt;
        std::size_t used = 0;
        const auto better = robustFit(edges, used, refined.residualPx);
        if (!better) return std::nullopt;
        map = *better;
        refined.patchesUsed = static_cast<int>(used);
        half = 0.5 * image::median(edges.widths);
    }
    refined.pose.patchShare = std::clamp(2.0 * half, 0.5, 1.0);
    refined.pose.columns = columns;
    refined.pose.rows = rows;
    half = 0.5 * refined.pose.patchShare;
    const double right = static_cast<double>(columns) - 1.0 + half;
    const double bottom = static_cast<double>(rows) - 1.0 + half;
    refined.pose.corners = {map.apply({-half, -half}),
                            map.apply({right, -half}),
                            map.apply({right, bottom}),
                            map.apply({-half, bottom})};
    if (!refined.pose.fieldToPicture().isSane(1.0, 1.0)) return std::nullopt;
    return refined;
}

}  // namespace rigmatch::chart
