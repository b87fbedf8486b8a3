// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "base/finding.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

/// What a camera looks through, as far as it was told.
struct CameraLens {
    double focalLengthMm = 0.0;
    double sensorWidthMm = 0.0;     ///< along the longer side of the picture
    double shortFocalMm = 0.0;      ///< of a zoom; 0 for a prime
    double longFocalMm = 0.0;       ///< of a zoom; 0 for a prime
    std::optional<double> fNumber;  ///< where it is known
};

/// A camera with what its turns are made of.
struct FramedCamera {
    std::string id;
    const rig::FramingReading* reading = nullptr;
    int width = 0, height = 0;             ///< px
    std::optional<CameraLens> lens;        ///< nothing: turns are said in shares of the picture
    std::optional<double> distanceMetres;  ///< to the person, from the plan
    std::string subjectId;                 ///< whom the plan aims it at; empty: not told
    std::string profile;                   ///< the picture profile it recorded in
    /// The darkest of its picture in the last take before, of the same profile (signal).
    std::optional<rig::Doubted> darkestBefore;

    /// px that stand for 45°; nothing without a lens.
    [[nodiscard]] std::optional<double> focalPx() const;
    /// From the plan, else from the size of the head, which is 23 cm chin to hair (common
    /// practice, ± 8 %); nothing without a lens.
    [[nodiscard]] std::optional<double> metresTo(const rig::FramedPerson& person) const;
};

/// Turns by pinhole formulas (sources 7.2): exact for a lens without distortion. Arguments:
/// "share" of the height or width, "degrees" and "centimetres" where the lens is told.

/// Brings what stands at `from` to `to`, shares of the height from the top: "tiltUp", "tiltDown".
[[nodiscard]] base::Advice tilt(const FramedCamera& camera,
                                const rig::FramedPerson& person,
                                double from,
                                double to);
/// The same across, shares of the width from the left: "panLeft", "panRight".
[[nodiscard]] base::Advice pan(const FramedCamera& camera,
                               const rig::FramedPerson& person,
                               double from,
                               double to);
/// Makes everything `ratio` times as large: "stepNearer", "stepBack", with "percent", "centimetres"
/// of the way, "focalFrom" and "focalTo" in mm where a zoom reaches it or the lens is a prime
/// (then "isPrime" is 1).
[[nodiscard]] base::Advice resize(const FramedCamera& camera,
                                  const rig::FramedPerson& person,
                                  double ratio);
/// Turns the camera about its axis: "rollClockwise", "rollAnticlockwise", seen from behind it.
[[nodiscard]] base::Advice level(double contentDegrees);
/// Brings the focus from behind the person to the eyes: "focusNearer", with "centimetres" where
/// lens, f-number and distance are known (blur of a thin lens).
[[nodiscard]] base::Advice focusNearer(const FramedCamera& camera,
                                       const rig::FramedPerson& person,
                                       double eyesPx,
                                       double sharpestPx);
/// How wide the edges of the ear that shows would be, px, were the focus before the eyes or behind.
struct EarWidths {
    double before = 0.0, behind = 0.0;
};
/// For eyes whose edges are that wide (thin lens; an ear lies 9.6 cm behind the eyes and 8.2 cm
/// beside them, common practice); nothing without lens, f-number and distance.
[[nodiscard]] std::optional<EarWidths> earWidths(const FramedCamera& camera,
                                                 const rig::FramedPerson& person,
                                                 double eyesPx);
/// Brings the focus from before the person to the eyes: "focusFurther", the same way, against edges
/// as a lens in focus has them.
[[nodiscard]] base::Advice focusFurther(const FramedCamera& camera,
                                        const rig::FramedPerson& person,
                                        double eyesPx);

}  // namespace rigmatch::framing
