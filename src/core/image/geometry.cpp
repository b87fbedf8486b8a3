// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/geometry.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace rigmatch::image {
namespace {

/// Centre at 0, mean distance sqrt(2): keeps the linear system well conditioned (Hartley 1997).
Eigen::Matrix3d normaliser(std::span<const Point> points) {
    Eigen::Vector2d centre(0.0, 0.0);
    for (const Point& p : points) centre += Eigen::Vector2d(p.x, p.y);
    centre /= static_cast<double>(points.size());
    double spread = 0.0;
    for (const Point& p : points) spread += std::hypot(p.x - centre.x(), p.y - centre.y());
    spread /= static_cast<double>(points.size());
    const double scale = spread > 0.0 ? std::sqrt(2.0) / spread : 1.0;
    Eigen::Matrix3d matrix;
    matrix << scale, 0, -scale * centre.x(), 0, scale, -scale * centre.y(), 0, 0, 1;
    return matrix;
}

Point mapped(const Eigen::Matrix3d& matrix, Point p) {
    const Eigen::Vector3d h = matrix * Eigen::Vector3d(p.x, p.y, 1.0);
    return {h.x() / h.z(), h.y() / h.z()};
}

}  // namespace

double distancePx(Point first, Point second) {
    return std::hypot(first.x - second.x, first.y - second.y);
}

PixelRect boundsOf(std::span<const Point> points, double margin) {
    double left = points[0].x, right = points[0].x, top = points[0].y, bottom = points[0].y;
    for (const Point& p : points) {
        left = std::min(left, p.x);
        right = std::max(right, p.x);
        top = std::min(top, p.y);
        bottom = std::max(bottom, p.y);
    }
    const int x = static_cast<int>(std::floor(left - margin));
    const int y = static_cast<int>(std::floor(top - margin));
    return {x,
            y,
            static_cast<int>(std::ceil(right + margin)) - x + 1,
            static_cast<int>(std::ceil(bottom + margin)) - y + 1};
}

Homography::Homography() : m_matrix(Eigen::Matrix3d::Identity()) {}

std::optional<Homography> Homography::fit(std::span<const Point> from, std::span<const Point> to) {
    if (from.size() != to.size() || from.size() < 4) return std::nullopt;
    const Eigen::Matrix3d normalFrom = normaliser(from);
    const Eigen::Matrix3d normalTo = normaliser(to);
    Eigen::Matrix<double, 9, 9> system = Eigen::Matrix<double, 9, 9>::Zero();
    for (std::size_t i = 0; i < from.size(); ++i) {
        const Point a = mapped(normalFrom, from[i]);
        const Point b = mapped(normalTo, to[i]);
        Eigen::Matrix<double, 2, 9> rows;
        rows << -a.x, -a.y, -1, 0, 0, 0, b.x * a.x, b.x * a.y, b.x,  //
            0, 0, 0, -a.x, -a.y, -1, b.y * a.x, b.y * a.y, b.y;
        system += rows.transpose() * rows;
    }
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix<double, 9, 9>> solver(system);
    if (solver.eigenvalues()(1) < 1e-12) return std::nullopt;
    const Eigen::Matrix<double, 9, 1> h = solver.eigenvectors().col(0);
    Eigen::Matrix3d matrix;
    matrix << h(0), h(1), h(2), h(3), h(4), h(5), h(6), h(7), h(8);
    matrix = normalTo.inverse() * matrix * normalFrom;
    if (std::abs(matrix(2, 2)) < 1e-12) return std::nullopt;
    return Homography(matrix / matrix(2, 2));
}

std::optional<Homography> Homography::ofUnitSquare(const std::array<Point, 4>& quad) {
    const auto& [p0, p1, p2, p3] = quad;
    const double dx1 = p1.x - p2.x, dx2 = p3.x - p2.x, sx = p0.x - p1.x + p2.x - p3.x;
    const double dy1 = p1.y - p2.y, dy2 = p3.y - p2.y, sy = p0.y - p1.y + p2.y - p3.y;
    const double determinant = dx1 * dy2 - dx2 * dy1;
    const double scale = std::hypot(dx1, dy1) * std::hypot(dx2, dy2);
    if (!(std::abs(determinant) > 1e-12 * scale)) return std::nullopt;
    const double g = (sx * dy2 - dx2 * sy) / determinant;
    const double h = (dx1 * sy - sx * dy1) / determinant;
    Eigen::Matrix3d matrix;
    matrix << p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x, p0.x,  //
        p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y, p0.y,        //
        g, h, 1.0;
    return Homography(matrix);
}

Point Homography::apply(Point point) const { return mapped(m_matrix, point); }

Homography Homography::inverse() const { return Homography(m_matrix.inverse()); }

Homography Homography::after(const Homography& first) const {
    return Homography(m_matrix * first.m_matrix);
}

bool Homography::isSane(double width, double height) const {
    const std::array<Point, 4> corners{Point{0, 0}, {width, 0}, {width, height}, {0, height}};
    std::array<Point, 4> quad{};
    double sign = 0.0;
    for (std::size_t i = 0; i < 4; ++i) {
        const double depth =
            m_matrix(2, 0) * corners[i].x + m_matrix(2, 1) * corners[i].y + m_matrix(2, 2);
        if (depth * (sign == 0.0 ? depth : sign) <= 1e-9) return false;
        sign = depth;
        quad[i] = apply(corners[i]);
    }
    double turn = 0.0;
    for (std::size_t i = 0; i < 4; ++i) {
        const Point a = quad[i];
        const Point b = quad[(i + 1) % 4];
        const Point c = quad[(i + 2) % 4];
        const double cross = (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);
        if (!std::isfinite(cross) || cross * (turn == 0.0 ? cross : turn) <= 0.0) return false;
        turn = cross;
    }
    return true;
}

double signedArea(const std::array<Point, 4>& quad) {
    double twice = 0.0;
    for (std::size_t i = 0; i < 4; ++i) {
        const Point a = quad[i];
        const Point b = quad[(i + 1) % 4];
        twice += a.x * b.y - b.x * a.y;
    }
    return 0.5 * twice;
}

}  // namespace rigmatch::image
