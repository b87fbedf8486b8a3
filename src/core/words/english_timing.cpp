// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of sound and timing.
#include "words/english_phrases.h"

namespace rigmatch::words {

namespace {

constexpr Phrase kTimingPhrases[] = {
    {"channel.clipped", "Overdriven: turn its input down until peaks stay below −6 dBFS."},
    {"channel.dead", "Nothing is heard: check microphone, cable and input."},
    {"channel.good", "Speech at {speech}, {above} dB above the noise."},
    {"channel.hot", "Peaks at {peak}: turn it down by {down} dB."},
    {"channel.noSpeech", "No speech stands out of an even sound."},
    {"channel.noisy",
     "Speech stands only {above} dB above the noise: fine for syncing, no backup. Bring the "
     "microphone closer."},
    {"channel.overSilence", "Speech at {speech}, over silence."},
    {"channel.quiet", "Speech at {speech}: turn it up by {up} dB."},
    {"channel.room",
     "Hears mostly the room: fine for syncing, no backup. Bring the microphone closer."},
    {"channelDead.hint", "Check its microphone, cable and input."},
    {"channelDead.seen", "{name} hears nothing."},
    {"channelsSwapped.hint", "Change the two plugs, or swap the channels in the edit."},
    {"channelsSwapped.seen",
     "Its channels 1 and 2 are the reference's turned round: what is on 1 here is on 2 there."},
    {"clockDrift.fast", "fast"},
    {"clockDrift.hint",
     "For long takes resample it by {factor}, or sync again every {minutes} minutes."},
    {"clockDrift.planned",
     " In the {minutes} minutes that are planned: {ms} ms or {frames} frames."},
    {"clockDrift.seen",
     "Its clock runs {way} by {driftPpm} ppm: {ms} ms or {frames} frames in an hour."},
    {"clockDrift.slow", "slow"},
    {"combed.hint",
     "Set camera and converter to a progressive mode; what is recorded already needs "
     "deinterlacing before the edit."},
    {"combed.seen",
     "Its moving edges are combed in {percent} % of the frames: even and odd lines show "
     "two moments, and the file does not say that it is interlaced."},
    {"dualMono.hint", "One microphone on both is no backup: it stands and falls with its cable."},
    {"dualMono.safetyTrack", "{names} hold the same sound, {decibels} dB apart (a safety track)."},
    {"dualMono.seen", "{names} hold the same sound."},
    {"frames.at", "{seconds}"},
    {"frames.seconds", " s"},
    {"framesDamaged.hint",
     "Copy the file from the card again; frames that repeat or miss may come from that."},
    {"framesDamaged.one",
     "One of its frames is damaged: the decoder left it out or made up a part of it."},
    {"framesDamaged.several",
     "{count} of its frames are damaged: the decoder left them out or made up a part of them."},
    {"framesMissing.checkCardsSpeed",
     "Check the card's speed, or the computer's load, and record again."},
    {"framesMissing.copyFileCard",
     "Copy the file from the card again first: damaged frames are left out too."},
    {"framesMissing.one", "A frame is left out before {times}."},
    {"framesMissing.several", "Frames are left out before {times}."},
    {"framesRepeat.box",
     "Look for the box in the chain that changes the rate, and set both its sides to the "
     "camera's."},
    {"framesRepeat.copyAgain",
     "Copy the file from the card again first: damaged frames stand still too. What stays "
     "comes from the chain."},
    {"framesRepeat.noShutter",
     "Things blur over {percent} % of the way between two pictures only, so it is not the "
     "shutter. "},
    {"framesRepeat.ofChain", "The chain stutters: check cable, converter and the computer's load."},
    {"framesRepeat.ofFile",
     "The time stamps are uneven there too: the program that wrote the file could not keep up. "
     "Lower its load or size, and record again."},
    {"framesRepeat.ofShutter",
     "Things blur over the whole way between two pictures: the camera itself exposes that "
     "long, as an automatic shutter does in the dark. Set the shutter by hand, and give it "
     "more light or ISO."},
    {"framesRepeat.one", "A frame shows the one before once more, at {times}."},
    {"framesRepeat.several", "{count} frames show the one before once more, at {times}."},
    {"framesUnsteady.hint",
     "To be sure of its frames, record some seconds of motion at a higher bit rate."},
    {"framesUnsteady.seen",
     "In {percent} % of it what moves jumps from frame to frame, as under strong compression: "
     "frames that repeat or are left out singly cannot be told there."},
    {"levelRiding.hint", "Set the level by hand."},
    {"levelRiding.seen",
     "The noise of {name} rises by {levelRisePerSecond} dB a second in pauses: an automatic "
     "level is at work."},
    {"lipSync.beyondWhatWay", ", beyond what the way to it makes"},
    {"lipSync.earlier", "earlier"},
    {"lipSync.hint",
     "Sound needs 2.9 ms a metre; what is more comes from the chain: delay the earlier of the "
     "two by that much."},
    {"lipSync.later", "later"},
    {"lipSync.seen",
     "Against the reference its sound is {ms} ms {way} than its picture{beyond}: a viewer "
     "sees that."},
    {"offsetJumps.hint", "Sync the parts on their own."},
    {"offsetJumps.seen",
     "From {atSeconds} s of the reference on it stands elsewhere, by {offsetSeconds} s: a cut, "
     "a pause, or a second take in the file."},
    {"polarityTurned.hint", "Turn it before the two are mixed."},
    {"polarityTurned.oppositePolarityAdded",
     "{names} are of opposite polarity: added together they cancel."},
    {"polarityTurned.seen", "Its sound has the opposite polarity of the reference's."},
    {"polarityTurned.turnPolarityOne", "Turn the polarity of one of them, or use one alone."},
    {"rateHalved.seen",
     "In it {pattern} shows the one before once more: {uniqueRate} pictures a second stand in "
     "a file of {rate}."},
    {"sound.channel", "Channel {channel}"},
    {"sound.channels", "Channels {first} and {second}"},
    {"sound.dbfs", "{dbfs} dBFS"},
    {"soundClipped.hint", "Turn the input down until peaks stay below −6 dBFS."},
    {"soundClipped.often", "{name} is at full scale {times} times."},
    {"soundClipped.once", "{name} is at full scale {times} time."},
    {"soundClipped.seen", "The sound stands at full scale on channel {clipped}: it is overdriven."},
    {"soundClipped.turnInputDown", "Turn its input down until peaks stay below −6 dBFS."},
    {"soundFormatChanged.hint", "Export the parts as files of their own."},
    {"soundFormatChanged.seen",
     "Sample rate or number of channels change within the file; what comes after is not "
     "judged."},
    {"soundGap.hint", "Check cable, radio link, card or computer load; record again."},
    {"soundGap.one", "{at} s ({ms} ms)"},
    {"soundGap.seen", "{name} has a gap at {times}."},
    {"soundGap.several", "{name} has gaps at {times}."},
    {"soundHum.hint",
     "Take mains-fed devices off one another, or put an isolating transformer into the sound "
     "line. Never lift the protective earth."},
    {"soundHum.seen", "{name} carries mains hum of {humHz} Hz at {decibel}."},
    {"soundNarrow.hint",
     "Take the sound of another source; look for a headset or call in the chain."},
    {"soundNarrow.seen", "{name} reaches up to {bandwidthHz} Hz only, as a telephone does."},
    {"soundOffset.hint", "Check its plug-in power and input; cuts in it click."},
    {"soundOffset.seen", "{name} stands off zero by {offsetPercent} % of full scale."},
    {"soundRumble.hint", "Keep wind and hands off the microphone; switch on its low cut."},
    {"soundRumble.seen", "{name} carries rumble below 80 Hz at {decibel}."},
    {"timecodeApart.hint",
     "Sync by sound, or set free-running timecode from one clock on all before the take."},
    {"timecodeApart.seen",
     "Its timecode ({timecode} at the start) does not run with the reference's: it counts "
     "recorded time, or was never set."},
    {"timecodeJumps.hint",
     "Do not sync this file by timecode; find what interrupts its source (a loose cable, a "
     "pause, a clock that was set while recording)."},
    {"timecodeJumps.onePlace", ", and at {count} more place"},
    {"timecodeJumps.places", ", and at {count} more places"},
    {"timecodeJumps.seen", "Its timecode jumps at {at} s, from {before} to {after}, by {by} s"},
    {"timecodeOff.ahead", "ahead of"},
    {"timecodeOff.behind", "behind"},
    {"timecodeOff.hint",
     "Sync by the offset above instead, and set the timecode again before the next take."},
    {"timecodeOff.seen", "Its timecode is {frames} frames ({ms} ms) {way} the reference's."},
    {"variableRate.colon", ": "},
    {"variableRate.hint", "Convert it to a constant rate before the edit."},
    {"variableRate.others", " and others"},
    {"variableRate.seen",
     "Its frame rate varies: {shortestMs} to {longestMs} ms between frames, {rate} a "
     "second on average{mostly}."},
    {"variableRate.step", "{frames} × {ms} ms"},
    {"sameMicrophone.channel", "channel {channel}"},
    {"sameMicrophone.seen",
     "Its {own} carries the same microphone as {other} of {file} ({percent} % alike)."},
    {"sameMicrophone.hint",
     "It covers a recorder that fails, not that microphone or its cable: give the backup a "
     "microphone of its own."},
};

}  // namespace

std::span<const Phrase> timingPhrases() { return kTimingPhrases; }

}  // namespace rigmatch::words
