// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <vector>

namespace rigmatch::sim {

/// Parts that flow into each other: ellipsoids and rounded cones, joined by a smooth union, so that
/// a body made of them has no seam. Places in m, in the axes of what is built.
class Solid {
public:
    using Vec = Eigen::Vector3d;

    /// `blend`: m over which it flows into what is there already; `material`: what it is made of.
    void addBall(const Vec& middle, const Vec& radii, int material, double blend);
    /// From one end to the other, round at both.
    void addCone(const Vec& from,
                 const Vec& to,
                 double fromRadius,
                 double toRadius,
                 int material,
                 double blend);
    /// Each twice: as given, and with x turned over.
    void addBallPair(const Vec& middle, const Vec& radii, int material, double blend);
    void addConePair(const Vec& from,
                     const Vec& to,
                     double fromRadius,
                     double toRadius,
                     int material,
                     double blend);
    /// Cloth over whatever lies in the box: so much thicker, and of that material.
    void addLayer(const Vec& low, const Vec& high, double thickness, int material);

    /// Distance to the surface, m, negative inside: exact where it is near nothing, elsewhere of
    /// first order.
    [[nodiscard]] double distance(const Vec& at) const;
    /// What of it bears on the surface within `reach` m of a place: much less to ask there.
    [[nodiscard]] Solid near(const Vec& at, double reach) const;
    /// The material of the part that is nearest.
    [[nodiscard]] int materialAt(const Vec& at) const;
    [[nodiscard]] Vec low() const { return m_low; }
    [[nodiscard]] Vec high() const { return m_high; }

private:
    struct Part {
        bool isCone = false;
        Vec a{0, 0, 0};  ///< middle, or one end
        Vec b{0, 0, 0};  ///< radii, or the other end
        double ra = 0.0, rb = 0.0;
        int material = 0;
        double blend = 0.0;
        [[nodiscard]] double distance(const Vec& at) const;
    };
    struct Layer {
        Vec low, high;
        double thickness;
        int material;
        [[nodiscard]] double share(const Vec& at) const;
    };
    void grow(const Vec& low, const Vec& high);

    std::vector<Part> m_parts;
    std::vector<Layer> m_layers;
    Vec m_low{1e9, 1e9, 1e9}, m_high{-1e9, -1e9, -1e9};
};

}  // namespace rigmatch::sim
