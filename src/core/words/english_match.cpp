// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of a match.
#include "words/english_phrases.h"

namespace rigmatch::words {

std::span<const Phrase> matchPhrases() {
    static constexpr Phrase kPhrases[] = {
        {"column.foot", "foot"},
        {"column.left", "left"},
        {"column.right", "right"},
        {"column.tiltChartShade",
         "Tilt the chart or shade the lens, and shoot again before black or contrast is judged. "
         "Nothing was turned on this camera since an earlier take, and yet its black lies {black} "
         "± {uncertainty} % of signal elsewhere: the chart shines toward it, or light falls into "
         "the lens."},
        {"column.top", "top"},
        {"column.turnChartToward",
         "Turn the chart toward the middle of the cameras, and hold it nearer this picture's "
         "middle. On this camera the chart's light falls by {own} ± {uncertainty} stop more than "
         "the other cameras see (toward its {which}): sheen on the chart from this side, a "
         "vignetting lens, or a local tone function."},
        {"faces.holdUpChart",
         "Hold up a chart for surer turns. {source} Turns come from it only where they exceed "
         "twice that uncertainty; shine on skin and light from the side are not told apart from a "
         "cast."},
        {"learned.takeTurnDid",
         "Take {number}: a turn did not answer as it did before, or as such controls do. Was it "
         "turned twice, the other way, or on another camera? Nothing is learned from it."},
        {"note.bt", "BT.709"},
        {"note.chooseAnotherViewing",
         "Choose another viewing LUT (Compare, Tone): {viewingLut} cannot be read, and this camera "
         "is judged as recorded."},
        {"note.chooseCamerasPrimaries",
         "Choose this camera's primaries on its profile (Compare, Tone): \"{primaries}\" are not "
         "known, colours are taken as BT.709, and white balance, saturation and colour difference "
         "may be off."},
        {"note.declareCamerasCurve",
         "Declare the camera's curve (Compare, Tone) for surer stops: there are too few greys to "
         "measure it, and the usual one ({which}) is taken."},
        {"note.hlg", "HLG"},
        {"note.lockWhatStill",
         "Lock what is still automatic, or wait for steady daylight: while the chart rested, this "
         "camera drifted by {stops} stop and {mired} mired in {seconds} s."},
        {"note.markAllCameras",
         "Mark all cameras on the very same area, in the same light: this is matched on an area of "
         "the set, without a chart, for exposure and white balance only and less surely."},
        {"note.matchCamerasEach",
         "Match the cameras to each other by this, and do not judge absolute colour by it: the "
         "card was printed at home."},
        {"note.moveChartLamp",
         "Move chart or lamp where the light on the chart falls off by over 0.3 stop (Compare, "
         "Numbers): here it is over 0.1, and was taken out of the curve and of the exposure."},
        {"note.nothingRecordedPrimaries",
         "Nothing to do. Recorded in {primariesTitle} primaries; compared after conversion to "
         "BT.709."},
        {"note.recordBitFinished",
         "Record 10 bit, or a finished profile. A log picture in 8 bit: {slopeAt} codes to a stop "
         "at grey, so that corrections may show as bands."},
        {"note.setSameProfile",
         "Set the same profile, or judge in linear light: the tone curves differ as much as log "
         "and standard profiles do (contrast ×{contrast}), and colours as recorded cannot match."},
        {"note.settleTestTake", "Settle this on Test take before any turn: {text}"},
        {"note.whereColoursLook",
         "Where colours look pale, choose wider primaries on Test take or on the profile: the file "
         "does not say its own, BT.709 was taken, and log and HLG recordings often have wider "
         "ones."},
        {"skin.holdChartWhere",
         "Hold the chart where the face of {person} is, and shoot again before you turn. The turns "
         "bring the charts together and take this skin farther from the reference's, from {before} "
         "to {after} ± {uncertainty} ΔE2000: the chart does not stand in the light of the face."},
        {"skin.keySides",
         "Settle this before the ratio is compared: the key on {person} comes from the {here} "
         "here, and from the {reference} on the reference: another light was on, the person turned "
         "round, or one picture is mirrored."},
        {"skin.lightSetBetter",
         "Light the set with better lamps, or write a correction, which is trimmed to skin. This "
         "camera sees the skin of {person} otherwise than the reference does once the charts "
         "agree, by {apart} ± {uncertainty} ΔE2000: unlike sensors under this light. No control "
         "removes it."},
        {"skin.ownLeft", "own left ({side} in the picture)"},
        {"skin.ownRight", "own right ({side} in the picture)"},
        {"trap.camera", "On this camera"},
        {"trap.judgeSkinOwn",
         "Judge skin at its own level, or choose a profile without a highlight roll-off of colour. "
         "The cast changes with brightness by {fade} ± {uncertainty} mired a stop: this body takes "
         "colour out of its highlights (or shadows), so that white balance is right at one level "
         "only. The one at mid-grey is stated and turned."},
        {"trap.reference", "On the reference"},
        {"trap.switchOffLocal",
         "Switch off local contrast, clarity and dynamic-range functions on every camera: patches "
         "beside darker ones are drawn {local} ± {uncertainty} % of a stop brighter for every stop "
         "between them. Until then contrast and black level are not the curve's alone."},
        {"trap.tiltChartNo",
         "Tilt the chart so that no lamp is mirrored toward a camera, shade the lens, and shoot "
         "again; where nothing changes, lower black on the brighter of the two. {which} the dark "
         "greys lie higher than exposure explains, and contrast and colours are weaker alike, as "
         "if {percentOf} of white lay over the chart: sheen on the chart, a veil in the lens, or a "
         "lifted black. One picture does not tell which. Without it exposure would differ by "
         "{exposure} stop."},
    };
    return kPhrases;
}

}  // namespace rigmatch::words
