// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/geometry.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/constants.h"

namespace rigmatch::plan {
namespace {

using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

// Proportions of the stand-in's head, m at scale 1 (0.26 m from chin to crown with hair).
constexpr double kModelHead = 0.26;
constexpr double kEyeUp = 0.010;
constexpr double kEyeOut = 0.082;
/// A part of the head in its own axes.
struct Part {
    Vec middle;
    Vec radii;
};
const std::array<Part, 2> kHair{Part{{0.0, 0.060, -0.032}, {0.0815, 0.0825, 0.086}},
                                Part{{0.0, 0.1065, 0.0172}, {0.0536, 0.0250, 0.0475}}};
const std::array<Part, 2> kJaw{Part{{0.0, -0.0982, 0.0606}, {0.0279, 0.0190, 0.0261}},
                               Part{{0.0, -0.0478, 0.0178}, {0.0639, 0.0690, 0.0712}}};
const std::array<Part, 2> kNose{Part{{0.0, -0.0409, 0.1063}, {0.0170, 0.0120, 0.0174}},
                                Part{{0.0, -0.0095, 0.0790}, {0.0120, 0.0223, 0.0190}}};
const Vec kCheek(0.0351, -0.0312, 0.0629);
const Vec kCheekRadii(0.0241, 0.0277, 0.0296);

/// A direction in the head's own axes.
Vec inHead(const Head& head, const Vec& direction) {
    return {direction.dot(head.left), direction.y(), direction.dot(head.forward)};
}

/// The point of the parts that lies farthest toward a direction: the edge of what is seen, from as
/// far away as lenses stand.
Vec farthest(const Head& head, const std::array<Part, 2>& parts, const Vec& direction) {
    const Vec toward = inHead(head, direction);
    Vec best = head.centre;
    double reach = -1e9;
    for (const Part& part : parts) {
        const Vec local = part.middle + part.radii.cwiseProduct(part.radii).cwiseProduct(toward) /
                                            part.radii.cwiseProduct(toward).norm();
        if (local.dot(toward) <= reach) continue;
        reach = local.dot(toward);
        best = head.at(local.x(), local.y(), local.z());
    }
    return best;
}

}  // namespace

Vec facingVector(double degrees) {
    return {std::sin(degrees * base::kRadiansPerDegree),
            0.0,
            std::cos(degrees * base::kRadiansPerDegree)};
}

double facingOf(const Vec& direction) {
    return std::atan2(direction.x(), direction.z()) / base::kRadiansPerDegree;
}

double angleBetween(const Vec& first, const Vec& second) {
    const double length = first.norm() * second.norm();
    if (length < 1e-12) return 0.0;
    return std::acos(std::clamp(first.dot(second) / length, -1.0, 1.0)) / base::kRadiansPerDegree;
}

Vec placeOf(const PlanObject& object) {
    return {object.xMetres, object.heightMetres, object.zMetres};
}

Vec aimOf(const PlanObject& object) {
    return {object.aimXMetres, object.aimHeightMetres, object.aimZMetres};
}

Vec chartNormal(const PlanObject& chart) {
    const double lean = chart.leanDegrees * base::kRadiansPerDegree;
    return std::cos(lean) * facingVector(chart.facingDegrees) + Vec(0.0, std::sin(lean), 0.0);
}

Head headOf(const PlanObject& person) {
    Head head;
    head.scale = person.headMetres / kModelHead;
    head.forward = facingVector(person.facingDegrees);
    head.left = facingVector(person.facingDegrees + 90.0);
    head.centre = placeOf(person) - Vec(0.0, kEyeUp * head.scale, 0.0);
    head.eyes = head.at(0.0, kEyeUp, kEyeOut);
    return head;
}

SkinSpot cheekOf(const PlanObject& person, FaceSide side) {
    const Head head = headOf(person);
    const double sign = side == FaceSide::Left ? 1.0 : -1.0;
    // The point of the cheekbone's ellipsoid whose normal is turned 45° outward.
    const Vec normal(sign * std::numbers::sqrt2 / 2.0, 0.0, std::numbers::sqrt2 / 2.0);
    const Vec squared = kCheekRadii.cwiseProduct(kCheekRadii).cwiseProduct(normal);
    const double length = kCheekRadii.cwiseProduct(normal).norm();
    const Vec local = Vec(sign * kCheek.x(), kCheek.y(), kCheek.z()) + squared / length;
    return {head.at(local.x(), local.y(), local.z()),
            normal.x() * head.left + normal.z() * head.forward};
}

SkinSpot foreheadOf(const PlanObject& person) {
    const Head head = headOf(person);
    return {head.at(0.0, 0.035, 0.083), head.forward};
}

bool isBehindNose(const Head& head, const Vec& spot, const Vec& point) {
    const Vec from = inHead(head, spot - head.centre) / head.scale;
    const Vec step = inHead(head, point - spot) / head.scale;
    return std::any_of(kNose.begin(), kNose.end(), [&](const Part& part) {
        const Vec origin = (from - part.middle).cwiseQuotient(part.radii);
        const Vec way = step.cwiseQuotient(part.radii);
        const double a = way.squaredNorm();
        const double b = origin.dot(way);
        const double root = b * b - a * (origin.squaredNorm() - 1.0);
        return root > 0.0 && -b > 0.0 && -b - std::sqrt(root) > 0.0;
    });
}

std::optional<HeadBox> headBox(const CameraView& view, const PlanObject& person) {
    const Head head = headOf(person);
    const Vec way = (head.centre - view.position()).normalized();
    // Up in the picture, at right angles to the line of sight to this head.
    const Vec up = (view.up() - view.up().dot(way) * way).normalized();
    const auto crown = view.project(farthest(head, kHair, up));
    const auto chin = view.project(farthest(head, kJaw, -up));
    const auto eyes = view.project(head.eyes);
    if (!crown || !chin || !eyes) return std::nullopt;
    return HeadBox{*crown, *chin, *eyes};
}

base::Result<CameraView> CameraView::of(const SetPlan& plan,
                                        const rig::Camera& camera,
                                        const PlanObject& place) {
    CameraView view;
    view.m_position = placeOf(place);
    const Vec toAim = aimOf(place) - view.m_position;
    if (toAim.norm() < 0.01) {
        return base::fail(base::ErrorCode::OutOfRange,
                          base::say("geometry.cameraNoDirection", {{"camera", camera.letter}}),
                          base::say("geometry.aimedOwnPlace"),
                          base::say("geometry.moveAimAway"));
    }
    view.m_forward = toAim.normalized();
    // Near straight down, the picture's top is the back wall.
    const Vec up = std::abs(view.m_forward.y()) > 0.98 ? Vec(0, 0, -1) : Vec(0, 1, 0);
    const Vec right = view.m_forward.cross(up).normalized();
    const Vec above = right.cross(view.m_forward);
    const double roll = place.rollDegrees * base::kRadiansPerDegree;
    view.m_right = std::cos(roll) * right + std::sin(roll) * above;
    view.m_up = std::cos(roll) * above - std::sin(roll) * right;
    view.m_focusMetres = toAim.norm();
    if (const PlanObject* subject = subjectOf(plan, place)) {
        const double depth = view.depthOf(headOf(*subject).eyes);
        if (depth > 0.1) view.m_focusMetres = depth;
    }
    const double crop = rig::cropAtRate(camera.sheet, camera.settings.frameRate);
    view.m_lens.focalLengthMm = camera.lens.focalLengthMm;
    view.m_lens.fNumber = camera.settings.fNumber;
    view.m_lens.distanceMm = view.m_focusMetres * 1000.0;
    view.m_lens.area = {camera.sensorWidthMm / crop, camera.sensorHeightMm / crop};
    if (auto valid = view.m_lens.validate(); !valid) return tl::unexpected(valid.error());
    const double distance = view.m_lens.distanceMm;
    view.m_halfWidth =
        0.5 * optics::frameExtentMm(view.m_lens.area.widthMm, view.m_lens.focalLengthMm, distance) /
        distance;
    const double aspect = double(std::max(camera.settings.height.value(), 1)) /
                          std::max(camera.settings.width.value(), 1);
    view.m_halfHeight = view.m_halfWidth * aspect;
    return view;
}

std::optional<PicturePoint> CameraView::project(const Vec& point) const {
    const Vec from = point - m_position;
    const double depth = from.dot(m_forward);
    if (depth < 0.01) return std::nullopt;
    return PicturePoint{0.5 + 0.5 * from.dot(m_right) / (depth * m_halfWidth),
                        0.5 - 0.5 * from.dot(m_up) / (depth * m_halfHeight)};
}

Vec CameraView::direction(const PicturePoint& at) const {
    return (m_forward + (2.0 * at.x - 1.0) * m_halfWidth * m_right +
            (1.0 - 2.0 * at.y) * m_halfHeight * m_up)
        .normalized();
}

double CameraView::horizontalDegrees() const {
    return 2.0 * std::atan(m_halfWidth) / base::kRadiansPerDegree;
}
double CameraView::verticalDegrees() const {
    return 2.0 * std::atan(m_halfHeight) / base::kRadiansPerDegree;
}

const PlanObject* subjectOf(const SetPlan& plan, const PlanObject& camera) {
    const PlanObject* target = rig::findObject(plan, camera.targetId);
    if (target != nullptr && target->kind == PlanKind::Person) return target;
    const Vec axis = aimOf(camera) - placeOf(camera);
    const PlanObject* nearest = nullptr;
    double least = 25.0;  // degrees off the axis that still count as "for this person"
    for (const PlanObject* person : objectsOf(plan, PlanKind::Person)) {
        const double angle = angleBetween(axis, placeOf(*person) - placeOf(camera));
        if (angle >= least) continue;
        least = angle;
        nearest = person;
    }
    return nearest;
}

std::vector<const PlanObject*> objectsOf(const SetPlan& plan, PlanKind kind) {
    std::vector<const PlanObject*> found;
    for (const PlanObject& object : plan.objects) {
        if (object.kind == kind) found.push_back(&object);
    }
    return found;
}

const PlanObject* partnerOf(const SetPlan& plan, const PlanObject& person) {
    const PlanObject* partner = nullptr;
    for (const PlanObject* other : objectsOf(plan, PlanKind::Person)) {
        if (other->id == person.id) continue;
        if (partner == nullptr || (placeOf(*other) - placeOf(person)).norm() <
                                      (placeOf(*partner) - placeOf(person)).norm()) {
            partner = other;
        }
    }
    return partner;
}

}  // namespace rigmatch::plan
