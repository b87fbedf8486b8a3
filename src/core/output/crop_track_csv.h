// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "jobs/crop_track.h"

namespace rigmatch::output {

/// seconds, left, top, width, height in px of the recorded picture, and whether the person was
/// seen.
[[nodiscard]] std::string cropTrackCsv(const jobs::CropTrack& track);

}  // namespace rigmatch::output
