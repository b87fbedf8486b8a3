// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "sim/solid.h"

struct RTCSceneTy;

namespace rigmatch::sim {

/// A solid's surface as triangles, with what a picture needs at every corner, ready for rays.
/// Immutable; const calls are thread-safe.
class SurfaceMesh {
public:
    /// `step`: m between the points at which the solid is asked. Corners lie on the surface itself
    /// (naive surface nets, then Newton's steps along the solid's slope).
    /// `isCrisp`: materials end where the solid's do, to the pixel, instead of softly from corner
    /// to corner.
    SurfaceMesh(const Solid& solid, double step, bool isCrisp = false);
    ~SurfaceMesh();
    SurfaceMesh(const SurfaceMesh&) = delete;
    SurfaceMesh& operator=(const SurfaceMesh&) = delete;

    using Corner = Eigen::Vector3f;
    [[nodiscard]] const std::vector<Corner>& corners() const { return m_corners; }
    [[nodiscard]] const std::vector<Corner>& normals() const { return m_normals; }
    [[nodiscard]] const std::vector<std::uint8_t>& materials() const { return m_materials; }
    [[nodiscard]] const std::vector<std::array<std::uint32_t, 3>>& triangles() const {
        return m_triangles;
    }
    /// Where materials end crisply: the solid that tells them; else null.
    [[nodiscard]] const Solid* crisp() const { return m_crisp ? &*m_crisp : nullptr; }
    /// For Embree, built once.
    [[nodiscard]] RTCSceneTy* tree() const { return m_tree; }

private:
    class Netting;
    void build();

    std::vector<Corner> m_corners, m_normals;
    std::vector<std::uint8_t> m_materials;
    std::vector<std::array<std::uint32_t, 3>> m_triangles;
    std::optional<Solid> m_crisp;
    RTCSceneTy* m_tree = nullptr;
};

}  // namespace rigmatch::sim
