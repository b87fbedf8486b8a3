// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/shading.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>

#include "sim/random.h"

namespace rigmatch::sim {
namespace {

constexpr double kSmallLamp = 0.1;     // reach over distance below which two rays do
constexpr double kFaintShare = 0.004;  // of all light at a place: below it no shadow is seen

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

/// What one lamp would give without shadow, from its middle; a little where only its edge is seen.
double plainLight(const PreparedLamp& lamp, const Vec& point, const Vec& normal) {
    const Vec toLamp = lamp.middle() - point;
    const double height = normal.dot(toLamp);
    if (height + lamp.reach() <= 0.0) return 0.0;
    const double squared = toLamp.squaredNorm();
    const double inverse = 1.0 / std::sqrt(squared);
    const double facing = std::max(height, 0.1 * (height + lamp.reach())) * inverse;
    return facing * lamp.beamToward(-toLamp * inverse) / squared;
}

struct LampLight {
    double diffuse = 0.0;
    double gloss = 0.0;
};

/// A number that belongs to a place in the set: the grain of half shadows then lies still on things
/// while a camera moves. Cells of 1.5 mm.
std::uint64_t placeNumber(const Vec& place) {
    const auto cell = [](double metres) {
        return static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(metres / 0.0015)));
    };
    return Random(cell(place.x()) * 0x9E3779B1U + cell(place.y()) * 0x85EBCA77C2B2AE63U +
                  cell(place.z()) * 0xC2B2AE3D27D4EB4FU)
        .next();
}

/// Light of one lamp from up to `rays` of its points, beginning with the point `first`.
LampLight lampLight(const PreparedScene& scene,
                    const PreparedLamp& lamp,
                    const Vec& point,
                    const Vec& normal,
                    const Vec& view,
                    double gloss,
                    int rays,
                    int agree,
                    int first) {
    LampLight light;
    int open = 0;
    int used = 0;
    for (int k = 0; k < rays; ++k) {
        // A few rays that agree speak for all; only half shadows are worth more.
        if (k == agree && (open == 0 || open == agree)) break;
        ++used;
        const Vec from = rays == 1 ? lamp.middle() : lamp.point(first + k);
        const Vec toLamp = from - point;
        const double distance = toLamp.norm();
        const Vec way = toLamp / distance;
        const double facing = normal.dot(way);
        if (facing <= 0.0) continue;
        const double arriving = lamp.beamToward(-way) / (distance * distance);
        if (arriving <= 0.0) continue;
        if (scene.isShadowed(point, from)) continue;
        ++open;
        light.diffuse += arriving * facing;
        if (gloss > 0.0) {
            const double mirrored = std::max(0.0, (way + view).normalized().dot(normal));
            light.gloss += arriving * gloss * std::pow(mirrored, 40.0);
        }
    }
    light.diffuse /= used;
    light.gloss /= used;
    return light;
}

}  // namespace

Vec shade(const PreparedScene& prepared,
          const Ray& ray,
          const Hit& hit,
          const RenderOptions& options) {
    if (hit.material == nullptr && !hit.isOnFigure) return Vec::Constant(0.02);
    const Material& surface = hit.surface();
    const Vec point = ray.origin + hit.distance * ray.direction;
    const Vec normal = hit.normal.dot(ray.direction) > 0 ? Vec(-hit.normal) : hit.normal;
    const Vec view = -ray.direction.normalized();
    // Flat triangles under a smooth normal: a little farther out they do not shade themselves.
    const Vec off = point + (hit.isOnFigure ? 3e-3 : 1e-3) * normal;
    Vec light = prepared.scene().ambient;
    const auto first = static_cast<int>(placeNumber(point) % PreparedLamp::kPoints);
    Vec gloss = Vec::Zero();
    const auto& lamps = prepared.lamps();
    // The n-th strongest lamp here: weaker ones go without shadow rays.
    double weakest = 0.0;
    std::array<double, 64> strengths{};
    const std::size_t count = std::min(lamps.size(), strengths.size());
    for (std::size_t i = 0; i < count; ++i) {
        strengths[i] = plainLight(lamps[i], off, normal) * lamps[i].colour().y();
    }
    const auto shadowed = static_cast<std::size_t>(options.mostShadowedLamps);
    if (shadowed < count) {
        std::array<double, 64> sorted = strengths;
        const auto end = sorted.begin() + static_cast<long>(count);
        std::nth_element(sorted.begin(),
                         sorted.begin() + static_cast<long>(shadowed - 1),
                         end,
                         std::greater<>());
        weakest = sorted[shadowed - 1];
    }
    double all = light.y();
    for (std::size_t i = 0; i < count; ++i) all += strengths[i];
    for (std::size_t i = 0; i < count; ++i) {
        if (strengths[i] <= 1e-6) continue;
        if (strengths[i] < kFaintShare * all || strengths[i] < weakest) {
            light += strengths[i] / lamps[i].colour().y() * lamps[i].colour();
            continue;
        }
        const double distance = (lamps[i].middle() - off).norm();
        const bool isSmall = lamps[i].reach() < kSmallLamp * distance;
        const int rays = isSmall ? std::min(options.lampRays, 2) : options.lampRays;
        const LampLight given = lampLight(
            prepared, lamps[i], off, normal, view, surface.gloss, rays, options.lampAgree, first);
        light += given.diffuse * lamps[i].colour();
        gloss += given.gloss * lamps[i].colour();
    }
    return surfaceColour(surface, point).cwiseProduct(light) + gloss + surface.glow;
}

Vec irradiance(const Scene& scene, const Vec& point, const Vec& normal) {
    Vec light = scene.ambient;
    for (const Lamp& lamp : scene.lamps) {
        const PreparedLamp prepared(lamp);
        double sum = 0.0;
        for (int k = 0; k < PreparedLamp::kPoints; ++k) {
            const Vec toLamp = prepared.point(k) - point;
            const double distance = toLamp.norm();
            const double facing = std::max(0.0, normal.dot(toLamp) / distance);
            sum += facing * prepared.beamToward(-toLamp / distance) / (distance * distance);
        }
        light += lamp.lightAtOneMetre * (sum / PreparedLamp::kPoints);
    }
    return light;
}

}  // namespace rigmatch::sim
