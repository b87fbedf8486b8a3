// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

namespace rigmatch::media {

/// Timecode of a recording's first frame or sample.
struct Timecode {
    std::string text;      ///< "10:00:00:00", drop-frame "10:00:00;00"; of a recorder as a time
    double seconds = 0.0;  ///< since the count's zero, by the rate of the frames it counts
};

/// A place in a file at which its timecode does not go on from what came before.
struct TimecodeJump {
    double atSeconds = 0.0;  ///< in the file
    std::string before, after;
    double bySeconds = 0.0;  ///< + : the count went on too far

    bool operator==(const TimecodeJump&) const = default;
};

/// "hh:mm:ss:ff" in frames of `frameRate`; a semicolon or point before the frames: two numbers a
/// minute are left out but for every tenth, four at 60 (SMPTE ST 12-1; docs/sources.md, 13.7).
/// Nothing where it is no timecode, or counts frames that the rate does not have.
[[nodiscard]] std::optional<Timecode> timecodeOf(const std::string& text, double frameRate);

/// The same of a recorder's file, which counts samples since midnight (EBU Tech 3285).
[[nodiscard]] std::optional<Timecode> timecodeOfSamples(const std::string& samples,
                                                        double sampleRate);

}  // namespace rigmatch::media
