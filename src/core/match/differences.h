// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "match/predict.h"
#include "match/side_view.h"
#include "rig/rig.h"

namespace rigmatch::match {

using Verdict = base::Verdict;

enum class Quality {
    Exposure,
    WhiteBalance,
    Tint,
    Contrast,
    BlackLevel,
    Saturation,
    Hue,
    DeltaE,
    SkinLevel,
    SkinHue,
};
inline constexpr std::size_t kQualityCount = 10;

/// Camera minus reference (ratios: camera over reference), with what it is worth.
struct Difference {
    std::optional<double> value;
    double uncertainty = 0.0;  ///< one standard deviation, `floor` included
    double floor = 0.0;        ///< the part of it that scene and method add to what repeats
    double good = 0.0;         ///< at most this far from neutral (0, or 1 for ratios) is good …
    double accept = 0.0;       ///< … and this far is near
    Verdict verdict = Verdict::Unknown;
    base::Text reason;           ///< why it is unknown, or what limits it
    bool isBeyondChart = false;  ///< unknown because the chart in use never tells it: no fault
};

/// By what a camera's exposure is turned.
enum class ExposureBasis {
    Picture,    ///< grey to the reference's grey, as recorded
    Scene,      ///< light of the scene, both curves being known: two recordings to be converted
    Converted,  ///< grey to grey once the log or HLG recording is converted to a finished picture
    None,       ///< a log or HLG recording of unknown curve beside an unlike one
};

/// All differences of one camera against the reference.
struct CameraDifferences {
    std::string cameraId;
    std::array<Difference, kQualityCount> qualities;
    std::optional<Difference> sceneExposure;  ///< only where both curves are known
    ExposureBasis exposureBasis = ExposureBasis::Picture;
    /// The exposure that is judged and turned where it is not the camera-referred one: scene light,
    /// or the level after conversion.
    std::optional<Difference> turnedExposure;
    base::Text exposureReason;  ///< why there is no exposure to turn, or by what it is turned
    std::optional<NeutralFit> fit;
    ColourDifference colour;
    std::string worstPatch;
    std::vector<base::Text> notes;  ///< what to know before trusting the board

    /// The difference that the board judges: for exposure the one that turns are made by.
    [[nodiscard]] const Difference& judged(Quality quality) const {
        return quality == Quality::Exposure && turnedExposure ? *turnedExposure : of(quality);
    }
    [[nodiscard]] const Difference& of(Quality quality) const {
        return qualities[static_cast<std::size_t>(quality)];
    }
    [[nodiscard]] Difference& of(Quality quality) {
        return qualities[static_cast<std::size_t>(quality)];
    }
};

/// Program defaults of docs/sources.md, 5.10.
[[nodiscard]] Difference toleranceOf(Quality quality);
/// Good, near or off, by the distance from neutral; of ratios by that of their logarithm, so that
/// a ratio and its inverse are judged alike: good in 1/(1+good) … 1+good.
[[nodiscard]] Verdict verdictOf(const Difference& difference, bool isRatio);
[[nodiscard]] bool isRatio(Quality quality);
/// Step to which a difference is rounded, once, before it is judged and shown: a tenth of the last
/// place of its usual text.
[[nodiscard]] double resolutionOf(Quality quality);
/// Puts value, uncertainty (with `floor` in it) and verdict.
void setValue(
    Difference& difference, Quality quality, double value, double uncertainty, double floor = 0.0);
using base::nameOf;

/// Why two readings cannot be compared patch by patch: other grids, names or values of the patches
/// (a chart file edited between two measurements); nothing where they can.
[[nodiscard]] std::optional<base::Text> chartMismatch(const rig::Reading& camera,
                                                      const rig::Reading& reference);

/// Definitions in docs/measurement.md. `judging` says by what ΔE2000 is compared; a camera without
/// a viewing LUT is judged as recorded. Whatever cannot be measured is Unknown with its reason;
/// never fails.
[[nodiscard]] CameraDifferences compare(const Side& camera, const Side& reference, Judging judging);
/// The same with views made before (viewOf() of each side that has a reading).
[[nodiscard]] CameraDifferences compare(const Side& camera,
                                        const SideView& cameraView,
                                        const Side& reference,
                                        const SideView& referenceView,
                                        Judging judging);

}  // namespace rigmatch::match
