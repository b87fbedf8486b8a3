// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/ray_scene.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <atomic>
#include <cmath>
#include <numbers>
#include <thread>

#include "sim/random.h"

namespace rigmatch::sim {
namespace {

constexpr double kNear = 1e-4;
constexpr double kFar = 1e9;
constexpr double kRadians = std::numbers::pi / 180.0;
constexpr int kEdgeSamples = 3;  // per side of a pixel on an edge

struct Ray {
    Vec origin;
    Vec direction;
};

struct Hit {
    double distance = kFar;
    Vec normal{0, 1, 0};
    const Material* material = nullptr;
    int object = -1;
};

/// An ellipsoid made ready: rays are carried into the unit ball.
struct PreparedEllipsoid {
    Eigen::Matrix3d toBall;
    Vec centre;
    const Material* material;
};

struct Group {
    Vec centre{0, 0, 0};
    double radius = 0.0;
    std::vector<PreparedEllipsoid> parts;
};

class PreparedScene {
public:
    explicit PreparedScene(const Scene& scene) : m_scene(scene) {
        for (const auto& parts : scene.groups) {
            Group group;
            for (const Ellipsoid& part : parts) {
                const Eigen::AngleAxisd turn(-part.yawDegrees * kRadians, Vec::UnitY());
                group.parts.push_back(
                    {part.radii.cwiseInverse().asDiagonal() * turn.toRotationMatrix(),
                     part.centre,
                     &part.material});
                group.centre += part.centre / static_cast<double>(parts.size());
            }
            for (const Ellipsoid& part : parts) {
                group.radius = std::max(
                    group.radius, (part.centre - group.centre).norm() + part.radii.maxCoeff());
            }
            m_groups.push_back(std::move(group));
        }
    }

    [[nodiscard]] Hit nearest(const Ray& ray) const {
        Hit hit;
        int object = 0;
        for (const Group& group : m_groups) {
            const bool isNear = meetsBound(group, ray);
            for (const PreparedEllipsoid& part : group.parts) {
                ++object;
                if (isNear) meetEllipsoid(part, ray, object, hit);
            }
        }
        for (const Box& box : m_scene.boxes) meetBox(box, ray, ++object, hit);
        return hit;
    }

    /// True where something stands between `point` and `lamp` (glowing things let light through).
    [[nodiscard]] bool isShadowed(const Vec& point, const Vec& lamp) const {
        const Ray ray{point, lamp - point};
        for (const Group& group : m_groups) {
            if (!meetsBound(group, ray)) continue;
            for (const PreparedEllipsoid& part : group.parts) {
                Hit hit;
                meetEllipsoid(part, ray, 0, hit);
                if (hit.distance < 0.999 && hit.material->glow.isZero()) return true;
            }
        }
        for (const Box& box : m_scene.boxes) {
            if (!box.isShadowing) continue;
            Hit hit;
            meetBox(box, ray, 0, hit);
            if (hit.distance < 0.999) return true;
        }
        return false;
    }

    [[nodiscard]] const Scene& scene() const { return m_scene; }

private:
    static bool meetsBound(const Group& group, const Ray& ray) {
        const Vec toCentre = group.centre - ray.origin;
        const double along = toCentre.dot(ray.direction) / ray.direction.squaredNorm();
        return (toCentre - along * ray.direction).squaredNorm() < group.radius * group.radius;
    }

    static void meetEllipsoid(const PreparedEllipsoid& part, const Ray& ray, int object, Hit& hit) {
        const Vec origin = part.toBall * (ray.origin - part.centre);
        const Vec direction = part.toBall * ray.direction;
        const double a = direction.squaredNorm();
        const double b = origin.dot(direction);
        const double root = b * b - a * (origin.squaredNorm() - 1.0);
        if (root < 0.0) return;
        double distance = (-b - std::sqrt(root)) / a;
        if (distance < kNear) distance = (-b + std::sqrt(root)) / a;
        if (distance < kNear || distance >= hit.distance) return;
        hit.distance = distance;
        hit.material = part.material;
        hit.object = object;
        hit.normal = (part.toBall.transpose() * (origin + distance * direction)).normalized();
    }

