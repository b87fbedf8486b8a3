// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/prepared_scene.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/constants.h"
#include "sim/ray_device.h"
#include "sim/surface_mesh.h"

namespace rigmatch::sim {
namespace {

constexpr double kNear = 1e-4;

/// The line stays farther from the middle than the square root of `reach`, or leads away from it.
bool passesBy(const Vec& from, const Vec& direction, double reach) {
    const double along = from.dot(direction);
    const double apart = from.squaredNorm();
    if (along > 0.0 && apart > reach) return true;
    const double length = direction.squaredNorm();
    return apart * length - along * along > reach * length;
}

void putRay(const Ray& ray, float farthest, RTCRay& into) {
    into.org_x = static_cast<float>(ray.origin.x());
    into.org_y = static_cast<float>(ray.origin.y());
    into.org_z = static_cast<float>(ray.origin.z());
    into.dir_x = static_cast<float>(ray.direction.x());
    into.dir_y = static_cast<float>(ray.direction.y());
    into.dir_z = static_cast<float>(ray.direction.z());
    into.tnear = static_cast<float>(kNear);
    into.tfar = farthest;
    into.mask = ~0U;
}

/// A vector turned by minus the box's yaw about the vertical, and back.
Vec intoBox(const Vec& v, double cosine, double sine) {
    return {cosine * v.x() - sine * v.z(), v.y(), sine * v.x() + cosine * v.z()};
}

}  // namespace

PreparedScene::PreparedScene(const Scene& scene) : m_scene(scene) {
    for (const Group& parts : scene.groups) {
        PreparedGroup group;
        group.isShadowing = parts.isShadowing;
        for (const Ellipsoid& part : parts.parts) {
            const Eigen::AngleAxisd turn(-part.yawDegrees * base::kRadiansPerDegree, Vec::UnitY());
            group.parts.push_back({part.radii.cwiseInverse().asDiagonal() * turn.toRotationMatrix(),
                                   part.centre,
                                   part.radii.maxCoeff() * part.radii.maxCoeff(),
                                   &part.material});
            group.centre += part.centre / static_cast<double>(parts.parts.size());
        }
        for (const Ellipsoid& part : parts.parts) {
            group.radius =
                std::max(group.radius, (part.centre - group.centre).norm() + part.radii.maxCoeff());
        }
        if (group.isShadowing) {
            m_shadowGroups.push_back(group);
            std::erase_if(m_shadowGroups.back().parts,
                          [](const Ball& ball) { return !ball.material->glow.isZero(); });
        }
        m_groups.push_back(std::move(group));
    }
    for (const Box& box : scene.boxes) {
        const double yaw = box.yawDegrees * base::kRadiansPerDegree;
        m_boxes.push_back({0.5 * (box.low + box.high),
                           0.5 * (box.high - box.low),
                           std::cos(yaw),
                           std::sin(yaw),
                           0.25 * (box.high - box.low).squaredNorm() * (1.0 + 1e-9),
                           &box.material,
                           box.isShadowing});
    }
    for (const PreparedBox& box : m_boxes) {
        if (box.isShadowing) m_shadowBoxes.push_back(box);
    }
    for (const Lamp& lamp : scene.lamps) m_lamps.emplace_back(lamp);
    addFigures();
}

PreparedScene::~PreparedScene() {
    if (m_figures != nullptr) rtcReleaseScene(m_figures);
}

void PreparedScene::addFigures() {
    if (m_scene.figures.empty()) return;
    m_figures = rtcNewScene(rayDevice());
    for (const Figure& figure : m_scene.figures) {
        RTCGeometry instance = rtcNewGeometry(rayDevice(), RTC_GEOMETRY_TYPE_INSTANCE);
        rtcSetGeometryInstancedScene(instance, figure.mesh->tree());
        const Vec x = figure.scale * figure.left, y = figure.scale * Vec::UnitY(),
                  z = figure.scale * figure.forward;
        std::array<float, 12> columns{};
        const std::array<Vec, 4> vectors{x, y, z, figure.origin};
        for (std::size_t column = 0; column < 4; ++column) {
            for (std::size_t row = 0; row < 3; ++row)
                columns[3 * column + row] =
                    static_cast<float>(vectors[column](static_cast<long>(row)));
        }
        rtcSetGeometryTransform(instance, 0, RTC_FORMAT_FLOAT3X4_COLUMN_MAJOR, columns.data());
        rtcCommitGeometry(instance);
        rtcAttachGeometry(m_figures, instance);
        rtcReleaseGeometry(instance);
    }
    rtcCommitScene(m_figures);
}

void PreparedScene::meetFigure(const Ray& ray, int object, Hit& hit) const {
    RTCRayHit meeting{};
    putRay(ray, static_cast<float>(std::min(hit.distance, 1e6)), meeting.ray);
    meeting.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    meeting.hit.instID[0] = RTC_INVALID_GEOMETRY_ID;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    rtcIntersect1(m_figures, &context, &meeting);
    if (meeting.hit.geomID == RTC_INVALID_GEOMETRY_ID) return;
    const Figure& figure = m_scene.figures[meeting.hit.instID[0]];
    hit.person = figure.person;
    hit.part = figure.part;
    const SurfaceMesh& mesh = *figure.mesh;
    const auto& corners = mesh.triangles()[meeting.hit.primID];
    const std::array<float, 3> shares{
        1.0F - meeting.hit.u - meeting.hit.v, meeting.hit.u, meeting.hit.v};
    SurfaceMesh::Corner normal = SurfaceMesh::Corner::Zero();
    hit.mixed = Material{{0, 0, 0}, 0.0, {0, 0, 0}, Surface::Plain};
    float most = -1.0F;
    for (std::size_t i = 0; i < 3; ++i) {
        normal += shares[i] * mesh.normals()[corners[i]];
        const Material& material = figure.palette[mesh.materials()[corners[i]]];
        hit.mixed.albedo += double(shares[i]) * material.albedo;
        hit.mixed.gloss += double(shares[i]) * material.gloss;
        if (shares[i] <= most) continue;
        most = shares[i];
        hit.mixed.surface = material.surface;
    }
    hit.distance = double(meeting.ray.tfar);
    constexpr int kMaterials = 32;  // of one figure, at most
    hit.object = object + kMaterials * static_cast<int>(meeting.hit.instID[0]);
    if (const Solid* crisp = mesh.crisp()) {
        const Vec from = ray.origin + hit.distance * ray.direction - figure.origin;
        const int material = crisp->materialAt(
            Vec(from.dot(figure.left), from.y(), from.dot(figure.forward)) / figure.scale);
        hit.mixed = figure.palette[static_cast<std::size_t>(material)];
        hit.object += material;
    }
    hit.normal = (double(normal.x()) * figure.left + double(normal.y()) * Vec::UnitY() +
                  double(normal.z()) * figure.forward)
                     .normalized();
    hit.isOnFigure = true;
}

Hit PreparedScene::nearest(const Ray& ray) const {
    Hit hit;
    int object = 0;
    for (const PreparedGroup& group : m_groups) {
        const bool isNear =
            !passesBy(ray.origin - group.centre, ray.direction, group.radius * group.radius);
        for (const Ball& part : group.parts) {
            ++object;
            if (isNear) meetBall(part, ray, object, hit);
        }
    }
    for (const PreparedBox& box : m_boxes) meetBox(box, ray, ++object, hit);
    if (m_figures != nullptr) meetFigure(ray, ++object, hit);
    return hit;
}

bool PreparedScene::isShadowed(const Vec& point, const Vec& lamp) const {
    const Ray ray{point, lamp - point};
    if (m_figures != nullptr) {
        RTCRay shadow{};
        putRay(ray, 0.999F, shadow);
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        rtcOccluded1(m_figures, &context, &shadow);
        if (shadow.tfar < 0.0F) return true;
    }
    for (const PreparedGroup& group : m_shadowGroups) {
        if (passesBy(point - group.centre, ray.direction, group.radius * group.radius)) continue;
        if (std::any_of(group.parts.begin(), group.parts.end(), [&](const Ball& part) {
                return isBallBefore(part, ray);
            })) {
            return true;
        }
    }
    return std::any_of(m_shadowBoxes.begin(), m_shadowBoxes.end(), [&](const PreparedBox& box) {
        return isBoxBefore(box, ray);
    });
}

void PreparedScene::meetBall(const Ball& ball, const Ray& ray, int object, Hit& hit) {
    const Vec from = ray.origin - ball.centre;
    if (passesBy(from, ray.direction, ball.reach)) return;
    const Vec origin = ball.toBall * from;
    const Vec direction = ball.toBall * ray.direction;
    const double a = direction.squaredNorm();
    const double b = origin.dot(direction);
    const double root = b * b - a * (origin.squaredNorm() - 1.0);
    if (root < 0.0) return;
    double distance = (-b - std::sqrt(root)) / a;
    if (distance < kNear) distance = (-b + std::sqrt(root)) / a;
    if (distance < kNear || distance >= hit.distance) return;
    hit.distance = distance;
    hit.material = ball.material;
    hit.object = object;
    hit.normal = (ball.toBall.transpose() * (origin + distance * direction)).normalized();
}

bool PreparedScene::isBallBefore(const Ball& ball, const Ray& ray) {
    const Vec from = ray.origin - ball.centre;
    if (passesBy(from, ray.direction, ball.reach)) return false;
    const Vec origin = ball.toBall * from;
    const Vec direction = ball.toBall * ray.direction;
    const double a = direction.squaredNorm();
    const double b = origin.dot(direction);
    const double root = b * b - a * (origin.squaredNorm() - 1.0);
    if (root < 0.0) return false;
    const double width = std::sqrt(root);
    const double enter = (-b - width) / a;
    const double leave = (-b + width) / a;
    return (enter > kNear && enter < 0.999) || (leave > kNear && leave < 0.999);
}

bool PreparedScene::isBoxBefore(const PreparedBox& box, const Ray& ray) {
    Vec origin = ray.origin - box.centre;
    Vec direction = ray.direction;
    if (box.sine != 0.0) {
        origin = intoBox(origin, box.cosine, box.sine);
        direction = intoBox(direction, box.cosine, box.sine);
    }
    double enter = kNear;
    double leave = 0.999;
    for (int k = 0; k < 3; ++k) {
        // Both ends on one side: no need to divide.
        const double end = origin(k) + direction(k);
        if ((origin(k) > box.half(k) && end > box.half(k)) ||
            (origin(k) < -box.half(k) && end < -box.half(k))) {
            return false;
        }
    }
    for (int k = 0; k < 3; ++k) {
        const double inverse = 1.0 / (std::abs(direction(k)) < 1e-12 ? 1e-12 : direction(k));
        const double first = (-box.half(k) - origin(k)) * inverse;
        const double second = (box.half(k) - origin(k)) * inverse;
        enter = std::max(enter, std::min(first, second));
        leave = std::min(leave, std::max(first, second));
        if (enter > leave) return false;
    }
    // From inside it would leave: only what is entered on the way counts.
    return enter > kNear;
}

void PreparedScene::meetBox(const PreparedBox& box, const Ray& ray, int object, Hit& hit) {
    Vec origin = ray.origin - box.centre;
    if (passesBy(origin, ray.direction, box.reach)) return;
    Vec direction = ray.direction;
    const bool isTurned = box.sine != 0.0;
    if (isTurned) {
        origin = intoBox(origin, box.cosine, box.sine);
        direction = intoBox(direction, box.cosine, box.sine);
    }
    double enter = -1e9;
    double leave = 1e9;
    int axis = 0;
    for (int k = 0; k < 3; ++k) {
        const double inverse = 1.0 / (std::abs(direction(k)) < 1e-12 ? 1e-12 : direction(k));
        double first = (-box.half(k) - origin(k)) * inverse;
        double second = (box.half(k) - origin(k)) * inverse;
        if (first > second) std::swap(first, second);
        if (first > enter) {
            enter = first;
            axis = k;
        }
        leave = std::min(leave, second);
    }
    if (enter > leave || enter < kNear || enter >= hit.distance) return;
    hit.distance = enter;
    hit.material = box.material;
    hit.object = object;
    hit.normal = Vec::Zero();
    hit.normal(axis) = direction(axis) > 0 ? -1.0 : 1.0;
    if (isTurned) hit.normal = intoBox(hit.normal, box.cosine, -box.sine);
}

}  // namespace rigmatch::sim
