// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <nlohmann/json_fwd.hpp>

namespace rigmatch::output {

/// Keys in the order in which they are put.
using Json = nlohmann::ordered_json;

/// As many decimals as `places` has zeros: files and JSON do not pretend to more.
[[nodiscard]] inline double tidy(double value, double places = 1e4) {
    return std::round(value * places) / places;
}

/// Six decimals are below every uncertainty and keep files readable.
[[nodiscard]] inline double exactly(double value) { return tidy(value, 1e6); }

}  // namespace rigmatch::output
