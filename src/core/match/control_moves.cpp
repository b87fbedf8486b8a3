// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/control_moves.h"

#include <algorithm>
#include <cmath>

#include "optics/exposure.h"

namespace rigmatch::match {
namespace {

/// Where a dial may bend: places along its range, evenly apart, how far it may lie off there (one
/// standard deviation) and over what stretch that stays alike (docs/sources.md, 6.6).
struct Bends {
    int count;
    double first, apart, deviation, stretch;
};
constexpr Bends kMiredBends{kKelvinBends, 100.0, 40.0, 4.0, 60.0};
constexpr Bends kDuvBends{kTintBends, -0.012, 0.004, 0.0008, 0.008};
// f/1 to f/16, and stops of ND: one filter tells little of the next, and clear glass is nothing.
constexpr Bends kIrisBends{kApertureBends, 0.0, 1.0, 0.1, 1.0};
constexpr Bends kFilterBends{kNdBends, 0.0, 1.0, 0.15, 0.7};
constexpr double kFilterMired = 4.0, kFilterDuv = 0.001;  // of the colour that a filter brings

/// How much of each place is gone along between two values: by straight lines between places, and
/// as at the last one beyond.
void putBends(const Bends& bends, double from, double to, int at, Moves& moves) {
    const auto add = [&](double value, double sign) {
        const double place =
            std::clamp((value - bends.first) / bends.apart, 0.0, bends.count - 1.0);
        const int below = std::min(static_cast<int>(place), bends.count - 2);
        moves[at + below] += sign * (1.0 - (place - below));
        moves[at + below + 1] += sign * (place - below);
    };
    if (!std::isfinite(from) || !std::isfinite(to)) return;
    add(to, 1.0);
    add(from, -1.0);
}

void bend(Eigen::MatrixXd& covariance, int at, const Bends& bends, double deviation) {
    for (int i = 0; i < bends.count; ++i) {
        for (int k = 0; k < bends.count; ++k) {
            const double apart = (i - k) * bends.apart / bends.stretch;
            covariance(at + i, at + k) = deviation * deviation * std::exp(-0.5 * apart * apart);
        }
    }
}

/// The same, where the first place is known to lie on the line.
void bendFromFirst(Eigen::MatrixXd& covariance, int at, const Bends& bends, double deviation) {
    bend(covariance, at, bends, deviation);
    auto block = covariance.block(at, at, bends.count, bends.count);
    const Eigen::VectorXd first = block.col(0);
    block -= first * first.transpose() / first[0];
}

}  // namespace

void putMiredMoves(double fromKelvin, double toKelvin, Moves& moves) {
    moves[1] = 1e6 / fromKelvin - 1e6 / toKelvin;
    putBends(kMiredBends, 1e6 / fromKelvin, 1e6 / toKelvin, kFirstKelvinBend, moves);
}

void putDuvMoves(double from, double to, Moves& moves) {
    moves[2] = to - from;
    putBends(kDuvBends, from, to, kFirstTintBend, moves);
}

void putApertureMoves(double fromNumber, double toNumber, Moves& moves) {
    const double from = 2.0 * std::log2(optics::exactFNumber(fromNumber));
    const double to = 2.0 * std::log2(optics::exactFNumber(toNumber));
    moves[kApertureMove] = from - to;
    putBends(kIrisBends, from, to, kFirstApertureBend, moves);
}

void putNdMoves(double fromStops, double toStops, Moves& moves) {
    moves[kNdMove] = fromStops - toStops;
    putBends(kFilterBends, fromStops, toStops, kFirstNdBend, moves);
}

double miredPlace(int place) { return kMiredBends.first + place * kMiredBends.apart; }
double duvPlace(int place) { return kDuvBends.first + place * kDuvBends.apart; }
double ndPlace(int place) { return kFilterBends.first + place * kFilterBends.apart; }

void putBendPriors(Eigen::MatrixXd& ofStops, Eigen::MatrixXd& ofMired, Eigen::MatrixXd& ofDuv) {
    bend(ofStops, kFirstApertureBend, kIrisBends, kIrisBends.deviation);
    bendFromFirst(ofStops, kFirstNdBend, kFilterBends, kFilterBends.deviation);
    bend(ofMired, kFirstKelvinBend, kMiredBends, kMiredBends.deviation);
    bendFromFirst(ofMired, kFirstNdBend, kFilterBends, kFilterMired);
    bend(ofDuv, kFirstTintBend, kDuvBends, kDuvBends.deviation);
    bendFromFirst(ofDuv, kFirstNdBend, kFilterBends, kFilterDuv);
}

Moves movesBetween(const rig::ControlSheet& sheet,
                   const rig::Settings& from,
                   const rig::Settings& to) {
    Moves moves = Moves::Zero(kFirstKnob + static_cast<int>(sheet.knobs.size()));
    const optics::ExposureSettings was = rig::exposureOf(from), is = rig::exposureOf(to);
    optics::ExposureSettings amplified = was, opened = was;
    amplified.isoValue = is.isoValue;
    amplified.gainDb = is.gainDb;
    opened.shutterSeconds = is.shutterSeconds;
    moves[0] = optics::exposureChange(was, amplified).value();
    moves[kShutterMove] = optics::exposureChange(was, opened).value();
    putApertureMoves(was.fNumber, is.fNumber, moves);
    putNdMoves(was.ndStops, is.ndStops, moves);
    putMiredMoves(from.whiteBalanceKelvin, to.whiteBalanceKelvin, moves);
    putDuvMoves(from.tintSteps * sheet.tintDuvPerStep, to.tintSteps * sheet.tintDuvPerStep, moves);
    for (std::size_t i = 0; i < sheet.knobs.size(); ++i) {
        const auto before = from.knobs.find(sheet.knobs[i].name);
        const auto after = to.knobs.find(sheet.knobs[i].name);
        if (before != from.knobs.end() && after != to.knobs.end())
            moves[kFirstKnob + static_cast<int>(i)] = after->second - before->second;
    }
    return moves;
}

}  // namespace rigmatch::match
