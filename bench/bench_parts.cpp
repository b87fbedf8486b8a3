// SPDX-License-Identifier: GPL-3.0-or-later
// Parts of the main job, for finding where time goes.
#include <benchmark/benchmark.h>

#include "chart/chart_finder.h"
#include "chart/patch_reader.h"
#include "sim/random_frames.h"

using namespace rigmatch;

namespace {

const sim::RandomFrame& sample() {
    static const sim::RandomFrame kFrame = sim::randomFrame(3);
    return kFrame;
}

void findQuick(benchmark::State& state) {
    (void)sample();  // made before the clock runs
    for (auto _ : state)
        benchmark::DoNotOptimize(chart::findChart(sample().frame, {chart::Effort::Quick, 0.72}));
}
BENCHMARK(findQuick)->Unit(benchmark::kMillisecond);

void follow(benchmark::State& state) {
    const chart::ChartPose pose{sample().corners, 0.86};
    for (auto _ : state) benchmark::DoNotOptimize(chart::followChart(sample().frame, pose));
}
BENCHMARK(follow)->Unit(benchmark::kMillisecond);

void readPatches(benchmark::State& state) {
    const chart::ChartPose pose{sample().corners, 0.86};
    for (auto _ : state) benchmark::DoNotOptimize(chart::readPatches(sample().frame, pose));
}
BENCHMARK(readPatches)->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
