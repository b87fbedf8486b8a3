// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/solver.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "match/compare_parts.h"
#include "match/knob_kinds.h"
#include "match/left_over.h"
#include "match/setting_choice.h"
#include "match/sharpness_turn.h"
#include "optics/exposure.h"

namespace rigmatch::match {
namespace {

using base::say;
using rig::Control;
using rig::Turn;

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
    turn.fromText = say("turn.automaticNow");
    if (isKnown)
        turn.fromText = say(
            "turn.automaticAt",
            {{"value", rig::valueText(isExposure ? Control::Iso : Control::WhiteBalance, value)}});
    turn.toText = say("turn.lockManual");
    turn.effect = isExposure ? "exposureStops" : "whiteBalanceMired";
    turn.before = turn.after = isExposure ? p.exposure : p.mired;
    turn.reason = say("turn.automatic");
    if (!isKnown) turn.reason += say("turn.automaticUnknown");
    turns.push_back(turn);
}

base::Text exposureReason(Control control, double stops) {
    base::Text text = say(stops > 0 ? "turn.brighter" : "turn.darker",
                          {{"stops", optics::thirdsText(base::Stops(stops))}});
    if (control == Control::Aperture) text += say("turn.depthOfField");
    if (control == Control::Shutter) text += say("turn.motion");
    if (control == Control::Iso && stops > 0.9) text += say("turn.moreLight");
    return text;
}

/// One standard deviation of what a turn promises: what its controls leave unsure, and what else
/// may come between (docs/sources.md, 6.6; common practice).
Change promiseError(const Change& dial, const Change& unsure) {
    const auto isIn = [&](auto... parts) { return ((dial.*parts != 0.0) || ...); };
    const auto with = [&](double Change::*part, double floor, bool isPromised) {
        return isPromised ? std::hypot(unsure.*part, floor) : 0.0;
    };
    const bool isColour = isIn(&Change::whiteBalanceMired, &Change::tintDuv);
    return {with(&Change::exposureStops, 0.02, true),
            with(&Change::whiteBalanceMired, 1.0, isColour),
            with(&Change::tintDuv, 0.0003, isColour),
            with(&Change::contrast, 0.02, isIn(&Change::contrast)),
            with(&Change::blackPercent, 0.3, isIn(&Change::blackPercent)),
            with(&Change::saturation, 0.02, isIn(&Change::saturation)),
            with(&Change::hueDegrees, 0.5, isIn(&Change::hueDegrees)),
            with(&Change::knee, 0.05, isIn(&Change::knee))};
}

void addTo(Change& sum, const Change& change) {
    for (const auto part : kPartsOfChange) sum.*part += change.*part;
}
Change minus(const Change& a, const Change& b) {
    Change left;
    for (const auto part : kPartsOfChange) left.*part = a.*part - b.*part;
    return left;
}

/// "+2 steps".
base::Text stepsText(double steps) {
    return say(std::abs(steps) == 1.0 ? "amount.step" : "amount.steps",
               {{"steps", base::Number{steps, 0, true}}});
}

/// Turns one after the other, each with what it promises on top of those before it.
class TurnList {
public:
    TurnList(const Problem& problem, std::vector<Turn>& turns) : m_p(problem), m_turns(turns) {}

