// SPDX-License-Identifier: GPL-3.0-or-later
// The face finder on frames without people: false finds, and time per 1080p frame on one thread.
// Usage: bench_faces [FRAMES] [FIRST_SEED]
#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <ctime>
#include <opencv2/core/utility.hpp>
#include <vector>

#include "face/face_finder.h"
#include "sim/random_frames.h"

using namespace rigmatch;

int main(int argc, char** argv) {
    const int frames = argc > 1 ? std::max(1, std::atoi(argv[1])) : 100;
    const int firstSeed = argc > 2 ? std::atoi(argv[2]) : 20000;
    cv::setNumThreads(1);
    auto finder = face::FaceFinder::create();
    if (!finder) return 1;
    int falseFinds = 0;
    std::vector<double> times;
    for (int i = 0; i < frames; ++i) {
        sim::RandomFrameOptions options;
        options.hasChart = i % 2 == 0;
        const auto frame = sim::randomFrame(static_cast<std::uint64_t>(firstSeed + i), options);
        face::FaceOptions quick;
        quick.effort = face::FaceEffort::Quick;
        const std::clock_t before = std::clock();
        (void)finder->find(frame.frame, quick);
        times.push_back(1e3 * static_cast<double>(std::clock() - before) / CLOCKS_PER_SEC);
        const auto found = finder->find(frame.frame);
        if (found && !found->empty()) {
            ++falseFinds;
            std::printf("seed %d: %zu false, score %.2f\n",
                        firstSeed + i,
                        found->size(),
                        found->front().score);
        }
    }
    std::sort(times.begin(), times.end());
    std::printf(
        "%d frames of 1920 x 1080 without people: %d false finds; processor time of the "
        "quick search median %.0f ms, 95th %.0f ms\n",
        frames,
        falseFinds,
        times[times.size() / 2],
        times[times.size() * 95 / 100]);
    return 0;
}