    static void meetBox(const Box& box, const Ray& ray, int object, Hit& hit) {
        double enter = -kFar;
        double leave = kFar;
        int axis = 0;
        for (int k = 0; k < 3; ++k) {
            const double inverse =
                1.0 / (std::abs(ray.direction(k)) < 1e-12 ? 1e-12 : ray.direction(k));
            double first = (box.low(k) - ray.origin(k)) * inverse;
            double second = (box.high(k) - ray.origin(k)) * inverse;
            if (first > second) std::swap(first, second);
            if (first > enter) {
                enter = first;
                axis = k;
            }
            leave = std::min(leave, second);
        }
        if (enter > leave || enter < kNear || enter >= hit.distance) return;
        hit.distance = enter;
        hit.material = &box.material;
        hit.object = object;
        hit.normal = Vec::Zero();
        hit.normal(axis) = ray.direction(axis) > 0 ? -1.0 : 1.0;
    }

    const Scene& m_scene;
    std::vector<Group> m_groups;
};

/// Grain that belongs to a place in the set, so that it stays put from frame to frame.
double ripple(const Vec& p) {
    return std::sin(p.x() * 17.1 + std::sin(p.y() * 11.3) + std::sin(p.z() * 13.7)) *
           std::sin(p.z() * 19.7 + std::sin(p.x() * 9.1));
}

Vec surfaceColour(const Material& material, const Vec& p) {
    double factor = 1.0;
    switch (material.surface) {
        case Surface::Plain:
            break;
        case Surface::Wood:
            factor = 0.94 +
                     0.04 * std::sin(140.0 * p.z() + 4.0 * std::sin(2.3 * p.x()) +
                                     1.5 * std::sin(7.0 * p.x())) +
                     0.02 * std::sin(61.0 * p.z() + 3.0 * std::sin(1.7 * p.x()));
            break;
        case Surface::Plaster:
            factor = 0.96 + 0.04 * ripple(1.7 * p);
            break;
        case Surface::Cloth:
            factor = 0.93 + 0.07 * std::sin(420.0 * p.x()) * std::sin(420.0 * p.y());
            break;
    }
    return material.albedo * factor;
}

Vec shade(const PreparedScene& prepared, const Ray& ray, const Hit& hit, Random& random) {
    if (hit.material == nullptr) return Vec::Constant(0.02);
    const Vec point = ray.origin + hit.distance * ray.direction;
    const Vec normal = hit.normal.dot(ray.direction) > 0 ? Vec(-hit.normal) : hit.normal;
    const Vec view = -ray.direction.normalized();
    const Vec off = point + 1e-3 * normal;
    const double sky = 0.6 + 0.4 * normal.y();
    Vec light = prepared.scene().ambient * sky;
    Vec gloss = Vec::Zero();
    for (const Lamp& lamp : prepared.scene().lamps) {
        const Vec toLamp = lamp.position - point;
        const double distance = toLamp.norm();
        // A large source wraps a little around the edge of a form.
        const double wrap = std::min(0.35, lamp.radius / distance);
        const double facing = std::max(0.0, (normal.dot(toLamp) / distance + wrap) / (1.0 + wrap));
        if (facing <= 0.0) continue;
        int open = 0;
        for (int k = 0; k < lamp.shadowRays; ++k) {
            const Vec jitter(random.between(-1, 1), random.between(-1, 1), random.between(-1, 1));
            if (!prepared.isShadowed(off, lamp.position + lamp.radius * jitter)) ++open;
        }
        if (open == 0) continue;
        const Vec arriving =
            lamp.lightAtOneMetre * (open / double(lamp.shadowRays) / (distance * distance));
        light += arriving * facing;
        const Vec middle = (toLamp / distance + view).normalized();
        gloss += arriving * hit.material->gloss * std::pow(std::max(0.0, middle.dot(normal)), 40.0);
    }
    return surfaceColour(*hit.material, point).cwiseProduct(light) + gloss + hit.material->glow;
}

/// The lens: direction of any point of the picture.
class Lens {
public:
    explicit Lens(const View& view) : m_view(view) {
        m_forward = (view.aim - view.position).normalized();
        const Vec up = std::abs(m_forward.y()) > 0.98 ? Vec(0, 0, -1) : Vec(0, 1, 0);
        const Vec right = m_forward.cross(up).normalized();
        const Vec above = right.cross(m_forward);
        const double roll = view.rollDegrees * kRadians;
        m_right = std::cos(roll) * right + std::sin(roll) * above;
        m_up = std::cos(roll) * above - std::sin(roll) * right;
        m_focalPx = 0.5 * view.width / std::tan(0.5 * view.horizontalViewDegrees * kRadians);
    }

