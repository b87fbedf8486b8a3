// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace rigmatch::base {

/// `value` with `decimals` places and the decimal point, whatever the locale: "0.63".
[[nodiscard]] std::string fixed(double value, int decimals);

/// As short as it can be said, with six digits at most: "0.5", "100".
[[nodiscard]] std::string shortest(double value);

/// The same as fixed() with its sign, a real minus (U+2212): "+0.63", "−0.63", "0.00" without sign.
[[nodiscard]] std::string signedFixed(double value, int decimals);

}  // namespace rigmatch::base
