// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>

#include "colour/named_primaries.h"
#include "match/compare_parts.h"
#include "match/details.h"

namespace rigmatch::match {
namespace {

using base::Number;
using base::say;

void addPrimaries(const Comparison& both, CameraDifferences& result) {
    const SideView& mine = both.mine;
    if (!mine.primaries.empty() && !mine.arePrimariesKnown) {
        result.notes.push_back(say("note.chooseCamerasPrimaries", {{"primaries", mine.primaries}}));
    } else if (mine.arePrimariesKnown && mine.primaries != "bt709") {
        result.notes.push_back(say("note.nothingRecordedPrimaries",
                                   {{"primariesTitle", colour::primariesTitle(mine.primaries)}}));
    } else if (!mine.arePrimariesKnown && mine.isToConvert()) {
        result.notes.push_back(say("note.whereColoursLook"));
    }
}

}  // namespace

void addNotes(const Comparison& both, CameraDifferences& result) {
    const Side& camera = both.camera;
    if (!result.exposureReason.empty() && result.fit) result.notes.push_back(result.exposureReason);
    addPrimaries(both, result);
    const auto& contrast = result.of(Quality::Contrast).value;
    if (contrast && (*contrast < 0.7 || *contrast > 1.43)) {
        result.notes.push_back(say("note.setSameProfile", {{"contrast", Number{*contrast, 2}}}));
    }
    if (result.fit && camera.reading->bitDepth <= 8 && !camera.reading->isStill &&
        profileClass(*camera.reading, *result.fit, std::nullopt).name == "log") {
        result.notes.push_back(say("note.recordBitFinished",
                                   {{"slopeAt", Number{219.0 * result.fit->curve.slopeAt(0.0)}}}));
    }
    switch (camera.reading->trust) {
        case base::ValueTrust::Found:
            result.notes.push_back(say("note.markAllCameras"));
            break;
        case base::ValueTrust::Printed:
            result.notes.push_back(say("note.matchCamerasEach"));
            break;
        case base::ValueTrust::Measured:
        case base::ValueTrust::Nominal:
            break;
    }
    if (result.fit && result.fit->isCurveAssumed && !camera.declared) {
        result.notes.push_back(
            say("note.declareCamerasCurve",
                {{"curve", camera.reading->transfer == "hlg" ? say("note.hlg") : say("note.bt")}}));
    }
    if (camera.isEvened) {
        result.notes.push_back(say("note.moveChartLamp"));
    }
    if (result.fit && camera.reading->drift) {
        const auto drift = driftOf(*camera.reading, *result.fit);
        if (drift && drift->isNotable)
            result.notes.push_back(say("note.lockWhatStill",
                                       {{"stops", Number{drift->stops.value, 2, true}},
                                        {"mired", Number{drift->mired.value, 0, true}},
                                        {"seconds", Number{drift->seconds, 1}}}));
    }
    for (const base::Warning& warning : camera.reading->warnings) {
        if (warning.code == "RangeTagContradicted")
            result.notes.push_back(say("note.settleTestTake", {{"warning", warning.text}}));
    }
}

}  // namespace rigmatch::match
