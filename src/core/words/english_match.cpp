// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of a match.
#include "words/english_phrases.h"

namespace rigmatch::words {

namespace {

constexpr Phrase kMatchPhrases[] = {
    {"amount.duv", "{duv} Duv"},
    {"amount.mired", "{mired} mired"},
    {"amount.step", "{steps} step"},
    {"amount.steps", "{steps} steps"},
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
     "the other cameras see (toward its {side}): sheen on the chart from this side, a "
     "vignetting lens, or a local tone function."},
    {"faces.holdUpChart",
     "Hold up a chart for surer turns. {source} Turns come from it only where they exceed "
     "twice that uncertainty; shine on skin and light from the side are not told apart from a "
     "cast."},
    {"lampControl.dimmer", "Dimmer"},
    {"lampControl.film", "ND film on the glass"},
    {"lampControl.kelvin", "Colour temperature"},
    {"lampTurn.dimmer", "{lamp}: dimmer {from} → {to} %"},
    {"lampTurn.film", "{window}: ND film on the glass {from} → {to} stop"},
    {"lampTurn.kelvin", "{lamp}: {from} → {to} K"},
    {"lampTurn.miredOnChart",
     "{mired} ± {uncertainty} mired on the chart, by the plan; it gives {share} % of the light"},
    {"lampTurn.stopOnChart",
     "{stops} ± {uncertainty} stop on the chart, by the plan; it gives {share} % of the light"},
    {"lampValue.kelvin", "{value} K"},
    {"lampValue.percent", "{value} %"},
    {"lampValue.stop", "{value} stop"},
    {"learned.takeTurnDid",
     "Take {take}: a turn did not answer as it did before, or as such controls do. Was it "
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
     "measure it, and the usual one ({curve}) is taken."},
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
    {"note.settleTestTake", "Settle this on Test take before any turn: {warning}"},
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
     "again; where nothing changes, lower black on the brighter of the two. {where} the dark "
     "greys lie higher than exposure explains, and contrast and colours are weaker alike, as "
     "if {share} of white lay over the chart: sheen on the chart, a veil in the lens, or a "
     "lifted black. One picture does not tell which. Without it exposure would differ by "
     "{exposure} stop."},
    {"basis.converted",
     "Exposure is turned by the picture after conversion ({conversion}): as recorded, grey "
     "lies at another level on purpose."},
    {"basis.hlg", "HLG"},
    {"basis.log", "a log curve"},
    {"basis.ownUnknown",
     "Declare the curve (Compare, Tone), or shoot a second take with a known step: this camera "
     "records {curve} that is not known, beside an unlike one, and its grey level says nothing "
     "of the light, so that no exposure is turned."},
    {"basis.referenceUnknown",
     "Declare the curve (Compare, Tone), or shoot a second take with a known step: the "
     "reference records {curve} that is not known, beside an unlike one, and its grey level "
     "says nothing of the light, so that no exposure is turned."},
    {"basis.scene",
     "Exposure is turned by the light of the scene: these recordings are converted later, so "
     "that their grey levels need not be alike."},
    {"faces.curveUnknown",
     "Declare the profile's curve on Cameras, or shoot one take with a chart: stops cannot be "
     "told from faces while a camera's curve is not known."},
    {"faces.fromOne", "From one face"},
    {"faces.fromSeveral", "From {count} faces"},
    {"faces.withoutChart",
     "{from}, without a chart: a chart in both pictures would tell it some ten times as "
     "surely."},
    {"framing.noLine", "no line of the set tells it"},
    {"framing.smallFace", "a picture on the wall, a mirror or somebody behind"},
    {"left.exposure",
     "Change the light, add an ND, or take another reference: exposure stays {stops} stop, "
     "{nearest} is the nearest that this camera's sheet allows."},
    {"left.notTurned", "Exposure is not turned. "},
    {"left.tint",
     "Gel the lamp, or correct it later: tint stays {duv} Duv, this camera's tint does not "
     "reach further."},
    {"left.whatIsSet", "what is set"},
    {"left.whiteBalance",
     "Change the lamps' colour, or correct it later: white balance stays {mired} mired, {end} "
     "is the end of this camera's range."},
    {"skin.facesSeenBut",
     "Faces are seen, but not who is who: the cameras see unlike numbers of people. Place "
     "people and cameras on the Set screen, or mark one spot of skin on each picture."},
    {"skin.noFaceFound",
     "No face was found. Let the person look past the lens, lit, without hands or chart before "
     "the face."},
    {"skin.notSeen", "The reference does not see this face."},
    {"skin.referenceNotSee", "The reference does not see the same face."},
    {"target.noControlEnds", "no control runs out"},
    {"target.stiff", "it can hardly be turned itself, so the others come to it"},
    {"target.turn", "{turns} turn on the others"},
    {"target.turns", "{turns} turns on the others"},
    {"target.worstAfter", "after the turns the worst pair is {deltaE} ΔE2000 apart"},
    {"stops.one", "{stops} stop"},
    {"stops.several", "{stops} stops"},
    {"turn.automatic", "An automatic follows its own picture: it would undo every other turn."},
    {"turn.automaticAt", "automatic ({value})"},
    {"turn.automaticNow", "automatic"},
    {"turn.automaticUnknown", " What it had chosen is not known: lock it and shoot once more."},
    {"turn.balanceGives", "; the white balance below then gives {stops} stop of light"},
    {"turn.balanceTakes", "; the white balance below then takes {stops} stop of light"},
    {"turn.brighter", "{stops} brighter"},
    {"turn.colourful", "the picture is more colourful"},
    {"turn.darker", "{stops} darker"},
    {"turn.deeper", "its blacks are deeper"},
    {"turn.depthOfField", "; depth of field changes with it"},
    {"turn.flatter", "the picture is flatter"},
    {"turn.huesTurned", "its hues are turned"},
    {"turn.learned",
     "; this dial does {share} ± {uncertainty} of what it says, learned from {turns} turns"},
    {"turn.learnedOnce",
     "; this dial does {share} ± {uncertainty} of what it says, learned from {turns} turn"},
    {"turn.lightTones", "light tones are spread otherwise"},
    {"turn.milky", "its blacks are milky"},
    {"turn.moreContrast", "the picture has more contrast"},
    {"turn.moreLight", "; more light would be cleaner"},
    {"turn.motion", "; motion looks otherwise with it"},
    {"turn.motionAlike", "motion then looks as the reference's"},
    {"turn.nearer", "colours come nearer by it"},
    {"turn.paler", "the picture is paler"},
    {"turn.settingsUnknown",
     "What is set on this camera is not known: turn by this much, or enter it on Cameras for a "
     "value."},
    {"turn.sharper", "its edges are sharpened more"},
    {"turn.softer", "its edges are sharpened less"},
    {"turn.ndColours", "the turn of the ND brings {mired} ± {uncertainty} mired, + is warmer"},
    {"turn.ndTints", "the turn of the ND brings {duv} ± {uncertainty} Duv, + is greener"},
    {"turn.lockManual", "lock, manual"},
    {"turn.stepGuessed", "; what a step does is a guess until the next take tells"},
    {"turn.stepLearned", " (one step taken as {duv} × 0.001 Duv, as learned)"},
    {"turn.stepLearnedOften", "; what a step does was learned from {turns} turns"},
    {"turn.stepLearnedOnce", "; what a step does was learned from {turns} turn"},
    {"turn.stepTaken", " (one step taken as {duv} × 0.001 Duv)"},
    {"turn.stepsUnknown", "The camera's steps are not known: give a rig file for values."},
    {"turn.tooCool", "the picture is too cool"},
    {"turn.tooGreen", "the picture is too green: toward magenta"},
    {"turn.tooMagenta", "the picture is too magenta: toward green"},
    {"turn.tooWarm", "the picture is too warm"},
    {"turn.whereUntold", "; where it stands nobody told: turn by this much"},
    {"unknown.coloursClipped", "Fewer than six coloured patches are unclipped."},
    {"unknown.coloursDoubtful",
     "The colours under the corners set by hand are not the chart's, so that no turn is made "
     "from them. Put the corners on the four outer patches, or find it again."},
    {"unknown.fewColours", "The chart has {colours} coloured patches; {needed} are needed."},
    {"unknown.fewGreys",
     "The chart has fewer than {needed} greys: exposure and white balance are measured, the "
     "curve is assumed."},
    {"unknown.linearNeedsCurve", "Judging in linear light needs a declared curve on both cameras."},
    {"unknown.noClip", "No clip in this take. Drop one on Test take."},
    {"unknown.noGreyWithin",
     "No grey lies within the measured curve in red and in blue: the cast is too strong, or "
     "too few greys are usable. Bring the white balance nearer first."},
    {"unknown.noPatchOfHue", "No unclipped patch of this hue."},
    {"unknown.otherChart",
     "Measured on another chart than the reference camera ({own}, {reference}). Measure both "
     "clips again with the same one."},
    {"unknown.otherGrid",
     "The chart {chart} had {columns} × {rows} patches when this camera was measured, and for "
     "the reference {theirColumns} × {theirRows}. Measure both clips again with the same one."},
    {"unknown.otherValues",
     "The values of the chart changed between the two measurements (patch \"{patch}\"): its "
     "file was edited. Measure both clips again with the same one."},
    {"unknown.reference", "Reference: "},
    {"unknown.unlikeCharts", "The two cameras were measured on unlike charts."},
    {"tryOut.noChart", "Camera {camera} shows no chart in take {take}: it is left out there."},
    {"skin.bothCheeks", "Both cheeks and the chart must be measured on both cameras."},
    {"value.aperture", "f/{number}"},
    {"value.gain", "{gain} dB"},
    {"value.iso", "ISO {iso}"},
    {"value.kelvin", "{kelvin} K"},
    {"value.nd", "ND {stops} stops"},
    {"value.noNd", "no ND"},
    {"value.steps", "{steps}"},
};

}  // namespace

std::span<const Phrase> matchPhrases() { return kMatchPhrases; }

}  // namespace rigmatch::words
