// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "match/differences.h"
#include "match/skin.h"

namespace rigmatch::match {

/// One side of a comparison by faces alone.
struct FaceSide {
    std::string cameraId;
    const rig::Reading* reading = nullptr;
    /// Light to signal, as declared, tagged, or as an earlier chart of the same profile showed it;
    /// null: nobody knows, and the curve of BT.709 stands in for it where only ratios of colour
    /// count.
    const ToneCurve* curve = nullptr;
    bool isToConvert = false;  ///< a log or HLG recording: its level means nothing as it is
};

/// Exposure, white balance and tint of a camera from the people whom both cameras see, where a
/// chart is missing: their foreheads against each other. One face tells 0.15 stop, 6 mired and
/// 0.0015 Duv where both look at it from less than 20° apart, and half as surely at 45°; several
/// are weighed together. Without a known curve there are no stops. Puts what it finds into
/// `result`, with the fit that turns are reckoned by; false where nobody is seen by both.
/// (docs/sources.md, 6.8.)
[[nodiscard]] bool compareFaces(const People& people,
                                const FaceSide& camera,
                                const FaceSide& reference,
                                CameraDifferences& result);

/// The same differences with nothing in them that is not twice its uncertainty: what is not surely
/// there is not turned.
[[nodiscard]] CameraDifferences onlySure(const CameraDifferences& differences);

}  // namespace rigmatch::match
