// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/lens.h"

#include <cmath>
#include <numbers>

#include "base/format.h"

namespace rigmatch::optics {
namespace {

using base::ErrorCode;

base::Result<void> within(
    const char* name, double value, double lowest, double highest, const char* unit) {
    if (std::isfinite(value) && value >= lowest && value <= highest) return {};
    return base::fail(ErrorCode::OutOfRange,
                      base::say("lens.cannotCompute", {{"name", name}}),
                      base::say("lens.givenAllowed",
                                {{"given",
                                  std::isfinite(value) ? base::asIs(base::fixed(value, 2))
                                                       : base::say("lens.noNumber")},
                                 {"unit", unit},
                                 {"lowest", base::Number{lowest, 1}},
                                 {"highest", base::Number{highest, 1}}}),
                      base::say("lens.correctLensSensor"));
}

}  // namespace

double SensorArea::diagonalMm() const { return std::hypot(widthMm, heightMm); }

const std::vector<SensorFormat>& sensorFormats() {
    static const std::vector<SensorFormat> kFormats{{"full frame", {36.0, 20.25}},
                                                    {"35 mm motion-picture type", {24.9, 14.0}},
                                                    {"1.5× crop type", {23.5, 13.2}},
                                                    {"1.6× crop type", {22.3, 12.5}},
                                                    {"4/3 type", {17.3, 9.73}},
                                                    {"1-inch type", {13.2, 7.43}},
                                                    {"phone main, 1/1.3 type", {9.8, 5.5}},
                                                    {"small, 1/2.55 type", {5.6, 3.15}}};
    return kFormats;
}

double cropFactor(const SensorArea& area) { return 36.0 / area.widthMm; }

double equivalentFocalLength(double focalLengthMm, const SensorArea& area) {
    return focalLengthMm * cropFactor(area);
}

double equivalentFNumber(double fNumber, const SensorArea& area) {
    return fNumber * cropFactor(area);
}

double fieldOfViewDegrees(double extentMm, double focalLengthMm) {
    return 2.0 * std::atan(extentMm / (2.0 * focalLengthMm)) * 180.0 / std::numbers::pi;
}

double frameExtentMm(double extentMm, double focalLengthMm, double distanceMm) {
    return extentMm * (distanceMm - focalLengthMm) / focalLengthMm;
}

double focalLengthForWidth(double sensorWidthMm, double wantedMm, double distanceMm) {
    return sensorWidthMm * distanceMm / (wantedMm + sensorWidthMm);
}

double noseRatio(double distanceMetres) { return (distanceMetres + 0.1) / distanceMetres; }

base::Result<void> LensState::validate() const {
    if (auto valid = within("focal length", focalLengthMm, 1.0, 2000.0, " mm"); !valid)
        return valid;
    if (auto valid = within("f-number", fNumber, 0.5, 64.0, ""); !valid) return valid;
    if (auto valid = within("sensor width", area.widthMm, 2.0, 100.0, " mm"); !valid) return valid;
    return within("distance", distanceMm, focalLengthMm * 1.05, 1e6, " mm");
}

double circleOfConfusionMm(const SensorArea& area) { return area.diagonalMm() / 1500.0; }

double criticalCircleMm(const SensorArea& area, double deliveredWidthPx) {
    return 2.0 * area.widthMm / deliveredWidthPx;
}

base::Result<DepthOfField> depthOfField(const LensState& lens, double circleMm) {
    if (auto valid = lens.validate(); !valid) return tl::unexpected(valid.error());
    if (auto valid = within("circle of confusion", circleMm, 0.0002, 1.0, " mm"); !valid) {
        return tl::unexpected(valid.error());
    }
    const double f = lens.focalLengthMm;
    const double s = lens.distanceMm;
    DepthOfField depth;
    depth.hyperfocalMm = f * f / (lens.fNumber * circleMm) + f;
    depth.nearMm = s * (depth.hyperfocalMm - f) / (depth.hyperfocalMm + s - 2.0 * f);
    if (s < depth.hyperfocalMm) {
        depth.farMm = s * (depth.hyperfocalMm - f) / (depth.hyperfocalMm - s);
    }
    return depth;
}

base::Result<double> backgroundBlurShare(const LensState& lens, double backgroundMm) {
    if (auto valid = lens.validate(); !valid) return tl::unexpected(valid.error());
    if (!(backgroundMm > lens.distanceMm)) return 0.0;
    const double f = lens.focalLengthMm;
    const double s = lens.distanceMm;
    const double blurMm = f * f * (backgroundMm - s) / (lens.fNumber * backgroundMm * (s - f));
    return blurMm / lens.area.widthMm;
}

}  // namespace rigmatch::optics
