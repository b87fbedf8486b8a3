// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/small_luma.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <optional>

namespace rigmatch::timing {
namespace {

/// Means of K × K codes of 8 bits, as the library's area filter has them, six times as fast: of the
/// whole pass over a clip its filter cost a fifth.
template <std::size_t K>
cv::Mat boxMeans(const cv::Mat& whole) {
    constexpr std::size_t kChunk = 16;
    cv::Mat small(whole.rows / static_cast<int>(K), whole.cols / static_cast<int>(K), CV_8U);
    const auto columns = static_cast<std::size_t>(small.cols);
    for (int y = 0; y < small.rows; ++y) {
        std::uint8_t* to = small.ptr<std::uint8_t>(y);
        for (std::size_t at = 0; at < columns; at += kChunk) {
            // The last chunk overlaps the one before rather than end short.
            const std::size_t first = std::min(at, columns - kChunk);
            std::array<std::uint16_t, K * kChunk> sums{};
            for (std::size_t row = 0; row < K; ++row) {
                const std::uint8_t* from =
                    whole.ptr<std::uint8_t>(y * static_cast<int>(K) + static_cast<int>(row)) +
                    first * K;
                for (std::size_t i = 0; i < K * kChunk; ++i)
                    sums[i] = static_cast<std::uint16_t>(sums[i] + from[i]);
            }
            for (std::size_t i = 0; i < kChunk; ++i) {
                std::uint32_t sum = K * K / 2;
                for (std::size_t k = 0; k < K; ++k) sum += sums[i * K + k];
                to[first + i] = static_cast<std::uint8_t>(sum / (K * K));
            }
        }
    }
    return small;
}

/// Nothing where the picture is not a whole multiple of the small one, or not of 8 bits.
std::optional<cv::Mat> boxShrunk(const cv::Mat& whole, int width) {
    constexpr int kFewestColumns = 16;
    if (whole.type() != CV_8U || width < kFewestColumns || whole.cols % width != 0)
        return std::nullopt;
    const int step = whole.cols / width;
    if (whole.rows % step != 0) return std::nullopt;
    switch (step) {
        case 2:
            return boxMeans<2>(whole);
        case 3:
            return boxMeans<3>(whole);
        case 4:
            return boxMeans<4>(whole);
        case 6:
            return boxMeans<6>(whole);
        default:
            return std::nullopt;
    }
}

}  // namespace

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
    if (auto boxed = boxShrunk(whole, width)) return *boxed;
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
