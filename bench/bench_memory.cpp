// SPDX-License-Identifier: GPL-3.0-or-later
// Memory of one process that measures four 4K clips side by side, as the application does, and then
// holds one frame of each, as Compare does. Usage: bench_memory CLIP [CLIP CLIP CLIP]
#include <sys/resource.h>

#include <cstdio>
#include <future>
#include <vector>

#include "base/memory.h"
#include "jobs/compare_job.h"
#include "jobs/measure_job.h"
#include "words/english.h"

using namespace rigmatch;

namespace {

double peakMegabytes() {
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    return static_cast<double>(usage.ru_maxrss) / 1024.0;
}

}  // namespace

int main(int argc, char** argv) {
    rigmatch::base::returnLargeBlocks();
    if (argc < 2) {
        std::printf("usage: bench_memory CLIP [CLIP CLIP CLIP]\n");
        return 2;
    }
    constexpr int kClips = 4;
    std::printf("at the start: %.0f MB\n", peakMegabytes());
    std::vector<std::future<jobs::MeasuredShot>> running;
    for (int i = 0; i < kClips; ++i) {
        rig::Shot shot;
        shot.media = argv[1 + i % (argc - 1)];
        running.push_back(std::async(std::launch::async, [shot] {
            return jobs::measureShot(shot, std::string("classic-24"), {});
        }));
    }
    std::vector<jobs::MeasuredShot> measured;
    for (auto& one : running) measured.push_back(one.get());
    std::printf("after measuring four clips side by side: peak %.0f MB\n", peakMegabytes());
    std::vector<jobs::ComparedFrame> frames;
    std::vector<jobs::Picture> pictures;
    for (const jobs::MeasuredShot& one : measured) {
        if (!one.shot.reading) {
            std::printf("%s\n", words::inEnglish(one.shot.failure).c_str());
            return 1;
        }
        const auto frame = jobs::ComparedFrame::load(
            one.shot.media, jobs::secondsOf(*one.shot.reading, jobs::Moment::Chart), {});
        if (!frame) return 1;
        frames.push_back(*frame);
        pictures.push_back(frame->picture({}));
    }
    std::printf("with a frame and a picture of each: peak %.0f MB\n", peakMegabytes());
    return 0;
}
