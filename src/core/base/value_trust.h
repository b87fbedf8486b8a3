// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace rigmatch::base {

/// How far the nominal values of a reference on the set hold.
enum class ValueTrust {
    Measured,  ///< the user's own measurement of the very chart
    Nominal,   ///< as made: published or common values
    Printed,   ///< printed at home: alike for all cameras, not absolute
    Found,     ///< an area of the set whose value is not known
};

}  // namespace rigmatch::base
