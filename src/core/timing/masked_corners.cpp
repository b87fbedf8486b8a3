// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/masked_corners.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

namespace rigmatch::timing {
namespace {

constexpr double kCornerQuality = 0.02;  // of the best
constexpr double kCornersApart = 6.0;    // px
constexpr int kCornerRim = 2;            // px, that the search leaves out at a picture's edge

struct Corner {
    cv::Point2f place;
    float quality = 0.0F;
};

void addCornersOf(const cv::Mat& picture,
                  const cv::Mat& mask,
                  const cv::Rect& part,
                  int most,
                  std::vector<Corner>& corners) {
    std::vector<cv::Point2f> places;
    std::vector<float> qualities;
    cv::goodFeaturesToTrack(
        picture(part), places, most, kCornerQuality, kCornersApart, mask(part), qualities, 3, 3);
    const cv::Point2f origin(static_cast<float>(part.x), static_cast<float>(part.y));
    for (std::size_t i = 0; i < places.size() && i < qualities.size(); ++i)
        corners.push_back({places[i] + origin, qualities[i]});
}

}  // namespace

std::vector<cv::Point2f> maskedCorners(const cv::Mat& picture, const cv::Mat& mask, int most) {
    const cv::Rect whole(0, 0, picture.cols, picture.rows);
    cv::Mat labels, boxes, centres;
    const int parts = cv::connectedComponentsWithStats(mask, labels, boxes, centres);
    std::vector<Corner> corners;
    for (int part = 1; part < parts; ++part) {
        const int* box = boxes.ptr<int>(part);
        const cv::Rect about(box[cv::CC_STAT_LEFT] - kCornerRim,
                             box[cv::CC_STAT_TOP] - kCornerRim,
                             box[cv::CC_STAT_WIDTH] + 2 * kCornerRim,
                             box[cv::CC_STAT_HEIGHT] + 2 * kCornerRim);
        addCornersOf(picture, mask, about & whole, most, corners);
    }
    std::stable_sort(corners.begin(), corners.end(), [](const Corner& a, const Corner& b) {
        return a.quality > b.quality;
    });
    std::vector<cv::Point2f> best;
    for (const Corner& corner : corners) {
        if (static_cast<int>(best.size()) == most ||
            static_cast<double>(corner.quality) <
                kCornerQuality * static_cast<double>(corners.front().quality))
            break;
        const bool isFree = std::none_of(best.begin(), best.end(), [&](const cv::Point2f& other) {
            return cv::norm(corner.place - other) < kCornersApart;
        });
        if (isFree) best.push_back(corner.place);
    }
    return best;
}

}  // namespace rigmatch::timing
