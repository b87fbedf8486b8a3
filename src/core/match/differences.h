// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "match/predict.h"
#include "rig/rig.h"

namespace rigmatch::match {

enum class Verdict { Good, Near, Off, Unknown };

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
    double uncertainty = 0.0;  ///< one standard deviation
    double good = 0.0;         ///< at most this far from neutral (0, or 1 for ratios) is good …
    double accept = 0.0;       ///< … and this far is near
    Verdict verdict = Verdict::Unknown;
    std::string reason;          ///< why it is unknown, or what limits it
    bool isBeyondChart = false;  ///< unknown because the chart in use never tells it: no fault
};

/// All differences of one camera against the reference.
struct CameraDifferences {
    std::string cameraId;
    std::array<Difference, kQualityCount> qualities;
    std::optional<Difference> sceneExposure;  ///< only where both curves are declared
    std::optional<NeutralFit> fit;
    ColourDifference colour;
    std::string worstPatch;
    std::vector<std::string> notes;  ///< what to know before trusting the board

    [[nodiscard]] const Difference& of(Quality quality) const {
        return qualities[static_cast<std::size_t>(quality)];
    }
    [[nodiscard]] Difference& of(Quality quality) {
        return qualities[static_cast<std::size_t>(quality)];
    }
};

/// Program defaults of the handbook's section 5.10.
[[nodiscard]] Difference toleranceOf(Quality quality);
/// Good, near or off, by the distance from neutral.
[[nodiscard]] Verdict verdictOf(const Difference& difference, bool isRatio);
[[nodiscard]] bool isRatio(Quality quality);
[[nodiscard]] std::string nameOf(Verdict verdict);

/// One side of a comparison: a reading and what its camera declares.
struct Side {
    const rig::Reading* reading = nullptr;          ///< null: not measured
    std::optional<colour::TransferCurve> declared;  ///< published or declared curve
    std::string missing;                            ///< why there is no reading
    std::optional<colour::ViewingLut> lut{};        ///< its viewing LUT, where judging asks for it
    bool isEvened = false;  ///< uneven light on the chart was taken out of the reading
};

/// The declared curve, or null.
[[nodiscard]] const colour::TransferCurve* declaredOf(const Side& side);

/// Definitions in docs/measurement.md. `judging` says by what ΔE2000 is compared; a camera without
/// a viewing LUT is judged as recorded. Whatever cannot be measured is Unknown with its reason;
/// never fails.
[[nodiscard]] CameraDifferences compare(const Side& camera, const Side& reference, Judging judging);

}  // namespace rigmatch::match
