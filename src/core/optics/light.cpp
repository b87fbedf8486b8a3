// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/light.h"

#include <cmath>
#include <numbers>

namespace rigmatch::optics {

double illuminanceFor(const ExposureSettings& settings, double calibration) {
    const double n = exactFNumber(settings.fNumber);
    return calibration * n * n / (settings.shutterSeconds * exactIso(settings.isoValue)) *
           std::exp2(settings.ndStops);
}

base::Stops overExposure(const ExposureSettings& settings, double lux) {
    return base::Stops(std::log2(lux / illuminanceFor(settings)));
}

base::Stops transmissionLoss(double transmission) { return base::Stops(-std::log2(transmission)); }

base::Stops densityStops(double opticalDensity) {
    return base::Stops(opticalDensity / std::log10(2.0));
}

base::Stops distanceChange(double fromMetres, double toMetres) {
    return base::Stops(2.0 * std::log2(fromMetres / toMetres));
}

base::Stops discLoss(double diameterMetres, double distanceMetres) {
    const double d2 = distanceMetres * distanceMetres;
    return base::Stops(std::log2(d2 / (d2 + 0.25 * diameterMetres * diameterMetres)));
}

double sourceAngleDegrees(double diameterMetres, double distanceMetres) {
    return 2.0 * std::atan(0.5 * diameterMetres / distanceMetres) * 180.0 / std::numbers::pi;
}

base::Stops powerChange(double fromWatts, double toWatts) {
    return base::Stops(std::log2(toWatts / fromWatts));
}

base::Stops dimmerChange(double percent) { return base::Stops(std::log2(percent / 100.0)); }

base::Stops lightingRatio(double key, double fill) {
    return base::Stops(std::log2((key + fill) / fill));
}

base::Stops backgroundRatio(double wallLux,
                            double faceLux,
                            double wallReflectance,
                            double skinReflectance) {
    return base::Stops(std::log2(wallLux / faceLux) + std::log2(wallReflectance / skinReflectance));
}

const std::vector<Modifier>& modifiers() {
    static const std::vector<Modifier> kModifiers{
        {"none", 0.0, 0.0, 0.0, false},
        {"light diffusion", 0.65, 0.35, 0.0, true},
        {"heavy diffusion", 2.0, 0.5, 120.0, true},
        {"soft box, one layer", 1.25, 0.25, 120.0, true},
        {"soft box, two layers", 2.0, 0.5, 120.0, true},
        {"umbrella", 1.5, 0.5, 120.0, true},
        {"lantern", 1.5, 0.5, 180.0, true},
        {"white bounce", 2.5, 0.5, 120.0, true},
    };
    return kModifiers;
}

const Modifier& modifierOf(const std::string& name) {
    for (const Modifier& modifier : modifiers()) {
        if (modifier.name == name) return modifier;
    }
    return modifiers().front();
}

}  // namespace rigmatch::optics
