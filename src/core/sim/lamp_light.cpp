// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/lamp_light.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace rigmatch::sim {
namespace {

/// Van der Corput's sequence: any first n of its members lie evenly.
double radicalInverse(unsigned index, unsigned base) {
    double value = 0.0;
    double part = 1.0 / base;
    for (; index > 0; index /= base, part /= base) value += (index % base) * part;
    return value;
}

}  // namespace

PreparedLamp::PreparedLamp(const Lamp& lamp) : m_lamp(lamp) {
    const bool isPane = !lamp.paneAcross.isZero();
    const Vec up = std::abs(lamp.axis.y()) > 0.95 ? Vec(1, 0, 0) : Vec(0, 1, 0);
    const Vec across = lamp.axis.cross(up).normalized();
    const Vec along = across.cross(lamp.axis);
    for (unsigned i = 0; i < kPoints; ++i) {
        const double u = radicalInverse(i + 1, 2);
        const double v = radicalInverse(i + 1, 3);
        if (isPane) {
            m_points.push_back(lamp.position + (2.0 * u - 1.0) * lamp.paneAcross +
                               (2.0 * v - 1.0) * lamp.paneUp);
            continue;
        }
        const double radius = lamp.radius * std::sqrt(u);
        const double angle = 2.0 * std::numbers::pi * v;
        m_points.push_back(lamp.position +
                           radius * (std::cos(angle) * across + std::sin(angle) * along));
    }
    for (const Vec& point : m_points) m_reach = std::max(m_reach, (point - lamp.position).norm());
    for (std::size_t i = 0; i < kTable; ++i) {
        const double degrees =
            std::acos(static_cast<double>(i) / (kTable - 1)) * 180.0 / std::numbers::pi;
        const double share = degrees / lamp.halfBeamDegrees;
        m_table[i] = std::exp2(-share * share);
    }
}

}  // namespace rigmatch::sim
