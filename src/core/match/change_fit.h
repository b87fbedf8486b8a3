// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "match/body_model.h"

namespace rigmatch::match {

/// What turned a picture of a chart into another one of the same body: the change of its controls,
/// and one standard deviation of each part.
struct FittedChange {
    Change change;
    Change uncertainty;
    double remainder = 0.0;  ///< signal, root mean square: what no such change explains
};

/// The change of `body` (that of `before`) after which it would show `after`; by least squares over
/// all patches that both show. Nothing where fewer than twelve patches can be used.
/// (docs/sources.md, 6.6.)
[[nodiscard]] std::optional<FittedChange> fitChange(const BodyModel& body,
                                                    const rig::Reading& before,
                                                    const rig::Reading& after);

}  // namespace rigmatch::match
