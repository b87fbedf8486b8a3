// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>

#include "colour/primaries.h"
#include "colour/white_point.h"
#include "match/match_report.h"
#include "support/own_take.h"
#include "support/own_truth.h"

namespace rigmatch::support {

/// A body of the tests' own with dials, for closing the loop: what it is set to is what it does, in
/// its own way. Its colour chain is own::signalOf(), with the dial's gains before or after the
/// sensor's matrix; the dial renders a white, made into gains by the colour library, which
/// test_colour_reference holds to published values.
struct LoopCamera {
    OwnCamera body;
    std::array<double, 9> matrix{1, 0, 0, 0, 1, 0, 0, 0, 1};
    bool areGainsFirst = true;         ///< before the matrix, as on a sensor
    double response = 1.0;             ///< of the Kelvin dial, share of nominal
    double tintPerStep = 0.001;        ///< Duv, true
    double isoResponse = 1.0;          ///< true stops per nominal stop
    std::map<double, double> ndTakes;  ///< stops that a filter takes, by what it says
    double ndMired = 0.0;              ///< that any filter warms by
    double closedTakes = 0.0;          ///< stops that the iris takes more from f/4 on
    double kelvinBend = 0.0;           ///< mired by which the dial lies off its line about 4200 K
    double tintBend = 0.0;             ///< share by which a step at the end of the tint does more
    bool isLuminanceHeld = false;      ///< white balance moves the gains about luminance, not green
    double lightMired = 0.0;           ///< the light against 5600 K as this camera sees it
    double lightDuv = 0.0;
    // What a step of the profile's knobs does, where its sheet has them.
    double contrastPerStep = 0.0;     ///< natural logarithm
    double blackPerStep = 0.0;        ///< signal
    double saturationPerStep = 0.0;   ///< natural logarithm
    double huePerStep = 0.0;          ///< degrees
    double kneePerStep = 0.0;         ///< natural logarithm of the slope of light tones
    double amberPerStep = 0.0;        ///< mired, of the white balance's second axis
    double contrastIntoColour = 0.0;  ///< saturation that a step of contrast brings, logarithm

