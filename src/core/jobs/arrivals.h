// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "jobs/intake_job.h"

namespace rigmatch::jobs {

/// Why a file is thought to belong where it is put.
enum class ArrivalReason {
    Chosen,    ///< one file for the camera that is chosen
    Letter,    ///< its name, or its folder's, has the camera's letter
    Alike,     ///< picture, rate, body and names as in this camera's takes before
    Order,     ///< only by the order of the names: nothing else tells
    New,       ///< like no camera of the rig
    Sound,     ///< a recording of sound
    TooMany,   ///< the rig holds no more
    Unusable,  ///< of no kind that is read, or damaged
    Older,     ///< its folder holds a newer clip
};

/// One file that was dropped on a rig with cameras.
struct Arrival {
    /// Places that are no camera or source of the rig.
    static constexpr const char* kNewCamera = "+camera";
    static constexpr const char* kNewRecorder = "+recorder";
    static constexpr const char* kLeftOut = "";

    IntakeCamera what;
    std::string place = kLeftOut;  ///< id of a camera or source, or one of the above
    ArrivalReason reason = ArrivalReason::Order;
    std::string sameAs;  ///< name of another file with the same content, in the drop or the take
    bool isSound = false;
};

/// The guess that is shown before anything is measured.
struct Arrivals {
    std::vector<Arrival> files;
    /// The take that was shown holds a file of one of the places already: a take of its own.
    bool isNewTake = false;
    /// Nothing to ask: names or the choice say all, nothing is left over, replaced or twice there.
    bool isSure = false;
};

/// Where files and folders belong that are dropped on a rig with cameras. `takeId`: the take that
/// is shown, empty where there is none; `chosenId`: the camera or source that was chosen by hand,
/// or empty. Fails as intakeOf does.
[[nodiscard]] base::Result<Arrivals> arrivalsOf(const rig::Rig& rig,
                                                const std::string& takeId,
                                                const std::string& chosenId,
                                                const std::vector<std::filesystem::path>& dropped,
                                                const base::Progress& progress = {});

/// What putArrivals() made.
struct PutArrivals {
    std::string takeId;
    std::vector<std::string> sources;  ///< cameras and sources that got a file
};

/// Puts the files where they belong, in a new take or in `takeId` (made where the rig has none);
/// cameras and recorders are made where they are new. More files of one place are the parts of one
/// recording, in the order of their names. `startedAt`: ISO 8601, local time.
PutArrivals putArrivals(const Arrivals& arrivals,
                        const std::string& takeId,
                        const std::string& startedAt,
                        rig::Rig& rig);

/// True for two files of the same size whose first, middle and last megabyte are equal.
[[nodiscard]] bool isSameContent(const std::filesystem::path& a, const std::filesystem::path& b);

}  // namespace rigmatch::jobs
