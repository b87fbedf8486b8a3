// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "plan/geometry.h"

namespace rigmatch::plan {

/// A new object of a kind with usual sizes, in the middle of the room (windows and doors on the
/// nearest wall to `at`). Not yet on the plan.
[[nodiscard]] rig::PlanObject newObject(const rig::SetPlan& plan,
                                        rig::PlanKind kind,
                                        double xMetres,
                                        double zMetres);

/// Moves an object; its aim keeps its place, those that follow it come along. The place is held
/// inside the walls; windows and doors slide along the nearest wall.
void moveObject(rig::SetPlan& plan, const std::string& id, double xMetres, double zMetres);
/// Moves the height the same way.
void raiseObject(rig::SetPlan& plan, const std::string& id, double heightMetres);
/// Aims a camera or lamp at a point of the plan, keeping the aim's height; no longer follows
/// anyone.
void aimObject(rig::SetPlan& plan, const std::string& id, double xMetres, double zMetres);
/// Aims at a person's head (a camera so that the eyes lie on the upper third) and follows it.
void aimAtPerson(rig::SetPlan& plan,
                 const rig::Camera* camera,
                 const std::string& id,
                 const std::string& personId);
/// What is turned at a tripod: + is to the right, up, clockwise seen from behind, and nearer.
struct TripodTurn {
    double panDegrees = 0.0, tiltDegrees = 0.0, rollDegrees = 0.0;
    double nearerMetres = 0.0;  ///< along the lens's axis
};
/// Turns and moves a camera; whom it follows stays.
void turnCamera(rig::SetPlan& plan, const std::string& id, const TripodTurn& turn);
/// Rounds to the grid: 5 cm, or 2 in where the plan is in feet.
[[nodiscard]] double snapped(const rig::SetPlan& plan, double metres);

/// Copies of the objects, 0.3 m aside; gives their ids. Cameras are not copied: each rig camera
/// stands once.
std::vector<std::string> duplicateObjects(rig::SetPlan& plan, const std::vector<std::string>& ids);
void removeObject(rig::SetPlan& plan, const std::string& id);

enum class Alignment { X, Z, Height, Mirror };
/// Brings the objects to the first one's x, z or height; Mirror sets the second opposite to the
/// first about the middle between the people (or of the room), with the same height and a mirrored
/// aim, as B and C of a talk.
void alignObjects(rig::SetPlan& plan, const std::vector<std::string>& ids, Alignment alignment);

}  // namespace rigmatch::plan
