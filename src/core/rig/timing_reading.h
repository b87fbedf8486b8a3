// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/text.h"
#include "base/warning.h"
#include "timing/picture_offset.h"
#include "timing/sound_offset.h"

namespace rigmatch::rig {

/// How a file lies against another of the same take.
struct SyncReading {
    std::string against;                       ///< the file it was laid on; its own where it is the
                                               ///< reference
    std::optional<timing::SoundOffset> sound;  ///< without its single stretches
    std::optional<timing::PictureOffset> picture;
    base::Text reason;                      ///< why there is neither
    std::optional<double> distanceSeconds;  ///< by which sound comes later for the way it has to
                                            ///< go, from the plan
    std::string timecode;                   ///< of its first frame or sample; empty: none
    std::optional<double> timecodeSeconds;  ///< offset that both timecodes tell
    std::vector<base::Warning> findings;
    std::string unknownFields{};

    bool operator==(const SyncReading&) const = default;
};

}  // namespace rigmatch::rig
