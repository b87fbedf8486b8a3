// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/face_light.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/constants.h"
#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using rig::PlanObject;
using rig::SetPlan;
constexpr double kShareThatCounts = 0.05;

double wrapped(double degrees) {
    while (degrees > 180.0) degrees -= 360.0;
    while (degrees < -180.0) degrees += 360.0;
    return degrees;
}

SkinSpot hairSpot(const PlanObject& person) {
    const Head head = headOf(person);
    return {head.at(0.0, 0.11, -0.10), (Vec::UnitY() - head.forward).normalized()};
}

/// `from`: where its light comes from, the lamp itself or the wall it is turned into.
LampOnFace lampOnFace(const Source& source,
                      const Vec& from,
                      const FaceLight& light,
                      const PlanObject& person) {
    LampOnFace lamp;
    lamp.objectId = source.objectId;
    lamp.faceLux = (light.left.luxOf(source.objectId) + light.right.luxOf(source.objectId) +
                    light.brow.luxOf(source.objectId)) /
                   3.0;
    lamp.hairLux = light.hair.luxOf(source.objectId);
    const Vec way = from - placeOf(person);
    lamp.distanceMetres = way.norm();
    lamp.horizontalDegrees = bearingFromFace(person, from);
    lamp.heightDegrees =
        std::atan2(way.y(), std::hypot(way.x(), way.z())) / base::kRadiansPerDegree;
    return lamp;
}

void nameRoles(FaceLight& light) {
    for (std::size_t i = 0; i < light.lamps.size(); ++i) {
        if (light.lamps[i].faceLux <= 0.5) continue;
        if (!light.key || light.lamps[i].faceLux > light.lamps[*light.key].faceLux) light.key = i;
    }
    for (std::size_t i = 0; i < light.lamps.size(); ++i) {
        LampOnFace& lamp = light.lamps[i];
        const double keyLux = light.key ? light.lamps[*light.key].faceLux : 0.0;
        if (light.key == i) {
            lamp.role = LampRole::Key;
        } else if (lamp.hairLux > 0.25 * keyLux && lamp.hairLux > lamp.faceLux) {
            lamp.role = LampRole::Hair;
        } else if (lamp.faceLux > kShareThatCounts * keyLux) {
            lamp.role = LampRole::Fill;
        } else {
            lamp.role = LampRole::Background;
        }
    }
}

void rateCheeks(FaceLight& light, const LightField& field) {
    const double left = light.left.totalLux;
    const double right = light.right.totalLux;
    light.litSide = left >= right ? FaceSide::Left : FaceSide::Right;
    light.faceLux = std::max(left, right);
    const double shadow = std::min(left, right);
    light.ratioStops = shadow > 0.0 ? std::log2(light.faceLux / shadow) : 0.0;
    // A lamp that is stronger or weaker than stated moves the ratio by the difference of its
    // shares on the two sides; the room's own light is known to about half a stop.
    double variance = 0.0;
    const auto add = [&](double onLeft, double onRight, double stops) {
        const double moved =
            (left > 0.0 ? onLeft / left : 0.0) - (right > 0.0 ? onRight / right : 0.0);
        variance += moved * moved * stops * stops;
    };
    for (const Source& source : field.sources()) {
        // A lamp and its disc on the wall are one, the disc the less sure.
        if (!source.isOffWall && field.wallDiscOf(source.objectId) != nullptr) continue;
        add(light.left.luxOf(source.objectId),
            light.right.luxOf(source.objectId),
            source.uncertaintyStops);
    }
    add(light.left.roomLux, light.right.roomLux, 0.5);
    light.ratioUncertainty = std::sqrt(variance + 0.05 * 0.05);
}

/// Lamps that are meant to differ are left out.
void compareColours(FaceLight& light, const LightField& field) {
    const double total = light.left.totalLux + light.right.totalLux + light.brow.totalLux;
    double warmest = -1e9;
    double coolest = 1e9;
    for (const Source& source : field.sources()) {
        if (source.isOffWall) continue;
        const double lux = light.left.luxOf(source.objectId) + light.right.luxOf(source.objectId) +
                           light.brow.luxOf(source.objectId);
        if (lux < kShareThatCounts * total) continue;
        if (source.isMeantToDiffer) {
            light.contrastIds.push_back(source.objectId);
            continue;
        }
        const double mired = 1e6 / source.kelvin;
        if (mired > warmest) {
            warmest = mired;
            light.warmestId = source.objectId;
        }
        if (mired < coolest) {
            coolest = mired;
            light.coolestId = source.objectId;
        }
    }
    if (warmest > coolest) light.colourSpreadMired = warmest - coolest;
}

