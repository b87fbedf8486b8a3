// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/small_luma.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace rigmatch::timing {

cv::Mat lumaPlane(const image::CodedFrame& frame) {
    // Green stands for brightness where the planes are red, green and blue.
    const bool isRgb = frame.planeCount == 3 && frame.tags.matrix == image::Matrix::None;
    const image::Plane& plane = frame.planes[isRgb ? 1 : 0];
    const int type = frame.samples == image::SampleKind::Unsigned8    ? CV_8U
                     : frame.samples == image::SampleKind::Unsigned16 ? CV_16U
                                                                      : CV_32F;
    return {plane.height,
            plane.width,
            type,
            const_cast<std::byte*>(plane.data),  // OpenCV has no view of constant data
            static_cast<std::size_t>(plane.strideBytes)};
}

double toEightBit(const image::CodedFrame& frame) {
    switch (frame.samples) {
        case image::SampleKind::Unsigned8:
            return 1.0;
        case image::SampleKind::Unsigned16:
            return 255.0 / static_cast<double>((1 << frame.bitDepth) - 1);
        default:
            return 255.0;
    }
}

cv::Rect maskedPart(const cv::Mat& mask, int margin) {
    const cv::Rect marked = cv::boundingRect(mask);
    return cv::Rect(marked.x - margin,
                    marked.y - margin,
                    marked.width + 2 * margin,
                    marked.height + 2 * margin) &
           cv::Rect(0, 0, mask.cols, mask.rows);
}

cv::Mat smallLuma(const image::CodedFrame& frame, int width) {
    const cv::Mat whole = lumaPlane(frame);
    const double share = std::min(1.0, static_cast<double>(width) / whole.cols);
    cv::Mat small;
    cv::resize(whole,
               small,
               {std::max(1, static_cast<int>(std::lround(whole.cols * share))),
                std::max(1, static_cast<int>(std::lround(whole.rows * share)))},
               0.0,
               0.0,
               cv::INTER_AREA);
    if (small.type() == CV_8U) return small;
    cv::Mat narrow;
    small.convertTo(narrow, CV_8U, toEightBit(frame));
    return narrow;
}

}  // namespace rigmatch::timing
