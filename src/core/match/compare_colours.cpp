// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <numbers>

#include "match/compare_parts.h"

namespace rigmatch::match {
namespace {

// Below that, ratio and angle of all chroma are not surer: set so that simulated truth lies within
// two standard deviations (tests/reference/test_accuracy).
constexpr double kChromaModel = 0.009;
constexpr long kFewestColours = 6;

long coloursOf(const rig::Reading& reading) {
    return std::count_if(reading.patches.begin(), reading.patches.end(), [](const auto& patch) {
        return !patch.isNeutral;
    });
}

/// Why saturation and hue are not known.
base::Text coloursMissing(const rig::Reading& reading) {
    const long colours = coloursOf(reading);
    if (colours < kFewestColours)
        return base::say("unknown.fewColours",
                         {{"colours", base::Number{double(colours)}},
                          {"needed", base::Number{double(kFewestColours)}}});
    return base::say("unknown.coloursClipped");
}

/// Change that would bring the camera's neutrals onto the reference's.
Change neutralised(const CameraDifferences& d) {
    return {-d.of(Quality::Exposure).value.value_or(0.0),
            -d.of(Quality::WhiteBalance).value.value_or(0.0),
            -d.of(Quality::Tint).value.value_or(0.0)};
}

/// A colour patch on both cameras.
struct ChromaPair {
    Chroma mine, theirs;
    double error = 0.0;  ///< of `mine` and `theirs` together
};

std::vector<ChromaPair> chromaPairs(const Comparison& both, const CameraDifferences& result) {
    const PatchSignals mine = predicted(*both.mine.reading, *result.fit, neutralised(result));
    std::vector<ChromaPair> pairs;
    for (std::size_t i = 0; i < mine.size(); ++i) {
        const rig::PatchReading& camera = both.mine.reading->patches[i];
        const rig::PatchReading& theirs = both.theirs.reading->patches[i];
        if (theirs.isNeutral || !rig::isUsable(camera) || !rig::isUsable(theirs) ||
            rig::isOutsideGamut(theirs))
            continue;
        pairs.push_back(
            {chromaOf(mine[i]),
             chromaOf(theirs.signal),
             std::hypot(chromaError(camera.standardError), chromaError(theirs.standardError))});
    }
    return pairs;
}

}  // namespace

PatchErrors errorsOf(const rig::Reading& reading) {
    PatchErrors errors;
    for (const rig::PatchReading& patch : reading.patches) errors.push_back(patch.standardError);
    return errors;
}

/// Chroma of the coloured patches after exposure and white balance are brought together: what
/// saturation and hue controls are left to do. One complex ratio by least squares: its size is the
/// saturation, its angle the hue.
void compareChroma(const Comparison& both, CameraDifferences& result) {
    const std::vector<ChromaPair> pairs = chromaPairs(both, result);
    double along = 0.0, across = 0.0, norm = 0.0, noise = 0.0;
    for (const auto& [a, b, error] : pairs) {
        along += a.cb * b.cb + a.cr * b.cr;
        across += b.cb * a.cr - b.cr * a.cb;
        norm += b.cb * b.cb + b.cr * b.cr;
        noise += error * error * (b.cb * b.cb + b.cr * b.cr);
    }
    if (static_cast<long>(pairs.size()) < kFewestColours || norm < 1e-6) {
        for (const Quality quality : {Quality::Saturation, Quality::Hue}) {
            result.of(quality).reason = coloursMissing(*both.mine.reading);
            result.of(quality).isBeyondChart = coloursOf(*both.mine.reading) < kFewestColours;
        }
        return;
    }
    const double ratio = std::hypot(along, across) / norm;
    const double angle = std::atan2(across, along);
    double rest = 0.0;
    for (const auto& [a, b, error] : pairs) {
        const double cb = ratio * (std::cos(angle) * b.cb - std::sin(angle) * b.cr);
        const double cr = ratio * (std::sin(angle) * b.cb + std::cos(angle) * b.cr);
        rest += (a.cb - cb) * (a.cb - cb) + (a.cr - cr) * (a.cr - cr);
    }
    // Scatter of the patches: unlike sensors see them unlike, so that another choice of patches
    // would give another ratio.
    const double method =
        std::hypot(std::sqrt(rest / norm / static_cast<double>(pairs.size())), kChromaModel);
    const double repeats = std::sqrt(noise) / norm;
    const double degrees = 180.0 / std::numbers::pi / std::max(ratio, 0.05);
    setValue(result.of(Quality::Saturation), Quality::Saturation, ratio, repeats, method);
    setValue(result.of(Quality::Hue),
             Quality::Hue,
             angle * 180.0 / std::numbers::pi,
             repeats * degrees,
             method * degrees);
}

void compareColours(const Comparison& both, CameraDifferences& result) {
    const auto mine = judgeOf(both.camera, both.mine, both.judging);
    const auto theirs = judgeOf(both.reference, both.theirs, both.judging);
    if (!mine || !theirs) {
        result.of(Quality::DeltaE).reason = base::say("unknown.linearNeedsCurve");
        return;
    }
    result.colour = colourDifference(signalsOf(*both.mine.reading),
                                     *mine,
                                     errorsOf(*both.mine.reading),
                                     signalsOf(*both.theirs.reading),
                                     *theirs,
                                     errorsOf(*both.theirs.reading));
    if (result.colour.worstPatch < both.mine.reading->patches.size())
        result.worstPatch = both.mine.reading->patches[result.colour.worstPatch].name;
    setValue(
        result.of(Quality::DeltaE), Quality::DeltaE, result.colour.mean, result.colour.meanError);
}

}  // namespace rigmatch::match
