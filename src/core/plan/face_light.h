// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/text.h"
#include "plan/light_field.h"

namespace rigmatch::plan {

enum class LampRole { Key, Fill, Hair, Background, None };
/// "key", "fill", "hair light", "background light", "no light on this face".
[[nodiscard]] base::Text roleText(LampRole role);

/// What one source does for one person.
struct LampOnFace {
    std::string objectId;
    LampRole role = LampRole::None;
    double faceLux = 0.0;            ///< mean of cheeks and brow
    double hairLux = 0.0;            ///< on the back of the head
    double horizontalDegrees = 0.0;  ///< from where the face looks; + on the person's left
    double heightDegrees = 0.0;      ///< above the eyes
    double distanceMetres = 0.0;
};

/// Light on one face.
struct FaceLight {
    std::string personId;
    SpotLight left, right, brow, hair;
    std::vector<LampOnFace> lamps;
    std::optional<std::size_t> key;  ///< index into lamps
    double faceLux = 0.0;            ///< on the side that the key lights
    double ratioStops = 0.0;         ///< lit side to shadow side, cheek to cheek
    double ratioUncertainty = 0.0;
    FaceSide litSide = FaceSide::Left;
    double colourSpreadMired = 0.0;  ///< between sources that give more than 5 % of the face
    std::string warmestId, coolestId;
    std::vector<std::string> contrastIds;  ///< sources that are meant to differ

    [[nodiscard]] const LampOnFace* keyLamp() const { return key ? &lamps[*key] : nullptr; }
};
[[nodiscard]] FaceLight faceLight(const LightField& field, const rig::PlanObject& person);

/// The same face as one camera sees it.
struct FaceSeen {
    bool isInPicture = false;
    double seenLux = 0.0;  ///< mean over cheeks and brow, each by how much it is turned to the lens
    std::optional<double> ratioStops;       ///< lit to shadow where both cheeks are seen
    std::optional<double> keyAngleDegrees;  ///< on the plan, lens – face – key
    std::optional<double> backgroundStops;  ///< what is beside the head against the face
    std::string backgroundName;
    std::string backgroundLightId;  ///< what gives it most of its light; empty: the room
    double backgroundMetres = 0.0;  ///< from the lens, along the ray
    bool isWindowBehind = false;
};
[[nodiscard]] FaceSeen faceSeen(const rig::SetPlan& plan,
                                const LightField& field,
                                const FaceLight& light,
                                const rig::PlanObject& person,
                                const CameraView& view);

/// Direction from a face to something, + on the person's left, on the plan.
[[nodiscard]] double bearingFromFace(const rig::PlanObject& person, const Vec& point);

}  // namespace rigmatch::plan
