// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "plan/fact.h"
#include "rig/rig.h"

namespace rigmatch::plan {

/// A camera's shutter against 180° and against lamps that follow the mains (sources 4.3): what the
/// newest take at this shutter has shown outranks what the plan's lamps are said to be.
[[nodiscard]] Fact shutterFact(const rig::Rig& rig, const rig::Camera& camera);

}  // namespace rigmatch::plan
