// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "sim/lamp_light.h"
#include "sim/ray_scene.h"

struct RTCSceneTy;

namespace rigmatch::sim {

struct Ray {
    Vec origin;
    Vec direction;
};

struct Hit {
    double distance = 1e9;
    Vec normal{0, 1, 0};
    const Material* material = nullptr;
    int object = -1;
    int person = -1, part = 0;  ///< Figure::person
    bool isOnFigure = false;    ///< then `mixed` is the material
    Material mixed{};
    [[nodiscard]] const Material& surface() const { return isOnFigure ? mixed : *material; }
};

/// A scene made ready for many rays. The scene must outlive it; const calls are thread-safe.
class PreparedScene {
public:
    explicit PreparedScene(const Scene& scene);
    ~PreparedScene();
    PreparedScene(const PreparedScene&) = delete;
    PreparedScene& operator=(const PreparedScene&) = delete;

    [[nodiscard]] Hit nearest(const Ray& ray) const;
    /// True where something stands between `point` and `lamp` (glowing things let light through).
    [[nodiscard]] bool isShadowed(const Vec& point, const Vec& lamp) const;
    [[nodiscard]] const Scene& scene() const { return m_scene; }
    [[nodiscard]] const std::vector<PreparedLamp>& lamps() const { return m_lamps; }

private:
    /// Rays are carried into the unit ball.
    struct Ball {
        Eigen::Matrix3d toBall;
        Vec centre;
        double reach;  ///< square of the largest radius
        const Material* material;
    };
    struct PreparedGroup {
        Vec centre{0, 0, 0};
        double radius = 0.0;
        std::vector<Ball> parts;
        bool isShadowing = true;
    };
    /// A box about the origin of its own axes.
    struct PreparedBox {
        Vec centre;
        Vec half;
        double cosine = 1.0;
        double sine = 0.0;
        double reach = 0.0;  ///< its corners' distance from the centre, squared; a hair more
        const Material* material;
        bool isShadowing = false;
    };

    void addFigures();
    void meetFigure(const Ray& ray, int object, Hit& hit) const;
    static void meetBall(const Ball& ball, const Ray& ray, int object, Hit& hit);
    static bool isBallBefore(const Ball& ball, const Ray& ray);
    static void meetBox(const PreparedBox& box, const Ray& ray, int object, Hit& hit);
    static bool isBoxBefore(const PreparedBox& box, const Ray& ray);

    const Scene& m_scene;
    std::vector<PreparedGroup> m_groups;
    std::vector<PreparedBox> m_boxes;
    std::vector<PreparedGroup> m_shadowGroups;  ///< copies of what casts shadows, to be run through
    std::vector<PreparedBox> m_shadowBoxes;
    std::vector<PreparedLamp> m_lamps;
    RTCSceneTy* m_figures = nullptr;  ///< null where the scene has none
};

}  // namespace rigmatch::sim
