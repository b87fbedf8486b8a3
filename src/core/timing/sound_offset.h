// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"

namespace rigmatch::timing {

struct WhitenedTrack;

/// Heights of a correlation's peak, in standard deviations of chance (which reaches 5): one alone
/// says it; one near a line that is already known.
inline constexpr double kSureHeight = 10.0, kLeastHeight = 5.0;

/// Where one stretch of the reference's sound stands in the other file.
struct OffsetPoint {
    double atSeconds = 0.0;      ///< in the reference
    double offsetSeconds = 0.0;  ///< time in the other file minus time in the reference
    double height = 0.0;         ///< of the correlation's peak, in standard deviations of chance
    bool isUsed = false;         ///< lies on the line

    bool operator==(const OffsetPoint&) const = default;
};

/// One sound heard by two sources. Offsets are as the sound arrives at the microphones.
struct SoundOffset {
    double offsetSeconds = 0.0;  ///< event's time in the file minus its time in the reference
    double uncertaintySeconds = 0.0;
    double atSeconds = 0.0;          ///< time in the reference for which the offset holds
    std::optional<double> driftPpm;  ///< + : intervals are longer in the file
    double driftUncertaintyPpm = 0.0;
    double confidence = 0.0;  ///< 0..1: share of the stretches that could agree and do
    bool isInverted = false;  ///< one of the two has its polarity turned
    double overlapSeconds = 0.0;
    std::vector<OffsetPoint> points;
    /// A stretch that stands elsewhere than the line has it: two takes in one file, or sound that
    /// was cut. Its place in the reference, and how far off it is.
    std::optional<OffsetPoint> jump;
    /// Between the least and the largest offset of the stretches that lie on the line; nothing
    /// where they are fewer than three.
    std::optional<double> wanderSeconds;

    bool operator==(const SoundOffset&) const = default;
};

/// Finds how far `other` is behind `reference`: coarse by levels in bands over the whole length,
/// then by the phases of stretches a few seconds long, which drift cannot smear, laid on one line
/// (sources 13.2). Refuses (Unmeasurable) what stays within chance: nothing in common, silence,
/// sound that repeats itself. An hour against an hour costs some seconds.
[[nodiscard]] base::Result<SoundOffset> findSoundOffset(const WhitenedTrack& reference,
                                                        const WhitenedTrack& other,
                                                        const base::Progress& progress = {});

}  // namespace rigmatch::timing
