// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "plan/analysis.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using rig::PlanKind;
using rig::PlanObject;

constexpr int kPoleSamples = 16;
constexpr int kEdgeSamples = 9;
constexpr double kBodyRadius = 0.09;  // of a camera with its lens
constexpr double kTripodSpread = 0.30;

struct Reach {
    bool isSeen = false;
    double left = 1.0, right = 1.0, top = 1.0, bottom = 1.0;  // how far in from each edge, at most
    double depth = 0.0;
};

/// How far the farthest of `points` reaches into the picture, from each of its edges.
Reach reachOf(const SetAnalysis& set,
              const PlacedCamera& camera,
              const std::vector<Vec>& points,
              const std::string& ownId) {
    Reach reach;
    double fromLeft = 0.0, fromRight = 0.0, fromTop = 0.0, fromBottom = 0.0;
    for (const Vec& point : points) {
        const auto at = camera.view->project(point);
        if (!at || !at->isInside()) continue;
        if (set.field().obstacles().isBlocked(camera.view->position(), point, {ownId})) continue;
        reach.isSeen = true;
        reach.depth = std::max(reach.depth, camera.view->depthOf(point));
        fromLeft = std::max(fromLeft, at->x);
        fromRight = std::max(fromRight, 1.0 - at->x);
        fromTop = std::max(fromTop, at->y);
        fromBottom = std::max(fromBottom, 1.0 - at->y);
    }
    reach.left = fromLeft;
    reach.right = fromRight;
    reach.top = fromTop;
    reach.bottom = fromBottom;
    return reach;
}

void addSeen(const SetAnalysis& set,
             const PlacedCamera& camera,
             const std::vector<Vec>& points,
             const PlanObject& object,
             const base::Text& text,
             std::vector<Intruder>& found) {
    const Reach reach = reachOf(set, camera, points, object.id);
    if (!reach.isSeen) return;
    Intruder intruder{object.id, text, "edge.left", reach.left};
    const double width = camera.view->widthAt(reach.depth);
    const double height = camera.view->heightAt(reach.depth);
    intruder.moveMetres = reach.left * width;
    const auto consider = [&](double share, double extent, const char* edge) {
        if (share * extent >= intruder.moveMetres) return;
        intruder.share = share;
        intruder.moveMetres = share * extent;
        intruder.edge = edge;
    };
    consider(reach.right, width, "edge.right");
    consider(reach.top, height, "edge.top");
    consider(reach.bottom, height, "edge.bottom");
    found.push_back(intruder);
}

std::vector<Vec> ballPoints(const Vec& middle, double radius) {
    return {middle,
            middle + Vec(radius, 0, 0),
            middle - Vec(radius, 0, 0),
            middle + Vec(0, radius, 0),
            middle - Vec(0, radius, 0),
            middle + Vec(0, 0, radius),
            middle - Vec(0, 0, radius)};
}

/// Points all over a lamp's head as it is drawn: a ball, or a disc a quarter as deep. Evenly spread
/// (golden-angle spiral), so that a head that reaches into a corner of the picture is seen although
/// its middle and its outermost points are not.
std::vector<Vec> lampPoints(const PlanObject& lamp) {
    constexpr int kPoints = 240;
    constexpr double kGolden = 2.399963229728653;  // pi (3 - sqrt 5)
    const Vec middle = placeOf(lamp);
    const double radius = 0.5 * lamp.sourceMetres;
    const double depth = lamp.modifier == "lantern" ? radius : 0.25 * radius;
    const Vec axis = facingVector(facingOf(aimOf(lamp) - middle));
    const Vec across = facingVector(facingOf(aimOf(lamp) - middle) + 90.0);
    std::vector<Vec> points{middle};
    for (int i = 0; i < kPoints; ++i) {
        const double up = 1.0 - 2.0 * (i + 0.5) / kPoints;
        const double around = std::sqrt(1.0 - up * up);
        points.push_back(middle + radius * around * std::cos(kGolden * i) * across +
                         radius * up * Vec::UnitY() +
                         depth * around * std::sin(kGolden * i) * axis);
    }
    return points;
}

std::vector<Vec> polePoints(const Vec& top) {
    std::vector<Vec> points;
    points.reserve(kPoleSamples);
    for (int i = 0; i < kPoleSamples; ++i) {
        points.emplace_back(top.x(), top.y() * i / kPoleSamples, top.z());
    }
    return points;
}

std::vector<Vec> tripodPoints(const PlanObject& place) {
    std::vector<Vec> points = polePoints(placeOf(place));
    for (int foot = 0; foot < 3; ++foot) {
        const Vec spread = kTripodSpread * facingVector(120.0 * foot);
        for (int i = 0; i < 5; ++i) {
            const double share = i / 5.0;
            points.emplace_back(place.xMetres + (1.0 - share) * spread.x(),
                                0.6 * place.heightMetres * share,
                                place.zMetres + (1.0 - share) * spread.z());
        }
    }
    return points;
}

