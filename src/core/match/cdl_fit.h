// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "colour/grade_file.h"
#include "match/judge.h"

namespace rigmatch::match {

/// The decision list that brings signals nearest to others, in CIELAB as a BT.1886 display shows
/// them; within slopes of 0.6 to 1.6, offsets of ± 0.1, powers of 0.7 to 1.4 and saturations of 0.6
/// to 1.6, beyond which a picture breaks (common practice), and drawn to doing nothing where the
/// signals do not ask for more. (docs/sources.md, 6.7.)
[[nodiscard]] colour::Cdl fitCdl(const PatchSignals& from, const PatchSignals& to);

/// The same list taken only a part of the way, `strength` 0 (nothing) to 1.
[[nodiscard]] colour::Cdl weakened(const colour::Cdl& cdl, double strength);

}  // namespace rigmatch::match