    void add(Control control, double from, double target, const base::Text& reason = {}) {
        if (std::abs(from - target) < 1e-9) return;
        Turn turn = turnFor(*m_p.camera, control, from, target);
        take(turn);
        turn.reason = reason.empty() ? exposureReason(control, turn.change.exposureStops) : reason;
        m_turns.push_back(turn);
    }
    void addKnob(const KnobResponse& knob,
                 double from,
                 double target,
                 bool isTold,
                 const base::Text& reason) {
        if (std::abs(from - target) < 1e-9) return;
        Turn turn = turnFor(*m_p.camera, Control::Knob, from, target);
        turn.knob = knob.name;
        turn.effect = effectOfKnob(knob.kind);
        take(turn);
        turn.reason = reason;
        if (!isTold) {
            turn.isAmount = true;
            turn.fromText = {};
            turn.toText = stepsText(target - from);
        }
        m_turns.push_back(turn);
    }
    /// A turn by an amount, whatever the settings are.
    void promise(const Moves& moves, Turn& turn) {
        promise(m_p.learned.answer(moves), m_p.learned.uncertainty(moves), turn);
    }
    [[nodiscard]] const Change& dial() const { return m_dial; }
    [[nodiscard]] const Change& effect() const { return m_effect; }

private:
    /// Turns the settings by `turn`, and promises what that does.
    void take(Turn& turn) {
        const rig::Settings next = rig::applied(m_settings, turn);
        const Moves moves = movesBetween(m_p.camera->sheet, m_settings, next);
        promise(moves, turn);
        m_settings = next;
    }
    void promise(const Change& dial, const Change& unsure, Turn& turn) {
        addTo(m_dial, dial);
        const Change effect = m_p.effectOf(m_dial);
        turn.change = minus(effect, m_effect);
        turn.changeUncertainty = promiseError(dial, unsure);
        const auto put = [&](const char* name, double difference, double Change::*part) {
            turn.effect = name;
            turn.before = difference + m_effect.*part;
            turn.after = difference + effect.*part;
        };
        const auto putRatio = [&](Quality quality, double Change::*part) {
            const double ratio = m_p.differences.of(quality).value.value_or(1.0);
            turn.before = ratio * std::exp(m_effect.*part);
            turn.after = ratio * std::exp(effect.*part);
        };
        const auto valueOf = [&](Quality quality) {
            return m_p.differences.of(quality).value.value_or(0.0);
        };
        if (turn.control == Control::WhiteBalance ||
            (turn.control == Control::Knob && turn.effect == "whiteBalanceMired"))
            put("whiteBalanceMired", m_p.mired, &Change::whiteBalanceMired);
        else if (turn.control == Control::Tint)
            put("tintDuv", m_p.duv, &Change::tintDuv);
        else if (turn.control != Control::Knob)
            put("exposureStops", m_p.exposure, &Change::exposureStops);
        else if (turn.effect == effectOfKnob(rig::KnobKind::Contrast))
            putRatio(Quality::Contrast, &Change::contrast);
        else if (turn.effect == effectOfKnob(rig::KnobKind::Saturation))
            putRatio(Quality::Saturation, &Change::saturation);
        else if (turn.effect == effectOfKnob(rig::KnobKind::Black))
            put("blackLevelPercent", valueOf(Quality::BlackLevel), &Change::blackPercent);
        else if (turn.effect == effectOfKnob(rig::KnobKind::Hue))
            put("hueDegrees", valueOf(Quality::Hue), &Change::hueDegrees);
        m_effect = effect;
        const auto isGood = [&](Quality quality) {
            return m_p.differences.judged(quality).verdict == Verdict::Good;
        };
        turn.isFine = turn.effect == "whiteBalanceMired" ? isGood(Quality::WhiteBalance)
                      : turn.effect == "tintDuv"         ? isGood(Quality::Tint)
                      : turn.effect == "exposureStops"   ? isGood(Quality::Exposure)
                                                         : false;
    }

