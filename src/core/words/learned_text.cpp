// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/learned_text.h"

#include <cmath>
#include <functional>

#include "base/format.h"

namespace rigmatch::words {
namespace {

std::string withError(double value, double error, int decimals, const char* unit) {
    return base::signedFixed(value, decimals) + " ± " +
           base::fixed(std::max(error, std::pow(10.0, -decimals)), decimals) + unit;
}

/// Stretches of a dial's range that surely do otherwise than the rest of it, in the unit that
/// stands before them: `unit` is what a share of 1 is in it.
std::string unlikeText(const std::vector<match::StretchResponse>& stretches,
                       double unit,
                       const std::function<std::string(double, double)>& range) {
    std::string text;
    for (const match::StretchResponse& one : stretches) {
        if (!one.isUnlike) continue;
        text += "; " + range(one.from, one.to) + " " + base::fixed(unit * one.share, 2) + " ± " +
                base::fixed(std::max(std::abs(unit) * one.uncertainty, 0.01), 2);
    }
    return text;
}
std::string kelvinRange(double fromMired, double toMired) {
    const auto kelvin = [](double mired) {
        return base::fixed(100.0 * std::round(1e4 / mired), 0);
    };
    return "from " + kelvin(fromMired) + " to " + kelvin(toMired) + " K";
}
std::string duvRange(double from, double to) {
    return "from " + base::signedFixed(from, 3) + " to " + base::signedFixed(to, 3) + " Duv";
}

std::string apertureRange(double from, double to) {
    return "from f/" + base::shortest(from) + " to f/" + base::shortest(to);
}

/// What each filter really is; of what is worn before the lens, a stop of it.
std::string ndText(const rig::Camera& camera, const match::LearnedControls& learned) {
    if (!rig::hasOwnNd(camera.sheet))
        return base::fixed(learned.nd.share, 2) + " ± " +
               base::fixed(std::max(learned.nd.uncertainty, 0.01), 2) + " stop per stop";
    std::string text;
    for (const double stops : camera.sheet.ndStops) {
        if (stops <= 0.0) continue;
        const match::StretchResponse filter = learned.ndOf(stops);
        text += (text.empty() ? "ND " : "; ND ") + base::shortest(stops) + " is " +
                base::fixed(filter.share * stops, 2) + " ± " +
                base::fixed(std::max(filter.uncertainty * stops, 0.01), 2);
    }
    return text + " stops";
}

/// Every part of what a step does that is surely there.
std::string knobText(const match::KnobResponse& knob) {
    std::string text;
    const auto add = [&](double value, double error, int decimals, const char* unit) {
        if (std::abs(value) < 2.0 * error) return;
        text += (text.empty() ? "" : ", ") + withError(value, error, decimals, unit);
    };
    const match::Change &by = knob.shown, &unsure = knob.shownUncertainty;
    add(100.0 * by.contrast, 100.0 * unsure.contrast, 1, " % contrast");
    add(by.blackPercent, unsure.blackPercent, 2, " % of signal at black");
    add(100.0 * by.saturation, 100.0 * unsure.saturation, 1, " % saturation");
    add(by.hueDegrees, unsure.hueDegrees, 1, "° hue");
    add(100.0 * by.knee, 100.0 * unsure.knee, 1, " % slope of light tones");
    add(by.exposureStops, unsure.exposureStops, 2, " stop");
    add(by.whiteBalanceMired, unsure.whiteBalanceMired, 1, " mired");
    return text.empty() ? "nothing that can be told" : text + " a step";
}

}  // namespace

std::vector<LearnedRow> learnedRows(const rig::Camera& camera,
                                    const match::LearnedControls& learned) {
    std::vector<LearnedRow> rows;
    const auto add = [&](const char* control,
                         const match::Response& response,
                         std::string effect,
                         bool isKept = false) {
        if (response.takes > 0 || isKept)
            rows.push_back({control, std::move(effect), response.takes});
    };
    const auto share = [](const match::Response& response, const char* unit) {
        return base::fixed(response.share, 2) + " ± " +
               base::fixed(std::max(response.uncertainty, 0.01), 2) + unit;
    };
    add(camera.sheet.gainsDb.empty() ? "ISO" : "Gain",
        learned.exposure,
        share(learned.exposure, " stop per stop of its numbers"),
        camera.sheet.stopsPerStop != 1.0);
    add("Shutter", learned.shutter, share(learned.shutter, " stop per stop of its numbers"));
    add("Aperture",
        learned.aperture,
        share(learned.aperture, " stop per stop of its numbers") +
            unlikeText(learned.apertureStretches(), 1.0, apertureRange));
    add("ND", learned.nd, ndText(camera, learned), !camera.sheet.ndTaught.empty());
    add("White balance",
        learned.whiteBalance,
        share(learned.whiteBalance, " mired per mired of its dial") +
            unlikeText(learned.whiteBalanceStretches(), 1.0, kelvinRange),
        camera.sheet.miredPerMired != 1.0);
    const double step = camera.sheet.tintDuvPerStep;
    add("Tint",
        learned.tint,
        withError(1000.0 * learned.tint.share * step,
                  1000.0 * learned.tint.uncertainty * std::abs(step),
                  2,
                  " × 0.001 Duv a step") +
            unlikeText(learned.tintStretches(), 1000.0 * step, duvRange));
    for (const match::KnobResponse& knob : learned.knobs) {
        if (knob.takes > 0) rows.push_back({knob.name, knobText(knob), knob.takes});
    }
    add("Sharpness",
        learned.sharpness,
        withError(
            learned.sharpness.share, learned.sharpness.uncertainty, 1, " % of overshoot a step"));
    return rows;
}

}  // namespace rigmatch::words
