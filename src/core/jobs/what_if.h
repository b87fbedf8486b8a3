// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <string>
#include <vector>

#include "jobs/compare_job.h"
#include "match/match_report.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// How one camera is turned by hand, to see what that would do.
struct Tried {
    rig::Settings settings;  ///< as it would stand
    // Amounts, where nobody told the setting or its steps:
    double exposureStops = 0.0;
    double whiteBalanceMired = 0.0;
    double tintDuv = 0.0;

    bool operator==(const Tried&) const = default;
};

/// By the id of the camera.
using TriedByHand = std::map<std::string, Tried>;

/// One control of a camera that can be tried, and where it may stand.
struct TryControl {
    rig::Control control = rig::Control::Iso;
    std::string knob;            ///< which one, where `control` is Knob
    std::vector<double> values;  ///< rising; the value that was shot with, or 0 for an amount, is
                                 ///< among them
    std::size_t shot = 0;        ///< index of that value
    bool isAmount = false;
};

/// The controls of a camera, exposure first. Where a setting or its steps were not told, amounts:
/// thirds of a stop, 5 mired, 0.0005 Duv.
[[nodiscard]] std::vector<TryControl> tryControls(const rig::Camera& camera,
                                                  const rig::Settings& shot);
/// Index of the value that `tried` has.
[[nodiscard]] std::size_t triedIndex(const TryControl& control, const Tried& tried);
/// Turns the control there.
void turnTo(const TryControl& control, std::size_t index, Tried& tried);

/// What all that was tried on a camera does to the dials of its body, by what is known of its
/// controls.
[[nodiscard]] match::Change triedDial(const rig::Rig& rig,
                                      const rig::Take& take,
                                      const std::string& cameraId,
                                      const Tried& tried);

/// The take as it is predicted to come out with those settings: patches and skin through each
/// camera's own model, everything else as it was measured. `report`: the match of `take`. A camera
/// without a chart stays as it is.
[[nodiscard]] rig::Take takeAsTried(const rig::Rig& rig,
                                    const rig::Take& take,
                                    const match::MatchReport& report,
                                    const TriedByHand& tried);

/// What was tried on a camera, for pictures.
[[nodiscard]] StageMap stageAsTried(const rig::Rig& rig,
                                    const rig::Take& take,
                                    const match::MatchReport& report,
                                    const std::string& cameraId,
                                    const Tried& tried);

/// Writes what was turned against `take` to the cameras, as if it had been ticked; amounts change
/// nothing there.
void keepTried(const TriedByHand& tried, const rig::Take& take, rig::Rig& rig);

}  // namespace rigmatch::jobs
