// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

#include "match/differences.h"
#include "rig/rig.h"
#include "rig/turn.h"

namespace rigmatch::words {

/// What a camera's own dials make of a difference.
struct DialWords {
    double kelvin = 5600.0;            ///< that is dialled; a usual one where nobody told
    std::optional<double> duvPerStep;  ///< of its tint; nothing: its steps are not known
};
[[nodiscard]] DialWords dialWords(const rig::Rig& rig,
                                  const rig::Take& take,
                                  const std::string& cameraId);

/// What a shooter calls it: "Brightness", "Blacks", "Colourfulness", "Visible difference", …
[[nodiscard]] std::string shooterTitle(match::Quality quality);
/// One line below it, for the board: "in stops, by the greys".
[[nodiscard]] std::string shooterHelp(match::Quality quality);

/// A difference as the eye has it, the camera against the reference: "2/3 stop darker", "300 K too
/// warm", "pinker, 3 steps", "flatter", "milky", "more colourful", "seen in a cut". "same" where it
/// is good, or "a little …" where it is good and still beyond half of that. Empty where it is
/// unknown.
[[nodiscard]] std::string shooterWords(match::Quality quality,
                                       const match::Difference& difference,
                                       const DialWords& dials);

/// What is left once a turn and those before it are done: "then the same", "then 1/6 stop darker".
[[nodiscard]] std::string shooterEffect(const rig::Turn& turn, const DialWords& dials);

/// Stops in the steps a hand turns: "1/3 stop", "1/2 stop", "1 1/3 stops". Without sign.
[[nodiscard]] std::string stepText(double stops);

/// How a difference of colour looks (ΔE2000; common practice): below 1 nobody sees it, to 2 hardly
/// anyone, to 5 it is seen in a cut, beyond at once.
[[nodiscard]] std::string seenText(double deltaE);

}  // namespace rigmatch::words
