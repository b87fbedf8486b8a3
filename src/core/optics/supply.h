// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

namespace rigmatch::optics {

/// Share of a breaker's rating for loads that run for hours (North American practice, from memory;
/// local code decides).
inline constexpr double kContinuousShare = 0.8;

/// Load of one circuit (sources 3.17). It defers to local code and a licensed electrician.
struct CircuitLoad {
    double watts = 0.0;        ///< what is drawn as work
    double voltAmperes = 0.0;  ///< what the wire carries: watts over power factor
    double amperes = 0.0;
    double fullWatts = 0.0;        ///< U x I of the breaker
    double continuousWatts = 0.0;  ///< 80 % of it

    [[nodiscard]] bool isOverContinuous() const { return voltAmperes > continuousWatts; }
    [[nodiscard]] bool isOverBreaker() const { return voltAmperes > fullWatts; }
};

struct Consumer {
    double watts = 0.0;
    double powerFactor = 1.0;
};
[[nodiscard]] CircuitLoad circuitLoad(double volts,
                                      double breakerAmperes,
                                      const std::vector<Consumer>& consumers);

/// Hours a battery lasts: Wh x 0.85 / W (sources 3.17).
[[nodiscard]] double batteryHours(double wattHours, double watts);

// Storage, sources 4.10. GB are 10^9 bytes, Mb/s 10^6 bits a second.
[[nodiscard]] double gigabytesFor(double megabitsPerSecond, double minutes);
/// Minutes on a card with the usual reserve of 5 %.
[[nodiscard]] double cardMinutes(double cardGigabytes, double megabitsPerSecond);
[[nodiscard]] int cardsNeeded(double cardGigabytes, double megabitsPerSecond, double minutes);
[[nodiscard]] double copyMinutes(double gigabytes, double megabytesPerSecond);
/// A card should write twice the bit rate (common practice).
[[nodiscard]] bool isCardFastEnough(double cardMegabytesPerSecond, double megabitsPerSecond);

}  // namespace rigmatch::optics
