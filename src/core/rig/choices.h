// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/text.h"

namespace rigmatch::rig {

/// Where practitioners disagree, the user's choice, kept with the rig; and what the shoot is for.
/// The defaults are those that the trade's reasons speak for (common practice; both schools stay
/// choosable).
struct Choices {
    std::string automatics = "locked";  ///< "locked" or "automatic"
    std::string look = "neutral";       ///< "neutral", "finished" or "log"
    std::string rates = "delivery";     ///< "delivery", "24/25" or "30"
    std::string sound = "apart";        ///< "apart" or "camera"
    std::string key = "modelled";       ///< "modelled" (45–60°) or "flat"
    std::string mood = "standard";      ///< "flat", "friendly", "standard" or "moody"
    std::string headroom = "tight";     ///< "tight" or "wide" (room for punch-in cuts)
    std::string placing = "look";       ///< "look" (to the lens centred, off it on a third),
                                        ///< "centre" or "thirds"
    std::string blur = "any";           ///< of the background: "any", "gentle", "soft" or "melted"
    std::string daylight = "blackout";  ///< "blackout" or "daylight"

    std::string region;  ///< key of regions(); empty: nobody told
    double deliveryFps = 25.0;
    double deliveryWidthPx = 1920.0;
    double deliveryHeightPx = 1080.0;
    bool isUprightWanted = true;  ///< a 9:16 version is cut out of the wide frame
    double largestZoom = 1.25;    ///< largest punch-in that the edit may want
    double mainsHz = 50.0;
    double slowMotionFactor = 1.0;  ///< 2: half speed
    double dayMinutes = 120.0;      ///< minutes recorded per day
    double copyMegabytesPerSecond = 90.0;
    double copies = 2.0;
    std::string unknownFields;

    bool operator==(const Choices&) const = default;
};

/// One question on which two schools exist.
struct School {
    std::string key;      ///< "automatics"
    base::Text question;  ///< "Exposure, white balance and focus"
    struct Option {
        std::string value;
        base::Text title;
    };
    std::vector<Option> options;  ///< the default first
    base::Text why;               ///< why the default is the default
    std::string Choices::*field = nullptr;
};
[[nodiscard]] const std::vector<School>& schools();

}  // namespace rigmatch::rig
