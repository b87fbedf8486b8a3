// SPDX-License-Identifier: GPL-3.0-or-later
// Passes over picture and sound against ffmpeg decoding the same file to nothing: timing and sound
// (`sync`, the clip laid on its own sound), and framing with focus (`frame`). Then sixteen sound
// files laid on one clock: time, and the most memory that was held.
// Usage: bench_passes RIGMATCH-CLI [ROUNDS] [SECONDS OF EACH OF SIXTEEN SOURCES]
#include <sys/resource.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>

#include "jobs/sync_job.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "sim/shoot.h"
#include "sound/wave_file.h"
#include "support/spoken_sound.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

constexpr double kRate = 48000.0;

double secondsOf(const std::string& command) {
    const auto start = std::chrono::steady_clock::now();
    if (std::system(command.c_str()) != 0) return -1.0;
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

double median(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    return values[values.size() / 2];
}

void compare(const char* what, const std::string& ours, const std::string& theirs, int rounds) {
    std::vector<double> mine, plain;
    for (int round = 0; round < rounds; ++round) {
        plain.push_back(secondsOf(theirs));
        mine.push_back(secondsOf(ours));
    }
    std::printf("%s: %.2f s, ffmpeg %.2f s, ratio %.2f (medians of %d)\n",
                what,
                median(mine),
                median(plain),
                median(mine) / median(plain),
                rounds);
}

int laySixteen(const std::filesystem::path& folder, double seconds) {
    constexpr int kSources = 16, kFiles = 4;
    std::vector<std::filesystem::path> files;
    const auto speech = support::spokenSound(5, seconds + 60.0, kRate);
    for (int i = 0; i < kFiles; ++i) {
        const auto file = folder / ("source" + std::to_string(i) + ".wav");
        const auto written =
            sound::writeWave(file,
                             {support::recorded(speech, 11.0 * i, seconds, 4.0 * i, kRate)},
                             static_cast<int>(kRate));
        if (!written) return 1;
    }
    for (int i = 0; i < kSources; ++i)
        files.push_back(folder / ("source" + std::to_string(i % kFiles) + ".wav"));
    const auto start = std::chrono::steady_clock::now();
    const auto report = jobs::syncFiles(files.front(), {files.begin() + 1, files.end()});
    const double taken =
        std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    if (!report) return 1;
    const auto placed = std::count_if(report->results.begin(),
                                      report->results.end(),
                                      [](auto& one) { return one.sound.has_value(); });
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    std::printf("sixteen sources of %.0f s: %.0f s, %d of 15 laid, most memory %.0f MB\n",
                seconds,
                taken,
                static_cast<int>(placed),
                static_cast<double>(usage.ru_maxrss) / 1024.0);
    return placed == kSources - 1 ? 0 : 1;
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) {
        std::printf("usage: bench_passes RIGMATCH-CLI [ROUNDS] [SECONDS]\n");
        return 2;
    }
    const std::string program = argv[1];
    std::setvbuf(stdout, nullptr, _IOLBF, 0);
    const int rounds = argc > 2 ? std::atoi(argv[2]) : 3;
    const auto folder = std::filesystem::temp_directory_path() / "rigmatch-bench";
    std::filesystem::create_directories(folder);
    const std::string ten = (folder / "shot.mov").string(), clip = (folder / "minute.mov").string();
    if (!std::filesystem::exists(clip)) {
        sim::SimulatedSet set;
        sim::ShootOptions options;
        options.seconds = 10.0;
        const auto shot =
            set.shoot(sim::placedRig(sim::clockBenchRig()).cameras[1], options, ten, {});
        if (!shot) {
            std::printf("%s\n", words::inEnglish(shot.error()).c_str());
            return 1;
        }
        (void)secondsOf("ffmpeg -v error -y -stream_loop 5 -i " + ten +
                        " -f lavfi -i anoisesrc=d=60:a=0.1:c=pink -map 0:v -map 1:a -t 60 -c:v "
                        "libx264 -preset veryfast -crf 20 -c:a pcm_s16le " +
                        clip + " </dev/null");
    }
    const std::string decode = "ffmpeg -v error -i " + clip + " -f null - </dev/null";
    compare("timing and sound, twice a minute",
            program + " sync " + clip + " " + clip + " --json >/dev/null",
            decode + " && " + decode,
            rounds);
    compare("framing and focus, a minute",
            program + " frame " + clip + " --json >/dev/null",
            decode,
            rounds);
    const std::string rig = (folder / "take.rigmatch").string();
    compare("a take for matching and framing, a minute",
            "rm -f " + rig + " && " + program + " take " + rig + " --camera A=" + clip +
                " --purpose match --purpose framing --json >/dev/null",
            decode,
            rounds);
    const double seconds = argc > 3 ? std::atof(argv[3]) : 0.0;
    return seconds > 0.0 ? laySixteen(folder, seconds) : 0;
}
