// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/memory.h"

#if defined(__GLIBC__) || defined(__linux__)
#include <malloc.h>
#endif

namespace rigmatch::base {

void returnLargeBlocks() {
#if defined(__GLIBC__)
    constexpr int kLargeBytes = 1 << 20;
    constexpr int kArenas = 2;
    // A shrunk picture a frame, handed back and asked for again, was a tenth of a pass.
    constexpr int kKeptBytes = 32 << 20;
    constexpr int kGrownBytes = 2 << 20;
    mallopt(M_MMAP_THRESHOLD, kLargeBytes);
    mallopt(M_TRIM_THRESHOLD, kKeptBytes);
    mallopt(M_TOP_PAD, kGrownBytes);
    mallopt(M_ARENA_MAX, kArenas);
#endif
}

}  // namespace rigmatch::base
