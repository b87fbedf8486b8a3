// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/eye_focus.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "framing/edge_width.h"
#include "framing/luma_picture.h"

namespace rigmatch::framing {
namespace {

constexpr int kWhole = 16384;  // no shrinking: focus is a matter of single pixels

// Lids, iris and brows lie so close that blur makes edges of one into those of the next, which then
// seem narrower than they are: by that much, in edge widths over eyes to chin (rendered faces).
constexpr double kCrowded = 5.0, kCrowdedEar = 3.0;
// What is cut off where shading begins (a Gaussian's rise is 0.92 as wide), but ears are rounder.
constexpr double kCut = 1.1, kRound = 0.95;

/// Edges wider than some px have no end within reach: they are looked for in smaller pictures too,
/// also where those show more of them than so many fewer px let expect, since then what was found
/// is grain.
std::optional<double> softEdgeWidth(const cv::Mat& luma,
                                    const cv::Rect& region,
                                    const cv::Mat& mask,
                                    int fewest) {
    constexpr double kNarrow = 3.0;  // px of the smaller picture
    constexpr double kManyMore = 2.5;
    constexpr int kSmallest = 4;
    // The part around it, on the smallest picture's own grid.
    constexpr int kMargin = 128;  // px
    const int left = std::max(0, region.x - kMargin) / kSmallest * kSmallest;
    const int top = std::max(0, region.y - kMargin) / kSmallest * kSmallest;
    const cv::Rect around = cv::Rect(left,
                                     top,
                                     region.x + region.width + kMargin - left,
                                     region.y + region.height + kMargin - top) &
                            cv::Rect(0, 0, luma.cols, luma.rows);
    if (around.empty()) return std::nullopt;
    const cv::Mat own = luma(around), ownMask = mask.empty() ? mask : mask(around);
    std::optional<double> widest;
    int before = 0;
    for (int step = 1; step <= kSmallest; step *= 2) {
        cv::Mat small = own, smallMask = ownMask;
        if (step > 1) {
            const cv::Size size(own.cols / step, own.rows / step);
            if (size.empty()) break;
            cv::resize(own, small, size, 0, 0, cv::INTER_AREA);
            if (!mask.empty()) cv::resize(ownMask, smallMask, size, 0, 0, cv::INTER_NEAREST);
        }
        const cv::Rect part((region.x - left) / step,
                            (region.y - top) / step,
                            region.width / step,
                            region.height / step);
        auto width =
            edgeWidth(small, part, smallMask, mask.empty() ? EdgeEnds::Shading : EdgeEnds::Flat);
        if (width && width->edges * step < fewest) width.reset();
        const bool isEnough = widest && *widest < kNarrow * step;
        if (isEnough && (!width || 2.0 * width->edges < kManyMore * before)) break;
        if (width) widest = std::max(widest.value_or(0.0), width->px * step);
        before = width ? width->edges : 0;
    }
    return widest;
}

/// What is about as sharp as a background that is sharper than the eyes is the background beside
/// the ear; and so is what is sharper than an ear can be. By a thin lens widths go with |x − 1/d|,
/// x the focus: of a background b and eyes e an ear has e (1 − r (1 + b / e)), r the ear's part of
/// the way to the background; nobody sits nearer to a wall than half a metre (common practice).
bool isBesideEar(const EyeFocus& focus) {
    constexpr double kAbout = 1.15;  // ratio of edge widths
    constexpr double kMostOfWay = 0.2;
    if (!focus.ear || !focus.background || !focus.eyes || *focus.background >= *focus.eyes)
        return false;
    const double ratio = *focus.ear / *focus.background;
    const double least = *focus.eyes - kMostOfWay * (*focus.eyes + *focus.background);
    return (ratio < kAbout && ratio > 1.0 / kAbout) || *focus.ear < least;
}

/// White where neither people nor their arms and hands are; where they fill the picture, what is
/// left beside their heads.
cv::Mat maskBehind(cv::Size size, const std::vector<face::Face>& people) {
    constexpr double kEnough = 0.3;  // of the picture
    cv::Mat behind(size, CV_8U);
    for (const bool isNarrow : {false, true}) {
        behind.setTo(255);
        const auto cover = [&](const face::Face& face, double toSide, double top) {
            const cv::Rect part(cvRound(face.left - toSide * face.width),
                                cvRound(top),
                                cvRound((1.0 + 2.0 * toSide) * face.width),
                                size.height);
            cv::rectangle(behind, part, 0, cv::FILLED);
        };
        for (const face::Face& face : people) {
            cover(face, isNarrow ? 0.7 : 1.7, face.top - 0.9 * face.height);
            if (isNarrow) cover(face, 1.7, face.chin.y);
        }
        if (cv::countNonZero(behind) > kEnough * static_cast<double>(behind.total())) break;
    }
    return behind;
}

cv::Rect about(const image::Point& at, double across, double down) {
    return {
        cvRound(at.x - across), cvRound(at.y - down), cvRound(2.0 * across), cvRound(2.0 * down)};
}

/// Of the ear that shows, or of both, averaged, where the face looks nearly at the camera.
std::optional<double> earWidth(const cv::Mat& luma, const face::Face& face, double size) {
    constexpr double kBothShow = 30.0;  // degrees
    double sum = 0.0;
    int ears = 0;
    for (const bool isOwnRight : {false, true}) {
        if (isOwnRight != (face.turnDegrees > 0.0) && std::abs(face.turnDegrees) >= kBothShow)
            continue;
        image::Point ear = isOwnRight ? face.points.rightEar : face.points.leftEar;
        // The detector marks where the ear is fixed; it stands out and up from there.
        ear.x += (ear.x < face.eyes.x ? -0.15 : 0.15) * size;
        ear.y -= 0.05 * size;
        if (const auto width = softEdgeWidth(luma, about(ear, 0.25 * size, 0.35 * size), {}, 0)) {
            sum += std::log(*width);
            ++ears;
        }
    }
    if (ears == 0) return std::nullopt;
    return std::exp(sum / ears);
}

}  // namespace

EyeFocus eyeFocus(const image::CodedFrame& frame, const std::vector<face::Face>& faces) {
    const LumaPicture picture = lumaPicture(frame, kWhole);
    const cv::Mat behind = maskBehind(picture.luma.size(), faces);
    EyeFocus focus;
    const auto take =
        [&](std::optional<double>& place, const cv::Rect& region, const cv::Mat& mask) {
            // A few edges over a whole wall are its grain.
            constexpr int kFewestBehind = 60;
            place = softEdgeWidth(picture.luma, region, mask, mask.empty() ? 0 : kFewestBehind);
        };
    take(focus.background, cv::Rect(0, 0, behind.cols, behind.rows), behind);
    const auto largest =
        std::max_element(faces.begin(), faces.end(), [](const face::Face& a, const face::Face& b) {
            return a.height < b.height;
        });
    if (largest != faces.end()) {
        const face::Face& face = *largest;
        const double size = std::max(8.0, face.chin.y - face.eyes.y);
        const double apart =
            std::max(0.5 * std::abs(face.points.leftEye.x - face.points.rightEye.x), 0.15 * size);
        take(focus.eyes, about(face.eyes, apart + 0.3 * size, 0.28 * size), {});
        if (focus.eyes) *focus.eyes *= kCut * (1.0 + kCrowded * *focus.eyes / size);
        focus.ear = earWidth(picture.luma, face, size);
        if (focus.ear) *focus.ear *= kRound * (1.0 + kCrowdedEar * *focus.ear / size);
        if (isBesideEar(focus)) focus.ear.reset();
        const double across = 1.3 * face.width, top = face.chin.y + 0.35 * size;
        take(focus.front,
             cv::Rect(cvRound(face.chin.x - across),
                      cvRound(top),
                      cvRound(2.0 * across),
                      std::max(0, behind.rows - cvRound(top))),
             {});
        take(
            focus.hair, about({face.eyes.x, face.eyes.y - 0.8 * size}, 0.7 * size, 0.3 * size), {});
    }
    // Hair has no edges of its own: its outline's are as soft as what is behind.
    double least = 0.0;
    for (const auto& [place, name] : {std::pair{&focus.eyes, "eyes"},
                                      std::pair{&focus.ear, "ear"},
                                      std::pair{&focus.background, "background"}}) {
        if (!*place || (!focus.sharpest.empty() && **place >= least)) continue;
        least = **place;
        focus.sharpest = name;
    }
    return focus;
}

}  // namespace rigmatch::framing
