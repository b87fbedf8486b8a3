// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/setting_choice.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <optional>

namespace rigmatch::match {
namespace {

constexpr double kExposureTie = 0.04;  // stops of rest within which ΔE may decide
constexpr std::size_t kExposuresTried = 3;
constexpr double kMiredTie = 0.8;
constexpr double kTieOfStep = 0.3;     // of a step by which one value may be further off
constexpr double kWorthDeltaE = 0.05;  // a costlier choice must be this much nearer in colour

/// Allowed values of a control, or only the present one where it does not exist,
/// or what is set is not known: from there no value leads anywhere.
std::vector<double> valuesOr(const std::vector<double>& values, const base::Told<double>& present) {
    return values.empty() || !present.isTold() ? std::vector<double>{present} : values;
}

bool canTurn(const std::vector<double>& values, const base::Told<double>& present) {
    return !values.empty() && present.isTold();
}

double isoPenalty(const rig::ControlSheet& sheet, double iso, const SolverOptions& options) {
    double nearestBelow = sheet.nativeIsoValues.empty() ? 100.0 : sheet.nativeIsoValues.front();
    for (double native : sheet.nativeIsoValues) {
        if (native <= iso * 1.01) nearestBelow = native;
    }
    return options.isoPerStopAboveNative * std::abs(std::log2(iso / nearestBelow));
}

/// Stops of shutter angle by which motion looks otherwise than the reference's.
double motionAway(const SolverOptions& options, const rig::Settings& settings) {
    if (options.openShare <= 0.0 || options.shutters.empty()) return 0.0;
    return std::abs(std::log2(settings.shutterSeconds * settings.frameRate / options.openShare));
}

/// Motion that looks otherwise than the reference's is no way to save a third of a stop: it costs
/// as much as an exposure that is seen to be off.
double leavesMotion(const Problem& p, const rig::Settings& to) {
    constexpr double kSeen = 0.25;  // stop: "near" of docs/sources.md, 5.10
    constexpr double kSame = 0.01;
    return motionAway(p.options, to) > motionAway(p.options, p.from) + kSame ? kSeen : 0.0;
}

/// A control that decides brightness, and what it may be turned to.
struct ExposureDial {
    base::Told<double> rig::Settings::*setting;
    std::vector<double> values;
};
constexpr std::size_t kExposureDials = 5;
std::array<ExposureDial, kExposureDials> exposureDials(const Problem& p) {
    const rig::ControlSheet& sheet = p.camera->sheet;
    const rig::Settings& from = p.from;
    const std::vector<double> nds = rig::hasOwnNd(sheet) ? valuesOr(sheet.ndStops, from.ndStops)
                                                         : std::vector<double>{from.ndStops};
    return {{{&rig::Settings::ndStops, nds},
             {&rig::Settings::fNumber, valuesOr(sheet.fNumbers, from.fNumber)},
             {&rig::Settings::shutterSeconds, valuesOr(p.options.shutters, from.shutterSeconds)},
             {&rig::Settings::isoValue, valuesOr(sheet.isoValues, from.isoValue)},
             {&rig::Settings::gainDb, valuesOr(sheet.gainsDb, from.gainDb)}}};
}

/// What one value of one dial does to the exposure, and costs. Those of several dials add up.
struct DialValue {
    double stops = 0.0;
    double cost = 0.0;
};
DialValue weighed(const Problem& p, const ExposureDial& dial, double value) {
    const rig::Settings& from = p.from;
    if (!(from.*dial.setting).isTold()) return {};  // what is not turned stays what it is
    rig::Settings to = from;
    to.*dial.setting = value;
    const bool isTurned = std::abs(value - (from.*dial.setting).value()) > 1e-9;
    DialValue made{p.dialTo(to).exposureStops, isTurned ? p.options.perTurn : 0.0};
    if (dial.setting == &rig::Settings::ndStops && isTurned) made.cost += p.options.ndPerChange;
    if (dial.setting == &rig::Settings::fNumber)
        made.cost +=
            p.options.aperturePerStop * std::abs(2.0 * std::log2(to.fNumber / from.fNumber));
    if (dial.setting == &rig::Settings::shutterSeconds)
        made.cost += p.options.shutterPerStop * motionAway(p.options, to) + leavesMotion(p, to);
    if (dial.setting == &rig::Settings::isoValue)
        made.cost += isoPenalty(p.camera->sheet, value, p.options);
    if (dial.setting == &rig::Settings::gainDb)
        made.cost += p.options.isoPerStopAboveNative * std::max(value, 0.0) / 6.0;
    return made;
}

/// A combination of values of the dials, by their places.
struct ExposureChoice {
    std::array<std::size_t, kExposureDials> at{};
    double cost = 0.0;  ///< what is left, and what the way there costs
};

/// All combinations of ISO, gain, aperture, shutter and ND for one camera. What a value does and
/// costs is weighed once; a combination only adds up.
class ExposureChoices {
public:
    explicit ExposureChoices(const Problem& p) : m_p(p), m_dials(exposureDials(p)) {
        for (std::size_t dial = 0; dial < kExposureDials; ++dial) {
            for (const double value : m_dials[dial].values)
                m_values[dial].push_back(weighed(p, m_dials[dial], value));
        }
    }

