// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <chrono>
#include <filesystem>
#include <map>
#include <optional>
#include <vector>

#include "base/result.h"
#include "rig/rig.h"

namespace rigmatch::rig {

/// A rig as it came from the disk.
struct LoadedRig {
    Rig rig;                  ///< media paths absolute
    bool isReadOnly = false;  ///< written by a later version: may be looked at, not overwritten
    std::vector<std::filesystem::path> missingMedia;
};

/// Fails with NotFound, Unreadable, TooLarge, or CorruptDocument naming file and place.
[[nodiscard]] base::Result<LoadedRig> loadRig(const std::filesystem::path& path);

/// Writes the rig whole or not at all, media relative to its folder. Fails with WriteFailed.
[[nodiscard]] base::Result<void> saveRig(const Rig& rig, const std::filesystem::path& path);

/// Files by where they were.
using MovedFiles = std::map<std::filesystem::path, std::filesystem::path>;

/// Looks for missing media in `folder` and below (at most 20000 entries): by name, and where their
/// content is known, by that, whatever they are called now; a file of that name with other content
/// is another one. Gives the rig with what was found and how many that were.
struct Relinked {
    Rig rig;
    MovedFiles moved;
    int found = 0;
    int stillMissing = 0;
};
/// Puts files into the shots of `rig` that were looked for where they are not any more.
void moveFiles(const MovedFiles& moved, Rig& rig);
[[nodiscard]] Relinked relinkMedia(const Rig& rig, const std::filesystem::path& folder);

/// What a crashed session left behind.
struct Recovery {
    Rig rig;
    std::filesystem::path
        document;  ///< the file it belongs to; empty for a rig that was never saved
    std::filesystem::path journal;
    std::chrono::system_clock::time_point changedAt;               ///< last change in the journal
    std::optional<std::chrono::system_clock::time_point> savedAt;  ///< the file's; none: not there
};

/// The recovery journal of one open document: a copy beside it and a line for each change since,
/// written within a second of it and removed on a clean close. A journal whose writer still runs is
/// not offered. Of each document that has a journal a note lies in `folder`, so that all of them
/// are found again.
class Journal {
public:
    /// `folder` takes the journals of rigs that have no file yet, and the notes of those that do.
    explicit Journal(std::filesystem::path folder) : m_folder(std::move(folder)) {}

    /// Where the journal of `document` lies.
    [[nodiscard]] std::filesystem::path pathFor(const std::filesystem::path& document) const;

    /// Begins it anew with the whole of `rig`.
    [[nodiscard]] base::Result<void> write(const Rig& rig,
                                           const std::filesystem::path& document) const;
    /// Adds what turned `before`, which it holds, into `after`; begins anew where it is not there,
    /// another process wrote it, or its changes have outgrown the rig.
    [[nodiscard]] base::Result<void> append(const Rig& before,
                                            const Rig& after,
                                            const std::filesystem::path& document) const;
    void remove(const std::filesystem::path& document) const;
    /// Gives up what `recovery` holds.
    void discard(const Recovery& recovery) const;

    /// The journal of `document` if its writer is gone; nothing if there is none, it is damaged, or
    /// it holds the same as the file.
    [[nodiscard]] std::optional<Recovery> find(const std::filesystem::path& document) const;
    /// Every rig, saved or not, whose writer is gone without having closed it; the one that was
    /// changed last comes first.
    [[nodiscard]] std::vector<Recovery> findAll() const;

private:
    [[nodiscard]] std::filesystem::path noteFor(const std::filesystem::path& document) const;

    std::filesystem::path m_folder;
};

}  // namespace rigmatch::rig
