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
        result.notes.push_back("The primaries \"" + mine.primaries +
                               "\" are not known: colours are taken as BT.709, and white balance, "
                               "saturation and colour difference may be off. Choose others on the "
                               "camera's profile (Compare, Tone).");
    } else if (mine.arePrimariesKnown && mine.primaries != "bt709") {
        result.notes.push_back("Recorded in " + colour::primariesTitle(mine.primaries) +
                               " primaries; compared after conversion to BT.709.");
    } else if (!mine.arePrimariesKnown && mine.isToConvert()) {
        result.notes.push_back(
            "The file does not say its primaries; BT.709 was taken. Log and HLG recordings often "
            "have wider ones: choose them on Test take, or on the profile, where colours look "
            "pale.");
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

}  // namespace rigmatch::match
