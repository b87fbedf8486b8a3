// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/judge.h"

#include <algorithm>
#include <cmath>

#include "base/luma.h"

namespace rigmatch::match {

double lumaOf(const std::array<double, 3>& signal) { return base::lumaOf(signal); }

Chroma chromaOf(const std::array<double, 3>& signal) {
    const double luma = lumaOf(signal);
    return {(signal[2] - luma) / 1.8556, (signal[0] - luma) / 1.5748};
}

double chromaError(const std::array<double, 3>& standardError) {
    double variance = 0.0;
    for (std::size_t c = 0; c < 3; ++c) {
        std::array<double, 3> step{};
        step[c] = standardError[c];
        const Chroma moved = chromaOf(step);
        variance += 0.5 * (moved.cb * moved.cb + moved.cr * moved.cr);
    }
    return std::sqrt(variance);
}

std::array<double, 3> displayLight(const std::array<double, 3>& signal, const Judge& judge) {
    static const colour::TransferCurve kDisplay = colour::curveOf(colour::CurveKind::Bt1886);
    static const colour::TransferCurve kCamera = colour::curveOf(colour::CurveKind::Bt709);
    constexpr double kOotf = 0.2;  // BT.2100-2 table 5: system gamma 1.2, so Y^(1.2 - 1) E
    const std::array<double, 3> viewed = judge.lut ? judge.lut->apply(signal) : signal;
    std::array<double, 3> light{};
    if (judge.scene && !judge.lut) {
        for (std::size_t c = 0; c < 3; ++c)
            light[c] = std::max(0.0, judge.scene->decode(viewed[c]));
        const double boost = std::pow(std::max(lumaOf(light), 1e-6), kOotf);
        for (double& value : light)
            value =
                judge.isHlg ? boost * value : std::max(0.0, kDisplay.decode(kCamera.encode(value)));
        return light;
    }
    const colour::TransferCurve& curve = judge.linearise ? *judge.linearise : kDisplay;
    for (std::size_t c = 0; c < 3; ++c) light[c] = std::max(0.0, curve.decode(viewed[c]));
    return light;
}

colour::Lab labOf(const std::array<double, 3>& signal, const Judge& judge) {
    static const colour::Matrix3 kToXyz = colour::rgbToXyz(colour::kBt709);
    const std::array<double, 3> light = displayLight(signal, judge);
    return colour::labOf(kToXyz * colour::Vector3(light.data()), colour::kD65);
}

ColourDifference colourDifference(const PatchSignals& camera,
                                  const Judge& cameraJudge,
                                  const PatchSignals& reference,
                                  const Judge& referenceJudge) {
    return colourDifference(camera, cameraJudge, {}, reference, referenceJudge, {});
}

namespace {

/// What noise does to one patch's distance.
struct PatchNoise {
    double size = 0.0;   ///< root of the mean square that noise alone gives, ΔE
    double along = 0.0;  ///< standard deviation along the difference
};

/// Steps each channel by its standard error and looks how far the colour, and the distance, move.
void addNoise(const std::array<double, 3>& signal,
              const Judge& judge,
              const std::array<double, 3>& errors,
              const colour::Lab& other,
              PatchNoise& noise) {
    const colour::Lab here = labOf(signal, judge);
    const double distance = colour::deltaE2000(here, other);
    for (std::size_t c = 0; c < 3; ++c) {
        if (!(errors[c] > 0.0)) continue;
        std::array<double, 3> stepped = signal;
        stepped[c] += errors[c];
        const colour::Lab there = labOf(stepped, judge);
        noise.size = std::hypot(noise.size, colour::deltaE2000(here, there));
        noise.along = std::hypot(noise.along, colour::deltaE2000(there, other) - distance);
    }
}

constexpr double kNearZero = 2.0;      // noise sizes within which a distance behaves like noise
constexpr double kSpreadAtZero = 0.4;  // of the noise size: spread of the corrected distance there
constexpr double kBiasAtZero = 0.26;   // of it: half of what the correction leaves there on average
constexpr double kLeastError = 0.01;   // rounding of the formula and of the files

}  // namespace

ColourDifference colourDifference(const PatchSignals& camera,
                                  const Judge& cameraJudge,
                                  const PatchErrors& cameraErrors,
                                  const PatchSignals& reference,
                                  const Judge& referenceJudge,
                                  const PatchErrors& referenceErrors) {
    ColourDifference result;
    const std::size_t count = std::min(camera.size(), reference.size());
    const double share = 1.0 / static_cast<double>(std::max<std::size_t>(count, 1));
    double variance = 0.0;
    double bias = 0.0;
    for (std::size_t i = 0; i < count; ++i) {
        const colour::Lab mine = labOf(camera[i], cameraJudge);
        const colour::Lab theirs = labOf(reference[i], referenceJudge);
        double difference = colour::deltaE2000(mine, theirs);
        PatchNoise noise;
        if (i < cameraErrors.size())
            addNoise(camera[i], cameraJudge, cameraErrors[i], theirs, noise);
        if (i < referenceErrors.size())
            addNoise(reference[i], referenceJudge, referenceErrors[i], mine, noise);
        difference = std::sqrt(std::max(0.0, difference * difference - noise.size * noise.size));
        const bool isNoise = difference < kNearZero * noise.size;
        const double spread =
            isNoise ? std::max(noise.along, kSpreadAtZero * noise.size) : noise.along;
        variance += spread * spread * share * share;
        if (difference < noise.size) bias += kBiasAtZero * noise.size * share;
        result.noiseFloor += noise.size * share;
        result.perPatch.push_back(difference);
        result.mean += difference * share;
        if (difference > result.max) {
            result.max = difference;
            result.worstPatch = i;
        }
    }
    result.meanError = std::hypot(std::sqrt(variance), bias, kLeastError);
    return result;
}

}  // namespace rigmatch::match
