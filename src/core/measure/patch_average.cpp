// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/patch_average.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "image/robust.h"

namespace rigmatch::measure {
namespace {

constexpr double kOutlierSigmas = 4.0;
constexpr double kLeastOutlier = 0.004;  // signal: smaller departures are noise
constexpr std::size_t kFewestForTrend = 6;
constexpr double kMostTied = 0.9;

/// Frames whose green of this patch stands with the others.
std::vector<const chart::PatchSample*> agreeing(const std::vector<SpanFrame>& frames,
                                                std::size_t patch) {
    std::vector<double> greens;
    greens.reserve(frames.size());
    for (const SpanFrame& frame : frames) greens.push_back(frame.samples[patch].signal[1]);
    const double middle = image::median(greens);
    const double limit = std::max(kOutlierSigmas * image::robustSigma(greens), kLeastOutlier);
    std::vector<const chart::PatchSample*> kept;
    for (const SpanFrame& frame : frames) {
        if (std::abs(frame.samples[patch].signal[1] - middle) <= limit)
            kept.push_back(&frame.samples[patch]);
    }
    return kept;
}

/// By how much the mean of values in the order of time is less sure than their spread over the root
/// of their number: values that wander are tied to their neighbours (first-order autoregression).
double tiedFactor(const std::vector<double>& values, const image::MeanSigma& spread) {
    if (values.size() < kFewestForTrend || spread.sigma <= 0.0) return 1.0;
    double products = 0.0;
    for (std::size_t i = 0; i + 1 < values.size(); ++i)
        products += (values[i] - spread.mean) * (values[i + 1] - spread.mean);
    const double tied =
        std::clamp(products / (static_cast<double>(values.size()) * spread.sigma * spread.sigma),
                   0.0,
                   kMostTied);
    return std::sqrt((1.0 + tied) / (1.0 - tied));
}

/// What whole codes leave of an error in the mean of many pixels. Noise of a step and more spreads
/// the rounding away: with normal noise the mean's error falls by exp(-2 pi^2 (sigma / step)^2)
/// (dither; Widrow and Kollar 2008, chapter 4).
double roundingLeft(double rounding, double noise) {
    if (rounding <= 0.0) return 0.0;
    const double steps = noise / (rounding * std::sqrt(12.0));
    return rounding * std::exp(-2.0 * std::numbers::pi * std::numbers::pi * steps * steps);
}

rig::PatchReading averaged(const std::vector<SpanFrame>& frames,
                           std::size_t patch,
                           const chart::ReferencePatch& reference) {
    const std::vector<const chart::PatchSample*> samples = agreeing(frames, patch);
    rig::PatchReading reading;
    reading.name = reference.name;
    reading.isNeutral = reference.isNeutral;
    const double count = static_cast<double>(samples.size());
    for (std::size_t c = 0; c < 3; ++c) {
        reading.nominalLinear[c] = reference.linear(static_cast<long>(c));
        std::vector<double> signals;
        double noise = 0.0;
        for (const chart::PatchSample* sample : samples) {
            signals.push_back(sample->signal[c]);
            noise += sample->noise[c] / count;
        }
        const image::MeanSigma spread = image::meanSigma(signals);
        const double pixels = std::max(1.0, 0.25 * samples.front()->pixels * count);
        reading.signal[c] = spread.mean;
        reading.noise[c] = noise;
        const double repeats =
            std::max(tiedFactor(signals, spread) * spread.sigma / std::sqrt(count),
                     noise / std::sqrt(pixels));
        reading.standardError[c] =
            std::hypot(repeats, roundingLeft(samples.front()->rounding[c], noise));
    }
    for (const chart::PatchSample* sample : samples) {
        reading.clippedShare += sample->clippedShare / count;
        reading.glareShare += sample->glareShare / count;
    }
    reading.centre = {samples.front()->centrePx.x, samples.front()->centrePx.y};
    return reading;
}

}  // namespace

std::vector<rig::PatchReading> averagePatches(const std::vector<SpanFrame>& frames,
                                              const chart::ReferenceChart& chart) {
    std::vector<rig::PatchReading> patches;
    if (frames.empty()) return patches;
    for (std::size_t patch = 0; patch < chart.patches.size(); ++patch)
        patches.push_back(averaged(frames, patch, chart.patches[patch]));
    return patches;
}

std::optional<rig::DriftReading> driftOf(const std::vector<SpanFrame>& frames,
                                         const chart::ReferenceChart& chart) {
    constexpr std::size_t kLeastFrames = 6;
    constexpr double kLeastDriftSeconds = 0.5;
    const auto grey = chart.greyPatch();
    if (frames.size() < kLeastFrames || !grey) return std::nullopt;
    rig::DriftReading drift;
    drift.seconds = frames.back().seconds - frames.front().seconds;
    if (drift.seconds < kLeastDriftSeconds) return std::nullopt;
    double middle = 0.0;
    for (const SpanFrame& frame : frames)
        middle += frame.seconds / static_cast<double>(frames.size());
    for (std::size_t c = 0; c < 3; ++c) {
        double mean = 0.0;
        for (const SpanFrame& frame : frames)
            mean += frame.samples[*grey].signal[c] / static_cast<double>(frames.size());
        double across = 0.0;
        double spread = 0.0;
        for (const SpanFrame& frame : frames) {
            const double t = frame.seconds - middle;
            across += t * (frame.samples[*grey].signal[c] - mean);
            spread += t * t;
        }
        drift.signalPerSecond[c] = across / spread;
        double rest = 0.0;
        for (const SpanFrame& frame : frames) {
            const double line = mean + drift.signalPerSecond[c] * (frame.seconds - middle);
            rest += std::pow(frame.samples[*grey].signal[c] - line, 2.0);
        }
        // Few frames estimate their own scatter badly: the deviation of Student's t, nu / (nu - 2).
        const double freedom = static_cast<double>(frames.size()) - 2.0;
        drift.standardError[c] =
            std::sqrt(rest / freedom / spread * freedom / std::max(freedom - 2.0, 1.0));
    }
    return drift;
}

}  // namespace rigmatch::measure
