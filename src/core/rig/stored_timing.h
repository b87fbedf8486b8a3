// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "rig/stored.h"

namespace rigmatch::rig {

template <>
struct Stored<base::Warning> {
    static constexpr auto fields() {
        return std::tuple{kept("code", &base::Warning::code),
                          kept("text", &base::Warning::text),
                          kept("hint", &base::Warning::hint)};
    }
};

template <>
struct Stored<sound::SoundGap> {
    static constexpr auto fields() {
        return std::tuple{kept("startSeconds", &sound::SoundGap::startSeconds),
                          kept("lengthSeconds", &sound::SoundGap::lengthSeconds)};
    }
};

template <>
struct Stored<sound::ChannelReport> {
    using C = sound::ChannelReport;
    static constexpr auto fields() {
        return std::tuple{sparse("speechDbfs", &C::speechDbfs),
                          kept("peakDbfs", &C::peakDbfs),
                          kept("truePeakDbtp", &C::truePeakDbtp),
                          sparse("loudnessLufs", &C::loudnessLufs),
                          sparse("noiseDbfs", &C::noiseDbfs),
                          sparse("humDbfs", &C::humDbfs),
                          sparse("humHz", &C::humHz),
                          sparse("clippedRuns", &C::clippedRuns),
                          sparse("gaps", &C::gaps),
                          sparse("offsetPercent", &C::offsetPercent),
                          sparse("bandwidthHz", &C::bandwidthHz),
                          sparse("decaySeconds", &C::decaySeconds),
                          sparse("levelRisePerSecond", &C::levelRisePerSecond),
                          sparse("rumbleDbfs", &C::rumbleDbfs),
                          kept("code", &C::code),
                          kept("verdict", &C::verdict)};
    }
};

template <>
struct Stored<sound::SoundReport> {
    using S = sound::SoundReport;
    static constexpr auto fields() {
        return std::tuple{kept("sampleRateHz", &S::sampleRate),
                          kept("durationSeconds", &S::durationSeconds),
                          kept("channels", &S::channels),
                          sparse("loudnessLufs", &S::loudnessLufs),
                          sparse("loudnessRangeLu", &S::loudnessRangeLu),
                          sparse("truePeakDbtp", &S::truePeakDbtp),
                          sparse("envelopeDbfs", &S::envelopeDbfs),
                          sparse("clapSeconds", &S::clapSeconds),
                          sparse("findings", &S::findings)};
    }
};

template <>
struct Stored<timing::TimeSpan> {
    static constexpr auto fields() {
        return std::tuple{kept("startSeconds", &timing::TimeSpan::startSeconds),
                          kept("endSeconds", &timing::TimeSpan::endSeconds)};
    }
};

template <>
struct Stored<timing::IntervalCount> {
    static constexpr auto fields() {
        return std::tuple{kept("seconds", &timing::IntervalCount::seconds),
                          kept("frames", &timing::IntervalCount::frames)};
    }
};

template <>
struct Stored<timing::FrameReport> {
    using F = timing::FrameReport;
    static constexpr auto fields() {
        return std::tuple{kept("frames", &F::frames),
                          kept("rate", &F::rate),
                          kept("rateText", &F::rateText),
                          sparse("variable", &F::isVariable),
                          kept("shortestSeconds", &F::shortestSeconds),
                          kept("meanSeconds", &F::meanSeconds),
                          kept("longestSeconds", &F::longestSeconds),
                          sparse("intervals", &F::intervals),
                          kept("uniqueRate", &F::uniqueRate),
                          sparse("repeated", &F::repeated),
                          sparse("missing", &F::missing),
                          sparse("late", &F::late),
                          sparse("notJudged", &F::notJudged),
                          sparse("unsteady", &F::unsteady),
                          sparse("pattern", &F::pattern),
                          sparse("repeatCause", &F::repeatCause),
                          sparse("repeatBlurShare", &F::repeatBlurShare),
                          sparse("combedShare", &F::combedShare)};
    }
};

template <>
struct Stored<timing::OffsetPoint> {
    using P = timing::OffsetPoint;
    static constexpr auto fields() {
        return std::tuple{kept("atSeconds", &P::atSeconds),
                          kept("offsetSeconds", &P::offsetSeconds),
                          kept("height", &P::height),
                          kept("used", &P::isUsed)};
    }
};

template <>
struct Stored<timing::SoundOffset> {
    using S = timing::SoundOffset;
    static constexpr auto fields() {
        return std::tuple{kept("offsetSeconds", &S::offsetSeconds),
                          kept("uncertaintySeconds", &S::uncertaintySeconds),
                          kept("atSeconds", &S::atSeconds),
                          sparse("driftPpm", &S::driftPpm),
                          kept("driftUncertaintyPpm", &S::driftUncertaintyPpm),
                          kept("confidence", &S::confidence),
                          sparse("inverted", &S::isInverted),
                          kept("overlapSeconds", &S::overlapSeconds),
                          sparse("points", &S::points),
                          sparse("jump", &S::jump),
                          sparse("wanderSeconds", &S::wanderSeconds)};
    }
};

template <>
struct Stored<timing::PictureOffset> {
    using P = timing::PictureOffset;
    static constexpr auto fields() {
        return std::tuple{kept("offsetSeconds", &P::offsetSeconds),
                          kept("uncertaintySeconds", &P::uncertaintySeconds),
                          kept("likeness", &P::likeness),
                          sparse("wanderSeconds", &P::wanderSeconds)};
    }
};

template <>
struct Stored<SyncReading> {
    using S = SyncReading;
    static constexpr auto fields() {
        return std::tuple{kept("against", &S::against),
                          sparse("sound", &S::sound),
                          sparse("picture", &S::picture),
                          sparse("reason", &S::reason),
                          sparse("distanceSeconds", &S::distanceSeconds),
                          sparse("timecode", &S::timecode),
                          sparse("timecodeSeconds", &S::timecodeSeconds),
                          sparse("findings", &S::findings)};
    }
};

}  // namespace rigmatch::rig
