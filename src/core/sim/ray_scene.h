// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "image/frame.h"
#include "image/geometry.h"

namespace rigmatch::sim {

using Vec = Eigen::Vector3d;

enum class Surface { Plain, Wood, Plaster, Cloth };

struct Material {
    Vec albedo{0.5, 0.5, 0.5};  ///< linear BT.709 reflectance
    double gloss = 0.0;         ///< strength of a soft highlight
    Vec glow{0.0, 0.0, 0.0};    ///< light it gives off
    Surface surface = Surface::Plain;
};

/// An ellipsoid, turned about the vertical.
struct Ellipsoid {
    Vec centre{0, 0, 0};
    Vec radii{1, 1, 1};  ///< m
    double yawDegrees = 0.0;
    Material material;
};

/// A box along the axes.
struct Box {
    Vec low{0, 0, 0};
    Vec high{1, 1, 1};
    Material material;
    bool isShadowing = false;  ///< walls and floors need not be asked for shadows
};

/// A lamp of some size: falls off with the square of the distance, casts soft shadows.
struct Lamp {
    Vec position{0, 3, 0};
    double radius = 0.3;  ///< m
    Vec lightAtOneMetre{1, 1, 1};
    int shadowRays = 1;
};

struct Scene {
    std::vector<std::vector<Ellipsoid>>
        groups;  ///< parts that stand close together, tested behind one bound
    std::vector<Box> boxes;
    std::vector<Lamp> lamps;
    Vec ambient{0.05, 0.05, 0.05};
};

/// An ideal lens without distortion.
struct View {
    Vec position{0, 1, 3};
    Vec aim{0, 1, 0};
    double rollDegrees = 0.0;
    double horizontalViewDegrees = 40.0;
    int width = 1920;
    int height = 1080;

    /// Picture of a point in front of the lens, px.
    [[nodiscard]] image::Point project(const Vec& point) const;
};

/// Light falling on a surface element, linear BT.709, without the shadow of what is not in the
/// scene.
[[nodiscard]] Vec irradiance(const Scene& scene, const Vec& point, const Vec& normal);

/// The scene as linear light, edges smoothed. Uses two threads; fails with Cancelled.
[[nodiscard]] base::Result<image::Frame> render(const Scene& scene,
                                                const View& view,
                                                const base::Progress& progress);

}  // namespace rigmatch::sim
