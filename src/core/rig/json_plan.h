// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "rig/choices.h"
#include "rig/json_object.h"
#include "rig/rig.h"
#include "rig/set_plan.h"

namespace rigmatch::rig {

// As json_values.h: readers throw JsonFailure with the place. The plan's fields come from the
// tables of plan_fields.h, so that file, command line and screen know the same ones.
[[nodiscard]] Json planJson(const SetPlan& plan);
[[nodiscard]] SetPlan readPlan(const Json& json, const std::string& place);
[[nodiscard]] Json choicesJson(const Choices& choices);
[[nodiscard]] Choices readChoices(const Json& json, const std::string& place);
[[nodiscard]] Json equipmentJson(const Equipment& equipment);
[[nodiscard]] Equipment readEquipment(const Json& json, const std::string& place);

}  // namespace rigmatch::rig
