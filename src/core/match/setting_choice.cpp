// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/setting_choice.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace rigmatch::match {
namespace {

constexpr double kExposureTie = 0.04;  // stops of rest within which ΔE may decide
constexpr double kMiredTie = 0.8;
constexpr double kWorthDeltaE = 0.05;  // a costlier choice must be this much nearer in colour

/// Allowed values of a control, or only the present one where it does not exist,
/// or what is set is not known: from there no value leads anywhere.
std::vector<double> valuesOr(const std::vector<double>& values, const base::Told<double>& present) {
    return values.empty() || !present.isTold() ? std::vector<double>{present} : values;
}

bool canTurn(const std::vector<double>& values, const base::Told<double>& present) {
    return !values.empty() && present.isTold();
}

struct ExposureChoice {
    rig::Settings settings;
    double rest = 0.0;  ///< exposure difference left, stops
    double cost = 0.0;
};

double isoPenalty(const rig::ControlSheet& sheet, double iso, const SolverOptions& options) {
    double nearestBelow = sheet.nativeIsoValues.empty() ? 100.0 : sheet.nativeIsoValues.front();
    for (double native : sheet.nativeIsoValues) {
        if (native <= iso * 1.01) nearestBelow = native;
    }
    return options.isoPerStopAboveNative * std::abs(std::log2(iso / nearestBelow));
}

/// All combinations of ISO, aperture and ND, nearest and least harmful first.
std::vector<ExposureChoice> exposureChoices(const rig::Camera& camera,
                                            const rig::Settings& from,
                                            double difference,
                                            const SolverOptions& options) {
    std::vector<ExposureChoice> choices;
    for (double nd : valuesOr(camera.sheet.ndStops, from.ndStops)) {
        for (double fNumber : valuesOr(camera.sheet.fNumbers, from.fNumber)) {
            for (double iso : valuesOr(camera.sheet.isoValues, from.isoValue)) {
                ExposureChoice choice{from, 0.0, 0.0};
                choice.settings.ndStops = nd;
                choice.settings.fNumber = fNumber;
                choice.settings.isoValue = iso;
                const double change =
                    options.learned.exposure.share *
                    optics::exposureChange(rig::exposureOf(from), rig::exposureOf(choice.settings))
                        .value();
                choice.rest = difference + change;
                const bool turnsNd = std::abs(nd - from.ndStops) > 1e-9;
                const bool turnsIris = std::abs(fNumber - from.fNumber) > 1e-9;
                const bool turnsIso = std::abs(iso - from.isoValue) > 1e-9;
                choice.cost =
                    std::abs(choice.rest) +
                    options.perTurn * (int(turnsNd) + int(turnsIris) + int(turnsIso)) +
                    isoPenalty(camera.sheet, iso, options) + (turnsNd ? options.ndPerChange : 0.0) +
                    options.aperturePerStop * std::abs(2.0 * std::log2(fNumber / from.fNumber));
                choices.push_back(choice);
            }
        }
    }
    std::sort(choices.begin(), choices.end(), [](const auto& a, const auto& b) {
        return a.cost < b.cost;
    });
    return choices;
}

double miredChange(double fromKelvin, double toKelvin) { return 1e6 / fromKelvin - 1e6 / toKelvin; }

/// Members of `values` whose rest is within `tie` of the smallest; the present value wins unless
/// the gain is worth it.
std::vector<double> nearestValues(const std::vector<double>& values,
                                  double present,
                                  const std::function<double(double)>& rest,
                                  double worth,
                                  double tie) {
    double best = std::abs(rest(present));
    for (double value : values) best = std::min(best, std::abs(rest(value)));
    if (std::abs(rest(present)) <= best + worth) return {present};
    std::vector<double> nearest;
    for (double value : values) {
        if (std::abs(rest(value)) <= best + tie) nearest.push_back(value);
    }
    return nearest;
}

/// Settings, and their predicted difference in colour.
struct Scored {
    rig::Settings settings;
    double deltaE = 1e9;
};

/// The exposure for a white balance and tint that are chosen: what those take or give in light is
/// made up for.
void tryExposures(const Problem& p, const rig::Settings& balanced, Scored& best) {
    const Change balance = p.dialTo(balanced);
    const auto exposures =
        p.isExposureTurned && canTurnExposure(*p.camera, p.from)
            ? exposureChoices(
                  *p.camera, p.from, p.exposure + p.effectOf(balance).exposureStops, p.options)
            : std::vector<ExposureChoice>{{p.from, 0.0, 0.0}};
    for (std::size_t i = 0; i < std::min<std::size_t>(exposures.size(), 3); ++i) {
        if (exposures[i].cost > exposures.front().cost + kExposureTie) break;
        rig::Settings candidate = exposures[i].settings;
        candidate.whiteBalanceKelvin = balanced.whiteBalanceKelvin;
        candidate.tintSteps = balanced.tintSteps;
        const PatchSignals after = p.body.predicted(p.reading, p.dialTo(candidate));
        const double difference =
            colourDifference(after, p.options.judge, p.reference, p.options.referenceJudge).mean;
        if (difference < best.deltaE - kWorthDeltaE) best = {candidate, difference};
    }
}

}  // namespace

bool canTurnExposure(const rig::Camera& camera, const rig::Settings& from) {
    if (!camera.sheet.isoValues.empty() && !from.isoValue.isTold()) return false;
    return canTurn(camera.sheet.isoValues, from.isoValue) ||
           canTurn(camera.sheet.fNumbers, from.fNumber) ||
           canTurn(camera.sheet.ndStops, from.ndStops);
}

rig::Settings chooseSettings(const Problem& p) {
    const bool isCastKnown = p.differences.of(Quality::WhiteBalance).value.has_value();
    const Change wanted = isCastKnown ? p.wantedDial() : Change{};
    const auto onlyPresent = [](const base::Told<double>& present) {
        return std::vector<double>{present};
    };
    const auto kelvins = nearestValues(
        p.options.isKelvinKnown && isCastKnown
            ? valuesOr(p.camera->sheet.kelvins, p.from.whiteBalanceKelvin)
            : onlyPresent(p.from.whiteBalanceKelvin),
        p.from.whiteBalanceKelvin,
        [&](double k) {
            return p.options.learned.whiteBalance.share *
                       miredChange(p.from.whiteBalanceKelvin, k) -
                   wanted.whiteBalanceMired;
        },
        p.options.worthMired,
        kMiredTie);
    const double step = std::abs(p.options.learned.tint.share * p.camera->sheet.tintDuvPerStep);
    const auto tints = nearestValues(
        isCastKnown ? valuesOr(p.camera->sheet.tintSteps, p.from.tintSteps)
                    : onlyPresent(p.from.tintSteps),
        p.from.tintSteps,
        [&](double t) {
            return p.options.learned.tint.share * (t - p.from.tintSteps) *
                       p.camera->sheet.tintDuvPerStep -
                   wanted.tintDuv;
        },
        p.options.worthTintShare * step,
        0.1 * step);
    Scored best{p.from, 1e9};
    rig::Settings balanced = p.from;
    for (const double kelvin : kelvins) {
        for (const double tint : tints) {
            // What is not turned stays what it is, told or not.
            if (p.from.whiteBalanceKelvin.isTold()) balanced.whiteBalanceKelvin = kelvin;
            if (p.from.tintSteps.isTold()) balanced.tintSteps = tint;
            tryExposures(p, balanced, best);
        }
    }
    return best.settings;
}

}  // namespace rigmatch::match
