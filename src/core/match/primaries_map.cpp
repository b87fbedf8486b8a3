// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/primaries_map.h"

#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <utility>

namespace rigmatch::match {

PrimariesMap::PrimariesMap(ToneCurve curve, const colour::Matrix3& toBt709)
    : m_curve(std::move(curve)), m_to(toBt709), m_from(toBt709.inverse()) {}

std::array<double, 3> PrimariesMap::toBt709(const std::array<double, 3>& signal) const {
    return through(m_to, signal);
}

std::array<double, 3> PrimariesMap::fromBt709(const std::array<double, 3>& signal) const {
    return through(m_from, signal);
}

std::array<double, 3> PrimariesMap::through(const colour::Matrix3& matrix,
                                            const std::array<double, 3>& signal) const {
    colour::Vector3 light;
    for (std::size_t c = 0; c < 3; ++c)
        light(static_cast<long>(c)) = std::exp2(m_curve.stopsAt(signal[c]));
    const colour::Vector3 mixed = matrix * light;
    const double least = std::exp2(kCurveFloorStops);
    std::array<double, 3> coded{};
    for (std::size_t c = 0; c < 3; ++c)
        coded[c] = m_curve.signalAt(std::log2(std::max(mixed(static_cast<long>(c)), least)));
    return coded;
}

}  // namespace rigmatch::match
