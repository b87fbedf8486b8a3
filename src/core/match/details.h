// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>

#include "match/differences.h"
#include "match/skin.h"

namespace rigmatch::match {

/// A cast at one end of the tone scale against that of the middle greys.
struct LevelCast {
    Measured mired;  ///< + is warmer than the middle
    Measured duv;    ///< + is greener
};
/// What light and dark greys are tinted beyond the middle ones (neutral 6.5 to 3.5): the two
/// lightest, or neutral 3.5 and black. Nothing where they are clipped or the shift is beyond the
/// curve.
[[nodiscard]] std::optional<LevelCast> highlightCast(const rig::Reading& reading,
                                                     const NeutralFit& fit);
[[nodiscard]] std::optional<LevelCast> shadowCast(const rig::Reading& reading,
                                                  const NeutralFit& fit);

/// Colour of one sixth of the hue circle against the reference, exposure and white balance taken
/// out.
struct HueSector {
    std::string name;            ///< "red", "yellow", "green", "cyan", "blue", "magenta"
    Difference saturationRatio;  ///< tolerances of the whole: 5 and 10 %
    Difference hueDegrees;       ///< + anticlockwise
};
/// Sectors of 60° about the hues of the primaries and secondaries in the BT.709 Cb/Cr plane; a
/// sector without an unclipped patch says so. `camera` must have a fit (compare() gave it).
[[nodiscard]] std::array<HueSector, 6> hueSectors(const rig::Reading& camera,
                                                  const CameraDifferences& differences,
                                                  const rig::Reading& reference);

/// How unevenly the chart is lit: a plane through the patches' light, stops across its whole width
/// and height.
struct LightFall {
    Measured acrossStops;  ///< right edge against left edge
    Measured downStops;    ///< lower edge against upper edge

    /// The larger of both.
    [[nodiscard]] double size() const;
};
/// Light that each patch gives through the camera's own curve, against what the chart reflects
/// there. The curve itself comes from the grey row, which is lit as unevenly: the fit accounts for
/// that. Nothing where fewer than ten coloured patches are unclipped.
[[nodiscard]] std::optional<LightFall> lightFall(const rig::Reading& reading,
                                                 const NeutralFit& fit);

/// A plane of light over the chart, stops across its whole width and height.
struct LightPlane {
    double acrossStops = 0.0;
    double downStops = 0.0;
};
/// The light that all cameras of a take see alike: the mean of their planes, each weighted by its
/// uncertainty and by what a camera adds of its own (0.05 stop, own estimate). Nothing for none.
[[nodiscard]] std::optional<LightPlane> commonLight(const std::vector<LightFall>& falls);
/// `reading` as on an evenly lit chart: what each patch reflects is changed by `plane`; signals
/// stay.
[[nodiscard]] rig::Reading evened(const rig::Reading& reading, const LightPlane& plane);

/// `reading` with what each patch reflects changed by the fall of the light, so that curve and
/// exposure come out as on an evenly lit chart; signals stay. Nothing where the fall is under 0.1
/// stop (sources 5.9) or not four times its uncertainty.
[[nodiscard]] std::optional<rig::Reading> evened(const rig::Reading& reading);

/// Light that a veil of glare adds to the chart, as a share of diffuse white: the black patch above
/// its nominal 3.1 % once neutral 5 reads 19.15 % (sources 5.9). Needs the curve: `declared`.
[[nodiscard]] std::optional<Measured> veil(const rig::Reading& reading,
                                           const colour::TransferCurve& declared);

/// Drift of exposure and white balance while the chart rested.
struct Drift {
    Measured stops;
    Measured mired;
    double seconds = 0.0;  ///< watched
    /// More than 0.1 stop or 5 mired over the watched time, beyond its uncertainty (sources 5.8).
    bool isNotable = false;
};
[[nodiscard]] std::optional<Drift> driftOf(const rig::Reading& reading, const NeutralFit& fit);

/// Where the chart stands in the picture, and what that does to its light: lenses darken toward the
/// corners, so that a chart off the middle reads darker than the subject in it.
struct OffMiddle {
    double share = 0.0;         ///< of the way from the middle to a corner, 0..1
    double naturalStops = 0.0;  ///< 4 log2 cos of the angle off the axis (the cos^4 law): what
                                ///< even a perfect lens loses there
    bool isNotable = false;     ///< over 60 % of the way, or 0.1 stop lost
};
/// Nothing without a chart or a picture size.
[[nodiscard]] std::optional<OffMiddle> offMiddle(const rig::Reading& reading,
                                                 const rig::Camera& camera,
                                                 double framesPerSecond);

}  // namespace rigmatch::match
