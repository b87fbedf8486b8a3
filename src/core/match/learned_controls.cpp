// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <optional>

#include "match/knob_kinds.h"
#include "match/learning.h"
#include "optics/exposure.h"

namespace rigmatch::match {
namespace {

constexpr double kSurprise = 3.0;       // deviations (Mahalanobis 9: docs/sources.md, 6.6)
constexpr double kWorthLearning = 3.0;  // a change this many deviations of its reading
constexpr double kWorthDoubt = 0.5;     // or one that is unsure by this much of its reading

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

/// The sheet's f-numbers, rising, each another opening; usual ones where there are not two.
std::vector<double> distinctFNumbers(const rig::ControlSheet& sheet) {
    std::vector<double> numbers = sheet.fNumbers;
    std::sort(numbers.begin(), numbers.end());
    const auto isSame = [](double a, double b) {
        return optics::exactFNumber(a) >= optics::exactFNumber(b);
    };
    numbers.erase(std::unique(numbers.begin(), numbers.end(), isSame), numbers.end());
    return numbers.size() > 1 ? numbers : std::vector<double>{2.8, 8.0};
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
    m_fNumbers = distinctFNumbers(sheet);
    constexpr double kUsualNd = 6.0;  // stops
    const auto strongest = std::max_element(sheet.ndStops.begin(), sheet.ndStops.end());
    m_strongestNd = strongest == sheet.ndStops.end() || *strongest <= 0.0 ? kUsualNd : *strongest;
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

}  // namespace rigmatch::match
