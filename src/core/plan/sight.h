// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <initializer_list>
#include <string>
#include <string_view>
#include <vector>

#include "plan/geometry.h"

namespace rigmatch::plan {

/// Where a ray leaves the room: the wall, floor or ceiling it meets.
struct RoomHit {
    double distance = 0.0;  ///< m
    enum class Side { Back, Front, Left, Right, Floor, Ceiling } side = Side::Back;
};
[[nodiscard]] RoomHit roomHit(const rig::SetPlan& plan, const Vec& from, const Vec& direction);

/// The first surface of room or furniture that a ray meets; people do not count.
struct SurfaceHit {
    double distance = 0.0;
    Vec point{0, 0, 0};
    Vec normal{0, 0, 1};
    double reflectance = 0.5;
    std::string objectId;  ///< empty for the room itself
    std::string name;      ///< "back wall", or the object's name
    bool isWindow = false;
};
[[nodiscard]] SurfaceHit surfaceHit(const rig::SetPlan& plan,
                                    const Vec& from,
                                    const Vec& direction);

/// All that may stand between two points: flags, boards, furniture, backdrops, people's heads and
/// bodies. Made once for many questions.
class Obstacles {
public:
    explicit Obstacles(const rig::SetPlan& plan);

    /// Objects named in `exceptIds` do not count.
    [[nodiscard]] bool isBlocked(const Vec& from,
                                 const Vec& to,
                                 std::initializer_list<std::string_view> exceptIds) const;

private:
    struct Body {
        std::string id;
        Vec middle;
        double reach = 0.0;  ///< square of the radius about the middle that holds all of it
        bool isBall = false;
        std::array<Vec, 3> axes;
        Vec half;  ///< of a box along its axes; radii of a ball
    };
    std::vector<Body> m_bodies;
};

/// Kinds that have a body: table, riser, backdrop, prop.
[[nodiscard]] bool isSolid(rig::PlanKind kind);

}  // namespace rigmatch::plan
