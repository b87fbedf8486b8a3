// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/differences.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/format.h"
#include "match/curve_error.h"
#include "match/curve_identity.h"
#include "match/details.h"

namespace rigmatch::match {
namespace {

// What the smooth curve misses between patches, stops, growing with the way along the curve; and
// how much of the channels' scatter is left in a mean over five greys. Both set so that simulated
// truth lies within two standard deviations in 90 to 99 % of cases (tests/reference/test_accuracy).
constexpr double kBetweenPatches = 0.006;
constexpr double kChannelShare = 0.58;
constexpr double kBlackStops = -2.53;  // black patch (3.11 %) against 18 % grey
// What the kind of reference leaves unsure (own estimates): an area of the set looks a little
// different from every side; a home print's greys are not the ones that were sent.
// Below that, ratio and angle of all chroma are not surer: set so that simulated truth lies within
// two standard deviations in 90 to 99 % of cases (tests/reference/test_accuracy).
constexpr double kChromaModel = 0.009;
constexpr double kFoundStops = 0.08;
constexpr double kFoundMired = 3.0;
constexpr double kFoundDuv = 0.001;
constexpr double kPrintedShare = 0.1;  // of the exposure difference
constexpr std::size_t kGreysForCurve = 3;
constexpr long kFewestColours = 6;

void setValue(Difference& difference, double value, double uncertainty, bool ratio) {
    difference.value = value;
    difference.uncertainty = uncertainty;
    difference.verdict = verdictOf(difference, ratio);
}

void setUnknown(CameraDifferences& result, const std::string& reason) {
    for (std::size_t i = 0; i < kQualityCount; ++i) {
        result.qualities[i] = toleranceOf(static_cast<Quality>(i));
        result.qualities[i].reason = reason;
    }
}

void compareNeutrals(const NeutralFit& mine,
                     const NeutralFit& theirs,
                     base::ValueTrust trust,
                     CameraDifferences& result) {
    // The light that this camera needs on grey for the reference's signal; what it gets beyond that
    // is the difference.
    const double needed = mine.greyStops(theirs.greySignal(0.0));
    const double exposureError = std::hypot(std::hypot(mine.greyError, theirs.greyError),
                                            kBetweenPatches * (1.0 + std::abs(needed)),
                                            beyondCurve(mine.curve, needed + mine.luminanceStops));
    const bool isFound = trust == base::ValueTrust::Found;
    const double referenceError =
        std::hypot(isFound ? kFoundStops : 0.0,
                   trust == base::ValueTrust::Printed ? kPrintedShare * needed : 0.0,
                   std::max(mine.slopeError, theirs.slopeError) * needed);
    setValue(
        result.of(Quality::Exposure), -needed, std::hypot(exposureError, referenceError), false);

    const double ratioError =
        std::hypot(std::hypot(mine.channelStopsError[0], mine.channelStopsError[2]),
                   std::hypot(theirs.channelStopsError[0], theirs.channelStopsError[2]));
    // An assumed slope that is wrong by a share makes every difference wrong by that share.
    const double slopeError = std::max(mine.slopeError, theirs.slopeError);
    const double mired = (mine.white.mired - theirs.white.mired).value();
    setValue(result.of(Quality::WhiteBalance),
             mired,
             std::hypot(kChannelShare * kMiredPerStop * ratioError + 0.1,
                        slopeError * mired,
                        isFound ? kFoundMired : 0.0),
             false);
    const double duv = (mine.white.duv - theirs.white.duv).value();
    setValue(result.of(Quality::Tint),
             duv,
             std::hypot(kChannelShare * kDuvPerStop * ratioError + 0.00005,
                        slopeError * duv,
                        isFound ? kFoundDuv : 0.0),
             false);

    if (mine.isCurveAssumed || theirs.isCurveAssumed) {
        const std::string reason =
            "The chart has fewer than " + std::to_string(kGreysForCurve) +
            " greys: exposure and white balance are measured, the curve is assumed.";
        for (const Quality quality : {Quality::Contrast, Quality::BlackLevel}) {
            result.of(quality).reason = reason;
            result.of(quality).isBeyondChart = true;
        }
        return;
    }
    const double mySlope = mine.curve.slopeAt(needed + mine.luminanceStops);
    const double theirSlope = theirs.curve.slopeAt(theirs.luminanceStops);
    setValue(result.of(Quality::Contrast),
             mySlope / theirSlope,
             std::hypot(0.015, 2.0 * std::hypot(mine.greyError, theirs.greyError)) +
                 beyondCurve(mine.curve, needed + mine.luminanceStops),
             true);

    const double myBlack = mine.greySignal(kBlackStops + needed);
    const double theirBlack = theirs.greySignal(kBlackStops);
    const double blackSlope = mine.curve.slopeAt(kBlackStops + needed + mine.luminanceStops);
    const double blackError =
        blackSlope *
        (exposureError + beyondCurve(mine.curve, kBlackStops + needed + mine.luminanceStops));
    setValue(result.of(Quality::BlackLevel),
             100.0 * (myBlack - theirBlack),
             100.0 * std::hypot(blackError, 0.001),
             false);
}

long coloursOf(const rig::Reading& reading) {
    return std::count_if(reading.patches.begin(), reading.patches.end(), [](const auto& patch) {
        return !patch.isNeutral;
    });
}

/// Why saturation and hue are not known.
std::string coloursMissing(const rig::Reading& reading) {
    const long colours = coloursOf(reading);
    if (colours < kFewestColours)
        return "The chart has " + std::to_string(colours) + " coloured patches; " +
               std::to_string(kFewestColours) + " are needed.";
    return "Fewer than six coloured patches are unclipped.";
}

/// Change that would bring the camera's neutrals onto the reference's.
Change neutralised(const CameraDifferences& d) {
    return {-d.of(Quality::Exposure).value.value_or(0.0),
            -d.of(Quality::WhiteBalance).value.value_or(0.0),
            -d.of(Quality::Tint).value.value_or(0.0)};
}

/// Chroma of the coloured patches after exposure and white balance are brought together: what
/// saturation and hue controls are left to do. One complex ratio by least squares: its size is the
/// saturation, its angle the hue.
void compareChroma(const Side& camera, const Side& reference, CameraDifferences& result) {
    const PatchSignals mine = predicted(*camera.reading, *result.fit, neutralised(result));
    double along = 0.0, across = 0.0, norm = 0.0;
    std::vector<std::pair<Chroma, Chroma>> pairs;
    for (std::size_t i = 0; i < mine.size() && i < reference.reading->patches.size(); ++i) {
        const rig::PatchReading& theirs = reference.reading->patches[i];
        const bool isClipped =
            theirs.clippedShare > 0.02 || camera.reading->patches[i].clippedShare > 0.02;
        if (theirs.isNeutral || isClipped || rig::isOutsideGamut(theirs)) continue;
        const Chroma a = chromaOf(mine[i]);
        const Chroma b = chromaOf(theirs.signal);
        along += a.cb * b.cb + a.cr * b.cr;
        across += b.cb * a.cr - b.cr * a.cb;
        norm += b.cb * b.cb + b.cr * b.cr;
        pairs.push_back({a, b});
    }
    if (static_cast<long>(pairs.size()) < kFewestColours || norm < 1e-6) {
        for (const Quality quality : {Quality::Saturation, Quality::Hue}) {
            result.of(quality).reason = coloursMissing(*camera.reading);
            result.of(quality).isBeyondChart = coloursOf(*camera.reading) < kFewestColours;
        }
        return;
    }
    const double ratio = std::hypot(along, across) / norm;
    const double angle = std::atan2(across, along);
    double rest = 0.0;
    for (const auto& [a, b] : pairs) {
        const double cb = ratio * (std::cos(angle) * b.cb - std::sin(angle) * b.cr);
        const double cr = ratio * (std::sin(angle) * b.cb + std::cos(angle) * b.cr);
        rest += (a.cb - cb) * (a.cb - cb) + (a.cr - cr) * (a.cr - cr);
    }
    const double error =
        std::hypot(std::sqrt(rest / norm / static_cast<double>(pairs.size())), kChromaModel);
    setValue(result.of(Quality::Saturation), ratio, error, true);
    setValue(result.of(Quality::Hue),
             angle * 180.0 / std::numbers::pi,
             error * 180.0 / std::numbers::pi,
             false);
}

void compareColours(const Side& camera,
                    const Side& reference,
                    Judging judging,
                    CameraDifferences& result) {
    Judge mine;
    Judge theirs;
    if (judging == Judging::ThroughLut) {
        mine.lut = camera.lut;
        theirs.lut = reference.lut;
    }
    if (judging == Judging::Linear) {
        if (!camera.declared || !reference.declared) {
            result.of(Quality::DeltaE).reason =
                "Judging in linear light needs a declared curve on both cameras.";
            return;
        }
        mine.linearise = camera.declared;
        theirs.linearise = reference.declared;
    }
    result.colour =
        colourDifference(signalsOf(*camera.reading), mine, signalsOf(*reference.reading), theirs);
    const rig::PatchReading& worst = camera.reading->patches[result.colour.worstPatch];
    result.worstPatch = worst.name;
    double noise = 0.0;
    for (const rig::PatchReading& patch : camera.reading->patches) noise += patch.standardError[1];
    // About 100 L* per signal, averaged over the patches.
    const auto count = static_cast<double>(camera.reading->patches.size());
    setValue(result.of(Quality::DeltaE),
             result.colour.mean,
             0.02 + 100.0 * noise / count / std::sqrt(count),
             false);
}

void sceneExposure(const Side& camera, const Side& reference, CameraDifferences& result) {
    if (!camera.declared || !reference.declared) return;
    const auto light = [](const Side& side) {
        double sum = 0.0;
        int count = 0;
        for (const rig::PatchReading& patch : side.reading->patches) {
            const bool isMiddle =
                patch.isNeutral && patch.nominalLinear[1] > 0.05 && patch.nominalLinear[1] < 0.7;
            if (!isMiddle || patch.clippedShare > 0.02) continue;
            const double y = 0.2126 * side.declared->decode(patch.signal[0]) +
                             0.7152 * side.declared->decode(patch.signal[1]) +
                             0.0722 * side.declared->decode(patch.signal[2]);
            if (!(y > 1e-5)) continue;
            sum += std::log2(y / patch.nominalLinear[1]);
            ++count;
        }
        return count > 0 ? std::optional(sum / count) : std::nullopt;
    };
    const auto mine = light(camera);
    const auto theirs = light(reference);
    if (!mine || !theirs) return;
    Difference difference = toleranceOf(Quality::Exposure);
    setValue(difference, *mine - *theirs, 0.01, false);
    result.sceneExposure = difference;
}

void addNotes(const Side& camera, CameraDifferences& result) {
    const auto& contrast = result.of(Quality::Contrast).value;
    if (contrast && (*contrast < 0.7 || *contrast > 1.43)) {
        result.notes.push_back(
            "The tone curves differ as much as log and standard profiles do (contrast ×" +
            base::fixed(*contrast, 2) +
            "): set the same profile, or judge in linear light; colours as recorded cannot match.");
    }
    if (result.fit && camera.reading->bitDepth <= 8 && !camera.reading->isStill &&
        profileClass(*camera.reading, *result.fit, std::nullopt).name == "log") {
        result.notes.push_back(
            "A log picture in 8 bit: " + base::fixed(219.0 * result.fit->curve.slopeAt(0.0), 0) +
            " codes to a stop at grey, so that corrections may show as bands. Record 10 bit, or a "
            "finished profile.");
    }
    switch (camera.reading->trust) {
        case base::ValueTrust::Found:
            result.notes.push_back(
                "Matched on an area of the set, without a chart: exposure and white balance only, "
                "less surely. All cameras must be marked on the very same area, in the same "
                "light.");
            break;
        case base::ValueTrust::Printed:
            result.notes.push_back(
                "Matched on a card printed at home: good for matching the cameras to each other, "
                "not for absolute colour.");
            break;
        case base::ValueTrust::Measured:
        case base::ValueTrust::Nominal:
            break;
    }
    if (result.fit && result.fit->isCurveAssumed && !camera.declared) {
        result.notes.push_back(
            "The tone curve is taken as the usual one (" +
            std::string(camera.reading->transfer == "hlg" ? "HLG" : "BT.709") +
            "): too few greys to measure it. Declare the camera's curve (Compare, Tone) for surer "
            "stops.");
    }
    if (camera.isEvened) {
        result.notes.push_back(
            "The light on the chart falls off by more than 0.1 stop; it was taken out of the curve "
            "and of the exposure (Compare, Numbers). Move chart or lamp where it is over 0.3.");
    }
    if (result.fit && camera.reading->drift) {
        const auto drift = driftOf(*camera.reading, *result.fit);
        if (drift && drift->isNotable)
            result.notes.push_back("While the chart rested, this camera drifted by " +
                                   base::signedFixed(drift->stops.value, 2) + " stop and " +
                                   base::signedFixed(drift->mired.value, 0) + " mired in " +
                                   base::fixed(drift->seconds, 1) +
                                   " s: an automatic is still on, or the daylight changes.");
    }
    for (const base::Warning& warning : camera.reading->warnings) {
        if (warning.code == "RangeTagContradicted")
            result.notes.push_back(warning.text + " Settle this before any turn.");
    }
}

}  // namespace

Difference toleranceOf(Quality quality) {
    Difference d;
    switch (quality) {
        case Quality::Exposure:
            d.good = 0.10;
            d.accept = 0.25;
            break;
        case Quality::WhiteBalance:
            d.good = 5.0;
            d.accept = 10.0;
            break;
        case Quality::Tint:
            d.good = 0.002;
            d.accept = 0.004;
            break;
        case Quality::Contrast:
            d.good = 0.05;
            d.accept = 0.10;
            break;
        case Quality::BlackLevel:
            d.good = 1.0;
            d.accept = 2.0;
            break;
        case Quality::Saturation:
            d.good = 0.05;
            d.accept = 0.10;
            break;
        case Quality::Hue:
            d.good = 2.0;
            d.accept = 4.0;
            break;
        case Quality::DeltaE:
            d.good = 2.0;
            d.accept = 3.5;
            break;
        case Quality::SkinLevel:
        case Quality::SkinHue:
            d.good = 2.0;
            d.accept = 4.0;
            break;
    }
    return d;
}

bool isRatio(Quality quality) {
    return quality == Quality::Contrast || quality == Quality::Saturation;
}

Verdict verdictOf(const Difference& difference, bool ratio) {
    if (!difference.value) return Verdict::Unknown;
    const double distance = std::abs(*difference.value - (ratio ? 1.0 : 0.0));
    if (distance <= difference.good) return Verdict::Good;
    return distance <= difference.accept ? Verdict::Near : Verdict::Off;
}

std::string nameOf(Verdict verdict) {
    switch (verdict) {
        case Verdict::Good:
            return "good";
        case Verdict::Near:
            return "near";
        case Verdict::Off:
            return "off";
        case Verdict::Unknown:
            break;
    }
    return "unknown";
}

const colour::TransferCurve* declaredOf(const Side& side) {
    return side.declared ? &*side.declared : nullptr;
}

CameraDifferences compare(const Side& camera, const Side& reference, Judging judging) {
    CameraDifferences result;
    setUnknown(result, "");
    for (const Side* side : {&camera, &reference}) {
        const std::string who = side == &reference ? "Reference: " : "";
        if (side->reading == nullptr) {
            setUnknown(result, who + side->missing);
            return result;
        }
        if (!side->reading->hasChart) {
            setUnknown(result, who + side->reading->reason + " " + side->reading->hint);
            return result;
        }
    }
    if (camera.reading->layout != reference.reading->layout) {
        setUnknown(result,
                   "Measured on another chart than the reference camera (" +
                       camera.reading->layout + ", " + reference.reading->layout +
                       "). Measure both clips again with the same one.");
        return result;
    }
    const auto mine = fitNeutrals(*camera.reading, declaredOf(camera));
    const auto theirs = fitNeutrals(*reference.reading, declaredOf(reference));
    if (mine) result.fit = *mine;
    if (!mine || !theirs) {
        const base::Error& error = mine ? theirs.error() : mine.error();
        setUnknown(result, (mine ? "Reference: " : "") + error.detail + " " + error.hint);
    } else {
        compareNeutrals(*mine, *theirs, camera.reading->trust, result);
        compareChroma(camera, reference, result);
    }
    compareColours(camera, reference, judging, result);
    sceneExposure(camera, reference, result);
    addNotes(camera, result);
    return result;
}

}  // namespace rigmatch::match
