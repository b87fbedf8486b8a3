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

void bend(Eigen::MatrixXd& covariance, int at, const Bends& bends) {
    for (int i = 0; i < bends.count; ++i) {
        for (int k = 0; k < bends.count; ++k) {
            const double apart = (i - k) * bends.apart / bends.stretch;
            covariance(at + i, at + k) =
                bends.deviation * bends.deviation * std::exp(-0.5 * apart * apart);
        }
    }
}

}  // namespace

void putMiredMoves(double fromKelvin, double toKelvin, Moves& moves) {
    moves[1] = 1e6 / fromKelvin - 1e6 / toKelvin;
    putBends(kMiredBends, 1e6 / fromKelvin, 1e6 / toKelvin, kDials, moves);
}

void putDuvMoves(double from, double to, Moves& moves) {
    moves[2] = to - from;
    putBends(kDuvBends, from, to, kDials + kKelvinBends, moves);
}

double miredPlace(int place) { return kMiredBends.first + place * kMiredBends.apart; }
double duvPlace(int place) { return kDuvBends.first + place * kDuvBends.apart; }

void putBendPriors(Eigen::MatrixXd& ofMired, Eigen::MatrixXd& ofDuv) {
    bend(ofMired, kDials, kMiredBends);
    bend(ofDuv, kDials + kKelvinBends, kDuvBends);
}

Moves movesBetween(const rig::ControlSheet& sheet,
                   const rig::Settings& from,
                   const rig::Settings& to) {
    Moves moves = Moves::Zero(kFirstKnob + static_cast<int>(sheet.knobs.size()));
    moves[0] = optics::exposureChange(rig::exposureOf(from), rig::exposureOf(to)).value();
    putMiredMoves(from.whiteBalanceKelvin, to.whiteBalanceKelvin, moves);
    putDuvMoves(from.tintSteps * sheet.tintDuvPerStep, to.tintSteps * sheet.tintDuvPerStep, moves);
    for (std::size_t i = 0; i < sheet.knobs.size(); ++i) {
        const auto was = from.knobs.find(sheet.knobs[i].name);
        const auto is = to.knobs.find(sheet.knobs[i].name);
        if (was != from.knobs.end() && is != to.knobs.end())
            moves[kFirstKnob + static_cast<int>(i)] = is->second - was->second;
    }
    return moves;
}

}  // namespace rigmatch::match
