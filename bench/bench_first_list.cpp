// SPDX-License-Identifier: GPL-3.0-or-later
// From four clips of ten seconds to the turn list, measured side by side as the program does,
// against the ffmpeg command decoding the same clips to nothing; then the search for the chart in
// an hour of programme, against ffmpeg decoding one minute of it. Interleaved in one run. Usage:
// bench_first_list [ROUNDS]
#include <sys/wait.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <future>
#include <string>
#include <vector>

#include "jobs/match_job.h"
#include "jobs/measure_job.h"
#include "measure/measure_media.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "sim/shoot.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

using Clock = std::chrono::steady_clock;

double since(Clock::time_point start) {
    return std::chrono::duration<double>(Clock::now() - start).count();
}

double secondsOf(const std::string& command) {
    const auto start = Clock::now();
    const int status = std::system((command + " </dev/null").c_str());
    if (!WIFEXITED(status) || WEXITSTATUS(status) != 0)
        std::printf("failed: %s\n", command.c_str());
    return since(start);
}

double median(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    return values[values.size() / 2];
}

const std::filesystem::path& folder() {
    static const auto path = std::filesystem::temp_directory_path() / "rigmatch-bench";
    return path;
}

/// Four cameras of the clock bench, shot once and kept between runs.
bool shoot(rig::Rig& rig, rig::Take& take) {
    rig = sim::placedRig(sim::clockBenchRig());
    sim::SimulatedSet set;
    for (const rig::Camera& camera : rig.cameras) {
        rig::Shot shot;
        shot.cameraId = camera.id;
        shot.settings = camera.settings;
        shot.media = folder() / ("first-" + camera.letter + ".mov");
        sim::ShootOptions options;
        options.seconds = 10.0;
        if (!std::filesystem::exists(shot.media)) {
            if (const auto made = set.shoot(camera, options, shot.media, {}); !made) {
                std::printf("%s\n", words::inEnglish(made.error()).c_str());
                return false;
            }
        }
        take.shots.push_back(shot);
    }
    return true;
}

double timeToList(rig::Rig rig, rig::Take take) {
    const auto start = Clock::now();
    std::vector<std::future<rig::Shot>> all;
    for (const rig::Shot& shot : take.shots)
        all.push_back(std::async(std::launch::async, [&rig, &take, shot] {
            return jobs::measureShot(shot, jobs::lookFor(rig, take, shot.cameraId), {}).shot;
        }));
    rig::Take measured = take;
    measured.shots = {};
    for (auto& one : all) measured.shots.push_back(one.get());
    rig.takes = {};
    rig.takes.push_back(measured);
    const auto report = jobs::matchReport(rig, std::as_const(rig.takes)[0]);
    const double seconds = since(start);
    if (report.turns().empty()) std::printf("no turns came out\n");
    return seconds;
}

/// An hour of one camera's own pictures without the chart; with `hasChart` its clip at 37:00.
std::filesystem::path hourOf(const std::filesystem::path& clip, bool hasChart) {
    const auto plain = folder() / "minute.mkv";
    const auto shown = folder() / "shown.mkv";
    const auto hour = folder() / (hasChart ? "hour.mkv" : "hour-without.mkv");
    if (std::filesystem::exists(hour)) return hour;
    const std::string coder = " -an -c:v libx264 -preset veryfast -crf 22 -g 50 ";
    // The moment before the chart comes in, again and again, with grain that no frame shares.
    (void)secondsOf("ffmpeg -v error -y -i " + clip.string() +
                    " -t 60 -vf \"trim=end_frame=10,loop=loop=-1:size=10,setpts=N/25/TB,"
                    "noise=alls=5:allf=t\"" +
                    coder + plain.string());
    (void)secondsOf("ffmpeg -v error -y -i " + clip.string() + coder + shown.string());
    const auto list = folder() / "hour.txt";
    std::ofstream file(list);
    for (int minute = 0; minute < 60; ++minute) {
        file << "file '" << plain.string() << "'\n";
        if (hasChart && minute == 36) file << "file '" << shown.string() << "'\n";
    }
    file.close();
    (void)secondsOf("ffmpeg -v error -y -f concat -safe 0 -i " + list.string() + " -c copy " +
                    hour.string());
    return hour;
}

}  // namespace

int main(int argc, char** argv) {
    const int rounds = argc > 1 ? std::atoi(argv[1]) : 5;
    std::filesystem::create_directories(folder());
    rig::Rig rig;
    rig::Take take;
    if (!shoot(rig, take)) return 1;
    std::string decode;
    for (const rig::Shot& shot : take.shots)
        decode += "ffmpeg -v error -i " + shot.media.string() + " -f null - </dev/null && ";
    decode += "true";
    std::vector<double> ours, theirs;
    for (int round = 0; round < rounds; ++round) {
        theirs.push_back(secondsOf(decode));
        ours.push_back(timeToList(rig, take));
    }
    std::printf(
        "four clips of 10 s to the turn list: %.2f s, ffmpeg decode %.2f s, ratio %.2f "
        "(medians of %d)\n",
        median(ours),
        median(theirs),
        median(ours) / median(theirs),
        rounds);
    const auto clip = std::as_const(take.shots)[0].media;
    for (const bool hasChart : {true, false}) {
        const auto hour = hourOf(clip, hasChart);
        const double minute = secondsOf("ffmpeg -v error -t 60 -i " + hour.string() + " -f null -");
        const auto start = Clock::now();
        const auto measured = measure::measureMedia(hour);
        std::printf(
            "an hour %s chart: %.1f s until measured (found: %s), ffmpeg decodes a minute "
            "of it in %.1f s\n",
            hasChart ? "with a" : "without a",
            since(start),
            measured && measured->reading.hasChart ? "yes" : "no",
            minute);
    }
    return 0;
}
