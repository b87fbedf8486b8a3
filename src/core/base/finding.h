// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <optional>
#include <string>

#include "base/text.h"

namespace rigmatch::base {

enum class Verdict { Good, Near, Off, Unknown };
/// "good", "near", "off", "unknown".
[[nodiscard]] std::string nameOf(Verdict verdict);

/// What to do about something, as a code with numbers; its words are made in one place.
struct Advice {
    std::string code;                         ///< "tiltUp"; empty: nothing
    std::map<std::string, double> arguments;  ///< by name with unit: "degrees", "centimetres"

    bool operator==(const Advice&) const = default;
};

/// Something that follows from what was decided and what was measured (architecture, "Takes,
/// measurements, findings"). It is computed, never stored.
struct Finding {
    std::string quantity;          ///< "headroom"
    std::string subject;           ///< id of a camera
    std::string other;             ///< id of the camera it is compared with; empty: with a goal
    int person = -1;               ///< from the left, from 0; -1: of the whole picture
    std::optional<double> value;   ///< nothing: unknown
    double uncertainty = 0.0;      ///< one standard deviation
    std::string unit;              ///< "share", "degrees", "px", "ratio"
    double low = 0.0, high = 0.0;  ///< good from … to
    double nearBy = 0.0;           ///< this far outside is near
    Verdict verdict = Verdict::Unknown;
    Text reason;  ///< why it is unknown
    Advice advice;

    /// Names a finding as long as its take stands: "headroom/camera-2//0".
    [[nodiscard]] std::string key() const;
    /// How far outside of what is good, as a share of what is near: 0 fine, 1 at the edge to off.
    [[nodiscard]] double excess() const;
    bool operator==(const Finding&) const = default;
};

/// Puts the verdict by how far the value lies outside.
void judge(Finding& finding);

}  // namespace rigmatch::base
