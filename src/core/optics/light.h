// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/units.h"
#include "optics/exposure.h"

namespace rigmatch::optics {

/// Calibration of incident meters, lx: ISO 2720 (from memory) gives 250 for a flat receptor and
/// 320–340 for a dome. Faces and charts are flat receptors here.
inline constexpr double kFlatReceptor = 250.0;
inline constexpr double kDomeReceptor = 330.0;
/// One footcandle in lx.
inline constexpr double kLuxPerFootcandle = 10.764;

/// Illuminance that settings expose correctly: E = C N² / (t S) · 2^ND (sources 4.1), lx.
[[nodiscard]] double illuminanceFor(const ExposureSettings& settings,
                                    double calibration = kFlatReceptor);
/// Stops by which `lux` is over what the settings ask for; + is too bright.
[[nodiscard]] base::Stops overExposure(const ExposureSettings& settings, double lux);

/// Loss in glass of transmission T: -log2 T (sources 3.9). T in 0..1.
[[nodiscard]] base::Stops transmissionLoss(double transmission);
/// Stops of an optical density: D / log10(2) (sources 4.5).
[[nodiscard]] base::Stops densityStops(double opticalDensity);
/// Change when moving a lamp: 2 log2(d1 / d2) (sources 3.13).
[[nodiscard]] base::Stops distanceChange(double fromMetres, double toMetres);
/// What a disc of diameter a gives at distance d against the point law: d² / (d² + a²/4).
[[nodiscard]] base::Stops discLoss(double diameterMetres, double distanceMetres);
/// Angle under which a source is seen: its softness, degrees.
[[nodiscard]] double sourceAngleDegrees(double diameterMetres, double distanceMetres);
/// log2(P2 / P1), the same technology (sources 3.14).
[[nodiscard]] base::Stops powerChange(double fromWatts, double toWatts);
/// A linear dimmer's percent; many are not linear (common practice).
[[nodiscard]] base::Stops dimmerChange(double percent);

/// Lit side to shadow side in stops, from key and fill as they add in linear light (sources 3.12).
[[nodiscard]] base::Stops lightingRatio(double key, double fill);
/// Background against face: log2(E_wall / E_face) + log2(rho_wall / rho_skin) (sources 3.11).
[[nodiscard]] base::Stops backgroundRatio(double wallLux,
                                          double faceLux,
                                          double wallReflectance,
                                          double skinReflectance);

/// What a modifier takes from a lamp and how it spreads its light (sources 3.14, common practice;
/// makers' boxes differ by half a stop either way).
struct Modifier {
    std::string name;
    double lossStops = 0.0;    ///< middle of the range
    double spreadStops = 0.0;  ///< half of the range
    double beamDegrees = 0.0;  ///< what the light leaves with; 0: the lamp's own beam
    bool isSoft = false;
};
[[nodiscard]] const std::vector<Modifier>& modifiers();
/// The modifier of that name; "none" where it is not known.
[[nodiscard]] const Modifier& modifierOf(const std::string& name);
/// Loss and beam of an egg-crate grid (sources 3.14: 1–1.7 stops).
inline constexpr double kGridLossStops = 1.4;
inline constexpr double kGridBeamDegrees = 50.0;

}  // namespace rigmatch::optics
