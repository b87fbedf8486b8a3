// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <chrono>
#include <mutex>

#include "base/progress.h"

namespace rigmatch::measure {

/// Frames of so many pixels that few of them may be held at a time.
inline bool isLarge(long long pixels) {
    constexpr long long kLargePixels = 4'000'000;
    return pixels > kLargePixels;
}

/// Lets one large clip through at a time: four 4K decoders side by side would hold more frames than
/// a small machine has memory for, and one of them keeps all processors busy.
class LargeClipGate {
public:
    /// Waits where the clip is large and another one is in; false where the wait was cancelled.
    bool enter(long long pixels, bool isClip, const base::Progress& progress) {
        if (!isClip || !isLarge(pixels)) return true;
        while (!m_lock.try_lock_for(std::chrono::milliseconds(50))) {
            if (progress.isCancelled()) return false;
        }
        return true;
    }

private:
    static std::timed_mutex& gate() {
        static std::timed_mutex gate;
        return gate;
    }
    std::unique_lock<std::timed_mutex> m_lock{gate(), std::defer_lock};
};

}  // namespace rigmatch::measure
