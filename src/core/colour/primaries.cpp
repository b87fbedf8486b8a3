// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/primaries.h"

#include <Eigen/Dense>

namespace rigmatch::colour {

Vector3 xyzOf(Chromaticity c) { return {c.x / c.y, 1.0, (1.0 - c.x - c.y) / c.y}; }

Chromaticity chromaticityOf(const Vector3& xyz) {
    const double sum = xyz.sum();
    return {xyz.x() / sum, xyz.y() / sum};
}

Matrix3 rgbToXyz(const Primaries& primaries) {
    Matrix3 columns;
    columns << xyzOf(primaries.red), xyzOf(primaries.green), xyzOf(primaries.blue);
    const Vector3 scale = columns.inverse() * xyzOf(primaries.white);
    return columns * scale.asDiagonal();
}

Matrix3 xyzToRgb(const Primaries& primaries) { return rgbToXyz(primaries).inverse(); }

Matrix3 bradford(Chromaticity from, Chromaticity to) {
    Matrix3 cone;
    cone << 0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296;
    const Vector3 gain = ((cone * xyzOf(to)).array() / (cone * xyzOf(from)).array()).matrix();
    return cone.inverse() * gain.asDiagonal() * cone;
}

}  // namespace rigmatch::colour
