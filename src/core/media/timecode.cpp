// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/timecode.h"

#include <array>
#include <charconv>
#include <cmath>

#include "base/format.h"

namespace rigmatch::media {

std::optional<Timecode> timecodeOf(const std::string& text, double frameRate) {
    if (text.size() != 11 || !(frameRate >= 1.0) || frameRate > 1000.0) return std::nullopt;
    std::array<int, 4> parts{};
    for (std::size_t i = 0; i < 4; ++i) {
        const char tens = text[3 * i], ones = text[3 * i + 1];
        if (tens < '0' || tens > '9' || ones < '0' || ones > '9') return std::nullopt;
        parts[i] = 10 * (tens - '0') + (ones - '0');
    }
    const char mark = text[8];
    const bool isDrop = mark == ';' || mark == '.';
    if (text[2] != ':' || text[5] != ':' || (mark != ':' && !isDrop)) return std::nullopt;
    const auto& [hours, minutes, seconds, frames] = parts;
    const long nominal = std::lround(frameRate);
    if (hours > 23 || minutes > 59 || seconds > 59 || frames >= nominal) return std::nullopt;
    long long count = ((hours * 60LL + minutes) * 60 + seconds) * nominal + frames;
    if (isDrop) {
        const long dropped = nominal / 15;
        const long long all = hours * 60LL + minutes;
        count -= dropped * (all - all / 10);
    }
    return Timecode{text, static_cast<double>(count) / frameRate};
}

std::optional<Timecode> timecodeOfSamples(const std::string& samples, double sampleRate) {
    long long count = 0;
    const auto read = std::from_chars(samples.data(), samples.data() + samples.size(), count);
    if (read.ec != std::errc() || count <= 0 || !(sampleRate > 0.0)) return std::nullopt;
    const double seconds = static_cast<double>(count) / sampleRate;
    constexpr double kDay = 86400.0;
    if (seconds >= kDay) return std::nullopt;
    const auto two = [](long value) { return (value < 10 ? "0" : "") + std::to_string(value); };
    const long whole = static_cast<long>(seconds);
    const std::string fraction =
        base::fixed(std::floor(1000.0 * (seconds - static_cast<double>(whole))) / 1000.0, 3);
    return Timecode{
        two(whole / 3600) + ":" + two(whole / 60 % 60) + ":" + two(whole % 60) + fraction.substr(1),
        seconds};
}

}  // namespace rigmatch::media