std::vector<Vec> panelPoints(const PlanObject& panel) {
    const Vec across = facingVector(panel.facingDegrees + 90.0);
    std::vector<Vec> points;
    for (int i = 0; i < kEdgeSamples; ++i) {
        for (int j = 0; j < kEdgeSamples; ++j) {
            const double u = double(i) / (kEdgeSamples - 1) - 0.5;
            const double v = double(j) / (kEdgeSamples - 1);
            points.push_back(placeOf(panel) + u * panel.widthMetres * across +
                             Vec(0, v * panel.tallMetres, 0));
        }
    }
    return points;
}

/// How far a surface of the room reaches in from one edge of the picture: the largest share over
/// nine lines from that edge inward.
template <class IsThere>
double roomReach(const SetAnalysis& set,
                 const PlacedCamera& camera,
                 bool isFromTop,
                 bool isFar,
                 IsThere isThere) {
    double reach = 0.0;
    for (int line = 0; line < kEdgeSamples; ++line) {
        const double along = double(line) / (kEdgeSamples - 1);
        for (int step = 0; step <= 40; ++step) {
            const double in = step / 40.0;
            const double place = isFar ? 1.0 - in : in;
            const PicturePoint at =
                isFromTop ? PicturePoint{along, place} : PicturePoint{place, along};
            const SurfaceHit hit =
                surfaceHit(set.plan(), camera.view->position(), camera.view->direction(at));
            if (!isThere(hit)) break;
            reach = std::max(reach, in + 1.0 / 80.0);
        }
    }
    return reach;
}

void addRoom(const SetAnalysis& set, const PlacedCamera& camera, std::vector<Intruder>& found) {
    // A camera that looks steeply down or up shows floor or ceiling on purpose.
    if (std::abs(camera.view->forward().y()) > 0.7) return;
    const double ceiling = roomReach(
        set, camera, true, false, [](const SurfaceHit& hit) { return hit.name == "ceiling"; });
    if (ceiling > 0.0)
        found.push_back({"", base::say("intruders.ceiling"), "edge.top", ceiling, 0.0, true});
    const auto backdrops = objectsOf(set.plan(), PlanKind::Backdrop);
    if (backdrops.empty()) return;
    const PlanObject* backdrop = nullptr;
    const SurfaceHit middle =
        surfaceHit(set.plan(), camera.view->position(), camera.view->direction({0.5, 0.3}));
    for (const PlanObject* each : backdrops) {
        if (each->id == middle.objectId) backdrop = each;
    }
    if (backdrop == nullptr) return;
    const auto isBeyond = [&](const SurfaceHit& hit) {
        return hit.objectId.empty() && hit.name != "floor";
    };
    for (const bool isFar : {false, true}) {
        const double share = roomReach(set, camera, false, isFar, isBeyond);
        if (share <= 0.0) continue;
        const double depth = camera.view->depthOf(placeOf(*backdrop));
        found.push_back({backdrop->id,
                         base::say("intruders.endOf", {{"backdrop", nameOf(*backdrop)}}),
                         isFar ? "edge.right" : "edge.left",
                         share,
                         share * camera.view->widthAt(depth),
                         true});
    }
}

}  // namespace

std::vector<Intruder> SetAnalysis::intruders(const PlacedCamera& camera) const {
    std::vector<Intruder> found;
    if (!camera.view) return found;
    for (const PlanObject& object : plan().objects) {
        if (object.id == camera.place->id) continue;
        if (object.kind == PlanKind::Light && !rig::isPartOfPicture(object)) {
            addSeen(*this, camera, lampPoints(object), object, base::asIs(nameOf(object)), found);
            if (object.mount == "stand") {
                addSeen(*this,
                        camera,
                        polePoints(placeOf(object)),
                        object,
                        base::say("intruders.standOf", {{"lamp", nameOf(object)}}),
                        found);
            }
        } else if (object.kind == PlanKind::Camera) {
            const rig::Camera* other = rig::findCamera(m_rig, object.cameraId);
            const base::Text name =
                other == nullptr ? base::asIs(nameOf(object))
                                 : base::say("intruders.camera", {{"camera", other->letter}});
            std::vector<Vec> points = ballPoints(placeOf(object), kBodyRadius);
            const bool isOverhead =
                aimOf(object).y() <
                object.heightMetres - 0.7 * (aimOf(object) - placeOf(object)).norm();
            if (!isOverhead) {
                const std::vector<Vec> legs = tripodPoints(object);
                points.insert(points.end(), legs.begin(), legs.end());
            }
            addSeen(*this, camera, points, object, name, found);
        } else if (object.kind == PlanKind::Flag || object.kind == PlanKind::Bounce) {
            addSeen(*this, camera, panelPoints(object), object, base::asIs(nameOf(object)), found);
        }
    }
    addRoom(*this, camera, found);
    std::stable_sort(found.begin(), found.end(), [](const Intruder& a, const Intruder& b) {
        return a.share > b.share;
    });
    return found;
}

}  // namespace rigmatch::plan