    [[nodiscard]] Ray through(double x, double y) const {
        const double dx = x - 0.5 * (m_view.width - 1);
        const double dy = y - 0.5 * (m_view.height - 1);
        return {m_view.position, (m_forward * m_focalPx + m_right * dx - m_up * dy).normalized()};
    }

    [[nodiscard]] image::Point project(const Vec& point) const {
        const Vec from = point - m_view.position;
        const double depth = std::max(from.dot(m_forward), 1e-6);
        return {0.5 * (m_view.width - 1) + m_focalPx * from.dot(m_right) / depth,
                0.5 * (m_view.height - 1) - m_focalPx * from.dot(m_up) / depth};
    }

private:
    View m_view;
    Vec m_forward, m_right, m_up;
    double m_focalPx = 1.0;
};

void renderRows(const PreparedScene& scene,
                const Lens& lens,
                image::Frame& frame,
                std::vector<int>& objects,
                int y,
                bool isEdgePass) {
    Random random(static_cast<std::uint64_t>(y) * 2654435761U + (isEdgePass ? 1 : 0));
    const auto width = static_cast<std::size_t>(frame.width);
    const auto row = static_cast<std::size_t>(y) * width;
    for (std::size_t x = 0; x < width; ++x) {
        Vec colour = Vec::Zero();
        if (!isEdgePass) {
            const Ray ray = lens.through(static_cast<double>(x), y);
            const Hit hit = scene.nearest(ray);
            objects[row + x] = hit.object;
            colour = shade(scene, ray, hit, random);
        } else {
            const int own = objects[row + x];
            const bool isEdge = (x + 1 < width && objects[row + x + 1] != own) ||
                                (x > 0 && objects[row + x - 1] != own) ||
                                (y + 1 < frame.height && objects[row + width + x] != own) ||
                                (y > 0 && objects[row - width + x] != own);
            if (!isEdge) continue;
            for (int s = 0; s < kEdgeSamples * kEdgeSamples; ++s) {
                const double dx = ((s % kEdgeSamples) + 0.5) / kEdgeSamples - 0.5;
                const double dy = ((s / kEdgeSamples) + 0.5) / kEdgeSamples - 0.5;
                const Ray ray = lens.through(static_cast<double>(x) + dx, y + dy);
                colour +=
                    shade(scene, ray, scene.nearest(ray), random) / (kEdgeSamples * kEdgeSamples);
            }
        }
        for (std::size_t c = 0; c < 3; ++c)
            frame.channels[c][row + x] = static_cast<float>(colour(static_cast<long>(c)));
    }
}

}  // namespace

image::Point View::project(const Vec& point) const { return Lens(*this).project(point); }

Vec irradiance(const Scene& scene, const Vec& point, const Vec& normal) {
    Vec light = scene.ambient * (0.6 + 0.4 * normal.y());
    for (const Lamp& lamp : scene.lamps) {
        const Vec toLamp = lamp.position - point;
        const double distance = toLamp.norm();
        const double wrap = std::min(0.35, lamp.radius / distance);
        const double facing = std::max(0.0, (normal.dot(toLamp) / distance + wrap) / (1.0 + wrap));
        light += lamp.lightAtOneMetre * (facing / (distance * distance));
    }
    return light;
}

base::Result<image::Frame> render(const Scene& scene,
                                  const View& view,
                                  const base::Progress& progress) {
    const PreparedScene prepared(scene);
    const Lens lens(view);
    image::Frame frame = image::blankFrame(view.width, view.height);
    std::vector<int> objects(
        static_cast<std::size_t>(view.width) * static_cast<std::size_t>(view.height), -1);
    for (const bool isEdgePass : {false, true}) {
        std::atomic<int> nextRow{0};
        const auto work = [&](bool isReporting) {
            for (int y = nextRow++; y < view.height && !progress.isCancelled(); y = nextRow++) {
                renderRows(prepared, lens, frame, objects, y, isEdgePass);
                const double share = static_cast<double>(y) / view.height;
                if (isReporting && y % 16 == 0)
                    progress.report(isEdgePass ? 0.8 + 0.2 * share : 0.8 * share,
                                    "lighting the set");
            }
        };
        std::thread helper(work, false);
        work(true);
        helper.join();
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
    }
    return frame;
}

}  // namespace rigmatch::sim
