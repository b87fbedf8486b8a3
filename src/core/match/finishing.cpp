// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/finishing.h"

#include <cmath>

namespace rigmatch::match {
namespace {

/// Goes on with the same slope and never reaches white.
double rolledOff(double signal) {
    constexpr double kRoom = 1.0 - kShoulder;
    return signal <= kShoulder
               ? signal
               : kShoulder + kRoom * (1.0 - std::exp(-(signal - kShoulder) / kRoom));
}

}  // namespace

std::array<double, 3> finishedSignal(const std::array<double, 3>& signal, const Judge& judge) {
    static const colour::TransferCurve kDisplay = colour::curveOf(colour::CurveKind::Bt1886);
    const std::array<double, 3> light = displayLight(signal, judge);
    std::array<double, 3> coded{};
    for (std::size_t c = 0; c < 3; ++c) coded[c] = rolledOff(kDisplay.encode(light[c]));
    return coded;
}

}  // namespace rigmatch::match