/// What is behind the head, on both sides of it, as the camera sees it.
void rateBackground(const SetPlan& plan,
                    const LightField& field,
                    const PlanObject& person,
                    const CameraView& view,
                    FaceSeen& seen) {
    const Vec toHead = headOf(person).centre - view.position();
    const Vec across = Vec(toHead.z(), 0.0, -toHead.x()).normalized();
    double sum = 0.0;
    double strongest = 0.0;
    int count = 0;
    for (const double side : {-1.0, 1.0}) {
        const Vec through = headOf(person).centre + side * 0.28 * across;
        const Vec direction = (through - view.position()).normalized();
        const SurfaceHit hit = surfaceHit(plan, view.position(), direction);
        if (hit.distance < toHead.norm()) continue;  // furniture before the person
        if (hit.isWindow) {
            seen.isWindowBehind = true;
            continue;
        }
        const SpotLight spot = field.at(hit.point + 0.01 * hit.normal, hit.normal, hit.objectId);
        sum += spot.totalLux * hit.reflectance;
        for (const Contribution& one : spot.sources) {
            if (one.lux <= strongest) continue;
            strongest = one.lux;
            seen.backgroundLightId = one.objectId;
        }
        ++count;
        seen.backgroundName = hit.name;
        seen.backgroundMetres = hit.distance;
    }
    if (count == 0 || seen.seenLux <= 0.0) return;
    seen.backgroundStops =
        std::log2(std::max(sum / count, 1e-3) / (seen.seenLux * person.skinReflectance));
}

}  // namespace

base::Text roleText(LampRole role) {
    switch (role) {
        case LampRole::Key:
            return base::say("role.key");
        case LampRole::Fill:
            return base::say("role.fill");
        case LampRole::Hair:
            return base::say("role.hair");
        case LampRole::Background:
            return base::say("role.background");
        case LampRole::None:
            break;
    }
    return base::say("role.none");
}

double bearingFromFace(const PlanObject& person, const Vec& point) {
    return wrapped(facingOf(point - placeOf(person)) - person.facingDegrees);
}

FaceLight faceLight(const LightField& field, const PlanObject& person) {
    FaceLight light;
    light.personId = person.id;
    const auto at = [&](const SkinSpot& spot) {
        return field.at(spot.point, spot.normal, person.id);
    };
    light.left = at(cheekOf(person, FaceSide::Left));
    light.right = at(cheekOf(person, FaceSide::Right));
    light.brow = at(foreheadOf(person));
    light.hair = at(hairSpot(person));
    for (const Source& source : field.sources()) {
        if (source.isOffWall) continue;  // stands for its lamp below
        const Source* disc = field.wallDiscOf(source.objectId);
        light.lamps.push_back(
            lampOnFace(source, disc != nullptr ? disc->position : source.position, light, person));
    }
    nameRoles(light);
    rateCheeks(light, field);
    compareColours(light, field);
    return light;
}

FaceSeen faceSeen(const SetPlan& plan,
                  const LightField& field,
                  const FaceLight& light,
                  const PlanObject& person,
                  const CameraView& view) {
    FaceSeen seen;
    const auto eyes = view.project(headOf(person).eyes);
    seen.isInPicture =
        eyes && eyes->isInside() &&
        !field.obstacles().isBlocked(view.position(), headOf(person).eyes, {person.id});
    if (!seen.isInPicture) return seen;
    double weights = 0.0;
    double cheeksSeen = 0;
    const std::array<std::pair<SkinSpot, const SpotLight*>, 3> spots{
        {{cheekOf(person, FaceSide::Left), &light.left},
         {cheekOf(person, FaceSide::Right), &light.right},
         {foreheadOf(person), &light.brow}}};
    for (std::size_t i = 0; i < spots.size(); ++i) {
        const auto& [spot, at] = spots[i];
        const double facing = spot.normal.dot((view.position() - spot.point).normalized());
        if (facing <= 0.05) continue;
        weights += facing;
        seen.seenLux += facing * at->totalLux;
        if (i < 2) ++cheeksSeen;
    }
    if (weights > 0.0) seen.seenLux /= weights;
    if (cheeksSeen == 2) seen.ratioStops = light.ratioStops;
    if (const LampOnFace* key = light.keyLamp()) {
        const Source* source = field.sourceOf(key->objectId);
        seen.keyAngleDegrees = std::abs(wrapped(facingOf(source->position - placeOf(person)) -
                                                facingOf(view.position() - placeOf(person))));
    }
    rateBackground(plan, field, person, view, seen);
    return seen;
}

}  // namespace rigmatch::plan
