// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "base/format.h"
#include "colour/named_primaries.h"
#include "match/compare_parts.h"
#include "match/details.h"

namespace rigmatch::match {
namespace {

void addPrimaries(const Comparison& both, CameraDifferences& result) {
    const SideView& mine = both.mine;
    if (!mine.primaries.empty() && !mine.arePrimariesKnown) {
        result.notes.push_back(
            "Choose this camera's primaries on its profile (Compare, Tone): \"" + mine.primaries +
            "\" are not known, colours are taken as BT.709, and white balance, saturation and "
            "colour difference may be off.");
    } else if (mine.arePrimariesKnown && mine.primaries != "bt709") {
        result.notes.push_back("Nothing to do. Recorded in " +
                               colour::primariesTitle(mine.primaries) +
                               " primaries; compared after conversion to BT.709.");
    } else if (!mine.arePrimariesKnown && mine.isToConvert()) {
        result.notes.push_back(
            "Where colours look pale, choose wider primaries on Test take or on the profile: the "
            "file does not say its own, BT.709 was taken, and log and HLG recordings often have "
            "wider ones.");
    }
}

}  // namespace

void addNotes(const Comparison& both, CameraDifferences& result) {
    const Side& camera = both.camera;
    if (!result.exposureReason.empty() && result.fit) result.notes.push_back(result.exposureReason);
    addPrimaries(both, result);
    const auto& contrast = result.of(Quality::Contrast).value;
    if (contrast && (*contrast < 0.7 || *contrast > 1.43)) {
        result.notes.push_back(
            "Set the same profile, or judge in linear light: the tone curves differ as much as log "
            "and standard profiles do (contrast ×" +
            base::fixed(*contrast, 2) + "), and colours as recorded cannot match.");
    }
    if (result.fit && camera.reading->bitDepth <= 8 && !camera.reading->isStill &&
        profileClass(*camera.reading, *result.fit, std::nullopt).name == "log") {
        result.notes.push_back("Record 10 bit, or a finished profile. A log picture in 8 bit: " +
                               base::fixed(219.0 * result.fit->curve.slopeAt(0.0), 0) +
                               " codes to a stop at grey, so that corrections may show as bands.");
    }
    switch (camera.reading->trust) {
        case base::ValueTrust::Found:
            result.notes.push_back(
                "Mark all cameras on the very same area, in the same light: this is matched on an "
                "area of the set, without a chart, for exposure and white balance only and less "
                "surely.");
            break;
        case base::ValueTrust::Printed:
            result.notes.push_back(
                "Match the cameras to each other by this, and do not judge absolute colour by it: "
                "the card was printed at home.");
            break;
        case base::ValueTrust::Measured:
        case base::ValueTrust::Nominal:
            break;
    }
    if (result.fit && result.fit->isCurveAssumed && !camera.declared) {
        result.notes.push_back(
            "Declare the camera's curve (Compare, Tone) for surer stops: there are too few greys "
            "to "
            "measure it, and the usual one (" +
            std::string(camera.reading->transfer == "hlg" ? "HLG" : "BT.709") + ") is taken.");
    }
    if (camera.isEvened) {
        result.notes.push_back(
            "Move chart or lamp where the light on the chart falls off by over 0.3 stop (Compare, "
            "Numbers): here it is over 0.1, and was taken out of the curve and of the exposure.");
    }
    if (result.fit && camera.reading->drift) {
        const auto drift = driftOf(*camera.reading, *result.fit);
        if (drift && drift->isNotable)
            result.notes.push_back(
                "Lock what is still automatic, or wait for steady daylight: while "
                "the chart rested, this camera drifted by " +
                base::signedFixed(drift->stops.value, 2) + " stop and " +
                base::signedFixed(drift->mired.value, 0) + " mired in " +
                base::fixed(drift->seconds, 1) + " s.");
    }
    for (const base::Warning& warning : camera.reading->warnings) {
        if (warning.code == "RangeTagContradicted")
            result.notes.push_back("Settle this on Test take before any turn: " + warning.text);
    }
}

}  // namespace rigmatch::match
