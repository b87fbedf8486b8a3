// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/result.h"

namespace rigmatch::optics {

/// The active area of a sensor mode (16:9 area, stabiliser and high-rate crop taken off), mm.
struct SensorArea {
    double widthMm = 36.0;
    double heightMm = 20.25;

    [[nodiscard]] double diagonalMm() const;
    bool operator==(const SensorArea&) const = default;
};

/// A named sensor size to choose from (sources 3.3, from memory; bodies vary by some percent).
struct SensorFormat {
    std::string name;
    SensorArea area;
};
[[nodiscard]] const std::vector<SensorFormat>& sensorFormats();

/// 36 mm over the width: the usual crop factor, taken on the width.
[[nodiscard]] double cropFactor(const SensorArea& area);
/// Focal length that frames the same on a 36 mm wide sensor, mm.
[[nodiscard]] double equivalentFocalLength(double focalLengthMm, const SensorArea& area);
/// f-number that gives the same depth of field and blur at the same framing; never for exposure.
[[nodiscard]] double equivalentFNumber(double fNumber, const SensorArea& area);

/// Full angle that `extentMm` of the sensor sees: 2 atan(extent / 2f), degrees; exact for a
/// rectilinear lens focused far away (sources 3.2).
[[nodiscard]] double fieldOfViewDegrees(double extentMm, double focalLengthMm);
/// Width or height of the frame at the focused distance: extent (s - f) / f, in the unit of s, mm.
[[nodiscard]] double frameExtentMm(double extentMm, double focalLengthMm, double distanceMm);
/// Focal length for a wanted frame width W at distance s: w s / (W + w), mm.
[[nodiscard]] double focalLengthForWidth(double sensorWidthMm, double wantedMm, double distanceMm);
/// How much larger the near nose is shown than the far ears: (s + 0.1 m) / s (sources 3.1).
[[nodiscard]] double noseRatio(double distanceMetres);

/// A lens at work.
struct LensState {
    double focalLengthMm = 50.0;
    double fNumber = 2.8;  ///< nominal, as printed
    double distanceMm = 2000.0;
    SensorArea area;

    /// Focal 1..2000 mm, f/0.5..f/64, distance beyond the focal length and up to 1 km, sensor
    /// 2..100 mm. OutOfRange names field, value and range.
    [[nodiscard]] base::Result<void> validate() const;
};

/// Two schools of the circle of confusion (sources 3.4): normal viewing, diagonal / 1500; and
/// critical viewing, two pixels of the delivered picture.
[[nodiscard]] double circleOfConfusionMm(const SensorArea& area);
[[nodiscard]] double criticalCircleMm(const SensorArea& area, double deliveredWidthPx);

struct DepthOfField {
    double hyperfocalMm = 0.0;
    double nearMm = 0.0;
    std::optional<double> farMm;  ///< nothing: infinity
};
/// Hf = f² / (N c) + f, near and far limit from it (sources 3.4, published lens theory).
[[nodiscard]] base::Result<DepthOfField> depthOfField(const LensState& lens, double circleMm);

/// Blur disc of the background at `backgroundMm` on the sensor, as a share of the frame's width:
/// f² (D - s) / (N D (s - f)) / w (sources 3.5). 0 where the background is in focus.
[[nodiscard]] base::Result<double> backgroundBlurShare(const LensState& lens, double backgroundMm);

}  // namespace rigmatch::optics
