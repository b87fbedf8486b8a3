// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace rigmatch::match {

/// A number and its standard deviation.
struct Measured {
    double value = 0.0;
    double uncertainty = 0.0;
};

}  // namespace rigmatch::match
