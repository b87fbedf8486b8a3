// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>

#include "support/qt_test.h"

namespace rigmatch::support {

/// True where the whole samples are asked for (bench/samples); every run of the tests takes a fixed
/// part of them.
inline bool isFullSample() { return qEnvironmentVariableIntValue("RIGMATCH_FULL_SAMPLES") != 0; }
/// `full` cases, or the part that a run of the tests has time for: a tenth, but at least `least`.
inline int sampleSize(int full, int least = 8) {
    return isFullSample() ? full : std::max(full / 10, least);
}

}  // namespace rigmatch::support
