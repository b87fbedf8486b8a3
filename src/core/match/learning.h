// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "match/body_model.h"
#include "rig/rig.h"

namespace rigmatch::match {

/// How a control answers: what it really does over what it says, and one standard deviation. Before
/// anything is learned: 1, and what is usual of such controls.
struct Response {
    double share = 1.0;
    double uncertainty = 0.0;
    int takes = 0;  ///< pairs of takes that it was learned from
};

/// What was learned of one camera's controls from takes between which it was turned.
struct LearnedControls {
    Response exposure{1.0, 0.04, 0};     ///< stops per stop of ISO, shutter, f-number and ND
    Response whiteBalance{1.0, 0.2, 0};  ///< mired per mired of the Kelvin dial
    Response tint{1.0, 0.35, 0};         ///< Duv per Duv that the sheet gives a step
    /// Takes in which it did not answer as before: turned twice, the other way, not at all, or
    /// another camera. Nothing is learned from them.
    std::vector<std::string> surprises;

    [[nodiscard]] bool isAnythingLearned() const {
        return exposure.takes + whiteBalance.takes + tint.takes > 0;
    }
};

/// Learns from each pair of takes for matching that follow each other, up to and with `upTo`, in
/// which the reference was left alone and this camera was turned: what its recorded neutral did
/// against the reference's, seen back through its body to the dial, against what its settings
/// changed by. Weighted means with the prior; what lies more than three deviations off is told and
/// left out (docs/sources.md, 6.6).
[[nodiscard]] LearnedControls learnControls(const rig::Rig& rig,
                                            const rig::Take& upTo,
                                            const std::string& cameraId);

/// What a change of settings should do to the dials by the sheet.
[[nodiscard]] Change nominalChange(const rig::Camera& camera,
                                   const rig::Settings& from,
                                   const rig::Settings& to);

/// The same by what was learned.
[[nodiscard]] Change answered(const Change& nominal, const LearnedControls& learned);

}  // namespace rigmatch::match
