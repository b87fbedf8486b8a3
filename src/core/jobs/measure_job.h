// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "base/progress.h"
#include "jobs/media_names.h"
#include "media/recorded_settings.h"
#include "rig/observations.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// A file measured for a camera: a shot with its reading, or with the failure in words.
struct MeasuredShot {
    rig::Shot shot;
    media::RecordedSettings recorded;  ///< what the file's metadata says of the settings: an offer
    bool isCancelled = false;
};
/// What was measured, apart from what a person decided.
[[nodiscard]] rig::Observation observationOf(const MeasuredShot& measured,
                                             const std::string& asked);

/// What is looked for in a file.
struct LookFor {
    // NOLINTNEXTLINE(google-explicit-constructor): a chart is what is mostly looked for.
    LookFor(std::string chartId) : chart(std::move(chartId)), asked(chart) {}
    std::string chart;             ///< id or path, as Rig::chart; empty: no chart
    std::string asked;             ///< all of it as one text (rig::askedOf())
    bool isSoundEnough = false;    ///< files without pictures are no failure
    bool isFramingWanted = false;  ///< how people are framed
    bool isTimingWanted = false;   ///< what sound holds and frames hide
};
/// By what the take is for, and by the source: a camera without a picture has failed.
[[nodiscard]] LookFor lookFor(const rig::Rig& rig,
                              const rig::Take& take,
                              const std::string& sourceId);

/// Measures the media of `shot` for the rig's reference (Rig::chart) with its manual corners, skin
/// marks, range and matrix; the reading replaces the old one. Where only corners were moved, the
/// clip is not watched again: faces and what was told of the clip are kept. Failures of the file or
/// of the reference stand in `shot.failure`; nothing else fails. Where `known` has a measurement of
/// the same content by today's measurers, wherever that file lay, it is taken over; what it was
/// laid on is not.
[[nodiscard]] MeasuredShot measureShot(const rig::Shot& shot,
                                       const LookFor& lookFor,
                                       const base::Progress& progress,
                                       const std::vector<rig::Observation>& known = {});

}  // namespace rigmatch::jobs
