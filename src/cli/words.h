// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "base/result.h"
#include "cli/command_line.h"
#include "jobs/take_job.h"
#include "rig/rig.h"

namespace rigmatch::cli {

/// "B=clip.mov" taken apart.
struct NamedFile {
    std::string letter;
    std::string file;
};
/// Fails with OutOfRange, saying what is allowed.
[[nodiscard]] base::Result<NamedFile> namedFile(const std::string& text);
/// "B.iso=800" taken apart; fails the same way.
[[nodiscard]] base::Result<jobs::GivenSetting> givenSetting(const std::string& text);

/// The rig of a file, or a new one named after it where there is no such file. Fails as
/// rig::loadRig, and with NewerVersion where a later program wrote it: it is not written over.
[[nodiscard]] base::Result<rig::Rig> openedOrNew(const std::string& file);
/// The rig of a file that is there; fails the same way.
[[nodiscard]] base::Result<rig::Rig> writable(const std::string& file);

/// Says the error; gives kFailed.
int failed(const Streams& streams, const base::Error& error);
/// Says the error; gives false.
bool said(const Streams& streams, const base::Error& error);

}  // namespace rigmatch::cli
