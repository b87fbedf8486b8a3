// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>
#include "base/text.h"

namespace rigmatch::timing {

struct TimeSpan {
    double startSeconds = 0.0;
    double endSeconds = 0.0;
    std::string unknownFields{};  ///< of a later program's file; kept as they are

    bool operator==(const TimeSpan&) const = default;
};

/// How many frames stand about that long after the one before: a bar of a histogram of 1 ms.
struct IntervalCount {
    double seconds = 0.0;  ///< their mean
    int frames = 0;
    std::string unknownFields{};  ///< of a later program's file; kept as they are

    bool operator==(const IntervalCount&) const = default;
};

/// What the frames of a clip say of its rate: their time stamps, and what they show.
struct FrameReport {
    int frames = 0;
    double rate = 0.0;        ///< per second, as the stamps have it
    std::string rateText;     ///< "25/1", "30000/1001"
    bool isVariable = false;  ///< stamps are not evenly spaced (gaps of whole frames apart)
    double shortestSeconds = 0.0, meanSeconds = 0.0, longestSeconds = 0.0;  ///< between stamps
    std::vector<IntervalCount> intervals;  ///< the same as a histogram, shortest first
    double uniqueRate = 0.0;          ///< pictures per second that are not the one before again
    std::vector<double> repeated;     ///< s: shows the picture before once more, while things move
    std::vector<double> missing;      ///< s: at least one picture is left out before it
    std::vector<double> late;         ///< s: stands later than its neighbours have it
    std::vector<TimeSpan> notJudged;  ///< nothing moves: repeats cannot be told from stillness
    /// What changes jumps from frame to frame, as under strong compression: a repeat is told only
    /// where next to nothing changes, and nothing is told as missing.
    std::vector<TimeSpan> unsteady;
    base::Text pattern;  ///< "every second frame", "every fifth frame", or empty
    /// Where repeats come from, as far as it shows: "shutter" (things blur over the whole of the
    /// way between two pictures: the camera exposes that long), "chain" (they do not), "file" (the
    /// stamps are uneven there too); empty: it does not show.
    std::string repeatCause;
    std::optional<double> repeatBlurShare;  ///< of that way, over which they blur
    double combedShare = 0.0;  ///< of frames in which something moves: their lines alternate

    bool operator==(const FrameReport&) const = default;
};

}  // namespace rigmatch::timing
