// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <string>
#include <vector>

#include "base/text.h"
#include "base/units.h"

namespace rigmatch::optics {

/// What decides how bright a camera records a given light.
struct ExposureSettings {
    double isoValue = 800.0;             ///< exposure index, > 0
    double shutterSeconds = 1.0 / 50.0;  ///< exposure time, > 0
    double fNumber = 2.8;                ///< nominal f-number (or T-stop where known), > 0
    double ndStops = 0.0;                ///< neutral density in the light path, stops
    double gainDb = 0.0;                 ///< of bodies that state a gain instead of an ISO

    bool operator==(const ExposureSettings&) const = default;
};

/// Decibels of gain that double a signal, 20 log10(2) (sources 4.1).
inline const double kDecibelsPerStop = 20.0 * std::log10(2.0);

/// Brightness change from one setting to another, + is brighter (sources 4.1):
/// 2 log2(N1/N2) + log2(t2/t1) + log2(S2/S1) - (ND2 - ND1) + (G2 - G1)/6.02, with exact series
/// values behind nominal ones.
[[nodiscard]] base::Stops exposureChange(const ExposureSettings& from, const ExposureSettings& to);

/// The exact value behind a nominal scale number: f/5.6 is 2^(5/2) = 5.657; a number within 0.1
/// stop of a third-stop series member counts as that member, others stay as they are.
[[nodiscard]] double exactFNumber(double nominal);
/// The same for ISO: 100 x 2^(i/3).
[[nodiscard]] double exactIso(double nominal);

/// Nominal third-stop series (sources 4.2) from `lowest` to `highest`, both included where
/// members.
[[nodiscard]] std::vector<double> fNumberSeries(double lowest, double highest);
[[nodiscard]] std::vector<double> isoSeries(double lowest, double highest);

/// "1/50 s" or "0.5 s".
[[nodiscard]] std::string shutterText(double shutterSeconds);

/// Stops as shooters say them: "+1/3 stop", "−1 2/3 stops", "0 stop"; rounded to thirds.
[[nodiscard]] base::Text thirdsText(base::Stops stops);

}  // namespace rigmatch::optics
