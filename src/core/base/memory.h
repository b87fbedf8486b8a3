// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace rigmatch::base {

/// To be called once, first thing in a program: blocks of a megabyte and more (frames, pictures) go
/// back to the system as soon as they are let go, smaller ones are kept for the next (up to 32 MB),
/// and threads share two arenas. Without it the C library keeps freed frames, and four 4K clips
/// grow past 500 MB. Does nothing on systems whose C
/// library has no such settings.
void returnLargeBlocks();

}  // namespace rigmatch::base
