// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/supply.h"

#include <cmath>

namespace rigmatch::optics {

CircuitLoad circuitLoad(double volts,
                        double breakerAmperes,
                        const std::vector<Consumer>& consumers) {
    CircuitLoad load;
    for (const Consumer& consumer : consumers) {
        load.watts += consumer.watts;
        load.voltAmperes += consumer.watts / consumer.powerFactor;
    }
    load.amperes = load.voltAmperes / volts;
    load.fullWatts = volts * breakerAmperes;
    load.continuousWatts = kContinuousShare * load.fullWatts;
    return load;
}

double batteryHours(double wattHours, double watts) { return wattHours * 0.85 / watts; }

double gigabytesFor(double megabitsPerSecond, double minutes) {
    return megabitsPerSecond * minutes * 60.0 / 8000.0;
}

double cardMinutes(double cardGigabytes, double megabitsPerSecond) {
    return 8000.0 * cardGigabytes * 0.95 / (megabitsPerSecond * 60.0);
}

int cardsNeeded(double cardGigabytes, double megabitsPerSecond, double minutes) {
    return static_cast<int>(
        std::ceil(minutes / cardMinutes(cardGigabytes, megabitsPerSecond) - 1e-9));
}

double copyMinutes(double gigabytes, double megabytesPerSecond) {
    return gigabytes * 1000.0 / megabytesPerSecond / 60.0;
}

bool isCardFastEnough(double cardMegabytesPerSecond, double megabitsPerSecond) {
    return cardMegabytesPerSecond >= 2.0 * megabitsPerSecond / 8.0;
}

}  // namespace rigmatch::optics
