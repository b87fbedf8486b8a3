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
constexpr double kCrowded = 6.5, kCrowdedEar = 2.0;

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
    std::optional<double> widest;
    int before = 0;
    for (int step = 1; step <= kSmallest; step *= 2) {
        cv::Mat small = luma, smallMask = mask;
        if (step > 1) {
            cv::resize(luma, small, {}, 1.0 / step, 1.0 / step, cv::INTER_AREA);
            if (!mask.empty()) cv::resize(mask, smallMask, small.size(), 0, 0, cv::INTER_NEAREST);
        }
        const cv::Rect part(
            region.x / step, region.y / step, region.width / step, region.height / step);
        auto width = edgeWidth(small, part, smallMask);
        if (width && width->edges * step < fewest) width.reset();
        const bool isEnough = widest && *widest < kNarrow * step;
        if (isEnough && (!width || 2.0 * width->edges < kManyMore * before)) break;
        if (width) widest = std::max(widest.value_or(0.0), width->px * step);
        before = width ? width->edges : 0;
    }
    return widest;
}

/// What is about as sharp as a background that is sharper than the eyes is the background beside
/// the ear.
bool isBesideEar(const EyeFocus& focus) {
    constexpr double kAbout = 1.15;  // ratio of edge widths
    if (!focus.ear || !focus.background || !focus.eyes || *focus.background >= *focus.eyes)
        return false;
    const double ratio = *focus.ear / *focus.background;
    return ratio < kAbout && ratio > 1.0 / kAbout;
}

cv::Rect about(const image::Point& at, double across, double down) {
    return {
        cvRound(at.x - across), cvRound(at.y - down), cvRound(2.0 * across), cvRound(2.0 * down)};
}

}  // namespace

EyeFocus eyeFocus(const image::CodedFrame& frame, const std::vector<face::Face>& faces) {
    const LumaPicture picture = lumaPicture(frame, kWhole);
    cv::Mat behind(picture.luma.size(), CV_8U, cv::Scalar(255));
    for (const face::Face& face : faces) {
        const cv::Rect body(cvRound(face.left - 1.7 * face.width),
                            cvRound(face.top - 0.9 * face.height),
                            cvRound(4.4 * face.width),
                            behind.rows);
        cv::rectangle(behind, body, 0, cv::FILLED);
    }
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
        if (focus.eyes) *focus.eyes *= 1.0 + kCrowded * *focus.eyes / size;
        image::Point ear = face.turnDegrees > 0.0 ? face.points.rightEar : face.points.leftEar;
        // The detector marks where the ear is fixed; it stands out from there.
        ear.x += (ear.x < face.eyes.x ? -0.15 : 0.15) * size;
        take(focus.ear, about(ear, 0.2 * size, 0.3 * size), {});
        if (focus.ear) *focus.ear *= 1.0 + kCrowdedEar * *focus.ear / size;
        if (isBesideEar(focus)) focus.ear.reset();
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
