// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace rigmatch::rig {

/// What of a lamp or window is set otherwise.
enum class LampControl {
    Dimmer,  ///< percent
    Kelvin,  ///< of a lamp of two colours
    Film     ///< ND on a window, stops
};

/// A lamp or window of the plan that is set otherwise, for all cameras.
struct LampTurn {
    std::string objectId;
    LampControl control = LampControl::Dimmer;
    double from = 0.0, to = 0.0;
    std::string unknownFields{};

    bool operator==(const LampTurn&) const = default;
};

}  // namespace rigmatch::rig
