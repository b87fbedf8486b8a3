// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/warning.h"
#include "image/signal_tags.h"
#include "media/recorded_settings.h"
#include "media/timecode.h"

namespace rigmatch::media {

/// A picture file as its own tags describe it.
struct MediaInfo {
    bool isStill = false;
    int width = 0;   ///< px, as shown (after rotation)
    int height = 0;  ///< px, as shown
    int bitDepth = 8;
    std::string codec;             ///< "h264", "hevc", "prores", "png", …
    std::string pixelFormat;       ///< the decoder's name of the sample layout
    double frameRate = 0.0;        ///< frames per second; 0 for stills
    double durationSeconds = 0.0;  ///< as the container says; 0 where it does not
    int rotationDegrees = 0;       ///< already applied; clockwise
    image::SignalTags tags;
    RecordedSettings recorded;
    std::optional<Timecode> timecode;  ///< of the first frame; nothing where the file carries none
    std::vector<base::Warning> warnings;
};

}  // namespace rigmatch::media