    const Problem& m_p;
    std::vector<Turn>& m_turns;
    rig::Settings m_settings = m_p.from;
    Change m_dial, m_effect;
};

/// Why a free shutter is turned; empty: only for its light.
base::Text shutterReason(const Problem& p, const rig::Settings& to) {
    constexpr double kSame = 0.02;  // of the reference's angle
    const double open = to.shutterSeconds * to.frameRate;
    if (p.options.openShare <= 0.0 || std::abs(open / p.options.openShare - 1.0) > kSame) return {};
    return say("turn.motionAlike");
}

/// "; this dial does 0.72 ± 0.03 of what it says, learned from 2 takes", or nothing.
base::Text learnedText(const Response& response) {
    if (response.takes == 0) return {};
    return say(response.takes == 1 ? "turn.learnedOnce" : "turn.learned",
               {{"share", base::Number{response.share, 2}},
                {"uncertainty", base::Number{std::max(response.uncertainty, 0.01), 2}},
                {"turns", base::Number{double(response.takes)}}});
}

/// The same of one turn of exposure, where it does otherwise than it says.
base::Text unlikeSaidText(const Problem& p,
                          const rig::Settings& to,
                          base::Told<double> rig::Settings::*setting,
                          int takes) {
    rig::Settings turned = p.from;
    turned.*setting = to.*setting;
    const double says =
        optics::exposureChange(rig::exposureOf(p.from), rig::exposureOf(turned)).value();
    if (says == 0.0) return {};  // two names of one value
    const Moves moves = movesBetween(p.camera->sheet, p.from, turned);
    const Response done{p.learned.answer(moves).exposureStops / says,
                        p.learned.uncertainty(moves).exposureStops / std::abs(says),
                        takes};
    constexpr double kWorthTelling = 0.02;
    return std::abs(done.share - 1.0) < kWorthTelling ? base::Text{} : learnedText(done);
}

void addExposureTurns(const Problem& p,
                      const rig::Settings& to,
                      TurnList& turns,
                      std::vector<Turn>& list) {
    const std::size_t before = list.size();
    const LearnedControls& learned = p.learned;
    const auto add = [&](Control control,
                         base::Told<double> rig::Settings::*setting,
                         int takes,
                         const base::Text& reason = {}) {
        const std::size_t count = list.size();
        turns.add(control, p.from.*setting, to.*setting, reason);
        if (list.size() > count) list.back().reason += unlikeSaidText(p, to, setting, takes);
    };
    using S = rig::Settings;
    add(Control::Nd, &S::ndStops, learned.nd.takes);
    add(Control::Aperture, &S::fNumber, learned.aperture.takes);
    add(Control::Shutter, &S::shutterSeconds, learned.shutter.takes, shutterReason(p, to));
    add(Control::Iso, &S::isoValue, learned.exposure.takes);
    add(Control::Gain, &S::gainDb, learned.exposure.takes);
    // White balance comes after: what it gives or takes in light is counted on here.
    rig::Settings balanced = p.from;
    balanced.whiteBalanceKelvin = to.whiteBalanceKelvin;
    balanced.tintSteps = to.tintSteps;
    const double given = p.effectOf(p.dialTo(balanced)).exposureStops;
    constexpr double kWorthTelling = 0.05;  // stops
    if (list.size() > before && std::abs(given) >= kWorthTelling)
        list.back().reason += say(given > 0.0 ? "turn.balanceGives" : "turn.balanceTakes",
                                  {{"stops", base::Number{std::abs(given), 2}}});
}

/// Why white balance or tint is turned, where that is less for what is seen than for what another
/// filter will do; else nothing.
base::Text filterReason(const Problem& p,
                        const rig::Settings& to,
                        double Change::*part,
                        double seen) {
    rig::Settings filtered = p.from;
    filtered.ndStops = to.ndStops;
    const Moves moves = movesBetween(p.camera->sheet, p.from, filtered);
    const double brought = p.learned.answer(moves).*part;
    if (std::abs(brought) <= std::abs(seen)) return {};
    const double unsure = p.learned.uncertainty(moves).*part;
    if (part == &Change::tintDuv)
        return say("turn.ndTints",
                   {{"duv", base::Number{brought, 4, true}},
                    {"uncertainty", base::Number{std::max(unsure, 0.0001), 4}}});
    return say("turn.ndColours",
               {{"mired", base::Number{brought, 0, true}},
                {"uncertainty", base::Number{std::max(unsure, 1.0), 0}}});
}

base::Text orElse(base::Text text, const char* code) {
    return text.empty() ? say(code) : std::move(text);
}

void addColourTurns(const Problem& p, const rig::Settings& to, TurnList& turns) {
    turns.add(Control::WhiteBalance,
              p.from.whiteBalanceKelvin,
              to.whiteBalanceKelvin,
              orElse(filterReason(p, to, &Change::whiteBalanceMired, p.mired),
                     p.mired > 0 ? "turn.tooWarm" : "turn.tooCool") +
                  learnedText(p.learned.whiteBalance));
    turns.add(Control::Tint,
              p.from.tintSteps,
              to.tintSteps,
              orElse(filterReason(p, to, &Change::tintDuv, p.duv),
                     p.duv > 0 ? "turn.tooGreen" : "turn.tooMagenta") +
                  say(p.learned.tint.takes > 0 ? "turn.stepLearned" : "turn.stepTaken",
                      {{"duv",
                        base::Number{1000.0 * p.learned.tint.share * p.camera->sheet.tintDuvPerStep,
                                     2}}}));
}

/// What a knob is turned for.
base::Text lookReason(const Problem& p, const KnobResponse& knob) {
    const auto isAbove = [&](Quality quality, double neutral) {
        return p.differences.of(quality).value.value_or(neutral) > neutral;
    };
    switch (knob.kind) {
        case rig::KnobKind::Contrast:
            return isAbove(Quality::Contrast, 1.0) ? say("turn.moreContrast") : say("turn.flatter");
        case rig::KnobKind::Black:
            return isAbove(Quality::BlackLevel, 0.0) ? say("turn.milky") : say("turn.deeper");
        case rig::KnobKind::Saturation:
            return isAbove(Quality::Saturation, 1.0) ? say("turn.colourful") : say("turn.paler");
        case rig::KnobKind::Hue:
            return say("turn.huesTurned");
        case rig::KnobKind::Amber:
            return p.mired > 0.0 ? say("turn.tooWarm") : say("turn.tooCool");
        case rig::KnobKind::Knee:
            return say("turn.lightTones");
        case rig::KnobKind::Other:
            break;
    }
    return say("turn.nearer");
}

void addKnobTurns(const Problem& p,
                  const rig::Settings& told,
                  const rig::Settings& to,
                  TurnList& turns) {
    for (const rig::KnobKind kind : {rig::KnobKind::Amber,
                                     rig::KnobKind::Contrast,
                                     rig::KnobKind::Black,
                                     rig::KnobKind::Knee,
                                     rig::KnobKind::Saturation,
                                     rig::KnobKind::Hue,
                                     rig::KnobKind::Other}) {
        for (const KnobResponse& knob : p.learned.knobs) {
            const auto from = p.from.knobs.find(knob.name);
            const auto target = to.knobs.find(knob.name);
            if (knob.kind != kind || from == p.from.knobs.end() || target == to.knobs.end())
                continue;
            const bool isTold = told.knobs.count(knob.name) > 0;
            base::Text reason = lookReason(p, knob) + stepText(knob.takes);
            if (!isTold) reason += say("turn.whereUntold");
            turns.addKnob(knob, from->second, target->second, isTold, reason);
        }
    }
}

constexpr const char* kNoSteps = "turn.stepsUnknown";
constexpr const char* kNotTold = "turn.settingsUnknown";

/// Turns by amounts, where the values of a control are not known.
class Amounts {
public:
    Amounts(const Problem& problem, const char* code, TurnList& list, std::vector<Turn>& turns)
        : m_p(problem),
          m_wanted(problem.wantedDial()),
          m_reason(say(code)),
          m_list(list),
          m_turns(turns) {}

