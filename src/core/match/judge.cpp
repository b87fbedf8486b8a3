// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/judge.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::match {

double lumaOf(const std::array<double, 3>& signal) {
    return 0.2126 * signal[0] + 0.7152 * signal[1] + 0.0722 * signal[2];
}

Chroma chromaOf(const std::array<double, 3>& signal) {
    const double luma = lumaOf(signal);
    return {(signal[2] - luma) / 1.8556, (signal[0] - luma) / 1.5748};
}

colour::Lab labOf(const std::array<double, 3>& signal, const Judge& judge) {
    static const colour::Matrix3 kToXyz = colour::rgbToXyz(colour::kBt709);
    static const colour::TransferCurve kDisplay = colour::curveOf(colour::CurveKind::Bt1886);
    const colour::TransferCurve& curve = judge.linearise ? *judge.linearise : kDisplay;
    const std::array<double, 3> viewed = judge.lut ? judge.lut->apply(signal) : signal;
    colour::Vector3 linear;
    for (std::size_t c = 0; c < 3; ++c) {
        linear(static_cast<long>(c)) = std::max(0.0, curve.decode(viewed[c]));
    }
    return colour::labOf(kToXyz * linear, colour::kD65);
}

ColourDifference colourDifference(const PatchSignals& camera,
                                  const Judge& cameraJudge,
                                  const PatchSignals& reference,
                                  const Judge& referenceJudge) {
    ColourDifference result;
    const std::size_t count = std::min(camera.size(), reference.size());
    for (std::size_t i = 0; i < count; ++i) {
        const double difference =
            colour::deltaE2000(labOf(camera[i], cameraJudge), labOf(reference[i], referenceJudge));
        result.perPatch.push_back(difference);
        result.mean += difference / static_cast<double>(count);
        if (difference > result.max) {
            result.max = difference;
            result.worstPatch = i;
        }
    }
    return result;
}

}  // namespace rigmatch::match
