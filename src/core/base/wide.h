// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

/// Before a function: compiled twice, for processors with wide registers and for all others; the
/// program chooses when it starts. For plain loops over rows of numbers. (Sanitizers cannot look
/// into functions chosen so early, and not every compiler can do it: there it says nothing.)
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && \
    !defined(__SANITIZE_ADDRESS__)
#define RIGMATCH_WIDE __attribute__((target_clones("avx2", "default"), optimize("O3")))
#else
#define RIGMATCH_WIDE
#endif
