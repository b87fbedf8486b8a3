// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <memory>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "image/frame.h"
#include "image/geometry.h"
#include "sim/defocus.h"

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
    Material material{};
};

/// Parts that stand close together, tested behind one bound.
struct Group {
    std::vector<Ellipsoid> parts;
    bool isShadowing = true;
};

class SurfaceMesh;

/// A body with a smooth surface, whose axes stand somewhere in the scene.
struct Figure {
    std::shared_ptr<const SurfaceMesh> mesh;
    Vec origin{0, 0, 0};
    Vec left{1, 0, 0};     ///< where its x points; y is up
    Vec forward{0, 0, 1};  ///< its z
    double scale = 1.0;
    std::vector<Material> palette;  ///< by the mesh's materials
    int person = -1;                ///< who it belongs to; -1: it never moves
    int part = 0;                   ///< of those that move apart; 0: the trunk
};

/// A box, turned about the vertical through its middle.
struct Box {
    Vec low{0, 0, 0};
    Vec high{1, 1, 1};
    Material material{};
    bool isShadowing = false;  ///< walls and floors need not be asked for shadows
    double yawDegrees = 0.0;
};

/// A source of some size: a disc that looks along its axis, or a pane. It falls off with the square
/// of the distance, point by point, and casts soft shadows.
struct Lamp {
    Vec position{0, 3, 0};
    Vec axis{0, -1, 0};
    double halfBeamDegrees = 60.0;  ///< half the intensity at this angle; a matt disc has 60°
    bool isAllRound = false;
    double radius = 0.3;           ///< m, of a disc
    Vec paneAcross{0, 0, 0};       ///< half the width of a pane, m; zero for a disc
    Vec paneUp{0, 0, 0};           ///< half its height
    Vec lightAtOneMetre{1, 1, 1};  ///< on the axis
};

struct Scene {
    std::vector<Group> groups;
    std::vector<Figure> figures;
    std::vector<Box> boxes;
    std::vector<Lamp> lamps;
    Vec ambient{0.05, 0.05, 0.05};
};

/// What a lens sees; without glass of its own an ideal one that draws everything sharp.
struct View {
    Vec position{0, 1, 3};
    Vec aim{0, 1, 0};
    double rollDegrees = 0.0;
    double horizontalViewDegrees = 40.0;
    int width = 1920;
    int height = 1080;
    Glass glass{};

    /// Focal length in px of the picture.
    [[nodiscard]] double focalPx() const;
    /// Picture of a point in front of the lens, px.
    [[nodiscard]] image::Point project(const Vec& point) const;
};

/// How much work goes into a picture.
struct RenderOptions {
    int lampRays = 8;            ///< points of a lamp asked per place
    int lampAgree = 3;           ///< of them that speak for all where they agree
    int mostShadowedLamps = 99;  ///< only the strongest cast shadows, 1 and more
    bool hasSmoothEdges = true;
    int threads = 2;
};

/// Light falling on a surface element, linear BT.709, without shadows.
[[nodiscard]] Vec irradiance(const Scene& scene, const Vec& point, const Vec& normal);

/// The scene as linear light. Fails with Cancelled.
[[nodiscard]] base::Result<image::Frame> render(const Scene& scene,
                                                const View& view,
                                                const base::Progress& progress,
                                                const RenderOptions& options = {});

/// What is seen of a part that moves, also behind others.
struct MovingPart {
    int person = 0;
    int part = 0;
    double metres = 0.0;   ///< along the axis, on average
    image::PixelRect box;  ///< of the picture; may reach beyond it
    image::Frame colour;   ///< times cover
    std::vector<float> cover;
    std::vector<float> height;  ///< m above the floor, times cover
};

/// A picture in which figures of people can be moved: the set as if they were not there but for
/// their shadows, and they by parts.
struct LayeredPicture {
    image::Frame set;
    std::vector<MovingPart> parts;
};

/// Fails with Cancelled.
[[nodiscard]] base::Result<LayeredPicture> renderLayers(const Scene& scene,
                                                        const View& view,
                                                        const base::Progress& progress,
                                                        const RenderOptions& options = {});

}  // namespace rigmatch::sim
