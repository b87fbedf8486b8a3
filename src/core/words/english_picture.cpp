// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of pictures and their files.
#include "words/english_phrases.h"

namespace rigmatch::words {

namespace {

constexpr Phrase kPicturePhrases[] = {
    {"chartColoursDoNotFit.hint",
     "Put the corners on the four outer corners of the patches, clockwise from dark skin, or "
     "let the program find the chart again."},
    {"chartColoursDoNotFit.seen",
     "The colours under the corners set by hand are not the chart's (agreement {percent} %, "
     "{uneven} patches hold edges). No turn is made from this reading."},
    {"chartHeld.hint",
     "Good enough for a match. Noise and drift need a chart at rest: put it on a stand for "
     "five seconds."},
    {"chartHeld.seen",
     "The chart moved in the hand: {frames} frames of {seconds} s were read, each at its own "
     "place."},
    {"chartMoves.hint", "Hold the chart still for five seconds."},
    {"chartMoves.seen", "The chart never rests; one frame was measured."},
    {"chartTurnedAway.hint",
     "Turn the chart toward the middle of all cameras; where one stays beyond 45°, compare "
     "skin as well."},
    {"chartTurnedAway.seen",
     "This camera sees the chart under {degrees}°: matte patches begin to shine there, and few "
     "rows of pixels are left of them."},
    {"clipTruncated.hint", "What could be read was measured; copy the file again to be sure."},
    {"clipTruncated.seen",
     "The clip ends at {last} s of {duration} s, or holds damaged frames ({damagedFrames})."},
    {"codesSqueezed.hint",
     "Set the capture device and the recording program to pass the range through, or record in "
     "the camera."},
    {"codesSqueezed.seen",
     "About every sixth of the 256 codes is filled twice: something between camera and file "
     "squeezed full range into limited range. Every number carries up to half a code (0.2 % of "
     "signal) more uncertainty."},
    {"codesStretched.hint",
     "Set the capture device and the recording program to pass the range through, or record in "
     "the camera. If blacks look crushed, choose the other range."},
    {"codesStretched.seen",
     "About every seventh of the 256 codes is empty: something between camera and file "
     "stretched limited range to full range. Every number carries up to half a code (0.2 % of "
     "signal) more uncertainty."},
    {"displaysBurnedIn.hint",
     "Switch the camera's output to a clean picture without displays, and record again."},
    {"displaysBurnedIn.seen",
     "A row of {count} white letters or digits stands still along the edge of the picture: it "
     "looks as if the camera's displays were recorded with it (or lettering of the set). Where "
     "they cover chart or skin, the numbers are wrong."},
    {"flicker.asOne", "The whole picture beats as one."},
    {"flicker.bands",
     "It shows as bands: about {bands} from top to bottom roll through the picture."},
    {"flicker.bandsOfReadout",
     "It shows as bands: about {bands} from top to bottom roll through the picture (a readout "
     "of {readoutMs} ms)."},
    {"flicker.ofItself",
     "The brightness beats at {beat} Hz by {percent} % peak to peak, everywhere in the "
     "picture; it is no beat of the mains: a dimmed lamp or a screen flickers at a rate of its "
     "own. {bands}"},
    {"flicker.ofItselfHint",
     "Turn that lamp to full and take its light down by distance, net or ND gel, or choose "
     "another dimming frequency on it; else change the shutter on every camera alike until the "
     "bands stand still."},
    {"flicker.ofMains",
     "The brightness beats at {beat} Hz by {percent} % peak to peak, as lamps on {mains} Hz "
     "mains make it at {rate} fps. {bands}"},
    {"flicker.ofMainsHint",
     "Set the shutter to 1/{perSecond} s on every camera, or light with lamps that do not "
     "flicker."},
    {"greyRowFalls.hint",
     "Tilt the chart so that no lamp is mirrored toward this camera, keep fingers off the "
     "greys, and wipe them."},
    {"greyRowFalls.seen",
     "Out of order in the grey row: {falling}. It is brighter than a lighter grey, or darker "
     "than a darker one: it shines, is covered or soiled. It is left out of the fits."},
    {"interlaced.hint", "Set the camera to a progressive mode, as the others are."},
    {"interlaced.seen",
     "The clip is interlaced: every frame holds two moments, line by line. Flat patches are "
     "measured all the same; edges and moving things are not."},
    {"matrixTagMissing.bt", "BT.601"},
    {"matrixTagMissing.bt2", "BT.709"},
    {"matrixTagMissing.hint",
     "If saturated colours look off against another clip of this camera, choose the other "
     "matrix (Test take). Greys do not change with it; saturated red and blue by up to 11 %."},
    {"matrixTagMissing.seen", "The file does not say its colour matrix; {matrix} was taken."},
    {"matrixTagUnusual.hint",
     "If saturated colours look off against another clip of this camera, choose BT.709 (Test "
     "take). Greys do not change with it; saturated red and blue by up to 11 %."},
    {"matrixTagUnusual.seen",
     "The file says BT.601, the matrix of standard definition, at {height} rows: a capture "
     "chain may have set it by mistake."},
    {"mirrored.hint",
     "Turn off mirroring in the camera or capture chain: places left and right are exchanged "
     "against the other cameras."},
    {"mirrored.seen", "The picture is mirrored. The colours are measured all the same."},
    {"partLookedAt.beginning", "its beginning"},
    {"partLookedAt.chart", "where the chart is"},
    {"partLookedAt.enough", "Enough for a match. "},
    {"partLookedAt.face", "where a face is"},
    {"partLookedAt.hint",
     "The rest is watched where you ask for it: Look at all of it on Test take, --whole on the "
     "command line."},
    {"partLookedAt.noChart", " {frames} frames over the whole of it show no chart."},
    {"partLookedAt.seen", "Of {whole}, {from} to {to} was watched: {why}."},
    {"patchesClipped.hint", "Lower the exposure of this camera until white keeps detail."},
    {"patchesClipped.seen", "Clipped: {clipped}. They are left out of the fits."},
    {"patchesCrushed.hint",
     "Raise the exposure or the black level of this camera until black shows noise."},
    {"patchesCrushed.seen", "Crushed to black: {crushed}. They are left out of the fits."},
    {"patchesShine.hint", "Tilt the chart a little, so that no lamp is mirrored toward a camera."},
    {"patchesShine.seen",
     "A lamp is reflected in: {shining}. Small spots are left out of a patch's mean, large "
     "ones the patch out of the fits."},
    {"patchesSmall.hint", "Bring the chart nearer: 20 px and more make the reading surer."},
    {"patchesSmall.seen", "The patches are only {patchSizePx} px wide."},
    {"primariesDoubted.bt", "bt709"},
    {"primariesDoubted.hint",
     "If its colours look pale against the other cameras, take BT.2020. Greys do not change "
     "with it but for their cast; saturation does by a third and more."},
    {"primariesDoubted.notSayPrimaries", "does not say its primaries"},
    {"primariesDoubted.saysPrimaries", "says primaries {primaries}"},
    {"primariesDoubted.seen",
     "The file {says}, while its other tags are those of wide recordings; {taken} was "
     "taken."},
    {"rangeTagContradicted.fileReadFull",
     "The file was read as full range, but its signal stays between {darkest} and {brightest}: "
     "it seems to hold limited-range codes."},
    {"rangeTagContradicted.hint",
     "Read it as full range; if blacks then look right, correct the tag in the camera."},
    {"rangeTagContradicted.readLimitedRange",
     "Read it as limited range; if blacks then look right, correct the tag in the camera."},
    {"rangeTagContradicted.seen",
     "The file was read as limited range, but its blacks go down to {darkest}: it seems to "
     "hold full-range codes."},
    {"rangeTagMissing.hint", "If blacks look lifted or crushed, choose the other reading."},
    {"rangeTagMissing.seen", "The file does not say its code range; limited range was taken."},
    {"rotated.hint", "For a wide delivery, hold the phone wide."},
    {"rotated.seen", "The file says it was held turned by {rotation}°; it is shown upright."},
    {"severalCharts.hint", "Take the others out, so that all cameras read the same one."},
    {"severalCharts.seen",
     "There is more than one chart in the picture ({otherCharts}); the largest was measured."},
    {"skinMarkUnreadable.hint", "Move it onto skin, or remove it."},
    {"skinMarkUnreadable.seen",
     "A marked spot of skin could not be read: it lies outside the picture, holds under 40 px, "
     "or is clipped."},
    {"variableFrameRate.hint",
     "Record at a constant frame rate, or convert the clip to one before the edit."},
    {"variableFrameRate.seen",
     "Frames are not evenly spaced: {shortestMs} to {longestMs} ms apart. Colours are measured "
     "all "
     "the same; the cut and the sound will drift."},
    {"whitesCut.hint",
     "Lower the exposure until white keeps detail, or take off the limiter (white clip, knee, "
     "broadcast-safe setting) that cuts there."},
    {"whitesCut.seen",
     "Cut at {level} % of signal: {names}. They stand at one level although the chart reflects "
     "unlike light there; they are left out of the fits."},
};

}  // namespace

std::span<const Phrase> picturePhrases() { return kPicturePhrases; }

}  // namespace rigmatch::words
