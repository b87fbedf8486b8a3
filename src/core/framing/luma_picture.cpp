// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/luma_picture.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/luma.h"

namespace rigmatch::framing {
namespace {

/// Luma lies in a plane of its own.
bool hasLumaPlane(const image::CodedFrame& frame) {
    return frame.planeCount == 1 || frame.tags.matrix != image::Matrix::None;
}

cv::Mat madeLuma(const image::CodedFrame& frame) {
    const image::Frame signal = image::signalFrame(frame);
    cv::Mat luma(signal.height, signal.width, CV_32F);
    for (int y = 0; y < signal.height; ++y) {
        float* row = luma.ptr<float>(y);
        for (int x = 0; x < signal.width; ++x)
            row[x] = static_cast<float>(base::lumaOf(
                std::array{signal.at(0, x, y), signal.at(1, x, y), signal.at(2, x, y)}));
    }
    return luma;
}

}  // namespace

cv::Mat lumaPlane(const image::CodedFrame& frame) {
    cv::Mat luma;
    if (hasLumaPlane(frame)) {
        const image::Plane& plane = frame.planes[0];
        const int type = frame.samples == image::SampleKind::Unsigned8    ? CV_8U
                         : frame.samples == image::SampleKind::Unsigned16 ? CV_16U
                                                                          : CV_32F;
        // The matrix only reads: it has no constructor for what must not be written.
        luma = cv::Mat(plane.height,
                       plane.width,
                       type,
                       const_cast<std::byte*>(plane.data),
                       static_cast<std::size_t>(plane.strideBytes));
    } else {
        luma = madeLuma(frame);
    }
    if (luma.type() != CV_32F) return luma;
    cv::Mat finite = luma.clone();  // stills of floats hold anything
    for (float& value : cv::Mat_<float>(finite))
        if (!std::isfinite(value)) value = 0.0F;
    return finite;
}

double lumaPerSignal(const image::CodedFrame& frame) {
    return hasLumaPlane(frame) ? image::lumaCodes(frame).perSignal : 1.0;
}

LumaStretch lumaStretch(const cv::Mat& values, double perSignal, int apart) {
    cv::Mat row;
    std::vector<float> some;
    some.reserve(values.total() / static_cast<std::size_t>(apart) + 1);
    for (int y = 0; y < values.rows; ++y) {
        values.row(y).convertTo(row, CV_32F);
        for (int x = (apart - y % apart) % apart; x < values.cols; x += apart)
            some.push_back(row.at<float>(0, x));
    }
    const auto quantile = [&](double share) {
        const auto at = some.begin() +
                        static_cast<std::ptrdiff_t>(share * static_cast<double>(some.size() - 1));
        std::nth_element(some.begin(), at, some.end());
        return static_cast<double>(*at);
    };
    const double low = quantile(0.005), high = std::max(quantile(0.995), low + 0.02 * perSignal);
    return {255.0 / (high - low), -255.0 * low / (high - low)};
}

LumaPicture lumaPicture(const image::CodedFrame& frame, int width) {
    LumaPicture picture;
    const int step = std::max(1, (frame.width + width - 1) / width);
    picture.step = step;
    cv::Mat values;
    const cv::Mat plane = lumaPlane(frame);
    const cv::Size size(image::shrunkSize(plane.cols, step), image::shrunkSize(plane.rows, step));
    if (step == 1) {
        values = plane;
    } else {
        const cv::Rect whole(0,
                             0,
                             std::min(plane.cols, size.width * step),
                             std::min(plane.rows, size.height * step));
        cv::Mat floats;
        plane(whole).convertTo(floats, CV_32F);
        cv::resize(floats, values, size, 0, 0, cv::INTER_AREA);
    }
    const LumaStretch stretch = lumaStretch(values, lumaPerSignal(frame));
    values.convertTo(picture.luma, CV_8U, stretch.gain, stretch.offset);
    return picture;
}

}  // namespace rigmatch::framing