    /// The nearest and least harmful ways to make up for `difference` stops, the best first.
    [[nodiscard]] std::vector<ExposureChoice> best(double difference, std::size_t most) const {
        std::vector<ExposureChoice> found;
        ExposureChoice choice;
        tryFrom(0, {difference, 0.0}, most, choice, found);
        return found;
    }
    [[nodiscard]] rig::Settings settings(const ExposureChoice& choice) const {
        rig::Settings to = m_p.from;
        for (std::size_t dial = 0; dial < kExposureDials; ++dial) {
            auto& setting = to.*m_dials[dial].setting;
            if (setting.isTold()) setting = m_dials[dial].values[choice.at[dial]];
        }
        return to;
    }

private:
    void tryFrom(std::size_t dial,
                 DialValue sum,
                 std::size_t most,
                 ExposureChoice& choice,
                 std::vector<ExposureChoice>& found) const {
        if (dial == kExposureDials) {
            choice.cost = std::abs(sum.stops) + sum.cost;
            const auto place = std::upper_bound(
                found.begin(), found.end(), choice.cost, [](double cost, const auto& one) {
                    return cost < one.cost;
                });
            if (place == found.end() && found.size() == most) return;
            found.insert(place, choice);
            if (found.size() > most) found.pop_back();
            return;
        }
        for (std::size_t i = 0; i < m_values[dial].size(); ++i) {
            choice.at[dial] = i;
            const DialValue& value = m_values[dial][i];
            tryFrom(
                dial + 1, {sum.stops + value.stops, sum.cost + value.cost}, most, choice, found);
        }
    }

