// SPDX-License-Identifier: GPL-3.0-or-later
// An hour of sound laid on another hour of it, without decoding: time as a share of the hour, and
// of a plain Fourier transform of the same length. Usage: bench_sync [SECONDS]
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <future>

#include "jobs/sync_source.h"
#include "sound/fourier.h"
#include "support/spoken_sound.h"
#include "timing/sound_offset.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

double secondsSince(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

}  // namespace

int main(int argc, char** argv) {
    constexpr double kRate = 16000.0;
    const double seconds = argc > 1 ? std::atof(argv[1]) : 3600.0;
    const auto speech = support::spokenSound(9, seconds + 30.0, kRate);
    std::mt19937_64 random(2);
    sound::SoundTrack first{0.0, kRate, support::recorded(speech, 12.5, seconds, 0.0, kRate)};
    sound::SoundTrack second{0.0, kRate, support::recorded(speech, 0.0, seconds, 35.0, kRate)};
    support::addNoise(first.samples, 15.0, random);
    support::addNoise(second.samples, 10.0, random);

    sound::Fourier plain(sound::fastLength(2 * first.samples.size()));
    auto start = std::chrono::steady_clock::now();
    plain.forth();
    const double transform = secondsSince(start);

    start = std::chrono::steady_clock::now();
    auto other = std::async(std::launch::async, [&] { return timing::whitened(second); });
    const timing::WhitenedTrack mine = timing::whitened(first);
    const timing::WhitenedTrack theirs = other.get();
    const double whitening = secondsSince(start);
    const auto found = timing::findSoundOffset(mine, theirs);
    const double whole = secondsSince(start);
    if (!found) {
        std::printf("%s\n", words::inEnglish(found.error()).c_str());
        return 1;
    }
    std::printf("%.0f s of sound: %.2f s (whitening %.2f), %.4f of its length, %.1f transforms\n",
                seconds,
                whole,
                whitening,
                whole / seconds,
                whole / transform);
    std::printf("offset %.5f s ± %.5f at %.1f s, drift %.3f ± %.3f ppm\n",
                found->offsetSeconds,
                found->uncertaintySeconds,
                found->atSeconds,
                found->driftPpm.value_or(0.0),
                found->driftUncertaintyPpm);
    return 0;
}
