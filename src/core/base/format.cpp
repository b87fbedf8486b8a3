// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/format.h"

#include <array>
#include <charconv>
#include <cmath>

namespace rigmatch::base {

std::string fixed(double value, int decimals) {
    if (!std::isfinite(value)) return "?";
    std::array<char, 400> buffer{};
    const auto end = std::to_chars(
        buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::fixed, decimals);
    std::string text(buffer.data(), end.ptr);
    const bool isNegativeZero =
        text.front() == '-' && text.find_first_not_of("-0.") == std::string::npos;
    return isNegativeZero ? text.substr(1) : text;
}

std::string shortest(double value) {
    std::array<char, 32> buffer{};
    const auto end = std::to_chars(
        buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::general, 6);
    return {buffer.data(), end.ptr};
}

std::string signedFixed(double value, int decimals) {
    std::string digits = fixed(std::abs(value), decimals);
    if (digits.find_first_not_of("0.") == std::string::npos) return digits;
    return (value < 0 ? "\u2212" : "+") + digits;
}

}  // namespace rigmatch::base
