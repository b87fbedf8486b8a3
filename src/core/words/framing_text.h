// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "base/finding.h"
#include "jobs/crop_track.h"
#include "jobs/framing_job.h"
#include "rig/rig.h"

namespace rigmatch::words {

/// A finding in words: what is, what to turn, and the numbers with their uncertainty.
struct FramingWords {
    std::string headline;  ///< "head 7 % larger than C's"
    std::string turn;      ///< "Step back 20 cm, or 85 → 79 mm"; empty: nothing to turn
    std::string numbers;   ///< "× 1.07 ± 0.02, alike from × 0.95 to × 1.05"
};
[[nodiscard]] FramingWords framingWords(const base::Finding& finding,
                                        const rig::Rig& rig,
                                        const rig::Take& take);

/// "9:16: 608 × 1080 px, headroom 9 %", with what speaks against it.
[[nodiscard]] std::string cropText(const jobs::CropWindow& crop);

/// "9:16 window of 608 × 1080 px at 41 moments; the eyes stay within 32 px of its middle".
[[nodiscard]] std::string cropTrackText(const jobs::CropTrack& track);

}  // namespace rigmatch::words
