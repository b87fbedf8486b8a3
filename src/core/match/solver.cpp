// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/solver.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "base/format.h"
#include "colour/mired.h"
#include "match/compare_parts.h"
#include "optics/exposure.h"

namespace rigmatch::match {
namespace {

using rig::Control;
using rig::Turn;

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
bool canTurnExposure(const rig::Camera& camera, const rig::Settings& from) {
    return canTurn(camera.sheet.isoValues, from.isoValue) ||
           canTurn(camera.sheet.fNumbers, from.fNumber) ||
           canTurn(camera.sheet.ndStops, from.ndStops);
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

/// Everything the choice needs, gathered once.
struct Problem {
    const rig::Camera* camera;
    const rig::Settings& from;
    const rig::Reading& reading;
    PatchSignals reference;
    const CameraDifferences& differences;
    const SolverOptions& options;
    double exposure, mired, duv;  // measured differences
    bool isExposureTurned;        // false: unknown, or an automatic chose it and nobody told

    [[nodiscard]] Change changeTo(const rig::Settings& to) const {
        return {optics::exposureChange(rig::exposureOf(from), rig::exposureOf(to)).value(),
                miredChange(from.whiteBalanceKelvin, to.whiteBalanceKelvin),
                (to.tintSteps - from.tintSteps) * camera->sheet.tintDuvPerStep};
    }
};

/// Of the choices that are as near as the controls allow, the one with the smallest predicted ΔE.
rig::Settings chooseSettings(const Problem& p) {
    const auto exposures = p.isExposureTurned
                               ? exposureChoices(*p.camera, p.from, p.exposure, p.options)
                               : std::vector<ExposureChoice>();
    const std::vector<double> onlyPresent{p.from.whiteBalanceKelvin};
    const bool isCastKnown = p.differences.of(Quality::WhiteBalance).value.has_value();
    const auto kelvins = nearestValues(
        p.options.isKelvinKnown && isCastKnown
            ? valuesOr(p.camera->sheet.kelvins, p.from.whiteBalanceKelvin)
            : onlyPresent,
        p.from.whiteBalanceKelvin,
        [&](double k) { return p.mired + miredChange(p.from.whiteBalanceKelvin, k); },
        p.options.worthMired,
        kMiredTie);
    const double step = std::abs(p.camera->sheet.tintDuvPerStep);
    const auto tints = nearestValues(
        isCastKnown ? valuesOr(p.camera->sheet.tintSteps, p.from.tintSteps)
                    : std::vector<double>{p.from.tintSteps},
        p.from.tintSteps,
        [&](double t) { return p.duv + (t - p.from.tintSteps) * p.camera->sheet.tintDuvPerStep; },
        p.options.worthTintShare * step,
        0.1 * step);
    rig::Settings best = p.from;
    double bestDifference = 1e9;
    for (std::size_t i = 0; i < std::max<std::size_t>(exposures.size(), 1); ++i) {
        rig::Settings candidate = p.from;
        if (!exposures.empty()) {
            if (i > 2 || exposures[i].cost > exposures.front().cost + kExposureTie) break;
            candidate = exposures[i].settings;
        }
        for (double kelvin : kelvins) {
            for (double tint : tints) {
                candidate.whiteBalanceKelvin = kelvin;
                candidate.tintSteps = tint;
                const PatchSignals after =
                    predicted(p.reading, *p.differences.fit, p.changeTo(candidate));
                const double difference =
                    colourDifference(after, p.options.judge, p.reference, p.options.referenceJudge)
                        .mean;
                if (difference >= bestDifference - kWorthDeltaE) continue;
                bestDifference = difference;
                best = candidate;
            }
        }
    }
    return best;
}

Turn turnFor(const rig::Camera& camera, Control control, double from, double to) {
    Turn turn;
    turn.cameraId = camera.id;
    turn.control = control;
    turn.fromValue = from;
    turn.toValue = to;
    turn.fromText = rig::valueText(control, from);
    turn.toText = rig::valueText(control, to);
    return turn;
}

void addLock(const Problem& p,
             Control control,
             const base::Told<double>& value,
             std::vector<Turn>& turns) {
    const bool isExposure = control == Control::LockExposure;
    Turn turn = turnFor(*p.camera, control, 1.0, 0.0);
    const bool isKnown =
        value.isTold() && (isExposure ? p.options.isIsoKnown : p.options.isKelvinKnown);
    turn.fromText = "automatic";
    if (isKnown) {
        turn.fromText +=
            " (" + rig::valueText(isExposure ? Control::Iso : Control::WhiteBalance, value) + ")";
    }
    turn.toText = "lock, manual";
    turn.effect = isExposure ? "exposureStops" : "whiteBalanceMired";
    turn.before = turn.after = isExposure ? p.exposure : p.mired;
    turn.reason = "An automatic follows its own picture: it would undo every other turn.";
    if (!isKnown) turn.reason += " What it had chosen is not known: lock it and shoot once more.";
    turns.push_back(turn);
}

std::string exposureReason(Control control, double stops) {
    std::string text =
        optics::thirdsText(base::Stops(stops)) + (stops > 0 ? " brighter" : " darker");
    if (control == Control::Aperture) text += "; depth of field changes with it";
    if (control == Control::Iso && stops > 0.9) text += "; more light would be cleaner";
    return text;
}

void addExposureTurns(const Problem& p, const rig::Settings& to, std::vector<Turn>& turns) {
    rig::Settings step = p.from;
    double rest = p.exposure;
    const auto add = [&](Control control, double from, double target) {
        if (std::abs(from - target) < 1e-9) return;
        Turn turn = turnFor(*p.camera, control, from, target);
        const rig::Settings next = rig::applied(step, turn);
        const double change =
            optics::exposureChange(rig::exposureOf(step), rig::exposureOf(next)).value();
        turn.effect = "exposureStops";
        turn.before = rest;
        rest += change;
        turn.after = rest;
        turn.reason = exposureReason(control, change);
        turns.push_back(turn);
        step = next;
    };
    add(Control::Nd, p.from.ndStops, to.ndStops);
    add(Control::Aperture, p.from.fNumber, to.fNumber);
    add(Control::Iso, p.from.isoValue, to.isoValue);
}

void addColourTurns(const Problem& p, const rig::Settings& to, std::vector<Turn>& turns) {
    const Change change = p.changeTo(to);
    if (std::abs(change.whiteBalanceMired) > 1e-9) {
        Turn turn = turnFor(
            *p.camera, Control::WhiteBalance, p.from.whiteBalanceKelvin, to.whiteBalanceKelvin);
        turn.effect = "whiteBalanceMired";
        turn.before = p.mired;
        turn.after = p.mired + change.whiteBalanceMired;
        turn.reason = p.mired > 0 ? "the picture is too warm" : "the picture is too cool";
        turns.push_back(turn);
    }
    if (std::abs(change.tintDuv) > 1e-12) {
        Turn turn = turnFor(*p.camera, Control::Tint, p.from.tintSteps, to.tintSteps);
        turn.effect = "tintDuv";
        turn.before = p.duv;
        turn.after = p.duv + change.tintDuv;
        turn.reason = std::string(p.duv > 0 ? "the picture is too green: toward magenta"
                                            : "the picture is too magenta: toward green") +
                      " (one step taken as " +
                      base::fixed(1000.0 * p.camera->sheet.tintDuvPerStep, 2) + " × 0.001 Duv)";
        turns.push_back(turn);
    }
}

/// A turn by an amount, where the values of a control are not known.
void addAmount(const CameraDifferences& d,
               Control control,
               Quality quality,
               double change,
               std::string text,
               const char* reason,
               TurnPlan& plan) {
    Turn turn;
    turn.cameraId = d.cameraId;
    turn.control = control;
    turn.isAmount = true;
    turn.effect = control == Control::Exposure       ? "exposureStops"
                  : control == Control::WhiteBalance ? "whiteBalanceMired"
                                                     : "tintDuv";
    turn.before = d.judged(quality).value.value_or(0.0);
    turn.after = turn.before + change;
    turn.toText = std::move(text);
    turn.reason = reason;
    plan.turns.push_back(turn);
}

bool isOverGood(const Difference& difference) {
    return std::abs(difference.value.value_or(0.0)) > difference.good;
}

void addExposureAmount(const CameraDifferences& d, const char* reason, TurnPlan& plan) {
    const Difference& exposure = d.judged(Quality::Exposure);
    const double thirds = std::round(-exposure.value.value_or(0.0) * 3.0) / 3.0;
    if (std::abs(exposure.value.value_or(0.0)) <= d.of(Quality::Exposure).good || thirds == 0.0)
        return;
    plan.total.exposureStops = thirds;
    addAmount(d,
              Control::Exposure,
              Quality::Exposure,
              thirds,
              optics::thirdsText(base::Stops(thirds)),
              reason,
              plan);
}

void addMiredAmount(const CameraDifferences& d, const char* reason, TurnPlan& plan) {
    if (!isOverGood(d.of(Quality::WhiteBalance))) return;
    const double mired = -*d.of(Quality::WhiteBalance).value;
    plan.total.whiteBalanceMired = mired;
    addAmount(d,
              Control::WhiteBalance,
              Quality::WhiteBalance,
              mired,
              base::signedFixed(mired, 0) + " mired",
              reason,
              plan);
}

/// In steps where the camera has them: `step` Duv each; 0: it has none.
void addTintAmount(const CameraDifferences& d, double step, const char* reason, TurnPlan& plan) {
    if (!isOverGood(d.of(Quality::Tint))) return;
    double duv = -*d.of(Quality::Tint).value;
    std::string text = base::signedFixed(duv, 4) + " Duv";
    if (step != 0.0) {
        const double steps = std::round(duv / step);
        if (steps == 0.0) return;
        duv = steps * step;
        text = base::signedFixed(steps, 0) + (std::abs(steps) == 1.0 ? " step" : " steps");
    }
    plan.total.tintDuv = duv;
    addAmount(d, Control::Tint, Quality::Tint, duv, text, reason, plan);
}

constexpr const char* kNoSteps = "The camera's steps are not known: give a rig file for values.";
constexpr const char* kNotTold =
    "What is set on this camera is not known: turn by this much, or enter it on Cameras for a "
    "value.";

/// Amounts for a camera whose controls nobody told us.
void addAmounts(const CameraDifferences& d, TurnPlan& plan) {
    addExposureAmount(d, kNoSteps, plan);
    addMiredAmount(d, kNoSteps, plan);
    addTintAmount(d, 0.0, kNoSteps, plan);
}

/// Amounts for those controls whose setting nobody told us.
void addUntold(const Problem& p, TurnPlan& plan) {
    const rig::ControlSheet& sheet = p.camera->sheet;
    if (p.isExposureTurned && !canTurnExposure(*p.camera, p.from))
        addExposureAmount(p.differences, kNotTold, plan);
    if (p.options.isKelvinKnown && !p.from.whiteBalanceKelvin.isTold())
        addMiredAmount(p.differences, kNotTold, plan);
    if (!p.from.tintSteps.isTold() && !sheet.tintSteps.empty())
        addTintAmount(p.differences, sheet.tintDuvPerStep, kNotTold, plan);
}

/// The exposure controls that the sheet has, as set.
std::string exposureText(const Problem& p, const rig::Settings& to) {
    std::string text;
    const auto add = [&](bool isThere, Control control, double value) {
        if (isThere) text += (text.empty() ? "" : ", ") + rig::valueText(control, value);
    };
    const rig::ControlSheet& sheet = p.camera->sheet;
    add(!sheet.isoValues.empty(), Control::Iso, to.isoValue);
    add(!sheet.fNumbers.empty(), Control::Aperture, to.fNumber);
    add(!sheet.ndStops.empty(), Control::Nd, to.ndStops);
    return text.empty() ? "what is set" : text;
}

void nameLeftOver(const Problem& p, const rig::Settings& to, TurnPlan& plan) {
    const double rest = p.exposure + plan.total.exposureStops;
    if (p.isExposureTurned && canTurnExposure(*p.camera, p.from) &&
        std::abs(rest) > p.differences.of(Quality::Exposure).accept) {
        plan.leftOver.push_back(
            "Exposure stays " + base::signedFixed(rest, 2) + " stop: " + exposureText(p, to) +
            " is the nearest that this camera's sheet allows. Change the light, add an ND, or take "
            "another reference.");
    }
    if (!p.differences.exposureReason.empty() && p.differences.exposureBasis == ExposureBasis::None)
        plan.leftOver.push_back("Exposure is not turned: " + p.differences.exposureReason);
    const double mired = p.mired + plan.total.whiteBalanceMired;
    if (p.options.isKelvinKnown && p.from.whiteBalanceKelvin.isTold() &&
        std::abs(mired) > p.differences.of(Quality::WhiteBalance).accept) {
        plan.leftOver.push_back("White balance stays " + base::signedFixed(mired, 0) + " mired: " +
                                rig::valueText(Control::WhiteBalance, to.whiteBalanceKelvin) +
                                " is the end of this camera's range.");
    }
    const double duv = p.duv + plan.total.tintDuv;
    if (p.from.tintSteps.isTold() && std::abs(duv) > p.differences.of(Quality::Tint).accept) {
        plan.leftOver.push_back("Tint stays " + base::signedFixed(duv, 4) +
                                " Duv: this camera's tint does not reach further.");
    }
}

}  // namespace

TurnPlan solveTurns(const rig::Camera* camera,
                    const rig::Settings& shotSettings,
                    const rig::Reading& reading,
                    const rig::Reading& reference,
                    const CameraDifferences& differences,
                    const SolverOptions& options) {
    TurnPlan plan;
    plan.after = signalsOf(reading);
    if (!differences.fit || !differences.of(Quality::Exposure).value) return plan;
    const Difference& exposure = differences.judged(Quality::Exposure);
    const Problem problem{camera,
                          shotSettings,
                          reading,
                          signalsOf(reference),
                          differences,
                          options,
                          exposure.value.value_or(0.0),
                          differences.of(Quality::WhiteBalance).value.value_or(0.0),
                          differences.of(Quality::Tint).value.value_or(0.0),
                          options.isIsoKnown && exposure.value.has_value()};
    if (camera == nullptr) {
        addAmounts(differences, plan);
    } else {
        if (shotSettings.isAutoExposure)
            addLock(problem, Control::LockExposure, shotSettings.isoValue, plan.turns);
        if (shotSettings.isAutoWhiteBalance) {
            addLock(
                problem, Control::LockWhiteBalance, shotSettings.whiteBalanceKelvin, plan.turns);
        }
        const rig::Settings to = chooseSettings(problem);
        plan.total = problem.changeTo(to);
        addExposureTurns(problem, to, plan.turns);
        addColourTurns(problem, to, plan.turns);
        addUntold(problem, plan);
        nameLeftOver(problem, to, plan);
    }
    plan.after = predicted(reading, *differences.fit, plan.total);
    plan.predicted = colourDifference(plan.after,
                                      options.judge,
                                      errorsOf(reading),
                                      problem.reference,
                                      options.referenceJudge,
                                      errorsOf(reference));
    return plan;
}

}  // namespace rigmatch::match
