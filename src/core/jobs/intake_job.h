// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// A camera made from a file, or from a folder of one card.
struct IntakeCamera {
    std::string role;  ///< what it is called: by folder, file name or metadata
    std::string body;  ///< as the metadata says; empty: it does not
    std::filesystem::path file;
    std::string letter;    ///< "B" where the name of file or folder has one; empty: it has none
    std::string words;     ///< of the name, without letter and numbers
    std::string transfer;  ///< the stream's tag, as rig::Reading has it
    int width = 0, height = 0, bitDepth = 0;
    double frameRate = 0.0;
};

/// What files and folders that were dropped make of an empty rig.
struct Intake {
    std::vector<IntakeCamera> cameras;               ///< in the order of their letters
    std::vector<std::filesystem::path> sounds;       ///< each a sound recorder's
    std::vector<std::filesystem::path> leftOut;      ///< of no kind that is read, or too many
    std::vector<std::filesystem::path> olderOnCard;  ///< of each folder the newest clip was taken
};

/// One camera per file; of folders that stand side by side, one per folder, with its newest clip
/// (clips below it at any depth, as cards have them). Ordered by letters that stand alone in their
/// names ("B_0012", "cam-c"), else by names and numbers. Fails with NotFound where nothing of it
/// can be read, or with Cancelled.
[[nodiscard]] base::Result<Intake> intakeOf(const std::vector<std::filesystem::path>& dropped,
                                            const base::Progress& progress = {});

/// A camera made from what a file tells: its id. The file's letter where it is free, else the next
/// one; nothing that nobody told. Empty where the rig has kMostCameras.
std::string addCamera(const IntakeCamera& from, rig::Rig& rig);
/// A sound recorder named after its file: its id. Empty where the rig has kMostSources.
std::string addRecorder(const std::filesystem::path& file, rig::Rig& rig);

/// The rig with these cameras, of which nothing is known but what the files say, their recorders,
/// and a take that holds the files. `startedAt`: ISO 8601, local time.
[[nodiscard]] rig::Rig rigFrom(const rig::Rig& rig,
                               const Intake& intake,
                               const std::string& startedAt);

}  // namespace rigmatch::jobs
