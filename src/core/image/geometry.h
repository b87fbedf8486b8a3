// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <array>
#include <optional>
#include <span>

#include "image/pixel_rect.h"

namespace rigmatch::image {

/// A place in a picture, px: x right, y down, the centre of the top-left pixel is (0, 0).
struct Point {
    double x = 0.0;
    double y = 0.0;

    bool operator==(const Point&) const = default;
};

[[nodiscard]] double distancePx(Point first, Point second);

/// The whole pixels that hold all points and `margin` px around them; `points` must not be empty.
[[nodiscard]] PixelRect boundsOf(std::span<const Point> points, double margin = 0.0);

/// Plane-to-plane projective map.
class Homography {
public:
    /// The identity.
    Homography();
    explicit Homography(const Eigen::Matrix3d& matrix) : m_matrix(matrix) {}

    /// The least-squares map of `from[i]` to `to[i]` (direct linear transform on normalised
    /// points). Nothing for fewer than four pairs or when they lie on a line.
    [[nodiscard]] static std::optional<Homography> fit(std::span<const Point> from,
                                                       std::span<const Point> to);

    /// The map of the unit square's corners (0,0), (1,0), (1,1), (0,1) to those of a quad, in
    /// closed form (Heckbert 1989, from memory). Nothing where the last three lie on a line.
    [[nodiscard]] static std::optional<Homography> ofUnitSquare(const std::array<Point, 4>& quad);

    [[nodiscard]] Point apply(Point point) const;
    [[nodiscard]] Homography inverse() const;
    [[nodiscard]] Homography after(const Homography& first) const;
    /// False where the four corners of the given quad would fold over or run through infinity.
    [[nodiscard]] bool isSane(double width, double height) const;
    [[nodiscard]] const Eigen::Matrix3d& matrix() const { return m_matrix; }

private:
    Eigen::Matrix3d m_matrix;
};

/// Signed area of a quad, px²; positive when its corners run clockwise on the screen.
[[nodiscard]] double signedArea(const std::array<Point, 4>& quad);

}  // namespace rigmatch::image