    void addExposure() {
        if (std::abs(m_p.exposure) <= m_p.differences.of(Quality::Exposure).good) return;
        const double thirds = std::round(-m_p.exposure * 3.0) / 3.0;
        if (thirds != 0.0)
            add(Control::Exposure, 0, thirds, optics::thirdsText(base::Stops(thirds)));
    }
    void addWhiteBalance() {
        if (std::abs(m_p.mired) <= m_p.differences.of(Quality::WhiteBalance).good) return;
        add(Control::WhiteBalance,
            1,
            m_wanted.whiteBalanceMired,
            say("amount.mired", {{"mired", base::Number{m_wanted.whiteBalanceMired, 0, true}}}));
    }
    /// In steps where the camera has them: `step` Duv each; 0: it has none.
    void addTint(double step) {
        if (std::abs(m_p.duv) <= m_p.differences.of(Quality::Tint).good) return;
        if (step == 0.0) {
            add(Control::Tint,
                2,
                m_wanted.tintDuv,
                say("amount.duv", {{"duv", base::Number{m_wanted.tintDuv, 4, true}}}));
            return;
        }
        const double steps = std::round(m_wanted.tintDuv / step);
        if (steps != 0.0) add(Control::Tint, 2, steps * step, stepsText(steps));
    }

private:
    /// `dial`: of Moves.
    void add(Control control, int dial, double by, base::Text text) {
        Moves moves = Moves::Zero(kFirstKnob + static_cast<int>(m_p.learned.knobs.size()));
        moves[dial] = by;
        Turn turn;
        turn.cameraId = m_p.differences.cameraId;
        turn.control = control;
        turn.isAmount = true;
        turn.toText = std::move(text);
        turn.reason = m_reason;
        m_list.promise(moves, turn);
        m_turns.push_back(turn);
    }

