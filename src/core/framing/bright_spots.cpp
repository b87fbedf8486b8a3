// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/bright_spots.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/luma.h"
#include "framing/luma_picture.h"
#include "image/robust.h"

namespace rigmatch::framing {
namespace {

constexpr int kSpotWidth = 480;                          // px that are looked at
constexpr double kOverFace = 0.12;                       // of signal, over the faces
constexpr double kUsualBright = 0.75;                    // of signal, in a picture without faces
constexpr double kOverAround = 0.15;                     // of signal, over what is beside it
constexpr double kShareOfTop = 0.75;                     // of the brightest of the picture
constexpr double kLeastSpot = 0.0004, kMostSpot = 0.08;  // share of the picture's area
constexpr double kNearEdge = 0.035;                      // of the width, from the picture's edge
constexpr std::size_t kMostSpots = 4;

constexpr int kHeadLineWidth = 640;
constexpr double kLineReach = 0.5;   // of the head, over the hair
constexpr double kLineGap = 0.04;    // of the head, right over the hair: single hairs
constexpr double kLineMiddle = 0.7;  // of the head's width
constexpr double kLineRows = 0.9;    // that show it
constexpr float kLineSlope = 14.0F;  // 8-bit codes over two px
constexpr int kLineLean = 2;         // px from top to bottom

cv::Mat shrunkLuma(const image::CodedFrame& frame, int step) {
    const image::Frame small = image::shrunkSignal(frame, step);
    cv::Mat luma(small.height, small.width, CV_32F);
    for (int y = 0; y < small.height; ++y) {
        for (int x = 0; x < small.width; ++x)
            luma.at<float>(y, x) = static_cast<float>(
                base::lumaOf(std::array{small.at(0, x, y), small.at(1, x, y), small.at(2, x, y)}));
    }
    return luma;
}

double medianOf(const cv::Mat& luma, const cv::Rect& area) {
    const cv::Rect inside = area & cv::Rect(0, 0, luma.cols, luma.rows);
    std::vector<double> values;
    for (int y = inside.y; y < inside.y + inside.height; ++y)
        for (int x = inside.x; x < inside.x + inside.width; ++x)
            values.push_back(static_cast<double>(luma.at<float>(y, x)));
    return values.empty() ? 0.0 : image::median(values);
}

/// The brightest level that more than single pixels reach.
double topOf(const cv::Mat& luma) {
    std::vector<float> values(luma.begin<float>(), luma.end<float>());
    const auto at = static_cast<std::ptrdiff_t>(0.999 * static_cast<double>(values.size() - 1));
    std::nth_element(values.begin(), values.begin() + at, values.end());
    return static_cast<double>(values[static_cast<std::size_t>(at)]);
}

/// Over the head, reaching down to it, and not the forehead.
bool standsOver(const cv::Rect& box, const HeadBox& head, double scale) {
    const double left = box.x / scale, right = (box.x + box.width) / scale;
    const double top = box.y / scale, bottom = (box.y + box.height) / scale;
    const double common = std::min(right, head.right) - std::max(left, head.left);
    const bool isWithin = common > 0.5 * (right - left) || common > 0.3 * head.width();
    return isWithin && top < head.top - 0.1 * head.height() &&
           bottom > head.top - 0.35 * head.height() && bottom < head.top + 0.25 * head.height();
}

bool liesOnHead(const cv::Rect& box, const HeadBox& head, double scale) {
    const double x = (box.x + 0.5 * box.width) / scale, y = (box.y + 0.5 * box.height) / scale;
    return x > head.left - 0.15 * head.width() && x < head.right + 0.15 * head.width() &&
           y > head.top && y < head.bottom + 0.1 * head.height();
}

/// Luma from which a place is bright: near the top, and well over the faces.
double leastBright(const cv::Mat& luma, const std::vector<HeadBox>& heads, double scale) {
    double face = heads.empty() ? kUsualBright - kOverFace : 0.0;
    for (const HeadBox& head : heads) {
        const cv::Rect cheeks(cvRound((head.left + 0.2 * head.width()) * scale),
                              cvRound((head.top + 0.35 * head.height()) * scale),
                              std::max(1, cvRound(0.6 * head.width() * scale)),
                              std::max(1, cvRound(0.5 * head.height() * scale)));
        face = std::max(face, medianOf(luma, cheeks));
    }
    return std::max(kShareOfTop * topOf(luma), face + kOverFace);
}

/// Brighter than what is around it; a blown one may fill what is around it.
bool standsOut(const cv::Mat& luma, const cv::Rect& box, double level) {
    const int margin = std::max(3, std::max(box.width, box.height) / 2);
    const cv::Rect around(
        box.x - margin, box.y - margin, box.width + 2 * margin, box.height + 2 * margin);
    return level - medianOf(luma, around) >= kOverAround || level >= 1.0 - kOverAround;
}

/// "head", or the edge that it lies at; empty: elsewhere, where it harms nothing.
std::string placeOf(const cv::Rect& box,
                    const cv::Mat& luma,
                    const std::vector<HeadBox>& heads,
                    double scale) {
    const bool isOverHead = std::any_of(heads.begin(), heads.end(), [&](const HeadBox& head) {
        return standsOver(box, head, scale);
    });
    const double edge = kNearEdge * luma.cols;
    if (isOverHead) return "head";
    if (box.x < edge) return "left";
    if (box.x + box.width > luma.cols - edge) return "right";
    if (box.y < edge) return "top";
    if (box.y + box.height > luma.rows - edge) return "bottom";
    return {};
}

}  // namespace

std::vector<rig::BrightSpot> brightSpots(const image::CodedFrame& frame,
                                         const std::vector<HeadBox>& heads) {
    const int step = std::max(1, frame.width / kSpotWidth);
    const cv::Mat luma = shrunkLuma(frame, step);
    const double scale = 1.0 / step;
    const cv::Mat bright = luma > leastBright(luma, heads, scale);
    cv::Mat labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(bright, labels, stats, centres, 8);
    const double area = static_cast<double>(luma.total());
    std::vector<rig::BrightSpot> spots;
    for (int i = 1; i < count; ++i) {
        const double share = stats.at<int>(i, cv::CC_STAT_AREA) / area;
        if (share < kLeastSpot || share > kMostSpot) continue;
        const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT),
                           stats.at<int>(i, cv::CC_STAT_TOP),
                           stats.at<int>(i, cv::CC_STAT_WIDTH),
                           stats.at<int>(i, cv::CC_STAT_HEIGHT));
        const double level = medianOf(luma, box);
        const bool isOnHead = std::any_of(heads.begin(), heads.end(), [&](const HeadBox& head) {
            return liesOnHead(box, head, scale);
        });
        if (isOnHead || !standsOut(luma, box, level)) continue;
        const std::string where = placeOf(box, luma, heads, scale);
        if (where.empty()) continue;
        spots.push_back({static_cast<double>(box.x) / luma.cols,
                         static_cast<double>(box.y) / luma.rows,
                         static_cast<double>(box.width) / luma.cols,
                         static_cast<double>(box.height) / luma.rows,
                         level,
                         where});
    }
    std::sort(spots.begin(), spots.end(), [](const auto& a, const auto& b) {
        return a.width * a.height > b.width * b.height;
    });
    if (spots.size() > kMostSpots) spots.resize(kMostSpots);
    return spots;
}

