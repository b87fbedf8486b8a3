// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/solid.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::sim {
namespace {

Eigen::Vector3d mirrored(const Eigen::Vector3d& place) {
    return {-place.x(), place.y(), place.z()};
}

}  // namespace

void Solid::grow(const Vec& low, const Vec& high) {
    m_low = m_low.cwiseMin(low);
    m_high = m_high.cwiseMax(high);
}

void Solid::addBall(const Vec& middle, const Vec& radii, int material, double blend) {
    m_parts.push_back({false, middle, radii, 0.0, 0.0, material, blend});
    grow(middle - radii, middle + radii);
}

void Solid::addCone(const Vec& from,
                    const Vec& to,
                    double fromRadius,
                    double toRadius,
                    int material,
                    double blend) {
    m_parts.push_back({true, from, to, fromRadius, toRadius, material, blend});
    grow(from.cwiseMin(to) - Vec::Constant(std::max(fromRadius, toRadius)),
         from.cwiseMax(to) + Vec::Constant(std::max(fromRadius, toRadius)));
}

void Solid::addBallPair(const Vec& middle, const Vec& radii, int material, double blend) {
    addBall(middle, radii, material, blend);
    addBall(mirrored(middle), radii, material, blend);
}

void Solid::addConePair(const Vec& from,
                        const Vec& to,
                        double fromRadius,
                        double toRadius,
                        int material,
                        double blend) {
    addCone(from, to, fromRadius, toRadius, material, blend);
    addCone(mirrored(from), mirrored(to), fromRadius, toRadius, material, blend);
}

void Solid::addLayer(const Vec& low, const Vec& high, double thickness, int material) {
    m_layers.push_back({low, high, thickness, material});
}

/// 1 inside the box, falling to 0 over two of its thicknesses at the border.
double Solid::Layer::share(const Vec& at) const {
    const double inside = std::min((at - low).minCoeff(), (high - at).minCoeff());
    return std::clamp(inside / (2.0 * thickness), 0.0, 1.0);
}

double Solid::Part::distance(const Vec& at) const {
    if (!isCone) {
        const Vec scaled = (at - a).cwiseQuotient(b);
        const double k = scaled.norm();
        if (k < 1e-6) return -b.minCoeff();
        // The ellipsoid's own value over its slope: first order.
        return k * (k - 1.0) / scaled.cwiseQuotient(b).norm();
    }
    const Vec axis = b - a, from = at - a;
    const double along = std::clamp(from.dot(axis) / axis.squaredNorm(), 0.0, 1.0);
    return (from - along * axis).norm() - (ra + along * (rb - ra));
}

double Solid::distance(const Vec& at) const {
    double nearest = 1e9;
    for (const Part& part : m_parts) {
        const double one = part.distance(at);
        // A polynomial smooth minimum: parts flow into each other over `blend`.
        const double apart = part.blend - std::abs(nearest - one);
        nearest = std::min(nearest, one);
        if (part.blend > 0.0 && apart > 0.0) nearest -= apart * apart / (4.0 * part.blend);
    }
    double thicker = 0.0;
    for (const Layer& layer : m_layers)
        thicker = std::max(thicker, layer.thickness * layer.share(at));
    return nearest - thicker;
}

Solid Solid::near(const Vec& at, double reach) const {
    std::vector<double> distances;
    double nearest = 1e9, blend = 0.0;
    for (const Part& part : m_parts) {
        distances.push_back(part.distance(at));
        nearest = std::min(nearest, distances.back());
        blend = std::max(blend, part.blend);
    }
    // Within the reach a part comes nearer by at most about the reach, and the nearest goes away
    // by as much; what flows together lies a quarter of the blend nearer. A little more, since
    // ellipsoids' distances are of first order.
    const double far = nearest + 1.5 * blend + 2.5 * reach;
    Solid result;
    for (std::size_t i = 0; i < m_parts.size(); ++i) {
        if (distances[i] <= far) result.m_parts.push_back(m_parts[i]);
    }
    result.m_layers = m_layers;
    return result;
}

int Solid::materialAt(const Vec& at) const {
    for (const Layer& layer : m_layers) {
        if (layer.share(at) > 0.5) return layer.material;
    }
    double nearest = 1e9;
    int material = 0;
    for (const Part& part : m_parts) {
        const double one = part.distance(at);
        if (one >= nearest) continue;
        nearest = one;
        material = part.material;
    }
    return material;
}

}  // namespace rigmatch::sim
