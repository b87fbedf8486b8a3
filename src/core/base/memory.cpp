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
    mallopt(M_MMAP_THRESHOLD, kLargeBytes);
    mallopt(M_ARENA_MAX, kArenas);
#endif
}

}  // namespace rigmatch::base
