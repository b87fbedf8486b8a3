// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/target.h"

#include "colour/transfer.h"

namespace rigmatch::match {

Target chartTarget(const rig::Reading& reading) {
    const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Bt709);
    rig::Reading published = reading;
    published.faces.clear();
    published.warnings.clear();
    published.transfer = published.primaries = "bt709";
    for (rig::PatchReading& patch : published.patches) {
        for (std::size_t c = 0; c < 3; ++c) patch.signal[c] = curve.encode(patch.nominalLinear[c]);
        patch.noise = patch.standardError = {};
        patch.clippedShare = patch.glareShare = 0.0;
    }
    Target target;
    target.outside.emplace();
    target.outside->camera.letter = "chart";
    target.outside->camera.role = "the chart's published values";
    target.outside->shot.reading = published;
    target.words = "the chart's published values, as a camera by BT.709 records them";
    return target;
}

}  // namespace rigmatch::match
