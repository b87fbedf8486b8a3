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
            const auto width = edgeWidth(picture.luma, region, mask);
            if (!width) return;
            place = width->px;
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
        const image::Point ear =
            face.turnDegrees > 0.0 ? face.points.rightEar : face.points.leftEar;
        take(focus.ear, about(ear, 0.22 * size, 0.35 * size), {});
        take(
            focus.hair, about({face.eyes.x, face.eyes.y - 0.8 * size}, 0.7 * size, 0.3 * size), {});
    }
    double least = 0.0;
    for (const auto& [place, name] : {std::pair{&focus.eyes, "eyes"},
                                      std::pair{&focus.ear, "ear"},
                                      std::pair{&focus.hair, "hair"},
                                      std::pair{&focus.background, "background"}}) {
        if (!*place || (!focus.sharpest.empty() && **place >= least)) continue;
        least = **place;
        focus.sharpest = name;
    }
    return focus;
}

}  // namespace rigmatch::framing
