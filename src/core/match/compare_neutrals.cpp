// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "base/luma.h"
#include "match/compare_parts.h"
#include "match/curve_error.h"
#include "match/tone_curve.h"

namespace rigmatch::match {
namespace {

// What the smooth curve misses between patches, stops, growing with the way along the curve. Set so
// that simulated truth lies within two standard deviations (tests/reference/test_accuracy).
constexpr double kBetweenPatches = 0.004;
constexpr double kBlackStops = -2.53;  // black patch (3.11 %) against 18 % grey
// What the kind of reference leaves unsure (own estimates): an area of the set looks a little
// different from every side; a home print's greys are not the ones that were sent.
constexpr double kFoundStops = 0.08;
constexpr double kFoundMired = 3.0;
constexpr double kFoundDuv = 0.001;
constexpr double kPrintedShare = 0.1;  // of the exposure difference
constexpr std::size_t kGreysForCurve = 3;
constexpr double kReachStops = 4.0;

/// Standard error of the light at which a colourless patch has a signal, stops.
double lightError(const NeutralFit& fit, double stops) {
    const double at = stops + fit.luminanceStops;
    return signalErrorAt(fit, at) / std::max(fit.curve.slopeAt(at), 1e-3);
}

/// What the kind of chart and an assumed curve add to an exposure difference.
double referenceStops(const NeutralFit& mine,
                      const NeutralFit& theirs,
                      base::ValueTrust trust,
                      double needed) {
    return std::hypot(trust == base::ValueTrust::Found ? kFoundStops : 0.0,
                      trust == base::ValueTrust::Printed ? kPrintedShare * needed : 0.0,
                      std::max(mine.slopeError, theirs.slopeError) * needed);
}

/// Repeatability of an exposure difference through this camera's curve, stops.
double exposureError(const NeutralFit& mine, const NeutralFit& theirs, double needed) {
    const double mySlope = std::max(mine.curve.slopeAt(needed + mine.luminanceStops), 1e-3);
    // The reference's grey is unsure in signal; this camera's slope makes stops of it.
    const double asked = signalErrorAt(theirs, theirs.luminanceStops) / mySlope;
    return std::hypot(lightError(mine, needed), asked, kBetweenPatches * (1.0 + std::abs(needed)));
}

void compareCast(const NeutralFit& mine,
                 const NeutralFit& theirs,
                 bool isFound,
                 CameraDifferences& result) {
    if (!mine.isCastKnown || !theirs.isCastKnown) {
        const base::Text reason =
            (mine.isCastKnown ? base::say("unknown.reference") : base::Text{}) +
            base::say("unknown.noGreyWithin");
        result.of(Quality::WhiteBalance).reason = reason;
        result.of(Quality::Tint).reason = reason;
        return;
    }
    const double red = std::hypot(mine.channelStopsError[0], theirs.channelStopsError[0]);
    const double blue = std::hypot(mine.channelStopsError[2], theirs.channelStopsError[2]);
    // An assumed slope that is wrong by a share makes every difference wrong by that share.
    const double slopeError = std::max(mine.slopeError, theirs.slopeError);
    const double mired = (mine.white.mired - theirs.white.mired).value();
    setValue(
        result.of(Quality::WhiteBalance),
        Quality::WhiteBalance,
        mired,
        std::hypot(
            kMiredPerStop * std::hypot(red, blue), slopeError * mired, isFound ? kFoundMired : 0.0),
        kSceneMired);
    const double duv = (mine.white.duv - theirs.white.duv).value();
    setValue(
        result.of(Quality::Tint),
        Quality::Tint,
        duv,
        std::hypot(
            0.5 * kDuvPerStop * std::hypot(red, blue), slopeError * duv, isFound ? kFoundDuv : 0.0),
        kSceneDuv);
}

/// Light of the middle greys through a known curve against what they reflect, stops; with its
/// standard error.
std::optional<Measured> sceneLight(const SideView& view) {
    if (!view.curve) return std::nullopt;
    double sum = 0.0;
    double variance = 0.0;
    double squares = 0.0;
    int count = 0;
    for (const rig::PatchReading* patch : rig::usableGreys(*view.reading)) {
        if (patch->nominalLinear[1] < 0.05 || patch->nominalLinear[1] > 0.7) continue;
        std::array<double, 3> light{};
        for (std::size_t c = 0; c < 3; ++c) light[c] = view.curve->decode(patch->signal[c]);
        const double y = base::lumaOf(light);
        if (!(y > 1e-5)) continue;
        const double stops = std::log2(y / patch->nominalLinear[1]);
        const double step = view.curve->decode(patch->signal[1] + patch->standardError[1]);
        const double error = std::log2(std::max(step, 1e-6) / std::max(light[1], 1e-6));
        sum += stops;
        squares += stops * stops;
        variance += error * error;
        ++count;
    }
    if (count == 0) return std::nullopt;
    const double mean = sum / count;
    const double scatter = std::max(0.0, squares / count - mean * mean) / count;
    return Measured{mean, std::hypot(std::sqrt(variance) / count, std::sqrt(scatter))};
}

/// True where two grey rows lie on one curve, shifted in light.
bool isSameCurve(const NeutralFit& mine, const NeutralFit& theirs) {
    double best = 1e9;
    for (double shift = -kReachStops; shift <= kReachStops; shift += 0.02) {
        double sum = 0.0;
        int count = 0;
        for (const CurvePoint& grey : mine.greys) {
            if (!theirs.curve.covers(grey.stops + shift)) continue;
            sum += std::pow(theirs.curve.signalAt(grey.stops + shift) - grey.signal, 2.0);
            ++count;
        }
        if (count >= 4) best = std::min(best, std::sqrt(sum / count));
    }
    return best <= kSameCurve;
}

ExposureBasis basisOf(const Comparison& both) {
    const SideView& mine = both.mine;
    const SideView& theirs = both.theirs;
    if (!mine.isToConvert() && !theirs.isToConvert()) return ExposureBasis::Picture;
    if (mine.isToConvert() && theirs.isToConvert()) {
        if (mine.curve && theirs.curve) return ExposureBasis::Scene;
        return isSameCurve(*mine.fit, *theirs.fit) ? ExposureBasis::Picture : ExposureBasis::None;
    }
    const SideView& converted = mine.isToConvert() ? mine : theirs;
    return converted.finished ? ExposureBasis::Converted : ExposureBasis::None;
}

/// Grey to grey once what is to be converted is converted.
std::optional<Difference> convertedExposure(const Comparison& both) {
    const auto fitOf = [](const SideView& view) {
        return view.finished ? fitNeutrals(*view.finished) : view.fit;
    };
    const auto mine = fitOf(both.mine);
    const auto theirs = fitOf(both.theirs);
    if (!mine || !theirs) return std::nullopt;
    const double needed = mine->greyStops(theirs->greySignal(0.0));
    Difference difference = toleranceOf(Quality::Exposure);
    setValue(
        difference, Quality::Exposure, -needed, exposureError(*mine, *theirs, needed), kSceneStops);
    return difference;
}

base::Text wordOf(const SideView& view) {
    return base::say(view.kind == RecordingKind::Hlg ? "basis.hlg" : "basis.log");
}

}  // namespace

void compareNeutrals(const Comparison& both, CameraDifferences& result) {
    const NeutralFit& mine = *both.mine.fit;
    const NeutralFit& theirs = *both.theirs.fit;
    const base::ValueTrust trust = both.mine.reading->trust;
    // The light that this camera needs on grey for the reference's signal; what it gets beyond that
    // is the difference.
    const double needed = mine.greyStops(theirs.greySignal(0.0));
    const double repeats = exposureError(mine, theirs, needed);
    setValue(result.of(Quality::Exposure),
             Quality::Exposure,
             -needed,
             std::hypot(repeats, referenceStops(mine, theirs, trust, needed)),
             kSceneStops);
    compareCast(mine, theirs, trust == base::ValueTrust::Found, result);
    if (mine.isCurveAssumed || theirs.isCurveAssumed) {
        const base::Text reason =
            base::say("unknown.fewGreys", {{"needed", base::Number{double(kGreysForCurve)}}});
        for (const Quality quality : {Quality::Contrast, Quality::BlackLevel}) {
            result.of(quality).reason = reason;
            result.of(quality).isBeyondChart = true;
        }
        return;
    }
    const double at = needed + mine.luminanceStops;
    const double mySlope = std::max(mine.curve.slopeAt(at), 1e-4);
    const double theirSlope = std::max(theirs.curve.slopeAt(theirs.luminanceStops), 1e-4);
    constexpr double kStep = 0.25;
    // By how much the slope changes where exposure is unsure.
    const double bend =
        std::abs(mine.curve.slopeAt(at + kStep) - mine.curve.slopeAt(at - kStep)) / (2.0 * kStep);
    const double ratio = mySlope / theirSlope;
    setValue(result.of(Quality::Contrast),
             Quality::Contrast,
             ratio,
             ratio * std::hypot(slopeErrorAt(mine, at) / mySlope,
                                slopeErrorAt(theirs, theirs.luminanceStops) / theirSlope,
                                bend * repeats / mySlope));

    const double myBlackAt = kBlackStops + needed + mine.luminanceStops;
    const double theirBlackAt = kBlackStops + theirs.luminanceStops;
    const double black = mine.curve.signalAt(myBlackAt) - theirs.curve.signalAt(theirBlackAt);
    setValue(result.of(Quality::BlackLevel),
             Quality::BlackLevel,
             100.0 * black,
             100.0 * std::hypot(std::hypot(signalErrorAt(mine, myBlackAt),
                                           signalErrorAt(theirs, theirBlackAt)),
                                mine.curve.slopeAt(myBlackAt) * repeats,
                                0.0005));
}

void compareExposures(const Comparison& both, CameraDifferences& result) {
    const auto mine = sceneLight(both.mine);
    const auto theirs = sceneLight(both.theirs);
    if (mine && theirs) {
        Difference difference = toleranceOf(Quality::Exposure);
        setValue(difference,
                 Quality::Exposure,
                 mine->value - theirs->value,
                 std::hypot(mine->uncertainty, theirs->uncertainty),
                 kSceneStops);
        result.sceneExposure = difference;
    }
    result.exposureReason = {};
    result.exposureBasis = basisOf(both);
    switch (result.exposureBasis) {
        case ExposureBasis::Picture:
            return;
        case ExposureBasis::Scene:
            result.turnedExposure = result.sceneExposure;
            result.exposureReason = base::say("basis.scene");
            break;
        case ExposureBasis::Converted:
            result.turnedExposure = convertedExposure(both);
            result.exposureReason =
                base::say("basis.converted",
                          {{"conversion",
                            conversionText(both.mine.isToConvert() ? both.mine : both.theirs)}});
            break;
        case ExposureBasis::None:
            break;
    }
    if (result.turnedExposure) return;
    result.exposureBasis = ExposureBasis::None;
    const bool isMine = both.mine.isToConvert() && !both.mine.curve;
    const SideView& unknown = isMine || !both.theirs.isToConvert() ? both.mine : both.theirs;
    result.exposureReason =
        base::say(&unknown == &both.mine ? "basis.ownUnknown" : "basis.referenceUnknown",
                  {{"curve", wordOf(unknown)}});
    Difference none = result.of(Quality::Exposure);
    none.verdict = Verdict::Unknown;
    none.reason = result.exposureReason;
    none.value.reset();
    result.turnedExposure = none;
    result.of(Quality::Exposure).verdict = Verdict::Unknown;
    result.of(Quality::Exposure).reason = result.exposureReason;
}

}  // namespace rigmatch::match
