// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of everything.
#include "words/english_phrases.h"

namespace rigmatch::words {

namespace {

constexpr Phrase kCommonPhrases[] = {
    {"asIs", "{name}"},
    {"common.comma", ", "},
    {"common.fullStop", "."},
    {"common.hoursMinutes", "{hours} h {minutes} min"},
    {"common.infinity", "∞"},
    {"common.lockIt", "Lock it."},
    {"common.minutes", "{minutes} min"},
    {"common.none", "none"},
    {"common.percent", "{percent} %"},
    {"common.reference", "reference"},
    {"common.semicolon", "; "},
    {"common.unknown", "unknown"},
    {"length.feet", "{feet} ft"},
    {"length.metres", "{metres} m"},
    {"light.lux", "{lux} lx"},
    {"common.andMore", " and {count} more"},
    {"later.value", ""},
    {"progress.comparingLevels", "Comparing levels"},
    {"progress.comparingProfiles", "Comparing profiles"},
    {"progress.comparingSound", "Comparing sound"},
    {"progress.drawingTheCheckPicture", "Drawing the check picture"},
    {"progress.following", "Following"},
    {"progress.followingTheOffset", "Following the offset"},
    {"progress.lightingTheSet", "Lighting the set"},
    {"progress.listening", "Listening"},
    {"progress.loadingPictures", "Loading pictures"},
    {"progress.looking", "Looking"},
    {"progress.lookingAtTheFiles", "Looking at the files"},
    {"progress.lookingCloser", "Looking closer"},
    {"progress.lookingForFaces", "Looking for faces"},
    {"progress.lookingForTheChart", "Looking for the chart"},
    {"progress.measured", "Measured"},
    {"progress.reading", "Reading"},
    {"progress.saving", "Saving"},
    {"progress.scanning", "Scanning"},
    {"progress.shooting", "Shooting camera {letter}"},
    {"progress.takeFinished", "Take finished"},
    {"progress.writingTheCheckClip", "Writing the check clip"},
};

}  // namespace

std::span<const Phrase> commonPhrases() { return kCommonPhrases; }

}  // namespace rigmatch::words
