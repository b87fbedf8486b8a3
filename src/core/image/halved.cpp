// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/halved.h"

#include <algorithm>

namespace rigmatch::image {

Frame halved(const Frame& signal) {
    Frame half = blankFrame(std::max(signal.width / 2, 1), std::max(signal.height / 2, 1));
    const auto width = static_cast<std::size_t>(signal.width);
    const auto across = static_cast<std::size_t>(half.width);
    const std::size_t beside = signal.width > 1 ? 1 : 0;
    const std::size_t below = signal.height > 1 ? width : 0;
    for (std::size_t c = 0; c < 3; ++c) {
        for (std::size_t y = 0; y < static_cast<std::size_t>(half.height); ++y) {
            const float* upper = signal.channels[c].data() + 2 * y * width;
            const float* lower = upper + below;
            float* out = half.channels[c].data() + y * across;
            for (std::size_t x = 0; x < across; ++x)
                out[x] = 0.25F * (upper[2 * x] + upper[2 * x + beside] + lower[2 * x] +
                                  lower[2 * x + beside]);
        }
    }
    return half;
}

}  // namespace rigmatch::image
