// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/lamp_flicker.h"

#include <algorithm>
#include <optional>

namespace rigmatch::rig {
namespace {

using Known = LampFlicker::Known;

/// What the newest take that shows the camera tells, if it was shot at this shutter and rate.
std::optional<LampFlicker> measured(const Rig& rig, const Camera& camera) {
    for (std::size_t i = rig.takes.size(); i-- > 0;) {
        const Take& take = rig.takes[i];
        const Shot* shot = findShot(take, camera.id);
        if (shot == nullptr || !shot->reading || shot->reading->isStill) continue;
        const bool isSame = shot->settings.shutterSeconds.isTold() &&
                            shot->settings.shutterSeconds == camera.settings.shutterSeconds &&
                            shot->settings.frameRate == camera.settings.frameRate;
        if (!isSame) return std::nullopt;
        for (const base::Warning& warning : shot->reading->warnings) {
            if (warning.code == "Flicker")
                return LampFlicker{Known::Seen, take.number, warning.text};
        }
        const bool isWatched = std::any_of(shot->reading->measuredBy.begin(),
                                           shot->reading->measuredBy.end(),
                                           [](const auto& one) { return one.name == "flicker"; });
        if (!isWatched) return std::nullopt;
        return LampFlicker{Known::NotSeen, take.number, {}};
    }
    return std::nullopt;
}

}  // namespace

LampFlicker lampFlicker(const Rig& rig, const Camera& camera) {
    if (auto found = measured(rig, camera)) return *found;
    if (!rig.plan) return {};
    bool hasLamp = false;
    for (const PlanObject& object : rig.plan->objects) {
        if (object.kind != PlanKind::Light || !object.isOn) continue;
        hasLamp = true;
        if (!object.isFlickerFree) return {};
    }
    return {hasLamp ? Known::LampsAreFree : Known::NoLampIsOn, 0, {}};
}

}  // namespace rigmatch::rig
