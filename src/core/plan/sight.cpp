// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/sight.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace rigmatch::plan {
namespace {

using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

constexpr double kFlagThickness = 0.01;
constexpr double kPaneThickness = 0.06;  // a pane counts within this of its wall

struct BoxHit {
    double share = 0.0;  ///< of the step
    Vec normal{0, 0, 1};
};

/// Where a ray from `from` along `step` enters a box turned about its middle.
std::optional<BoxHit> boxHit(const Vec& from,
                             const Vec& step,
                             const PlanObject& object,
                             double depth) {
    const Vec middle(object.xMetres, object.heightMetres + 0.5 * object.tallMetres, object.zMetres);
    const std::array<Vec, 3> axes{facingVector(object.facingDegrees + 90.0),
                                  Vec::UnitY(),
                                  facingVector(object.facingDegrees)};
    const Vec half(0.5 * object.widthMetres, 0.5 * object.tallMetres, 0.5 * depth);
    const Vec start = from - middle;
    BoxHit hit{-1e9, Vec::UnitY()};
    double leave = 1e9;
    for (std::size_t k = 0; k < 3; ++k) {
        const auto i = static_cast<long>(k);
        const double origin = start.dot(axes[k]);
        const double way = step.dot(axes[k]);
        if (std::abs(way) < 1e-12) {
            if (std::abs(origin) > half(i)) return std::nullopt;
            continue;
        }
        double first = (-half(i) - origin) / way;
        double second = (half(i) - origin) / way;
        if (first > second) std::swap(first, second);
        if (first > hit.share) hit = {first, way > 0.0 ? Vec(-axes[k]) : axes[k]};
        leave = std::min(leave, second);
    }
    if (hit.share >= leave || leave <= 0.0) return std::nullopt;
    return hit;
}

/// The line between two points stays farther from the middle than the root of `reach`.
bool passesBy(const Vec& from, const Vec& step, double length, double reach) {
    const double along = std::clamp(-from.dot(step) / length, 0.0, 1.0);
    return (from + along * step).squaredNorm() > reach;
}

bool isBallBetween(const Vec& from, const Vec& step, const Vec& radii) {
    const Vec origin = from.cwiseQuotient(radii);
    const Vec way = step.cwiseQuotient(radii);
    const double a = way.squaredNorm();
    const double b = origin.dot(way);
    const double root = b * b - a * (origin.squaredNorm() - 1.0);
    if (root < 0.0 || a < 1e-18) return false;
    const double enter = (-b - std::sqrt(root)) / a;
    return enter > 0.001 && enter < 0.999;
}

bool isBoxBetween(const Vec& from,
                  const Vec& step,
                  const std::array<Vec, 3>& axes,
                  const Vec& half) {
    double enter = -1e9;
    double leave = 1e9;
    for (std::size_t k = 0; k < 3; ++k) {
        const auto i = static_cast<long>(k);
        const double origin = from.dot(axes[k]);
        const double way = step.dot(axes[k]);
        if (std::abs(way) < 1e-12) {
            if (std::abs(origin) > half(i)) return false;
            continue;
        }
        const double first = (-half(i) - origin) / way;
        const double second = (half(i) - origin) / way;
        enter = std::max(enter, std::min(first, second));
        leave = std::min(leave, std::max(first, second));
        if (enter >= leave) return false;
    }
    return enter > 0.001 && enter < 0.999;
}

SurfaceHit roomSurface(const SetPlan& plan, const Vec& from, const Vec& direction) {
    using Side = RoomHit::Side;
    const RoomHit room = roomHit(plan, from, direction);
    SurfaceHit hit;
    hit.distance = room.distance;
    hit.point = from + room.distance * direction;
    hit.reflectance = plan.wallReflectance;
    switch (room.side) {
        case Side::Back:
            hit.normal = {0, 0, 1};
            hit.name = "back wall";
            break;
        case Side::Front:
            hit.normal = {0, 0, -1};
            hit.name = "front wall";
            break;
        case Side::Left:
            hit.normal = {1, 0, 0};
            hit.name = "left wall";
            break;
        case Side::Right:
            hit.normal = {-1, 0, 0};
            hit.name = "right wall";
            break;
        case Side::Floor:
            hit.normal = {0, 1, 0};
            hit.reflectance = plan.floorReflectance;
            hit.name = "floor";
            break;
        case Side::Ceiling:
            hit.normal = {0, -1, 0};
            hit.reflectance = plan.ceilingReflectance;
            hit.name = "ceiling";
            break;
    }
    return hit;
}

/// A window or door that a point on a wall lies in.
bool isInOpening(const PlanObject& opening, const Vec& point) {
    const Vec from = point - placeOf(opening);
    return std::abs(from.dot(facingVector(opening.facingDegrees))) < kPaneThickness &&
           std::abs(from.dot(facingVector(opening.facingDegrees + 90.0))) <=
               0.5 * opening.widthMetres &&
           from.y() >= 0.0 && from.y() <= opening.tallMetres;
}

}  // namespace

