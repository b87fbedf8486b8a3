// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/edge_width.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

namespace rigmatch::framing {
namespace {

constexpr int kReach = 24;           // px to both sides of an edge
constexpr double kLeastStep = 18.0;  // 8-bit codes
constexpr double kLeastSlope = 2.0;  // codes per px at the middle
constexpr double kEnd = 0.15;        // of the slope at the middle: from there on it is shading
constexpr double kShare = 0.2;       // of the edges that are sharper
constexpr std::size_t kLeastEdges = 8, kMostEdges = 4000;
constexpr double kStride = 0.25;  // px along the profile

struct Candidate {
    int x, y;
    float slope;
};

double sampled(const cv::Mat& picture, double x, double y) {
    const int ix = static_cast<int>(std::floor(x)), iy = static_cast<int>(std::floor(y));
    const double fx = x - ix, fy = y - iy;
    const auto at = [&](int dx, int dy) {
        return static_cast<double>(picture.at<float>(iy + dy, ix + dx));
    };
    return (at(0, 0) * (1 - fx) + at(1, 0) * fx) * (1 - fy) +
           (at(0, 1) * (1 - fx) + at(1, 1) * fx) * fy;
}

/// Rise of one edge from 10 to 90 % along its own direction, or nothing where it is no single step.
std::optional<double> riseAt(
    const cv::Mat& picture, int x, int y, double nx, double ny, EdgeEnds ends) {
    std::vector<double> profile;
    for (double t = -kReach; t <= kReach; t += kStride) {
        const double px = x + t * nx, py = y + t * ny;
        if (px < 0 || py < 0 || px >= picture.cols - 1 || py >= picture.rows - 1)
            return std::nullopt;
        profile.push_back(sampled(picture, px, py));
    }
    const std::size_t middle = profile.size() / 2;
    // To both sides until it stops falling or rising: the two plateaus.
    std::size_t low = middle, high = middle;
    constexpr std::size_t kStep = 4;  // one px
    double size = std::abs(profile[middle + kStep] - profile[middle - kStep]);
    const double least = ends == EdgeEnds::Shading ? kEnd * 0.5 * size : 0.0;
    const auto isFlat = [&](std::size_t from, std::size_t to, double all) {
        return std::abs(profile[to] - profile[from]) < std::max(least, 0.01 * all + 0.3);
    };
    while (low >= kStep && profile[low - kStep] < profile[low] && !isFlat(low - kStep, low, size)) {
        low -= kStep;
        size = profile[high] - profile[low];
    }
    while (high + kStep < profile.size() && profile[high + kStep] > profile[high] &&
           !isFlat(high, high + kStep, size)) {
        high += kStep;
        size = profile[high] - profile[low];
    }
    if (low < kStep || high + kStep >= profile.size()) return std::nullopt;
    const double step = profile[high] - profile[low];
    if (step < kLeastStep) return std::nullopt;
    const auto crossing = [&](double share) {
        const double level = profile[low] + share * step;
        for (std::size_t i = low; i < high; ++i) {
            if (profile[i] <= level && profile[i + 1] > level)
                return static_cast<double>(i) +
                       (level - profile[i]) / (profile[i + 1] - profile[i]);
        }
        return static_cast<double>(high);
    };
    return kStride * (crossing(0.9) - crossing(0.1));
}

}  // namespace

std::optional<EdgeWidth> edgeWidth(const cv::Mat& luma,
                                   const cv::Rect& region,
                                   const cv::Mat& mask,
                                   EdgeEnds ends) {
    const cv::Rect whole(0, 0, luma.cols, luma.rows);
    cv::Rect inside = region & cv::Rect(2, 2, luma.cols - 4, luma.rows - 4);
    if (inside.width < 8 || inside.height < 8) return std::nullopt;
    // What profiles reach, no more.
    constexpr int kMargin = kReach + 4;
    const cv::Rect around = cv::Rect(inside.x - kMargin,
                                     inside.y - kMargin,
                                     inside.width + 2 * kMargin,
                                     inside.height + 2 * kMargin) &
                            whole;
    inside -= around.tl();
    cv::Mat picture, dx, dy;
    luma(around).convertTo(picture, CV_32F);
    cv::Sobel(picture, dx, CV_32F, 1, 0, 3, 0.125);
    cv::Sobel(picture, dy, CV_32F, 0, 1, 3, 0.125);
    std::vector<Candidate> candidates;
    for (int y = inside.y; y < inside.y + inside.height; ++y) {
        for (int x = inside.x; x < inside.x + inside.width; ++x) {
            if (!mask.empty() && mask.at<std::uint8_t>(y + around.y, x + around.x) == 0) continue;
            const float gx = dx.at<float>(y, x), gy = dy.at<float>(y, x);
            const float slope = std::hypot(gx, gy);
            if (slope < static_cast<float>(kLeastSlope)) continue;
            // The steepest place across the edge only.
            const int sx = std::abs(gx) > 0.4F * slope ? (gx > 0 ? 1 : -1) : 0;
            const int sy = std::abs(gy) > 0.4F * slope ? (gy > 0 ? 1 : -1) : 0;
            const auto size = [&](int px, int py) {
                return std::hypot(dx.at<float>(py, px), dy.at<float>(py, px));
            };
            if (size(x + sx, y + sy) > slope || size(x - sx, y - sy) >= slope) continue;
            candidates.push_back({x, y, slope});
        }
    }
    std::sort(candidates.begin(), candidates.end(), [](const Candidate& a, const Candidate& b) {
        return a.slope > b.slope;
    });
    if (candidates.size() > kMostEdges) candidates.resize(kMostEdges);
    std::vector<double> widths;
    for (const Candidate& one : candidates) {
        const double gx = dx.at<float>(one.y, one.x), gy = dy.at<float>(one.y, one.x);
        const double length = std::hypot(gx, gy);
        if (const auto rise = riseAt(picture, one.x, one.y, gx / length, gy / length, ends))
            widths.push_back(*rise);
    }
    if (widths.size() < kLeastEdges) return std::nullopt;
    std::sort(widths.begin(), widths.end());
    return EdgeWidth{
        widths[static_cast<std::size_t>(kShare * static_cast<double>(widths.size() - 1))],
        static_cast<int>(widths.size())};
}

}  // namespace rigmatch::framing
