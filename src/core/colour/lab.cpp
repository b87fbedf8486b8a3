// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/lab.h"

#include <cmath>
#include <numbers>

#include "base/constants.h"

namespace rigmatch::colour {
namespace {

double labForward(double t) {
    return t > 216.0 / 24389.0 ? std::cbrt(t) : (24389.0 / 27.0 * t + 16.0) / 116.0;
}

double labInverse(double f) {
    return f > 6.0 / 29.0 ? f * f * f : (116.0 * f - 16.0) * 27.0 / 24389.0;
}

double hueDegrees(double a, double b) {
    if (a == 0.0 && b == 0.0) return 0.0;
    const double hue = std::atan2(b, a) * base::kDegreesPerRadian;
    return hue < 0.0 ? hue + 360.0 : hue;
}

double cosDegrees(double angle) { return std::cos(angle / base::kDegreesPerRadian); }

double power7Ratio(double chroma) {
    const double power = std::pow(chroma, 7.0);
    return std::sqrt(power / (power + std::pow(25.0, 7.0)));
}

struct HuePair {
    double difference;  // degrees, signed
    double mean;        // degrees
};

HuePair huePair(double hue1, double hue2, bool hasNoHue) {
    if (hasNoHue) return {0.0, hue1 + hue2};
    double difference = hue2 - hue1;
    if (difference > 180.0) difference -= 360.0;
    if (difference < -180.0) difference += 360.0;
    double mean = 0.5 * (hue1 + hue2);
    if (std::abs(hue1 - hue2) > 180.0) mean += (hue1 + hue2 < 360.0) ? 180.0 : -180.0;
    return {difference, mean};
}

}  // namespace

Lab labOf(const Vector3& xyz, Chromaticity white) {
    const Vector3 reference = xyzOf(white);
    const double fx = labForward(xyz.x() / reference.x());
    const double fy = labForward(xyz.y() / reference.y());
    const double fz = labForward(xyz.z() / reference.z());
    return {116.0 * fy - 16.0, 500.0 * (fx - fy), 200.0 * (fy - fz)};
}

Vector3 xyzOf(const Lab& lab, Chromaticity white) {
    const double fy = (lab.lightness + 16.0) / 116.0;
    const Vector3 ratio(
        labInverse(fy + lab.a / 500.0), labInverse(fy), labInverse(fy - lab.b / 200.0));
    return ratio.cwiseProduct(xyzOf(white));
}

double deltaE2000(const Lab& first, const Lab& second) {
    const double meanChroma = 0.5 * (std::hypot(first.a, first.b) + std::hypot(second.a, second.b));
    const double stretch = 1.0 + 0.5 * (1.0 - power7Ratio(meanChroma));
    const double a1 = first.a * stretch;
    const double a2 = second.a * stretch;
    const double chroma1 = std::hypot(a1, first.b);
    const double chroma2 = std::hypot(a2, second.b);
    const HuePair hue =
        huePair(hueDegrees(a1, first.b), hueDegrees(a2, second.b), chroma1 * chroma2 == 0.0);

    const double deltaL = second.lightness - first.lightness;
    const double deltaC = chroma2 - chroma1;
    const double deltaH = 2.0 * std::sqrt(chroma1 * chroma2) *
                          std::sin(0.5 * hue.difference / base::kDegreesPerRadian);

    const double meanL = 0.5 * (first.lightness + second.lightness);
    const double meanC = 0.5 * (chroma1 + chroma2);
    const double t = 1.0 - 0.17 * cosDegrees(hue.mean - 30.0) + 0.24 * cosDegrees(2.0 * hue.mean) +
                     0.32 * cosDegrees(3.0 * hue.mean + 6.0) -
                     0.20 * cosDegrees(4.0 * hue.mean - 63.0);
    const double lightnessTerm = (meanL - 50.0) * (meanL - 50.0);
    const double weightL = 1.0 + 0.015 * lightnessTerm / std::sqrt(20.0 + lightnessTerm);
    const double weightC = 1.0 + 0.045 * meanC;
    const double weightH = 1.0 + 0.015 * meanC * t;
    const double turn = 30.0 * std::exp(-std::pow((hue.mean - 275.0) / 25.0, 2.0));
    const double rotation =
        -std::sin(2.0 * turn / base::kDegreesPerRadian) * 2.0 * power7Ratio(meanC);

    const double l = deltaL / weightL;
    const double c = deltaC / weightC;
    const double h = deltaH / weightH;
    return std::sqrt(std::max(0.0, l * l + c * c + h * h + rotation * c * h));
}

}  // namespace rigmatch::colour