bool isSolid(PlanKind kind) {
    return kind == PlanKind::Table || kind == PlanKind::Riser || kind == PlanKind::Backdrop ||
           kind == PlanKind::Prop;
}

RoomHit roomHit(const SetPlan& plan, const Vec& from, const Vec& direction) {
    using Side = RoomHit::Side;
    const Vec size(plan.widthMetres, plan.heightMetres, plan.depthMetres);
    constexpr std::array<std::array<Side, 2>, 3> kSides{
        {{Side::Left, Side::Right}, {Side::Floor, Side::Ceiling}, {Side::Back, Side::Front}}};
    RoomHit hit{1e9, Side::Back};
    for (int k = 0; k < 3; ++k) {
        if (std::abs(direction(k)) < 1e-9) continue;
        const bool isFar = direction(k) > 0.0;
        const double distance = ((isFar ? size(k) : 0.0) - from(k)) / direction(k);
        if (distance > 1e-6 && distance < hit.distance) {
            hit = {distance, kSides[static_cast<std::size_t>(k)][isFar ? 1 : 0]};
        }
    }
    return hit;
}

SurfaceHit surfaceHit(const SetPlan& plan, const Vec& from, const Vec& direction) {
    SurfaceHit hit = roomSurface(plan, from, direction);
    for (const PlanObject& object : plan.objects) {
        if (object.kind == PlanKind::Window || object.kind == PlanKind::Door) {
            if (!hit.objectId.empty() || !isInOpening(object, hit.point)) continue;
            hit.objectId = object.id;
            hit.name = object.name;
            hit.isWindow = object.kind == PlanKind::Window && !object.isBlackedOut;
            if (object.kind == PlanKind::Door) hit.reflectance = object.reflectance;
        }
    }
    for (const PlanObject& object : plan.objects) {
        if (!isSolid(object.kind)) continue;
        const auto met = boxHit(from, direction, object, object.depthMetres);
        if (!met || met->share < 1e-4 || met->share >= hit.distance) continue;
        hit = {met->share,
               from + met->share * direction,
               met->normal,
               object.reflectance,
               object.id,
               object.name,
               false};
    }
    return hit;
}

Obstacles::Obstacles(const SetPlan& plan) {
    for (const PlanObject& object : plan.objects) {
        const bool isPanel = object.kind == PlanKind::Flag || object.kind == PlanKind::Bounce;
        if (isPanel || isSolid(object.kind)) {
            Body body;
            body.id = object.id;
            body.middle = placeOf(object) + Vec(0.0, 0.5 * object.tallMetres, 0.0);
            body.axes = {facingVector(object.facingDegrees + 90.0),
                         Vec::UnitY(),
                         facingVector(object.facingDegrees)};
            body.half = 0.5 * Vec(object.widthMetres,
                                  object.tallMetres,
                                  isPanel ? kFlagThickness : object.depthMetres);
            body.reach = body.half.squaredNorm();
            m_bodies.push_back(body);
        } else if (object.kind == PlanKind::Person) {
            const Head head = headOf(object);
            const Vec skull = Vec(0.08, 0.125, 0.09) * head.scale;
            const Vec chest(0.24, 0.27, 0.14);
            m_bodies.push_back({object.id, head.centre, skull.y() * skull.y(), true, {}, skull});
            m_bodies.push_back({object.id,
                                head.centre + Vec(0, -0.42, 0),
                                chest.y() * chest.y(),
                                true,
                                {},
                                chest});
        }
    }
}

bool Obstacles::isBlocked(const Vec& from,
                          const Vec& to,
                          std::initializer_list<std::string_view> exceptIds) const {
    const Vec step = to - from;
    const double length = std::max(step.squaredNorm(), 1e-12);
    return std::any_of(m_bodies.begin(), m_bodies.end(), [&](const Body& body) {
        const Vec start = from - body.middle;
        if (passesBy(start, step, length, body.reach)) return false;
        if (std::find(exceptIds.begin(), exceptIds.end(), body.id) != exceptIds.end()) return false;
        return body.isBall ? isBallBetween(start, step, body.half)
                           : isBoxBetween(start, step, body.axes, body.half);
    });
}

}  // namespace rigmatch::plan