bool hasLineOver(const image::CodedFrame& frame, const HeadBox& head) {
    const LumaPicture picture = lumaPicture(frame, kHeadLineWidth);
    const double scale = 1.0 / picture.step;
    const int bottom = cvRound((head.top - kLineGap * head.height()) * scale);
    const int top = std::max(1, cvRound((head.top - kLineReach * head.height()) * scale));
    const double middle = 0.5 * (head.left + head.right) * scale;
    const double half = 0.5 * kLineMiddle * head.width() * scale;
    const int left = std::max(1, cvRound(middle - half));
    const int right = std::min(picture.luma.cols - 2, cvRound(middle + half));
    // Too little room over the head tells nothing.
    if (bottom - top < std::max(8, cvRound(0.2 * head.height() * scale)) || right - left < 8)
        return false;
    cv::Mat slope;
    cv::Sobel(picture.luma, slope, CV_32F, 1, 0, 3, 0.25);
    for (int start = left; start <= right; ++start) {
        for (int lean = -kLineLean; lean <= kLineLean; ++lean) {
            int rising = 0, falling = 0;
            for (int y = top; y < bottom; ++y) {
                const int x = start + lean * (y - top) / std::max(1, bottom - top);
                if (x < 1 || x > picture.luma.cols - 2) continue;
                rising += slope.at<float>(y, x) > kLineSlope ? 1 : 0;
                falling += slope.at<float>(y, x) < -kLineSlope ? 1 : 0;
            }
            if (std::max(rising, falling) >= kLineRows * (bottom - top)) return true;
        }
    }
    return false;
}

}  // namespace rigmatch::framing
