// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/trap_findings.h"

#include <algorithm>
#include <cmath>

#include "base/constants.h"
#include "base/luma.h"
#include "match/curve_error.h"
#include "match/tone_curve.h"

namespace rigmatch::match {
namespace {
using base::Number;
using base::say;

const rig::PatchReading& gridPatch(const rig::Reading& reading, int column, int row) {
    return reading
        .patches[static_cast<std::size_t>(row) * static_cast<std::size_t>(reading.columns) +
                 static_cast<std::size_t>(column)];
}

constexpr double kMostVeil = 0.06;  // of white
constexpr double kLeastVeil = 0.004;
constexpr double kExplained = 0.35;  // of what exposure alone leaves
constexpr double kFadeTold = 4.0;    // mired per stop
constexpr double kLocalTold = 0.04;  // stop per stop
constexpr double kHalf = 0.7;        // two deviations of it cover the whole of what may be wrong

/// What is left of the camera's greys on the reference's curve with that veil, signal (root mean
/// square), and the exposure that leaves the least.
struct VeilFit {
    double rest = 1e9;
    double stops = 0.0;
};
VeilFit fitAt(const NeutralFit& mine, const NeutralFit& theirs, double veil) {
    const auto rest = [&](double stops) {
        double sum = 0.0;
        for (const CurvePoint& grey : mine.greys) {
            const double light = base::kMidGrey * std::exp2(grey.stops + stops) + veil;
            const double at = std::log2(std::max(light, 1e-4) / base::kMidGrey);
            sum += std::pow(theirs.curve.signalAt(at) - grey.signal, 2.0);
        }
        return std::sqrt(sum / static_cast<double>(mine.greys.size()));
    };
    VeilFit best;
    constexpr double kReach = 3.0;
    for (double stops = -kReach; stops <= kReach; stops += 0.05) {
        const double left = rest(stops);
        if (left < best.rest) best = {left, stops};
    }
    double step = 0.025;
    for (int round = 0; round < 8; ++round, step *= 0.5) {
        for (const double stops : {best.stops - step, best.stops + step}) {
            const double left = rest(stops);
            if (left < best.rest) best = {left, stops};
        }
    }
    return best;
}

/// Standard error of a veil from that of the darkest grey, as a share of white.
double veilError(const NeutralFit& mine, const NeutralFit& theirs) {
    const CurvePoint& dark = mine.greys.front();
    const double slope = std::max(mine.curve.slopeAt(dark.stops), 1e-3);
    const double noise = mine.greyErrors.empty() ? 0.0 : mine.greyErrors.front();
    const double other = theirs.greyErrors.empty() ? 0.0 : theirs.greyErrors.front();
    const double stops = std::hypot(noise, other, 0.0005) / slope;
    return base::kMidGrey * std::exp2(dark.stops) * std::log(2.0) * stops;
}

base::Text percentOf(double share) {
    return say("common.percent", {{"percent", Number{100.0 * std::abs(share), 1}}});
}

void widen(Difference& difference, double by) {
    difference.uncertainty = std::hypot(difference.uncertainty, by);
}

void tellVeil(const Comparison& both, const Veil& veil, CameraDifferences& result) {
    const bool isMine = veil.share.value > 0.0;
    result.notes.push_back(say("trap.tiltChartNo",
                               {{"where", isMine ? say("trap.camera") : say("trap.reference")},
                                {"share", percentOf(veil.share.value)},
                                {"exposure", Number{veil.exposureStops, 2, true}}}));
    widen(result.of(Quality::Exposure), kHalf * std::abs(veil.exposureStops));
    if (result.turnedExposure && result.turnedExposure->value)
        widen(*result.turnedExposure, kHalf * std::abs(veil.exposureStops));
    // A veil v weakens contrast and colours at grey by v / (0.18 + v).
    const double weaker =
        std::abs(veil.share.value) / (base::kMidGrey + std::abs(veil.share.value));
    for (const Quality quality : {Quality::Contrast, Quality::Saturation})
        if (result.of(quality).value) widen(result.of(quality), kHalf * weaker);
    const double slope = both.mine.fit->curve.slopeAt(both.mine.fit->greys.front().stops);
    const double dark = base::kMidGrey * std::exp2(both.mine.fit->greys.front().stops);
    if (result.of(Quality::BlackLevel).value)
        widen(result.of(Quality::BlackLevel),
              100.0 * kHalf * slope * std::log2(1.0 + std::abs(veil.share.value) / dark));
}

void tellFade(const Comparison& both, CameraDifferences& result) {
    const auto fade = castFade(*both.mine.fit);
    if (!fade || std::abs(fade->value) <= kFadeTold ||
        std::abs(fade->value) <= 2.0 * fade->uncertainty)
        return;
    result.notes.push_back(say("trap.judgeSkinOwn",
                               {{"fade", Number{std::abs(fade->value)}},
                                {"uncertainty", Number{std::max(fade->uncertainty, 1.0)}}}));
}

void tellLocalContrast(const Comparison& both, CameraDifferences& result) {
    const auto local = localContrast(*both.mine.reading, *both.mine.fit);
    if (!local || std::abs(local->value) <= kLocalTold ||
        std::abs(local->value) <= 4.0 * local->uncertainty)
        return;
    result.notes.push_back(say("trap.switchOffLocal",
                               {{"local", Number{100.0 * local->value}},
                                {"uncertainty", Number{100.0 * local->uncertainty}}}));
    // What it does at the grey row's own contrast: by its own share, at grey and at black.
    if (result.of(Quality::Contrast).value)
        widen(result.of(Quality::Contrast), kHalf * std::abs(local->value));
    if (result.of(Quality::BlackLevel).value)
        widen(result.of(Quality::BlackLevel),
              100.0 * kHalf * std::abs(local->value) *
                  both.mine.fit->curve.slopeAt(both.mine.fit->greys.front().stops) * 2.0);
}

double nominalStops(const rig::PatchReading& patch) {
    return std::log2(std::max(base::lumaOf(patch.nominalLinear), 1e-4) / base::kMidGrey);
}

/// Mean of the neighbours' light in the grid, stops; beyond the field lies the card, about as dark
/// as neutral 3.5 (common practice: charts are framed in black to dark grey).
double neighboursStops(const rig::Reading& reading, int column, int row) {
    constexpr double kCard = -2.0;
    double sum = 0.0;
    int count = 0;
    for (int dy = -1; dy <= 1; ++dy) {
        for (int dx = -1; dx <= 1; ++dx) {
            if (dx == 0 && dy == 0) continue;
            const int x = column + dx;
            const int y = row + dy;
            const bool isPatch = x >= 0 && y >= 0 && x < reading.columns && y < reading.rows;
            sum += isPatch ? nominalStops(gridPatch(reading, x, y)) : kCard;
            ++count;
        }
    }
    return sum / count;
}

}  // namespace

std::optional<Veil> veilBetween(const NeutralFit& mine, const NeutralFit& theirs) {
    if (mine.isCurveAssumed || theirs.isCurveAssumed || mine.greys.size() < 5 ||
        theirs.greys.size() < 5)
        return std::nullopt;
    const VeilFit without = fitAt(mine, theirs, 0.0);
    VeilFit best = without;
    double veil = 0.0;
    constexpr double kStep = 0.002;
    for (double share = -kMostVeil; share <= kMostVeil + 1e-9; share += kStep) {
        const VeilFit fit = fitAt(mine, theirs, share);
        if (fit.rest < best.rest) {
            best = fit;
            veil = share;
        }
    }
    double noise = 0.0;
    for (const double error : mine.greyErrors) noise = std::max(noise, error);
    const double error = veilError(mine, theirs);
    const bool isExplained =
        best.rest <= std::max(kSameCurve, 3.0 * noise) && best.rest <= kExplained * without.rest;
    if (!isExplained || std::abs(veil) < kLeastVeil || std::abs(veil) < 3.0 * error)
        return std::nullopt;
    // Light on the grey, as fitted with and without the veil.
    const double plain = -mine.greyStops(theirs.greySignal(0.0));
    return Veil{{veil, std::hypot(error, 0.5 * kStep)}, best.stops - plain};
}

std::optional<Measured> castFade(const NeutralFit& fit) {
    if (fit.channelFadeError[0] <= 0.0 || fit.channelFadeError[2] <= 0.0) return std::nullopt;
    return Measured{kMiredPerStop * (fit.channelFade[0] - fit.channelFade[2]),
                    kMiredPerStop * std::hypot(fit.channelFadeError[0], fit.channelFadeError[2])};
}

std::optional<Measured> localContrast(const rig::Reading& reading, const NeutralFit& fit) {
    if (fit.isCurveAssumed || reading.rows < 4 || reading.columns < 4) return std::nullopt;
    // Residuals of the coloured patches against how far they stand out of their neighbours. The
    // greys made the curve; their own part in it is as large, so that a constant and a slope over
    // light go along.
    std::vector<std::array<double, 3>> rows;  // stands out, own light, residual
    for (int y = 0; y < reading.rows; ++y) {
        for (int x = 0; x < reading.columns; ++x) {
            const rig::PatchReading& patch = gridPatch(reading, x, y);
            if (!rig::isUsable(patch) || rig::isOutsideGamut(patch) || patch.isNeutral) continue;
            const auto light = patchLight(patch, fit);
            if (!light) continue;
            const double own = nominalStops(patch);
            rows.push_back({own - neighboursStops(reading, x, y), own, *light - own});
        }
    }
    constexpr std::size_t kFewest = 12;
    if (rows.size() < kFewest) return std::nullopt;
    const auto n = static_cast<double>(rows.size());
    std::array<double, 3> mean{};
    for (const auto& row : rows)
        for (std::size_t i = 0; i < 3; ++i) mean[i] += row[i] / n;
    double aa = 0.0, ab = 0.0, bb = 0.0, ar = 0.0, br = 0.0;
    for (const auto& row : rows) {
        const double a = row[0] - mean[0], b = row[1] - mean[1], r = row[2] - mean[2];
        aa += a * a;
        ab += a * b;
        bb += b * b;
        ar += a * r;
        br += b * r;
    }
    const double determinant = aa * bb - ab * ab;
    if (determinant < 1e-6) return std::nullopt;
    const double local = (bb * ar - ab * br) / determinant;
    const double own = (aa * br - ab * ar) / determinant;
    double rest = 0.0;
    for (const auto& row : rows)
        rest +=
            std::pow(row[2] - mean[2] - local * (row[0] - mean[0]) - own * (row[1] - mean[1]), 2.0);
    return Measured{local, std::sqrt(rest / (n - 3.0) * bb / determinant)};
}

void applyTraps(const Comparison& both, CameraDifferences& result) {
    if (const auto veil = veilBetween(*both.mine.fit, *both.theirs.fit))
        tellVeil(both, *veil, result);
    tellFade(both, result);
    tellLocalContrast(both, result);
}

}  // namespace rigmatch::match
