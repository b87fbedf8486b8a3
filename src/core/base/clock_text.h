// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <string>

namespace rigmatch::base {

/// A time in a recording as players show it: "0:07", "12:30", "1:02:14". At least 0 s.
[[nodiscard]] inline std::string clockText(double seconds) {
    const long long whole = std::isfinite(seconds) ? std::llround(std::max(seconds, 0.0)) : 0;
    const auto two = [](long long value) {
        return (value < 10 ? "0" : "") + std::to_string(value);
    };
    const std::string minutes = whole >= 3600
                                    ? std::to_string(whole / 3600) + ":" + two(whole / 60 % 60)
                                    : std::to_string(whole / 60);
    return minutes + ":" + two(whole % 60);
}

}  // namespace rigmatch::base
