// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <string>
#include <vector>

#include "plan/sight.h"

namespace rigmatch::plan {

/// Linear BT.709 amounts of a light, scaled so that their luminance is 1; equal where the light has
/// the colour of the reference white (5600 K on the daylight dial).
[[nodiscard]] Vec lightColour(double kelvin, double tintDuv);

/// A patch of a source: points in space that shine one way.
struct SourcePoint {
    Vec position;
    double share = 1.0;  ///< of the source's strength
};

/// Something that gives light: a lamp, a window, a board.
struct Source {
    std::string objectId;
    Vec position{0, 2, 0};
    Vec axis{0, 0, 1};
    double candela = 1000.0;  ///< on the axis, after modifier, grid, dimmer and film
    double halfBeamDegrees = 60.0;
    bool isAllRound = false;  ///< a bare bulb or lantern: shines behind itself too
    double radiusMetres = 0.15;
    Vec colour{1, 1, 1};
    double kelvin = 5600.0;
    double tintDuv = 0.0;
    double uncertaintyStops = 0.2;
    bool isMeantToDiffer = false;  ///< in colour, by the user's own word
    /// What a lamp that is turned into a wall lights there: a disc of its own, listed beside the
    /// lamp under the same object.
    bool isOffWall = false;
    std::string surface{};            ///< of isOffWall: "left wall", or an object's name
    std::vector<SourcePoint> points;  ///< spread evenly over its surface

    /// Intensity toward a direction, cd: half at half the beam, none behind. An even disc of
    /// matt light, cos, has its half at 60°.
    [[nodiscard]] double intensityToward(const Vec& direction) const;
    /// All the light it gives, lm.
    [[nodiscard]] double flux() const;
};

/// What one source gives at a spot.
struct Contribution {
    std::string objectId;
    double lux = 0.0;
    double angleDegrees = 0.0;  ///< to the spot's normal
    bool isBlocked = false;     ///< wholly in the shadow of something
};

/// Light at a spot, source by source. Lamps add in linear light (sources 3.12).
struct SpotLight {
    double totalLux = 0.0;
    double roomLux = 0.0;  ///< the share that comes off walls, floor and ceiling
    std::vector<Contribution> sources;
    Vec colour{1, 1, 1};  ///< linear BT.709 of all of it, luminance 1

    /// A lamp's own light and what it lights on a wall together.
    [[nodiscard]] double luxOf(const std::string& objectId) const;
};

/// All light of a planned set.
///
/// Lamps: on-axis intensity is the level at one metre; modifier, grid and dimmer take their stops
/// (optics/light.h); a source of size shines from 12 points of its disc, so that the disc law, the
/// angle and half shadows come out together. Windows: matt panes of the lux behind the glass.
/// Boards: matt panes of the light they catch. A lamp that is turned into a wall lights a matt disc
/// there (docs/sources.md, 11.16). Room: what all of it leaves on the walls comes back evenly,
/// E = flux x rho / (A (1 - rho)) (integrating sphere, published).
class LightField {
public:
    explicit LightField(const rig::SetPlan& plan);

    /// `exceptId`: a person's own body does not shade the spot on it (the normal does).
    [[nodiscard]] SpotLight at(const Vec& point,
                               const Vec& normal,
                               const std::string& exceptId) const;

    [[nodiscard]] const std::vector<Source>& sources() const { return m_sources; }
    [[nodiscard]] const Obstacles& obstacles() const { return m_obstacles; }
    [[nodiscard]] const Source* sourceOf(const std::string& objectId) const;
    /// The disc on the wall that a lamp lights instead of a person; nullptr for the others.
    [[nodiscard]] const Source* wallDiscOf(const std::string& objectId) const;
    /// Light from the room's own surfaces, lx, and its colour.
    [[nodiscard]] double roomLux() const { return m_roomLux; }
    [[nodiscard]] const Vec& roomColour() const { return m_roomColour; }

private:
    void addBoards();
    void addWallDiscs();

    const rig::SetPlan& m_plan;
    Obstacles m_obstacles;
    std::vector<Source> m_sources;
    double m_roomLux = 0.0;
    Vec m_roomColour{1, 1, 1};
};

/// Level lost between bare lamp and what leaves it now, stops (negative): modifier, grid, dimmer.
[[nodiscard]] double lampLossStops(const rig::PlanObject& light);

}  // namespace rigmatch::plan
