// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/learning.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "match/change_fit.h"
#include "match/knob_kinds.h"
#include "match/side_view.h"

namespace rigmatch::match {
namespace {

using base::Number;
using base::say;

constexpr std::ptrdiff_t kMostTakes = 12;  // older ones tell of another day
constexpr double kSurprise = 3.0;          // deviations (Mahalanobis 9: docs/sources.md, 6.6)
constexpr double kWorthLearning = 3.0;     // a change this many deviations of its reading
// Of one reading of a difference, with what scene and method add.
constexpr double kTurnStops = 0.03, kTurnMired = 1.4, kTurnDuv = 0.0005;
constexpr double kWorthDoubt = 0.5;  // or one that is unsure by this much of its reading

/// One camera against the reference in one take.
struct SeenTurn {
    const rig::Take* take;
    const rig::Shot* camera;
    const rig::Shot* reference;
    NeutralFit mine, theirs;
};

std::optional<SeenTurn> seenIn(const rig::Rig& rig, const rig::Take& take, const std::string& id) {
    const rig::Shot* camera = rig::findShot(take, id);
    const rig::Shot* reference = rig::findShot(take, rig.referenceId);
    const auto hasChart = [](const rig::Shot* shot) {
        return shot != nullptr && shot->reading && shot->reading->hasChart &&
               !shot->reading->areColoursDoubtful;
    };
    const bool isToLearn =
        rig::isFor(take, rig::Purpose::Match) || rig::isFor(take, rig::Purpose::Probe);
    if (!isToLearn || !hasChart(camera) || !hasChart(reference)) return std::nullopt;
    const auto mine = fitNeutrals(*camera->reading);
    const auto theirs = fitNeutrals(*reference->reading);
    if (!mine || !theirs || !mine->isCastKnown || !theirs->isCastKnown) return std::nullopt;
    return SeenTurn{&take, camera, reference, *mine, *theirs};
}

/// Light at which the camera records the reference's grey, against its own: the exposure it would
/// have to be turned by.
double exposureOf(const SeenTurn& seen) {
    return -(seen.mine.greyStops(seen.theirs.greySignal(0.0)));
}

/// Settings by which pictures differ, apart from what can be learned of, are the same.
bool isOtherwiseSame(const rig::ControlSheet& sheet,
                     const rig::Settings& a,
                     const rig::Settings& b) {
    const auto told = [&](const rig::Settings& s) {
        std::vector<std::pair<std::string, double>> others;
        for (const auto& [name, value] : s.knobs)
            others.emplace_back(name, rig::findKnob(sheet, name) == nullptr ? value : 0.0);
        return others;
    };
    return a.profile == b.profile && told(a) == told(b) && !a.isAutoExposure && !b.isAutoExposure &&
           !a.isAutoWhiteBalance && !b.isAutoWhiteBalance;
}

bool isReferenceLeftAlone(const rig::Settings& a, const rig::Settings& b) {
    return a == b && !a.isAutoExposure && !a.isAutoWhiteBalance;
}

/// Stops by everything that turns exposure, as it says.
double stopsOf(const Moves& moves) {
    return moves[0] + moves[kShutterMove] + moves[kApertureMove] + moves[kNdMove];
}

/// The dial that does most to that part: of those that turn exposure the one that is turned
/// farthest.
int mainDial(std::size_t part, const Moves& moves) {
    int dial = static_cast<int>(part);
    if (part != 0) return dial;
    for (const int other : {kShutterMove, kApertureMove, kNdMove}) {
        if (std::abs(moves[other]) > std::abs(moves[dial])) dial = other;
    }
    return dial;
}

/// What another rig taught of this body's ND, as far as it lies off what the filters say.
void putTaughtNd(const rig::ControlSheet& sheet, Eigen::VectorXd& stops) {
    if (sheet.ndTaught.empty()) return;
    for (int place = 0; place < kNdBends; ++place) {
        const auto nearest = std::min_element(
            sheet.ndTaught.begin(), sheet.ndTaught.end(), [&](const auto& a, const auto& b) {
                return std::abs(a.stops - ndPlace(place)) < std::abs(b.stops - ndPlace(place));
            });
        constexpr double kSame = 0.51;  // stop: the filter between two places stands for both
        if (std::abs(nearest->stops - ndPlace(place)) < kSame)
            stops[kFirstNdBend + place] =
                std::clamp(nearest->stops - nearest->realStops, -2.0, 2.0);
    }
}

}  // namespace

LearnedControls::LearnedControls(const rig::ControlSheet& sheet) {
    const int count = kFirstKnob + static_cast<int>(sheet.knobs.size());
    for (Part& part : m_parts) {
        part.mean = Eigen::VectorXd::Zero(count);
        part.covariance = Eigen::MatrixXd::Zero(count, count);
    }
    const auto prior = [&](std::size_t part, int control, double mean, double deviation) {
        m_parts[part].mean[control] = mean;
        m_parts[part].covariance(control, control) = deviation * deviation;
    };
    // What another rig taught of such a camera is sure to a tenth.
    const auto told = [](double share) { return std::clamp(share, 0.3, 3.0); };
    prior(0, 0, told(sheet.stopsPerStop), 0.04);
    prior(0, kShutterMove, 1.0, 0.01);
    prior(0, kApertureMove, 1.0, 0.02);
    prior(0, kNdMove, 1.0, 0.04);
    prior(1, 1, told(sheet.miredPerMired), sheet.miredPerMired == 1.0 ? 0.2 : 0.1);
    prior(2, 2, 1.0, 0.35);
    putBendPriors(m_parts[0].covariance, m_parts[1].covariance, m_parts[2].covariance);
    putTaughtNd(sheet, m_parts[0].mean);
    m_fNumbers = sheet.fNumbers.size() > 1 ? sheet.fNumbers : std::vector<double>{2.8, 8.0};
    constexpr double kUsualNd = 6.0;  // stops
    m_strongestNd =
        sheet.ndStops.empty() || sheet.ndStops.back() <= 0.0 ? kUsualNd : sheet.ndStops.back();
    // Whether a body holds green or luminance while white balance moves: prior green.
    prior(0, 1, 0.0, 0.0008);
    prior(0, 2, 0.0, 8.0);
    prior(1, 2, 0.0, 0.2 * kMiredPerStop / kDuvPerStop);
    prior(2, 1, 0.0, 1e-5);
    constexpr double kUsualOvershoot = 18.0;  // % over half the range, own estimate
    const double overshoot = kUsualOvershoot / reachOf(sheet.detailSteps);
    sharpness = {overshoot, kUsualDoubt * overshoot, 0};
    for (std::size_t i = 0; i < sheet.knobs.size(); ++i) {
        const rig::Knob& knob = sheet.knobs[i];
        KnobResponse response;
        response.name = knob.name;
        response.kind = knob.kind;
        knobs.push_back(response);
        for (std::size_t part = 0; part < kChangeParts; ++part) {
            const StepPrior step = stepPrior(knob, part);
            prior(part, kFirstKnob + static_cast<int>(i), step.mean, step.deviation);
        }
    }
    tell();
}

/// The state, in the numbers that others read.
void LearnedControls::tell() {
    const auto response = [&](std::size_t part, int control, Response& into) {
        into.share = m_parts[part].mean[control];
        into.uncertainty = std::sqrt(m_parts[part].covariance(control, control));
    };
    response(0, 0, exposure);
    response(0, kShutterMove, shutter);
    response(1, 1, whiteBalance);
    response(2, 2, tint);
    const auto over = [&](const StretchResponse& range, Response& into) {
        into.share = range.share;
        into.uncertainty = range.uncertainty;
    };
    over(along(0, kApertureMove, {m_fNumbers.front(), m_fNumbers.back()}, putApertureMoves).front(),
         aperture);
    over(ndOf(m_strongestNd), nd);
    for (std::size_t i = 0; i < knobs.size(); ++i) {
        const int control = kFirstKnob + static_cast<int>(i);
        for (std::size_t part = 0; part < kChangeParts; ++part) {
            knobs[i].perStep.*kPartsOfChange[part] = m_parts[part].mean[control];
            knobs[i].uncertainty.*kPartsOfChange[part] =
                std::sqrt(m_parts[part].covariance(control, control));
        }
    }
}

Change LearnedControls::answer(const Moves& moves) const {
    Change change;
    for (std::size_t i = 0; i < kChangeParts; ++i)
        change.*kPartsOfChange[i] = m_parts[i].mean.dot(moves);
    return change;
}

Change LearnedControls::uncertainty(const Moves& moves) const {
    // Most controls stand still.
    std::vector<int> moved;
    for (int at = 0; at < moves.size(); ++at) {
        if (moves[at] != 0.0) moved.push_back(at);
    }
    Change change;
    for (std::size_t i = 0; i < kChangeParts; ++i) {
        double variance = 0.0;
        for (const int a : moved) {
            for (const int b : moved) variance += moves[a] * moves[b] * m_parts[i].covariance(a, b);
        }
        change.*kPartsOfChange[i] = std::sqrt(std::max(variance, 0.0));
    }
    return change;
}

double LearnedControls::miredBetween(double fromKelvin, double toKelvin) const {
    Moves moves = noMoves();
    putMiredMoves(fromKelvin, toKelvin, moves);
    return m_parts[1].mean.dot(moves);
}

double LearnedControls::duvBetween(double from, double to) const {
    Moves moves = noMoves();
    putDuvMoves(from, to, moves);
    return m_parts[2].mean.dot(moves);
}

StretchResponse LearnedControls::stretch(std::size_t part, int control, const Moves& moves) const {
    const Part& known = m_parts[part];
    const Moves perUnit = moves / moves[control];
    Moves apart = perUnit;
    apart[control] -= 1.0;
    const auto deviation = [&](const Moves& of) {
        return std::sqrt(std::max(of.dot(known.covariance * of), 0.0));
    };
    StretchResponse told;
    told.share = known.mean.dot(perUnit);
    told.uncertainty = deviation(perUnit);
    told.isUnlike = std::abs(known.mean.dot(apart)) > 2.0 * deviation(apart);
    return told;
}

std::vector<StretchResponse> LearnedControls::along(std::size_t part,
                                                    int control,
                                                    const std::vector<double>& places,
                                                    const Mover& put) const {
    std::vector<StretchResponse> all;
    for (std::size_t i = 0; i + 1 < places.size(); ++i) {
        Moves moves = noMoves();
        put(places[i], places[i + 1], moves);
        all.push_back(stretch(part, control, moves));
        all.back().from = places[i];
        all.back().to = places[i + 1];
    }
    return all;
}

std::vector<StretchResponse> LearnedControls::whiteBalanceStretches() const {
    std::vector<double> places;
    for (int place = 0; place < kKelvinBends; ++place) places.push_back(miredPlace(place));
    return along(1, 1, places, [](double from, double to, Moves& moves) {
        putMiredMoves(1e6 / from, 1e6 / to, moves);
    });
}

std::vector<StretchResponse> LearnedControls::tintStretches() const {
    std::vector<double> places;
    for (int place = 0; place < kTintBends; ++place) places.push_back(duvPlace(place));
    return along(2, 2, places, putDuvMoves);
}

std::vector<StretchResponse> LearnedControls::apertureStretches() const {
    return along(0, kApertureMove, m_fNumbers, putApertureMoves);
}

StretchResponse LearnedControls::ndOf(double stops) const {
    return along(0, kNdMove, {0.0, stops}, putNdMoves).front();
}

void LearnedControls::show(const BodyModel& body, double referenceGrey) {
    for (KnobResponse& knob : knobs) {
        if (knob.takes == 0) continue;
        // A whole reach of steps, so that small steps are not lost in the fit's own rounding.
        constexpr double kReach = 2.0;
        const auto effect = [&](const Change& step) {
            Change dial;
            for (const auto part : kPartsOfChange) dial.*part = kReach * step.*part;
            Change shown = body.effectOf(dial, referenceGrey);
            for (const auto part : kPartsOfChange) shown.*part /= kReach;
            return shown;
        };
        knob.shown = effect(knob.perStep);
        Change variance;
        for (const auto moved : kPartsOfChange) {
            Change other = knob.perStep;
            other.*moved += knob.uncertainty.*moved;
            const Change shown = effect(other);
            for (const auto part : kPartsOfChange)
                variance.*part += std::pow(shown.*part - knob.shown.*part, 2.0);
        }
        for (const auto part : kPartsOfChange)
            knob.shownUncertainty.*part = std::sqrt(variance.*part);
    }
}

bool LearnedControls::learnSharpness(double steps, double seen, double error) {
    const double spread = sharpness.uncertainty * sharpness.uncertainty * steps;
    const double total = spread * steps + error * error;
    const double off = seen - sharpness.share * steps;
    if (off * off > kSurprise * kSurprise * total) return false;
    const double gain = spread / total;
    sharpness.share += gain * off;
    sharpness.uncertainty *= std::sqrt(1.0 - gain * steps);
    ++sharpness.takes;
    return true;
}

bool LearnedControls::isAnythingLearned() const {
    int takes = exposure.takes + shutter.takes + aperture.takes + nd.takes + whiteBalance.takes +
                tint.takes + sharpness.takes;
    for (const KnobResponse& knob : knobs) takes += knob.takes;
    return takes > 0;
}

bool LearnedControls::learnPart(std::size_t part, const Moves& moves, double seen, double error) {
    Part& state = m_parts[part];
    const Eigen::VectorXd spread = state.covariance * moves;
    const double variance = std::max(moves.dot(spread), 0.0);
    const double expected = state.mean.dot(moves);
    // What would hardly show teaches nothing, and is no surprise either.
    const bool isWorth =
        std::abs(expected) >= kWorthLearning * error || std::sqrt(variance) >= kWorthDoubt * error;
    if (!isWorth) return true;
    const double off = seen - expected;
    const double total = variance + error * error;
    if (off * off > kSurprise * kSurprise * total) return false;
    const Eigen::VectorXd gain = spread / total;
    state.mean += gain * off;
    state.covariance -= gain * spread.transpose();
    const auto count = [&](int control, std::size_t main, int& takes) {
        if (part == main && moves[control] != 0.0) ++takes;
    };
    count(0, 0, exposure.takes);
    count(kShutterMove, 0, shutter.takes);
    count(kApertureMove, 0, aperture.takes);
    count(kNdMove, 0, nd.takes);
    count(1, 1, whiteBalance.takes);
    count(2, 2, tint.takes);
    for (std::size_t i = 0; i < knobs.size(); ++i) {
        const std::size_t main = partOf(knobs[i].kind);
        count(kFirstKnob + static_cast<int>(i), main == kChangeParts ? 0 : main, knobs[i].takes);
    }
    return true;
}

bool LearnedControls::isDoubtedAgain(std::size_t part, const Moves& moves, double seen) {
    constexpr double kSameShare = 0.25;
    if (part >= kDials) return false;
    const int dial = mainDial(part, moves);
    const double says = part == 0 ? stopsOf(moves) : moves[dial];
    if (moves[dial] == 0.0 || says == 0.0) return false;
    const double share = seen / says;
    const std::optional<double> before = m_offBefore[static_cast<std::size_t>(dial)];
    m_offBefore[static_cast<std::size_t>(dial)] = share;
    if (!before || share <= 0.0 || std::abs(share - *before) > kSameShare * share) return false;
    // Doubted by as much as it is off: it may well be so.
    const double off = (seen - m_parts[part].mean.dot(moves)) / moves[dial];
    m_parts[part].covariance(dial, dial) += off * off;
    return true;
}

bool LearnedControls::learn(const Moves& moves,
                            const Change& seen,
                            const Change& error,
                            std::size_t parts) {
    bool isAsKnown = true;
    for (std::size_t i = 0; i < kChangeParts; ++i) {
        if ((parts >> i & 1U) == 0U) continue;
        const double did = seen.*kPartsOfChange[i], unsure = error.*kPartsOfChange[i];
        const bool isKnown = learnPart(i, moves, did, unsure) ||
                             (isDoubtedAgain(i, moves, did) && learnPart(i, moves, did, unsure));
        // A slip that is not repeated at once stays one.
        const int dial = mainDial(i, moves);
        if (isKnown && i < kDials && moves[dial] != 0.0)
            m_offBefore[static_cast<std::size_t>(dial)].reset();
        isAsKnown = isKnown && isAsKnown;
    }
    tell();
    return isAsKnown;
}

namespace {

/// What was seen of one camera between two takes.
struct Observed {
    Change change, error;
};

/// By its neutrals, where no knob moved: what they did against the reference's, seen back through
/// the body.
Observed observedNeutrals(const SeenTurn& before, const SeenTurn& now, const BodyModel& body) {
    Change shown;
    shown.exposureStops = exposureOf(now) - exposureOf(before);
    shown.whiteBalanceMired = ((now.mine.white.mired - now.theirs.white.mired) -
                               (before.mine.white.mired - before.theirs.white.mired))
                                  .value();
    shown.tintDuv = ((now.mine.white.duv - now.theirs.white.duv) -
                     (before.mine.white.duv - before.theirs.white.duv))
                        .value();
    return {body.dialFor(shown, before.theirs.greySignal(0.0)), {}};
}

/// By all patches, where knobs moved; what the light did meanwhile is seen by the reference.
std::optional<Observed> observedPatches(const SeenTurn& before,
                                        const SeenTurn& now,
                                        const BodyModel& body) {
    const auto mine = fitChange(body, *before.camera->reading, *now.camera->reading);
    const BodyModel other(*before.reference->reading, before.theirs);
    const auto theirs = fitChange(other, *before.reference->reading, *now.reference->reading);
    if (!mine || !theirs) return std::nullopt;
    Observed observed{mine->change, mine->uncertainty};
    for (const auto part : {&Change::exposureStops, &Change::whiteBalanceMired, &Change::tintDuv}) {
        observed.change.*part -= theirs->change.*part;
        observed.error.*part = std::hypot(observed.error.*part, theirs->uncertainty.*part);
    }
    return observed;
}

/// With what scene and method add to a reading of such a change (docs/sources.md, 6.6).
Change withMethod(const Change& error, const Change& nominal) {
    return {std::hypot(error.exposureStops, kTurnStops, 0.0004 * nominal.whiteBalanceMired),
            std::hypot(error.whiteBalanceMired, kTurnMired, 0.03 * nominal.whiteBalanceMired),
            std::hypot(error.tintDuv,
                       std::hypot(kTurnDuv, 0.05 * nominal.tintDuv),
                       1e-5 * nominal.whiteBalanceMired),
            std::hypot(error.contrast, 0.015, 0.1 * nominal.contrast),
            std::hypot(error.blackPercent, 0.3, 0.1 * nominal.blackPercent),
            std::hypot(error.saturation, 0.015, 0.05 * nominal.saturation),
            std::hypot(error.hueDegrees, 0.5, 0.05 * nominal.hueDegrees),
            std::hypot(error.knee, 0.03, 0.1 * nominal.knee)};
}

void tellSurprise(const SeenTurn& now, LearnedControls& learned) {
    learned.surprises.push_back(
        say("learned.takeTurnDid", {{"take", base::whole(now.take->number)}}));
}

/// What in-camera sharpening did to the edges of the chart, against the reference's.
void learnSharpness(const SeenTurn& before, const SeenTurn& now, LearnedControls& learned) {
    const auto& from = before.camera->settings.detailSteps;
    const auto& to = now.camera->settings.detailSteps;
    if (!from.isTold() || !to.isTold() || from == to) return;
    double seen = 0.0;
    double variance = 1.0;  // a chart held a little otherwise: own estimate, %²
    for (const auto& [shot, sign] : {std::pair{now.camera, 1.0},
                                     std::pair{before.camera, -1.0},
                                     std::pair{now.reference, -1.0},
                                     std::pair{before.reference, 1.0}}) {
        if (!shot->reading->sharpness) return;
        seen += sign * shot->reading->sharpness->overshootPercent;
        variance += std::pow(shot->reading->sharpness->overshootErrorPercent, 2.0);
    }
    if (!learned.learnSharpness(to - from, seen, std::sqrt(variance))) tellSurprise(now, learned);
}

void learnPair(const rig::Camera& camera,
               const SeenTurn& before,
               const SeenTurn& now,
               LearnedControls& learned) {
    const rig::Settings& from = before.camera->settings;
    const rig::Settings& to = now.camera->settings;
    Moves moves = movesBetween(camera.sheet, from, to);
    const bool areKnobsMoved = from.knobs != to.knobs;
    const BodyModel body(*before.camera->reading, before.mine);
    const auto observed = areKnobsMoved
                              ? observedPatches(before, now, body)
                              : std::optional<Observed>(observedNeutrals(before, now, body));
    if (!observed) return;
    const bool isExposureTold = rig::isExposureKnown(from) && rig::isExposureKnown(to) &&
                                from.gainDb.isTold() == to.gainDb.isTold();
    const bool areBalancesTold = from.whiteBalanceKelvin.isTold() &&
                                 to.whiteBalanceKelvin.isTold() && from.tintSteps.isTold() &&
                                 to.tintSteps.isTold();
    // What nobody told twice is taken to stand as it stood.
    const bool areBalancesLeft = !areBalancesTold &&
                                 from.whiteBalanceKelvin == to.whiteBalanceKelvin &&
                                 from.tintSteps == to.tintSteps;
    if (areBalancesLeft) {
        moves.segment(1, 2).setZero();
        moves.segment(kFirstKelvinBend, kKelvinBends + kTintBends).setZero();
    }
    std::size_t parts = 0;
    if (isExposureTold && (areBalancesTold || areBalancesLeft)) parts |= 0b1U;
    if (areBalancesTold) parts |= 0b110U;
    if (areKnobsMoved) parts |= 0b11111000U;
    const Change error = withMethod(observed->error, learned.answer(moves));
    if (!learned.learn(moves, observed->change, error, parts)) tellSurprise(now, learned);
}

}  // namespace

LearnedControls learnControls(const rig::Rig& rig,
                              const rig::Take& upTo,
                              const std::string& cameraId) {
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    if (camera == nullptr) return {};
    LearnedControls learned(camera->sheet);
    if (cameraId == rig.referenceId) return learned;
    std::optional<SeenTurn> before;
    const auto last = std::find_if(
        rig.takes.begin(), rig.takes.end(), [&](const rig::Take& t) { return t.id == upTo.id; });
    const auto all = std::distance(rig.takes.begin(), last);
    for (auto at = rig.takes.begin() + std::max<std::ptrdiff_t>(0, all - kMostTakes);
         at != rig.takes.end();
         ++at) {
        if (at->id == camera->forgottenUpTo) {
            learned = LearnedControls(camera->sheet);
            before = seenIn(rig, *at, cameraId);
        } else if (auto now = seenIn(rig, *at, cameraId)) {
            const bool isUsable =
                before && !(before->camera->settings == now->camera->settings) &&
                isReferenceLeftAlone(before->reference->settings, now->reference->settings) &&
                isOtherwiseSame(camera->sheet, before->camera->settings, now->camera->settings);
            if (isUsable) {
                learnPair(*camera, *before, *now, learned);
                learnSharpness(*before, *now, learned);
            }
            before = std::move(now);
        }
        if (at->id == upTo.id) break;
    }
    if (before && learned.isAnythingLearned())
        learned.show(BodyModel(*before->camera->reading, before->mine),
                     before->theirs.greySignal(0.0));
    return learned;
}

base::Text stepText(int takes) {
    if (takes == 0) return say("turn.stepGuessed");
    return base::say(takes == 1 ? "turn.stepLearnedOnce" : "turn.stepLearnedOften",
                     {{"turns", Number{double(takes)}}});
}

}  // namespace rigmatch::match