    const Problem& m_p;
    Change m_wanted;
    base::Text m_reason;
    TurnList& m_list;
    std::vector<Turn>& m_turns;
};

/// Amounts for those controls whose setting nobody told us.
void addUntold(const Problem& p, TurnList& list, std::vector<Turn>& turns) {
    const rig::ControlSheet& sheet = p.camera->sheet;
    Amounts amounts(p, kNotTold, list, turns);
    if (p.isExposureTurned && !canTurnExposure(*p.camera, p.from, p.options)) amounts.addExposure();
    if (p.options.isKelvinKnown && !p.from.whiteBalanceKelvin.isTold()) amounts.addWhiteBalance();
    if (!p.from.tintSteps.isTold() && !sheet.tintSteps.empty())
        amounts.addTint(sheet.tintDuvPerStep);
}

/// A knob that nobody told stands at 0 for all that is known; it is turned by steps.
rig::Settings withAllKnobs(const rig::Camera* camera, rig::Settings settings) {
    if (camera == nullptr) return settings;
    for (const rig::Knob& knob : camera->sheet.knobs) settings.knobs.emplace(knob.name, 0.0);
    return settings;
}

/// Patches and skin, as both are judged: every person counts as so many patches, all of them as a
/// quarter of a chart at most.
PatchSignals withSkin(PatchSignals patches,
                      const std::vector<SkinAim>& skin,
                      std::array<double, 3> SkinAim::*signal) {
    constexpr std::size_t kPatchesPerPerson = 3, kMostOfSkin = 6;
    std::size_t added = 0;
    for (const SkinAim& aim : skin) {
        for (std::size_t i = 0; i < kPatchesPerPerson && added < kMostOfSkin; ++i, ++added)
            patches.push_back(aim.*signal);
    }
    return patches;
}

void addLocks(const Problem& problem, const rig::Settings& shot, std::vector<rig::Turn>& turns) {
    if (shot.isAutoExposure) addLock(problem, Control::LockExposure, shot.isoValue, turns);
    if (shot.isAutoWhiteBalance)
        addLock(problem, Control::LockWhiteBalance, shot.whiteBalanceKelvin, turns);
}

}  // namespace

TurnPlan solveTurns(const rig::Camera* camera,
                    const rig::Settings& shotSettings,
                    const rig::Reading& reading,
                    const rig::Reading& reference,
                    const CameraDifferences& differences,
                    const BodyModel& body,
                    const SolverOptions& options) {
    TurnPlan plan;
    plan.after = signalsOf(reading);
    const bool isAnythingKnown = differences.of(Quality::Exposure).value.has_value() ||
                                 differences.of(Quality::WhiteBalance).value.has_value();
    if (!differences.fit || !isAnythingKnown) return plan;
    const Difference& exposure = differences.judged(Quality::Exposure);
    const LearnedControls prior =
        camera == nullptr ? LearnedControls() : LearnedControls(camera->sheet);
    const bool isLearned = camera != nullptr && options.learned.knobs.size() == prior.knobs.size();
    const rig::Settings from = withAllKnobs(camera, shotSettings);
    const Problem problem{
        camera,
        from,
        reading,
        withSkin(signalsOf(reference), options.skin, &SkinAim::aim),
        differences,
        body,
        options,
        Predictor(body, withSkin(plan.after, options.skin, &SkinAim::recorded)),
        isLearned ? options.learned : prior,
        options.referenceGrey > 0.0 ? options.referenceGrey : differences.fit->greySignal(0.0),
        exposure.value.value_or(0.0),
        differences.of(Quality::WhiteBalance).value.value_or(0.0),
        differences.of(Quality::Tint).value.value_or(0.0),
        options.isIsoKnown && exposure.value.has_value()};
    TurnList list(problem, plan.turns);
    if (camera == nullptr) {
        Amounts amounts(problem, kNoSteps, list, plan.turns);
        amounts.addExposure();
        amounts.addWhiteBalance();
        amounts.addTint(0.0);
    } else {
        addLocks(problem, shotSettings, plan.turns);
        const rig::Settings to = chooseSettings(problem);
        addExposureTurns(problem, to, list, plan.turns);
        addColourTurns(problem, to, list);
        addUntold(problem, list, plan.turns);
        addKnobTurns(problem, shotSettings, to, list);
        if (const auto sharpness =
                sharpnessTurn(*camera, shotSettings, reading, reference, problem.learned.sharpness))
            plan.turns.push_back(*sharpness);
        plan.total = list.effect();
        nameLeftOver(problem, to, plan);
    }
    plan.dial = list.dial();
    plan.total = list.effect();
    plan.after = body.predicted(reading, plan.dial);
    plan.predicted = colourDifference(plan.after,
                                      options.judge,
                                      errorsOf(reading),
                                      signalsOf(reference),
                                      options.referenceJudge,
                                      errorsOf(reference));
    return plan;
}

}  // namespace rigmatch::match
