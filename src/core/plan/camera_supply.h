// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "plan/fact.h"
#include "rig/rig.h"

namespace rigmatch::plan {

/// What a camera needs over the day, for sheetFacts(): cards, power, and its place in the sound.
[[nodiscard]] std::vector<Fact> storageFacts(const rig::Rig& rig, const rig::Camera& camera);
[[nodiscard]] Fact powerFact(const rig::Rig& rig, const rig::Camera& camera);
[[nodiscard]] Fact soundFact(const rig::Rig& rig, const rig::Camera& camera);

}  // namespace rigmatch::plan