    /// What the dial does beside its line, mired; nothing at 5600 K.
    [[nodiscard]] double bentBy(double kelvin) const {
        const auto bump = [](double mired) {
            return std::exp(-std::pow((mired - 238.0) / 45.0, 2));
        };
        return kelvinBend * (bump(1e6 / kelvin) - bump(1e6 / 5600.0));
    }
    /// The camera as its settings make it.
    [[nodiscard]] OwnCamera at(const rig::Settings& s) const {
        const colour::WhitePoint d65 = colour::whitePointOf(colour::kD65).value();
        const auto steps = [&](const char* name) {
            const auto knob = s.knobs.find(name);
            return knob == s.knobs.end() ? 0.0 : knob->second;
        };
        const double dial = 1e6 / 5600.0 - 1e6 / s.whiteBalanceKelvin.value();
        const double nd = s.ndStops.value();
        const auto filter = ndTakes.find(nd);
        const double filterMired = nd > 0.0 ? ndMired : 0.0;
        const double tint = s.tintSteps.value() * (1.0 + tintBend * std::abs(s.tintSteps) / 15.0);
        const colour::WhitePoint white{
            base::Mired(d65.mired.value() + lightMired + response * dial +
                        bentBy(s.whiteBalanceKelvin) + filterMired + amberPerStep * steps("amber")),
            d65.duv + base::Duv(lightDuv + tintPerStep * tint)};
        const colour::Vector3 rgb =
            colour::xyzToRgb(colour::kBt709) * colour::xyzOf(colour::chromaticityOf(white).value());
        own::Triple gains{rgb.x() / rgb.y(), 1.0, rgb.z() / rgb.y()};
        if (isLuminanceHeld) {
            const double y = 0.2126 * gains[0] + 0.7152 + 0.0722 * gains[2];
            for (double& gain : gains) gain /= y;
        }
        OwnCamera camera = body;
        camera.stops += isoResponse * std::log2(s.isoValue.value() / 800.0);
        camera.stops += std::log2(s.shutterSeconds.value() / 0.02);
        camera.stops -= filter == ndTakes.end() ? nd : filter->second;
        // f-numbers in thirds of a stop from f/2.8 (ISO 517, from memory).
        camera.stops -= std::round(6.0 * std::log2(s.fNumber.value() / 2.8)) / 3.0;
        if (s.fNumber >= 4.0) camera.stops -= closedTakes;
        // own::signalOf() has the gains after the matrix: N diag(g) is diag(r) of a matrix whose
        // rows sum to one.
        for (std::size_t row = 0; row < 3; ++row) {
            double sum = 0.0;
            for (std::size_t c = 0; c < 3; ++c) {
                camera.matrix[3 * row + c] =
                    matrix[3 * row + c] * (areGainsFirst ? gains[c] : gains[row]);
                sum += camera.matrix[3 * row + c];
            }
            for (std::size_t c = 0; c < 3; ++c) camera.matrix[3 * row + c] /= sum;
            camera.gains[row] = sum;
        }
        camera.contrast *= std::exp(contrastPerStep * steps("contrast"));
        camera.pedestal += blackPerStep * steps("black");
        camera.saturation *= std::exp(saturationPerStep * steps("saturation") +
                                      contrastIntoColour * steps("contrast"));
        camera.hueDegrees += huePerStep * steps("hue");
        camera.kneeSlope *= std::exp(kneePerStep * steps("knee"));
        return camera;
    }
};

/// A quiet body that differs only by that much.
inline LoopCamera loopBody(double mired, double duv, double stops) {
    LoopCamera camera;
    camera.body.stops = stops;
    camera.body.readNoise = 0.001;
    camera.body.photonNoise = 0.002;
    camera.lightMired = mired;
    camera.lightDuv = duv;
    return camera;
}

/// Unlike bodies: curve, sensor, colour after the curve, noise and depth at random, dials within
/// `spread` of nominal.
inline LoopCamera randomLoopCamera(OwnRandom& random, double spread) {
    LoopCamera camera;
    camera.body = randomOwnCamera(random);
    camera.body.stops = random.between(-0.9, 0.2);
    for (std::size_t row = 0; row < 3; ++row) {
        double sum = 0.0;
        for (std::size_t c = 0; c < 3; ++c) {
            if (c == row) continue;
            camera.matrix[3 * row + c] = random.normal(0.08);
            sum += camera.matrix[3 * row + c];
        }
        camera.matrix[4 * row] = 1.0 - sum;
    }
    camera.body.saturation = random.between(0.75, 1.35);
    camera.body.hueDegrees = random.normal(2.0);
    camera.areGainsFirst = random.whole(0, 7) != 0;
    camera.isLuminanceHeld = random.whole(0, 2) == 0;
    camera.response = random.between(1.0 - spread, 1.0 + spread);
    camera.tintPerStep = 0.001 * random.between(1.0 - spread, 1.0 + spread);
    camera.isoResponse = random.between(1.0 - 0.1 * spread, 1.0 + 0.1 * spread);
    camera.lightMired = random.normal(30.0);
    camera.lightDuv = random.normal(0.004);
    return camera;
}

/// Knobs for such a body, each doing `low` to `high` of what their range lets expect, in one of two
/// ways, with a little colour in the contrast.
inline void addKnobs(OwnRandom& random, double low, double high, LoopCamera& camera) {
    const auto response = [&] { return random.between(low, high); };
    camera.contrastPerStep = 0.06 * response();
    camera.blackPerStep = 0.01 * response();
    camera.saturationPerStep = 0.1 * response();
    camera.huePerStep = 4.0 * response();
    camera.contrastIntoColour = random.normal(0.01);
    camera.body.isContrastPower = random.whole(0, 1) == 0;
}

/// The sheet of those knobs: five steps to either side, and nobody knows what they do.
inline std::vector<rig::Knob> loopKnobs() {
    std::vector<rig::Knob> knobs;
    for (const char* name : {"contrast", "black", "saturation", "hue"}) {
        rig::Knob knob{name, rig::knobKindOf(name), {}};
        for (double step = -5.0; step <= 5.0; step += 1.0) knob.steps.push_back(step);
        knobs.push_back(knob);
    }
    return knobs;
}

/// The controls that such a body states.
inline rig::ControlSheet loopSheet() {
    rig::ControlSheet sheet;
    sheet.isoValues = optics::isoSeries(100.0, 25600.0);
    sheet.nativeIsoValues = {800.0};
    for (double kelvin = 2500.0; kelvin <= 9900.0; kelvin += 100.0) sheet.kelvins.push_back(kelvin);
    for (double step = -15.0; step <= 15.0; step += 1.0) sheet.tintSteps.push_back(step);
    sheet.tintDuvPerStep = 0.001;
    return sheet;
}

}  // namespace rigmatch::support
