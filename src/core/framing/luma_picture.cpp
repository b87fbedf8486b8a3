// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/luma_picture.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/luma.h"

namespace rigmatch::framing {

LumaPicture lumaPicture(const image::CodedFrame& frame, int width) {
    LumaPicture picture;
    const int step = std::max(1, (frame.width + width - 1) / width);
    const image::Frame small = image::shrunkSignal(frame, step);
    picture.step = step;
    cv::Mat signal(small.height, small.width, CV_32F);
    std::vector<float> values;
    values.reserve(small.channels[0].size());
    for (int y = 0; y < small.height; ++y) {
        float* row = signal.ptr<float>(y);
        for (int x = 0; x < small.width; ++x) {
            const std::array<float, 3> rgb{small.at(0, x, y), small.at(1, x, y), small.at(2, x, y)};
            const auto luma = static_cast<float>(base::lumaOf(rgb));
            row[x] = std::isfinite(luma) ? luma : 0.0F;  // stills of floats hold anything
            if ((x + y) % 7 == 0) values.push_back(row[x]);
        }
    }
    const auto quantile = [&](double share) {
        const auto at = values.begin() +
                        static_cast<std::ptrdiff_t>(share * static_cast<double>(values.size() - 1));
        std::nth_element(values.begin(), at, values.end());
        return *at;
    };
    const float low = quantile(0.005);
    const float high = std::max(quantile(0.995), low + 0.02F);
    signal.convertTo(picture.luma, CV_8U, 255.0 / (high - low), -255.0 * low / (high - low));
    return picture;
}

}  // namespace rigmatch::framing
