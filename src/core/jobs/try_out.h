// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// One camera in one profile, as a try-out take shows it.
struct TriedProfile {
    std::string cameraId;
    std::string profile;
    std::string takeId;
    int takeNumber = 0;
    double noisePercent = 0.0;  ///< of signal at neutral 5, one standard deviation of a pixel …
    bool isNoiseKnown = false;  ///< … where the chart rested
    std::optional<double> headroomStops;  ///< from 18 % grey to the top of the signal
    std::optional<double> rangeStops;     ///< from the chart's black to that top
};

/// One profile per camera, and what is left between them.
struct ProfileCombination {
    std::vector<std::size_t>
        chosen;               ///< indices of TryOutReport::profiles, in the order of the rig
    double afterTurns = 0.0;  ///< ΔE2000 of the worst camera against the reference, predicted
    double uncertainty = 0.0;
    double mean = 0.0;            ///< mean over the cameras
    double afterLut = 0.0;        ///< the same worst with a correction on top
    double readingError = 0.0;    ///< of `afterTurns`, what the readings alone leave unsure
    bool isAsGoodAsBest = false;  ///< leaves no more than the least, as far as the readings tell:
                                  ///< what dials leave unsure is the same in every profile
    std::vector<base::Text> leftOver;  ///< what no control reaches
};

/// The profiles that were tried, and how well they go together.
struct TryOutReport {
    std::vector<TriedProfile> profiles;      ///< by camera, in the order of the rig, then by name
    std::vector<ProfileCombination> ranked;  ///< best first; those as good as the best
                                             ///< come by the least noise
    std::vector<base::Text> notes;           ///< what could not be used, and why
};

/// Ranks the combinations of profiles that takes for a try-out show, by what is left after the
/// turns. Of each camera and profile the newest clip with a chart counts; a camera that was not
/// tried stands in its newest take for matching. Fails with NotFound where fewer than two cameras
/// can be compared or none was tried in two profiles, or with Cancelled.
[[nodiscard]] base::Result<TryOutReport> rankProfiles(const rig::Rig& rig,
                                                      const base::Progress& progress = {});

/// One more take to shoot: which profile each camera is set to.
struct TryOutRound {
    struct Setting {
        std::string cameraId;
        std::string profile;
    };
    std::vector<Setting> settings;  ///< every camera of the rig that has profiles, in order
    bool isShot = false;            ///< a take for a try-out shows it already
};
/// As many takes as the camera with most profiles has: the n-th shows each camera in its n-th, or
/// its last.
[[nodiscard]] std::vector<TryOutRound> tryOutRounds(const rig::Rig& rig);
/// Sets the cameras as the round says.
void setRound(const TryOutRound& round, rig::Rig& rig);

/// The most noise that a camera has in its profile of it, % of signal.
[[nodiscard]] double noisiest(const TryOutReport& report, const ProfileCombination& combination);

/// Sets the cameras to the profiles of a combination.
void useProfiles(const TryOutReport& report, const ProfileCombination& combination, rig::Rig& rig);

}  // namespace rigmatch::jobs
