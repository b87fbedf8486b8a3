// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/small_luma.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <optional>
#include <vector>

#include "base/wide.h"

namespace rigmatch::timing {
namespace {

/// Adds a row of codes to the sums of the rows above it.
RIGMATCH_WIDE void addRow(const std::uint8_t* __restrict codes,
                          std::uint16_t* __restrict sums,
                          std::size_t count) {
    for (std::size_t i = 0; i < count; ++i)
        sums[i] = static_cast<std::uint16_t>(sums[i] + codes[i]);
}

/// Sums of two neighbours each.
RIGMATCH_WIDE void sumPairs(const std::uint16_t* __restrict sums,
                            std::uint16_t* __restrict pairs,
                            std::size_t count) {
    for (std::size_t i = 0; i < count; ++i)
        pairs[i] = static_cast<std::uint16_t>(sums[2 * i] + sums[2 * i + 1]);
}

/// Sums of three neighbours each.
RIGMATCH_WIDE void sumTriples(const std::uint16_t* __restrict sums,
                              std::uint16_t* __restrict triples,
                              std::size_t count) {
    for (std::size_t i = 0; i < count; ++i)
        triples[i] = static_cast<std::uint16_t>(sums[3 * i] + sums[3 * i + 1] + sums[3 * i + 2]);
}

/// Sums over so many codes, as means.
RIGMATCH_WIDE void divideRow(const std::uint16_t* __restrict sums,
                             std::uint8_t* __restrict means,
                             std::size_t count,
                             std::uint32_t area) {
    // As whole numbers over 2^20: exact for all sums of up to 36 codes of 8 bits.
    constexpr std::uint32_t kBits = 20;
    const std::uint32_t share = (1U << kBits) / area + 1, half = area / 2;
    for (std::size_t i = 0; i < count; ++i)
        means[i] = static_cast<std::uint8_t>(((sums[i] + half) * share) >> kBits);
}

/// Means of K × K codes of 8 bits (K made of twos and a three), as the library's area filter has
/// them, many times as fast: of the whole pass over a clip its filter cost a fifth.
template <std::size_t K>
cv::Mat boxMeans(const cv::Mat& whole) {
    cv::Mat small(whole.rows / static_cast<int>(K), whole.cols / static_cast<int>(K), CV_8U);
    std::vector<std::uint16_t> sums(static_cast<std::size_t>(small.cols) * K);
    std::vector<std::uint16_t> wider(sums.size());
    for (int y = 0; y < small.rows; ++y) {
        sums.assign(static_cast<std::size_t>(small.cols) * K, 0);
        for (std::size_t row = 0; row < K; ++row)
            addRow(whole.ptr<std::uint8_t>(y * static_cast<int>(K) + static_cast<int>(row)),
                   sums.data(),
                   sums.size());
        std::size_t each = K;
        while (each > 1) {
            const std::size_t together = each % 2 == 0 ? 2 : 3;
            const auto sumUp = together == 2 ? sumPairs : sumTriples;
            wider.resize(sums.size() / together);
            sumUp(sums.data(), wider.data(), wider.size());
            std::swap(sums, wider);
            each /= together;
        }
        divideRow(sums.data(), small.ptr<std::uint8_t>(y), sums.size(), K * K);
    }
    return small;
}

/// Nothing where the picture is not a whole multiple of the small one, or not of 8 bits.
std::optional<cv::Mat> boxShrunk(const cv::Mat& whole, int width) {
    if (whole.type() != CV_8U || width < 1 || whole.cols % width != 0) return std::nullopt;
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
