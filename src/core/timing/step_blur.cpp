// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/step_blur.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>
#include <vector>

#include "image/robust.h"
#include "timing/masked_corners.h"
#include "timing/small_luma.h"

namespace rigmatch::timing {
namespace {

constexpr int kFollowed = 80;
constexpr std::size_t kFewestPoints = 6;
constexpr double kLeastWay = 5.0;    // px; shorter ones hide in the softness of the picture
constexpr double kOtherwise = 0.35;  // of the step, by which points may go otherwise
constexpr double kBackAgain = 0.5;   // px
constexpr double kReach = 1.25;      // steps along the way about a point
constexpr int kAcross = 5;           // px to either side
constexpr double kFarthest = 1.5;    // steps that are looked at
constexpr double kWorstFit = 0.35;   // of the slopes' products, unexplained
constexpr int kWindow = 21;
constexpr int kAroundSteps = 48;  // px about what moves

struct Moved {
    std::vector<cv::Point2f> points;  ///< in the later picture
    cv::Point2f step;
};

/// Points that go the same way together.
std::optional<Moved> movedPoints(const cv::Mat& before, const cv::Mat& now, const cv::Mat& mask) {
    const std::vector<cv::Point2f> points = maskedCorners(now, mask, kFollowed);
    if (points.size() < kFewestPoints) return std::nullopt;
    std::vector<cv::Point2f> earlier, again;
    std::vector<std::uint8_t> found, back;
    std::vector<float> error;
    const cv::Size window(kWindow, kWindow);
    cv::calcOpticalFlowPyrLK(now, before, points, earlier, found, error, window, 4);
    cv::calcOpticalFlowPyrLK(before, now, earlier, again, back, error, window, 4);
    std::vector<std::size_t> good;
    std::vector<double> across, down;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const cv::Point2f off = again[i] - points[i], step = points[i] - earlier[i];
        if (found[i] == 0 || back[i] == 0 ||
            std::hypot(off.x, off.y) > static_cast<float>(kBackAgain) ||
            std::hypot(step.x, step.y) < static_cast<float>(kLeastWay))
            continue;
        good.push_back(i);
        across.push_back(static_cast<double>(step.x));
        down.push_back(static_cast<double>(step.y));
    }
    if (good.size() < kFewestPoints) return std::nullopt;
    Moved moved;
    moved.step = {static_cast<float>(image::median(across)),
                  static_cast<float>(image::median(down))};
    const float length = std::hypot(moved.step.x, moved.step.y);
    for (const std::size_t i : good) {
        const cv::Point2f off = points[i] - earlier[i] - moved.step;
        if (std::hypot(off.x, off.y) <= static_cast<float>(kOtherwise) * length)
            moved.points.push_back(points[i]);
    }
    if (moved.points.size() < kFewestPoints || length < static_cast<float>(kLeastWay))
        return std::nullopt;
    return moved;
}

/// Products of a picture with itself, by lag: of its level across the way things went, and of its
/// slope along it.
struct Products {
    std::vector<double> level, slope;
};

Products productsAbout(const cv::Mat& smooth, const Moved& moved, double length) {
    const cv::Point2f along = moved.step * static_cast<float>(1.0 / length);
    const int reach = static_cast<int>(std::ceil(kReach * length));
    const std::size_t lags = std::size_t{2} * static_cast<std::size_t>(reach);
    Products products{std::vector<double>(lags, 0.0), std::vector<double>(lags, 0.0)};
    std::vector<double> levels(lags, 0.0), slopes(lags, 0.0);
    const int side = 2 * reach + 1;
    cv::Mat square, mapX(side, side, CV_32F), mapY(side, side, CV_32F);
    for (const cv::Point2f& point : moved.points) {
        // Rows go along the way, columns across it.
        for (int v = 0; v < side; ++v) {
            for (int t = 0; t < side; ++t) {
                const auto forth = static_cast<float>(t - reach);
                const auto over = static_cast<float>(v - reach);
                mapX.at<float>(v, t) = point.x + along.x * forth - along.y * over;
                mapY.at<float>(v, t) = point.y + along.y * forth + along.x * over;
            }
        }
        cv::remap(smooth, square, mapX, mapY, cv::INTER_LINEAR, cv::BORDER_REPLICATE);
        square -= cv::mean(square)[0];
        for (int near = reach - kAcross; near <= reach + kAcross; ++near) {
            const auto level = [&](int v) {
                return static_cast<double>(square.at<float>(v, near));
            };
            const auto slope = [&](int t) {
                return static_cast<double>(square.at<float>(near, t + 1) -
                                           square.at<float>(near, t));
            };
            for (std::size_t lag = 0; lag < lags; ++lag) {
                const int later = static_cast<int>(lag);
                for (int i = 0; i + later + 1 < side; ++i) {
                    products.level[lag] += level(i) * level(i + later);
                    products.slope[lag] += slope(i) * slope(i + later);
                    levels[lag] += 1.0;
                    slopes[lag] += 1.0;
                }
            }
        }
    }
    for (std::size_t lag = 0; lag < lags; ++lag) {
        products.level[lag] /= std::max(1.0, levels[lag]);
        products.slope[lag] /= std::max(1.0, slopes[lag]);
    }
    return products;
}

double between(const std::vector<double>& values, double at) {
    const double place = std::abs(at);
    const auto low = static_cast<std::size_t>(place);
    if (low + 1 >= values.size()) return 0.0;
    const double share = place - static_cast<double>(low);
    return (1.0 - share) * values[low] + share * values[low + 1];
}

/// How badly a blur of that length explains the slopes, 0 to 1.
double misfit(const Products& products, double blur, std::size_t farthest) {
    double both = 0.0, model = 0.0, all = 0.0;
    for (std::size_t lag = 2; lag <= farthest; ++lag) {
        const auto at = static_cast<double>(lag);
        const double expected = 2.0 * between(products.level, at) -
                                between(products.level, at - blur) -
                                between(products.level, at + blur);
        both += expected * products.slope[lag];
        model += expected * expected;
        all += products.slope[lag] * products.slope[lag];
    }
    if (model <= 0.0 || all <= 0.0 || both <= 0.0) return 1.0;
    return 1.0 - both * both / (model * all);
}

}  // namespace

std::optional<double> blurOverStep(const cv::Mat& earlier,
                                   const cv::Mat& later,
                                   const cv::Mat& marked) {
    const cv::Rect part = maskedPart(marked, kAroundSteps);
    const cv::Mat before = earlier(part), now = later(part), mask = marked(part);
    const auto moved = movedPoints(before, now, mask);
    if (!moved) return std::nullopt;
    const double length = std::hypot(moved->step.x, moved->step.y);
    cv::Mat smooth;
    cv::GaussianBlur(now, smooth, {3, 3}, 0.7);
    smooth.convertTo(smooth, CV_32F);
    const Products products = productsAbout(smooth, *moved, length);
    const auto farthest = std::min(products.slope.size() - 1,
                                   static_cast<std::size_t>(std::ceil(kFarthest * length)));
    // What a shutter smears over b px has a slope that is the sharp picture's level, less the same
    // b px later. Across the way nothing is smeared: there the picture's own grain shows.
    double best = 1.0, blur = 0.0;
    for (double b = 1.0; b <= kFarthest * length; b += 0.25) {
        const double off = misfit(products, b, farthest);
        if (off >= best) continue;
        best = off;
        blur = b;
    }
    if (best > kWorstFit) return std::nullopt;
    return blur / length;
}

}  // namespace rigmatch::timing
