// SPDX-License-Identifier: GPL-3.0-or-later
// Our scopes and ffmpeg's filters on the same 4K frame: elapsed time with as many threads as each
// takes by itself, and processor time; what ffmpeg needs to read and pass the frames on is taken
// off. Usage: bench_scopes [FRAMES]
#include <sys/resource.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <ctime>
#include <filesystem>
#include <fstream>
#include <string>
#include <vector>

#include "image/frame.h"
#include "scope/scope_data.h"

using namespace rigmatch;

namespace {

constexpr int kWidth = 3840;
constexpr int kHeight = 2160;

double childSeconds() {
    rusage usage{};
    getrusage(RUSAGE_CHILDREN, &usage);
    return static_cast<double>(usage.ru_utime.tv_sec + usage.ru_stime.tv_sec) +
           1e-6 * static_cast<double>(usage.ru_utime.tv_usec + usage.ru_stime.tv_usec);
}

/// Milliseconds of one frame.
struct Cost {
    double elapsed = 1e9;
    double processor = 1e9;
};

/// A filter of ffmpeg, reading included, with as many threads as it takes.
Cost filterCost(const std::string& raw,
                const std::string& format,
                const std::string& filter,
                int frames) {
    Cost best;
    for (int run = 0; run < 3; ++run) {
        const double before = childSeconds();
        const auto start = std::chrono::steady_clock::now();
        const std::string command = "ffmpeg -v error -f rawvideo -s 3840x2160 -pix_fmt " + format +
                                    " -stream_loop " + std::to_string(frames - 1) + " -i " + raw +
                                    " -vf " + filter + " -f null - 2>/dev/null";
        if (std::system(command.c_str()) != 0) return {};
        const std::chrono::duration<double, std::milli> took =
            std::chrono::steady_clock::now() - start;
        best.elapsed = std::min(best.elapsed, took.count() / frames);
        best.processor = std::min(best.processor, 1e3 * (childSeconds() - before) / frames);
    }
    return best;
}

template <class Work>
Cost ownCost(const Work& work, int frames) {
    Cost best;
    for (int i = 0; i < frames; ++i) {
        const std::clock_t before = std::clock();
        const auto start = std::chrono::steady_clock::now();
        work();
        const std::chrono::duration<double, std::milli> took =
            std::chrono::steady_clock::now() - start;
        best.elapsed = std::min(best.elapsed, took.count());
        best.processor = std::min(
            best.processor, 1e3 * static_cast<double>(std::clock() - before) / CLOCKS_PER_SEC);
    }
    return best;
}

void report(const char* name, const Cost& own, const Cost& theirs) {
    std::printf(
        "%-24s elapsed: own %6.2f ms, ffmpeg %6.2f ms, %.1f times as fast;   processor: "
        "%6.2f, %6.2f ms, %.1f times\n",
        name,
        own.elapsed,
        theirs.elapsed,
        theirs.elapsed / own.elapsed,
        own.processor,
        theirs.processor,
        theirs.processor / own.processor);
}

}  // namespace

int main(int argc, char** argv) {
    const int frames = argc > 1 ? std::max(2, std::atoi(argv[1])) : 30;
    const std::string raw = (std::filesystem::temp_directory_path() / "bench_scopes.yuv").string();
    const std::string make =
        "ffmpeg -v error -y -f lavfi -i testsrc2=s=3840x2160,noise=alls=12 -frames:v 1 -pix_fmt "
        "yuv420p -f rawvideo " +
        raw;
    if (std::system(make.c_str()) != 0) return 1;
    std::ifstream file(raw, std::ios::binary);
    std::vector<char> bytes(static_cast<std::size_t>(kWidth) * kHeight * 3 / 2);
    file.read(bytes.data(), static_cast<std::streamsize>(bytes.size()));
    image::CodedFrame frame;
    frame.width = kWidth;
    frame.height = kHeight;
    frame.chromaShiftX = frame.chromaShiftY = 1;
    const auto* data = reinterpret_cast<const std::byte*>(bytes.data());
    frame.planes[0] = {data, kWidth, kWidth, kHeight};
    frame.planes[1] = {data + kWidth * kHeight, kWidth / 2, kWidth / 2, kHeight / 2};
    frame.planes[2] = {data + kWidth * kHeight * 5 / 4, kWidth / 2, kWidth / 2, kHeight / 2};

    const Cost base = filterCost(raw, "yuv420p", "null", frames);
    const auto theirs = [&](const std::string& filter) {
        const Cost all = filterCost(raw, "yuv420p", filter, frames);
        return Cost{all.elapsed - base.elapsed, all.processor - base.processor};
    };
    const Cost waveform = theirs("waveform=filter=lowpass:components=1:graticule=none");
    report("waveform, every column",
           ownCost([&] { (void)scope::waveformOf(frame, scope::WaveformKind::Luma); }, frames),
           waveform);
    report("waveform, 960 columns",
           ownCost(
               [&] {
                   (void)scope::waveformOf(frame, scope::WaveformKind::Luma, {{}, 960});
               },
               frames),
           waveform);
    report(
        "RGB parade, 960 columns",
        ownCost(
            [&] {
                (void)scope::waveformOf(frame, scope::WaveformKind::Parade, {{}, 960});
            },
            frames),
        theirs("format=gbrp,waveform=filter=lowpass:components=7:display=parade:graticule=none"));
    report("vectorscope",
           ownCost([&] { (void)scope::vectorscopeOf(frame); }, frames),
           theirs("vectorscope=mode=gray:graticule=none"));
    report("histogram R' G' B' Y'",
           ownCost([&] { (void)scope::histogramOf(frame); }, frames),
           theirs("format=gbrp,histogram"));
    std::filesystem::remove(raw);
    return 0;
}
