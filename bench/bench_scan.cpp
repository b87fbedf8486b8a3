// SPDX-License-Identifier: GPL-3.0-or-later
// Whole-process scan of 10 s clips of 1080p and 4K against the ffmpeg command decoding it to
// nothing, interleaved in one run. Usage: bench_scan RIGMATCH_CLI [ROUNDS]
#include <sys/wait.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <string>
#include <vector>

#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "sim/shoot.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

double secondsOf(const std::string& command) {
    const auto start = std::chrono::steady_clock::now();
    const int status = std::system(command.c_str());
    if (!WIFEXITED(status) || WEXITSTATUS(status) != 0)
        std::printf("failed: %s\n", command.c_str());
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

double median(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    return values[values.size() / 2];
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) {
        std::printf("usage: bench_scan RIGMATCH_CLI [ROUNDS]\n");
        return 2;
    }
    const int rounds = argc > 2 ? std::atoi(argv[2]) : 7;
    const std::filesystem::path folder = std::filesystem::temp_directory_path() / "rigmatch-bench";
    std::filesystem::create_directories(folder);
    sim::SimulatedSet set;
    for (const auto& [index, name] : {std::pair{1, "h264-8bit"}, {0, "hevc-10bit"}}) {
        const std::string file = (folder / (std::string(name) + ".mov")).string();
        const rig::Camera camera =
            sim::placedRig(sim::clockBenchRig()).cameras[static_cast<std::size_t>(index)];
        sim::ShootOptions options;
        options.seconds = 10.0;
        if (!std::filesystem::exists(file)) {
            if (const auto shot = set.shoot(camera, options, file, {}); !shot) {
                std::printf("%s\n", words::inEnglish(shot.error()).c_str());
                return 1;
            }
        }
        // The same pictures at 4K, by ffmpeg.
        const std::string large = (folder / (std::string(name) + "-4k.mov")).string();
        const std::string coder =
            index == 1 ? "libx264 -crf 20" : "libx265 -crf 22 -x265-params log-level=none";
        if (!std::filesystem::exists(large))
            (void)secondsOf("ffmpeg -v error -y -i " + file +
                            " -an -vf scale=3840:2160:flags=bicubic -preset ultrafast -c:v " +
                            coder + " " + large + " </dev/null");
        std::vector<std::pair<std::string, const char*>> clips{{file, "1080p"}, {large, "4K"}};
        if (index == 1) {
            // A minute each: a chart at rest, one that never rests, one that comes and goes.
            const auto made = [&](const char* what, const std::string& filter) {
                const std::string clip = (folder / (std::string(what) + ".mov")).string();
                if (!std::filesystem::exists(clip))
                    (void)secondsOf("ffmpeg -v error -y -stream_loop 5 -i " + file +
                                    " -an -t 60 -vf \"" + filter +
                                    "\" -c:v libx264 -preset veryfast -crf 20 " + clip +
                                    " </dev/null");
                clips.emplace_back(clip, what);
            };
            made("at-rest", "null");
            made("in-the-hand", "crop=1880:1058:20+14*sin(5*t):11+10*cos(4*t),scale=1920:1080");
            made("comes-and-goes",
                 "drawbox=x=0:y=0:w=iw:h=ih:t=fill:color=gray:enable='lt(mod(t,4),2)'");
        }
        for (const auto& [clip, size] : clips) {
            std::vector<double> ours, theirs;
            for (int round = 0; round < rounds; ++round) {
                theirs.push_back(
                    secondsOf("ffmpeg -v error -i " + clip + " -map 0:v -f null - </dev/null"));
                ours.push_back(
                    secondsOf(std::string(argv[1]) + " measure " + clip + " --json >/dev/null"));
            }
            std::printf("%-10s %s: scan %.2f s, ffmpeg decode %.2f s, ratio %.2f (medians of %d)\n",
                        name,
                        size,
                        median(ours),
                        median(theirs),
                        median(ours) / median(theirs),
                        rounds);
        }
    }
    return 0;
}
