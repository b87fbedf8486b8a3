// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace rigmatch::rig {

/// What stands on the plan. Everything on it computes; there is no mere drawing.
enum class PlanKind {
    Person,
    Camera,
    Light,
    Window,
    Door,
    Table,
    Riser,
    Backdrop,
    Prop,
    Flag,
    Bounce,
    Chart,
};
inline constexpr std::array<PlanKind, 12> kPlanKinds{PlanKind::Person,
                                                     PlanKind::Camera,
                                                     PlanKind::Light,
                                                     PlanKind::Window,
                                                     PlanKind::Door,
                                                     PlanKind::Table,
                                                     PlanKind::Riser,
                                                     PlanKind::Backdrop,
                                                     PlanKind::Prop,
                                                     PlanKind::Flag,
                                                     PlanKind::Bounce,
                                                     PlanKind::Chart};

/// One thing on the plan. Places are metres: x from the left wall, z from the back wall toward the
/// camera side, heights above the floor. Angles are degrees on the plan: 0 looks from the back wall
/// toward the camera side, + turns toward the right wall. Which fields a kind has, with their
/// ranges, is told by planFields() (plan_fields.h); the others stay at their defaults.
struct PlanObject {
    std::string id;
    PlanKind kind = PlanKind::Person;
    std::string name;
    double xMetres = 0.0;
    double zMetres = 0.0;
    /// Person: eyes. Camera: lens. Light: lamp. Others: lower edge.
    double heightMetres = 0.0;
    double facingDegrees = 0.0;
    double widthMetres = 0.0;
    double depthMetres = 0.0;
    double tallMetres = 0.0;   ///< lower to upper edge
    double leanDegrees = 0.0;  ///< a chart leaning back, its face turned up
    /// The point that a camera or lamp is aimed at.
    double aimXMetres = 0.0;
    double aimZMetres = 0.0;
    double aimHeightMetres = 0.0;
    std::string targetId;  ///< person whose head the aim follows; empty: the point stays

    // Person
    double headMetres = 0.23;       ///< chin to crown
    double skinReflectance = 0.30;  ///< 0.10 dark … 0.35 light skin patch (sources 3.11)
    bool isStanding = false;
    bool looksToLens = false;  ///< speaks to the lens, not to a partner
    bool hasGlasses = false;
    bool hasHat = false;
    bool hasLongHair = false;     ///< to the shoulders
    bool hasRaisedHands = false;  ///< holds both before the chest

    // Camera
    std::string cameraId;  ///< the rig's camera that stands here
    std::string shot = "close";
    bool isSideMeant = false;  ///< a lone speaker is seen from the side on purpose
    double rollDegrees = 0.0;
    std::string glass = "none";
    double glassStops = 0.0;

    // Light
    std::string lightType = "LED panel";
    std::string modifier = "none";
    std::string mount = "stand";
    std::string circuitId;
    double luxAtOneMetre = 1000.0;  ///< on the axis, bare, at 100 %
    double powerWatts = 60.0;       ///< from the mains at 100 %
    double powerFactor = 0.95;
    double dimPercent = 100.0;
    double kelvin = 5600.0;
    double tintDuv = 0.0;
    double sourceMetres = 0.3;   ///< diameter of what shines
    double beamDegrees = 110.0;  ///< full angle at half intensity
    bool hasGrid = false;
    bool isOn = true;
    bool isFlickerFree = true;     ///< its light does not follow the mains
    bool isMeantToDiffer = false;  ///< in colour from the others, for contrast
    bool isInPicture = false;      ///< belongs in the picture: a tube, a sign, a screen

    // Window
    double luxAtGlass = 2000.0;  ///< daylight on the inner side of the bare glass
    double filmStops = 0.0;      ///< ND film or gel on the glass
    bool isBlackedOut = false;

    // Surfaces
    double reflectance = 0.18;
    std::string look = "plain";

    std::string unknownFields;

    bool operator==(const PlanObject&) const = default;
};

/// Shines in the picture on purpose: it is judged as a part of it, not as an accident.
[[nodiscard]] inline bool isPartOfPicture(const PlanObject& light) {
    return light.lightType == "practical lamp" || light.isInPicture;
}

struct Circuit {
    std::string id;
    std::string name = "Circuit 1";
    double volts = 230.0;
    double amps = 10.0;
    double otherWatts = 0.0;  ///< what else hangs on the breaker
    std::string unknownFields;

    bool operator==(const Circuit&) const = default;
};

/// A lens that the user owns.
struct OwnedLens {
    double shortFocalMm = 50.0;
    double longFocalMm = 50.0;  ///< the same for a prime
    double largestAperture = 1.8;
    std::string unknownFields{};

    bool operator==(const OwnedLens&) const = default;
};

/// The room and all that stands in it.
struct SetPlan {
    double widthMetres = 5.0;   ///< left wall to right wall
    double depthMetres = 4.5;   ///< back wall to front wall (behind the cameras)
    double heightMetres = 2.6;  ///< floor to ceiling
    double wallReflectance = 0.5;
    double ceilingReflectance = 0.7;
    double floorReflectance = 0.2;
    bool isInFeet = false;  ///< shown in feet; stored in metres
    std::vector<PlanObject> objects;
    std::vector<Circuit> circuits;
    std::vector<OwnedLens> lenses;
    std::string unknownFields;

    bool operator==(const SetPlan&) const = default;
};

inline constexpr std::size_t kMostPlanObjects = 200;

[[nodiscard]] const PlanObject* findObject(const SetPlan& plan, const std::string& id);
[[nodiscard]] PlanObject* findObject(SetPlan& plan, const std::string& id);
/// The place of a camera on the plan, or nullptr.
[[nodiscard]] const PlanObject* findPlanCamera(const SetPlan& plan, const std::string& cameraId);
[[nodiscard]] PlanObject* findPlanCamera(SetPlan& plan, const std::string& cameraId);
[[nodiscard]] const Circuit* findCircuit(const SetPlan& plan, const std::string& id);

/// An id that nothing on the plan has: "light-3".
[[nodiscard]] std::string freshObjectId(const SetPlan& plan, PlanKind kind);

/// "person", "camera", "light", …: as in files and on the command line.
[[nodiscard]] const char* kindName(PlanKind kind);
[[nodiscard]] std::optional<PlanKind> kindOfName(const std::string& name);

}  // namespace rigmatch::rig
