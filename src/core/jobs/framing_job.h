// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/finding.h"
#include "jobs/frame_job.h"
#include "rig/rig.h"

namespace rigmatch::framing {
struct FramedCamera;
}

namespace rigmatch::jobs {

/// The cameras of a take with what their framing turns are made of: lens as told, distance to the
/// person from the plan where it has one. Cameras whose framing was not measured have no reading.
/// The readings are the take's: it must outlive the result.
[[nodiscard]] std::vector<framing::FramedCamera> framedCameras(const rig::Rig& rig,
                                                               const rig::Take& take);

/// What follows from how the take is framed (framing::framingFindings()).
[[nodiscard]] std::vector<base::Finding> framingFindings(const rig::Rig& rig,
                                                         const rig::Take& take);

/// A distance that the plan tells, for the card.
struct DistanceNote {
    std::string what;  ///< "the restorer", or "the point aimed at"
    double metres = 0.0;
};
/// From a camera's lens to who or what it is aimed at; none without a plan.
[[nodiscard]] std::vector<DistanceNote> plannedDistances(const rig::Rig& rig,
                                                         const std::string& cameraId);

/// The plan with a framing turn carried out on it, or taken back: its pictures move along. Nothing
/// without a plan that has the camera, and for what is not turned at a tripod or whose angle is not
/// told.
[[nodiscard]] std::optional<rig::SetPlan> planAfterTurn(const rig::Rig& rig,
                                                        const base::Finding& finding,
                                                        bool isTakenBack);

/// A window that is cut out of a camera's picture.
struct CropWindow {
    std::string name;                                         ///< "9:16", "4:5", "1:1", "× 1.25"
    double left = 0.0, top = 0.0, width = 0.0, height = 0.0;  ///< shares of the picture
    int widthPx = 0, heightPx = 0;  ///< that are left of the recorded picture
    bool holdsPerson = true;        ///< face and a tenth around it stay inside for the whole take
    double headroom = 0.0;          ///< that is left, as a share of the window's height
    bool isUpscaled = false;        ///< fewer px than the delivery asks for
};
/// Windows about one person: upright, 4:5, square, and the largest punch-in that the edit may want
/// (Choices::largestZoom). Each stands so that the person keeps the middle while swaying as they
/// did, and inside the picture (sources 7.1).
[[nodiscard]] std::vector<CropWindow> cropWindows(const rig::FramedPerson& person,
                                                  int widthPx,
                                                  int heightPx,
                                                  const rig::Choices& choices);

}  // namespace rigmatch::jobs