    const Problem& m_p;
    std::array<ExposureDial, kExposureDials> m_dials;
    std::array<std::vector<DialValue>, kExposureDials> m_values;
};

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
    // Of coarse steps two are about as near: from one side and from the other.
    double above = 1e9, below = 1e9;
    for (double value : values) {
        const double left = rest(value);
        (left >= 0.0 ? above : below) = std::min(left >= 0.0 ? above : below, std::abs(left));
    }
    const double step = above < 1e9 && below < 1e9 ? above + below : 0.0;
    const double allowed = best + std::max(tie, kTieOfStep * step);
    std::vector<double> nearest;
    for (double value : values) {
        if (std::abs(rest(value)) <= allowed) nearest.push_back(value);
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
void tryExposures(const Problem& p,
                  const ExposureChoices* exposures,
                  const rig::Settings& balanced,
                  Scored& best) {
    std::vector<rig::Settings> candidates{p.from};
    if (exposures != nullptr) {
        const double balance = p.effectOf(p.dialTo(balanced)).exposureStops;
        const auto choices = exposures->best(p.exposure + balance, kExposuresTried);
        candidates.clear();
        for (const ExposureChoice& choice : choices) {
            if (choice.cost <= choices.front().cost + kExposureTie)
                candidates.push_back(exposures->settings(choice));
        }
    }
    const rig::Settings nearest = candidates.front();
    for (rig::Settings& candidate : candidates) {
        // Depth of field and motion are not given away for a colour.
        if (candidate.fNumber != nearest.fNumber ||
            candidate.shutterSeconds != nearest.shutterSeconds)
            continue;
        candidate.whiteBalanceKelvin = balanced.whiteBalanceKelvin;
        candidate.tintSteps = balanced.tintSteps;
        candidate.knobs = balanced.knobs;
        const double difference = p.predictedDeltaE(candidate);
        if (difference < best.deltaE - kWorthDeltaE) best = {candidate, difference};
    }
}

/// The second axis of a white balance, where a body has one: finer than its Kelvin steps, or all
/// there is beside its presets.
struct AmberAxis {
    std::string name;
    std::vector<double> steps;  ///< empty: there is none
    double from = 0.0;
    double miredPerStep = 0.0;
};
AmberAxis amberOf(const Problem& p) {
    for (std::size_t i = 0; i < p.camera->sheet.knobs.size(); ++i) {
        const rig::Knob& knob = p.camera->sheet.knobs[i];
        const auto present = p.from.knobs.find(knob.name);
        if (knob.kind != rig::KnobKind::Amber || knob.steps.empty() ||
            present == p.from.knobs.end())
            continue;
        return {
            knob.name, knob.steps, present->second, p.learned.knobs[i].perStep.whiteBalanceMired};
    }
    return {};
}

/// Where the amber axis may stand, when so many mired are left without it.
std::vector<double> amberSteps(const AmberAxis& amber, double left, const SolverOptions& options) {
    if (amber.steps.empty()) return {0.0};
    return nearestValues(
        amber.steps,
        amber.from,
        [&](double step) { return left + amber.miredPerStep * (step - amber.from); },
        options.worthMired,
        kMiredTie);
}

/// Exposure, white balance and tint, with the knobs as `knobs` has them, and the colour that its ND
/// brings made up for.
rig::Settings chooseDials(const Problem& p, const rig::Settings& knobs) {
    const bool isCastKnown = p.differences.of(Quality::WhiteBalance).value.has_value();
    rig::Settings start = p.from;
    start.knobs = knobs.knobs;
    const AmberAxis amber = amberOf(p);
    if (!amber.steps.empty()) start.knobs[amber.name] = amber.from;
    rig::Settings filtered = start;
    filtered.ndStops = knobs.ndStops;
    const Change look = p.dialTo(filtered);
    const Change wanted = isCastKnown ? p.wantedDial(look) : look;
    const auto onlyPresent = [](const base::Told<double>& present) {
        return std::vector<double>{present};
    };
    const LearnedControls& learned = p.learned;
    const auto miredLeft = [&](double k) {
        return learned.miredBetween(p.from.whiteBalanceKelvin, k) + look.whiteBalanceMired -
               wanted.whiteBalanceMired;
    };
    const auto kelvins =
        nearestValues(p.options.isKelvinKnown && isCastKnown
                          ? valuesOr(p.camera->sheet.kelvins, p.from.whiteBalanceKelvin)
                          : onlyPresent(p.from.whiteBalanceKelvin),
                      p.from.whiteBalanceKelvin,
                      miredLeft,
                      p.options.worthMired,
                      kMiredTie);
    const double step = std::abs(learned.tint.share * p.camera->sheet.tintDuvPerStep);
    const auto tints = nearestValues(
        isCastKnown ? valuesOr(p.camera->sheet.tintSteps, p.from.tintSteps)
                    : onlyPresent(p.from.tintSteps),
        p.from.tintSteps,
        [&](double t) {
            const double unit = p.camera->sheet.tintDuvPerStep;
            return learned.duvBetween(unit * p.from.tintSteps, unit * t) + look.tintDuv -
                   wanted.tintDuv;
        },
        p.options.worthTintShare * step,
        0.1 * step);
    Scored best{start, 1e9};
    rig::Settings balanced = start;
    const bool isExposureFree = p.isExposureTurned && canTurnExposure(*p.camera, p.from, p.options);
    const std::optional<ExposureChoices> exposures =
        isExposureFree ? std::optional<ExposureChoices>(p) : std::nullopt;
    for (const double kelvin : kelvins) {
        // What is not turned stays what it is, told or not.
        if (p.from.whiteBalanceKelvin.isTold()) balanced.whiteBalanceKelvin = kelvin;
        const bool isAmberFree = isCastKnown && p.options.isKelvinKnown;
        for (const double at : isAmberFree ? amberSteps(amber, miredLeft(kelvin), p.options)
                                           : onlyPresent(amber.from)) {
            if (!amber.steps.empty()) balanced.knobs[amber.name] = at;
            for (const double tint : tints) {
                if (p.from.tintSteps.isTold()) balanced.tintSteps = tint;
                tryExposures(p, exposures ? &*exposures : nullptr, balanced, best);
            }
        }
    }
    return best.settings;
}

/// One knob that is worth turning, and where it may stand.
struct FreeKnob {
    std::string name;
    std::vector<double> steps;
    std::size_t at = 0;  ///< index of the step it stands at
    std::size_t from = 0;
};

/// Knobs whose effect is known, by kind or by what was learned, with the present value among their
/// steps.
std::vector<FreeKnob> freeKnobs(const Problem& p) {
    std::vector<FreeKnob> knobs;
    for (std::size_t i = 0; i < p.camera->sheet.knobs.size(); ++i) {
        const rig::Knob& knob = p.camera->sheet.knobs[i];
        const auto present = p.from.knobs.find(knob.name);
        if (knob.kind == rig::KnobKind::Amber) continue;  // as white balance: chooseDials()
        const bool isKnown = knob.kind != rig::KnobKind::Other ||
                             (i < p.learned.knobs.size() && p.learned.knobs[i].takes > 0);
        if (!isKnown || present == p.from.knobs.end() || knob.steps.empty()) continue;
        FreeKnob one{knob.name, knob.steps, 0, 0};
        const auto place = std::lower_bound(one.steps.begin(), one.steps.end(), present->second);
        one.from = static_cast<std::size_t>(place - one.steps.begin());
        if (place == one.steps.end() || *place != present->second)
            one.steps.insert(place, present->second);
        one.at = one.from;
        knobs.push_back(one);
    }
    return knobs;
}

/// What unsure controls leave unsure of a mean ΔE2000: a tenth of a stop is 1.5 L* at grey (common
/// practice); the others are our own estimates on the patches of a chart.
double unsureDeltaE(const Change& unsure) {
    double sum = 0.0;
    constexpr std::array<double, kChangeParts> kPerUnit{5.0, 0.1, 400.0, 5.0, 0.1, 4.0, 0.1, 2.5};
    for (std::size_t i = 0; i < kChangeParts; ++i)
        sum += std::pow(kPerUnit[i] * (unsure.*kPartsOfChange[i]), 2.0);
    return std::sqrt(sum);
}

/// Descends over the steps of all knobs: by ever smaller strides of each, then by up to two steps
/// of any two together, until nothing lowers the predicted difference by more than turning costs.
class KnobSearch {
public:
    KnobSearch(const Problem& p, const rig::Settings& start)
        : m_p(p), m_settings(start), m_knobs(freeKnobs(p)) {}

    rig::Settings best() {
        if (m_knobs.empty()) return m_settings;
        for (FreeKnob& knob : m_knobs) {
            const double value = m_settings.knobs.at(knob.name);
            const auto place = std::find(knob.steps.begin(), knob.steps.end(), value);
            knob.at = static_cast<std::size_t>(place - knob.steps.begin());
        }
        m_cost = costNow();
        std::ptrdiff_t stride = 1;
        for (const FreeKnob& knob : m_knobs)
            stride = std::max(stride, static_cast<std::ptrdiff_t>(knob.steps.size()) / 6);
        for (; stride > 1; stride /= 2) descend(stride);
        constexpr int kRounds = 12;
        for (int round = 0; round < kRounds; ++round) {
            if (!descend(1) && !descendByTwo()) break;
        }
        for (const FreeKnob& knob : m_knobs) m_settings.knobs[knob.name] = knob.steps[knob.at];
        return m_settings;
    }

private:
    double costNow() {
        int turned = 0;
        for (const FreeKnob& knob : m_knobs) {
            m_settings.knobs[knob.name] = knob.steps[knob.at];
            if (knob.at != knob.from) ++turned;
        }
        const double sure = m_p.predictedDeltaE(m_settings);
        const double unsure = unsureDeltaE(
            m_p.learned.uncertainty(movesBetween(m_p.camera->sheet, m_p.from, m_settings)));
        return std::hypot(sure, unsure) + m_p.options.perKnob * turned;
    }
    /// Keeps what lowers the cost.
    bool isBetter(const std::vector<std::pair<FreeKnob*, std::ptrdiff_t>>& moves) {
        std::vector<std::size_t> before;
        for (const auto& [knob, by] : moves) {
            before.push_back(knob->at);
            const auto to = static_cast<std::ptrdiff_t>(knob->at) + by;
            const auto last = static_cast<std::ptrdiff_t>(knob->steps.size()) - 1;
            knob->at = static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(to, 0, last));
        }
        const double cost = costNow();
        if (cost < m_cost - 1e-6) {
            m_cost = cost;
            return true;
        }
        for (std::size_t i = 0; i < moves.size(); ++i) moves[i].first->at = before[i];
        return false;
    }
    bool descend(std::ptrdiff_t stride) {
        bool isLower = false;
        for (FreeKnob& knob : m_knobs) {
            for (const std::ptrdiff_t by : {stride, -stride}) {
                while (isBetter({{&knob, by}})) isLower = true;
            }
        }
        return isLower;
    }
    bool descendByTwo() {
        for (std::size_t i = 0; i < m_knobs.size(); ++i) {
            for (std::ptrdiff_t by : {-2, 2}) {
                if (isBetter({{&m_knobs[i], by}})) return true;
            }
            for (std::size_t k = i + 1; k < m_knobs.size(); ++k) {
                for (const std::ptrdiff_t a : {-2, -1, 1, 2}) {
                    for (const std::ptrdiff_t b : {-2, -1, 1, 2}) {
                        if (isBetter({{&m_knobs[i], a}, {&m_knobs[k], b}})) return true;
                    }
                }
            }
        }
        return false;
    }

    const Problem& m_p;
    rig::Settings m_settings;
    std::vector<FreeKnob> m_knobs;
    double m_cost = 0.0;
};

/// True where colour or contrast is not good as it is, or one patch alone lies far off.
bool isLookOff(const CameraDifferences& differences) {
    constexpr double kFarPatch = 5.0;  // ΔE2000, own choice: seen at once beside the other
    if (differences.colour.max > kFarPatch) return true;
    for (const Quality quality : {Quality::Contrast,
                                  Quality::BlackLevel,
                                  Quality::Saturation,
                                  Quality::Hue,
                                  Quality::DeltaE}) {
        const Verdict verdict = differences.of(quality).verdict;
        if (verdict == Verdict::Near || verdict == Verdict::Off) return true;
    }
    return false;
}

}  // namespace

double Problem::predictedDeltaE(const rig::Settings& to) const {
    return colourDifference(
               predictor.at(dialTo(to)), options.judge, reference, options.referenceJudge)
        .mean;
}

bool canTurnExposure(const rig::Camera& camera,
                     const rig::Settings& from,
                     const SolverOptions& options) {
    if (!camera.sheet.isoValues.empty() && !from.isoValue.isTold()) return false;
    if (!camera.sheet.gainsDb.empty() && !from.gainDb.isTold()) return false;
    return canTurn(camera.sheet.isoValues, from.isoValue) ||
           canTurn(camera.sheet.gainsDb, from.gainDb) ||
           canTurn(camera.sheet.fNumbers, from.fNumber) || options.shutters.size() > 1 ||
           (rig::hasOwnNd(camera.sheet) && canTurn(camera.sheet.ndStops, from.ndStops));
}

rig::Settings chooseSettings(const Problem& p) {
    rig::Settings best = chooseDials(p, p.from);
    if (best.ndStops != p.from.ndStops) best = chooseDials(p, best);
    if (p.camera->sheet.knobs.empty() || !isLookOff(p.differences)) return best;
    // Knobs move the neutral a little, and the dials what the knobs are to do: once more each.
    best = KnobSearch(p, best).best();
    best = chooseDials(p, best);
    best = KnobSearch(p, best).best();
    return chooseDials(p, best);
}

}  // namespace rigmatch::match
