// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace rigmatch::measure {

/// A stretch of a clip, in its own seconds; empty for a still.
struct ClipPart {
    double from = 0.0;
    double to = 0.0;
    [[nodiscard]] double length() const { return to - from; }
};

}  // namespace rigmatch::measure
