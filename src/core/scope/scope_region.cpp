// SPDX-License-Identifier: GPL-3.0-or-later
#include "scope/scope_region.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <string>
#include <thread>

namespace rigmatch::scope {
namespace {

std::string sizeText(int width, int height) {
    return std::to_string(width) + " × " + std::to_string(height);
}

}  // namespace

base::Result<ScopeArea> areaOf(const image::CodedFrame& frame, const ScopeOptions& options) {
    const image::PixelRect whole{0, 0, frame.width, frame.height};
    const image::PixelRect region = options.region.value_or(whole);
    const bool isInside = region.width > 0 && region.height > 0 && region.x >= 0 && region.y >= 0 &&
                          region.width <= frame.width - region.x &&
                          region.height <= frame.height - region.y;
    if (!isInside) {
        return base::fail(base::ErrorCode::OutOfRange,
                          base::say("scopeRegion.noScopeRegion"),
                          base::say("scopeRegion.outside",
                                    {{"size", sizeText(region.width, region.height)},
                                     {"x", base::whole(region.x)},
                                     {"y", base::whole(region.y)},
                                     {"picture", sizeText(frame.width, frame.height)}}),
                          base::say("scopeRegion.drawRegionInside"));
    }
    const int columns = options.columns == 0 ? region.width : options.columns;
    if (columns < 1 || columns > region.width) {
        return base::fail(
            base::ErrorCode::OutOfRange,
            base::say("scopeRegion.noScopeWidth"),
            base::say("scopeRegion.columnsWereAsked",
                      {{"columns", base::whole(columns)}, {"most", base::whole(region.width)}}),
            base::say("scopeRegion.askManyColumns"));
    }
    return ScopeArea{region, columns};
}

int workersFor(const ScopeArea& area) {
    constexpr long long kWorthIt = 1'000'000;  // pixels: below, threads cost more than they bring
    constexpr unsigned kMost = 4;
    const long long pixels = static_cast<long long>(area.region.width) * area.region.height;
    return pixels < kWorthIt
               ? 1
               : static_cast<int>(std::clamp(std::thread::hardware_concurrency(), 1U, kMost));
}

std::vector<ScopeArea> stripsOf(const image::CodedFrame& frame,
                                const ScopeArea& area,
                                int workers) {
    constexpr int kEach = 8;
    const image::PixelRect& region = area.region;
    const int count = workers > 1 ? kEach * workers : 1;
    std::vector<ScopeArea> strips;
    int from = region.y;
    for (int i = 1; i <= count; ++i) {
        int to = region.y + static_cast<int>(static_cast<long long>(region.height) * i / count);
        if (i < count) to = to >> frame.chromaShiftY << frame.chromaShiftY;
        if (to <= from) continue;
        strips.push_back({{region.x, from, region.width, to - from}, area.columns});
        from = to;
    }
    return strips;
}

LevelScale signalScale() { return {320, -26.0 / 255.0, 1.0 / 255.0}; }

double hueDegrees(double cb, double cr) {
    const double degrees = std::atan2(cr, cb) * 180.0 / std::numbers::pi;
    return degrees < 0.0 ? degrees + 360.0 : degrees;
}

}  // namespace rigmatch::scope
