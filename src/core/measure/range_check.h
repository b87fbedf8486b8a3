// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "base/warning.h"
#include "image/frame.h"
#include "rig/reading.h"

namespace rigmatch::measure {

/// Gathers the darkest and brightest luma of some frames and tells when they contradict the range
/// that was read: full codes taken as limited reach below −4 % and above 104 %; limited codes taken
/// as full stay within 5.5..93 % (common practice).
class RangeCheck {
public:
    void take(const image::CodedFrame& frame);
    /// A chart in `reading` has a near-white and a near-black patch, so that a narrow span means
    /// something; and its grey row decides where a flat recording looks like limited codes: the
    /// reading under which a published curve explains the greys is the right one.
    [[nodiscard]] std::optional<base::Warning> warning(image::Range asRead,
                                                       const rig::Reading& reading) const;

private:
    double m_darkest = 1.0;
    double m_brightest = 0.0;
};

}  // namespace rigmatch::measure
