// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <array>

#include "scope/level_rows.h"
#include "scope/scope_region.h"

namespace rigmatch::scope {
namespace {

constexpr int kBand = 16;  // rows turned into R'G'B' at a time

// Neighbouring pixels mostly share a level; counted into tables by turns they do not wait for each
// other.
constexpr std::size_t kTables = 4;

void count(const std::vector<float>& values,
           const LevelScale& scale,
           std::vector<std::uint32_t>& counts) {
    const auto perSignal = static_cast<float>(1.0 / scale.stepSignal);
    const auto offset = static_cast<float>(0.5 - scale.lowestSignal / scale.stepSignal);
    const auto top = static_cast<float>(scale.count) - 0.5F;
    const auto levels = static_cast<std::size_t>(scale.count);
    std::vector<std::uint32_t> tables(levels * kTables);
    std::vector<std::int32_t> places(values.size());
    for (std::size_t i = 0; i < values.size(); ++i) {
        places[i] = static_cast<std::int32_t>(
            std::min(std::max(values[i] * perSignal + offset, 0.0F), top));
    }
    for (std::size_t i = 0; i < places.size(); ++i)
        ++tables[(i % kTables) * levels + static_cast<std::size_t>(places[i])];
    for (std::size_t i = 0; i < tables.size(); ++i) counts[i % levels] += tables[i];
}

/// A coded frame, without a picture in between.
void countRows(const image::CodedFrame& frame,
               const image::PixelRect& region,
               Histogram& histogram) {
    const auto levels = static_cast<std::size_t>(histogram.scale.count);
    const auto width = static_cast<std::size_t>(region.width);
    const std::array<std::vector<std::uint32_t>*, 4> counts{
        &histogram.red, &histogram.green, &histogram.blue, &histogram.luma};
    std::vector<std::uint32_t> tables(levels * kTables * counts.size());
    LevelRows rows(frame, region.x, region.width);
    for (int y = 0; y < region.height; ++y) {
        rows.take(region.y + y);
        for (std::size_t c = 0; c < counts.size(); ++c) {
            const std::uint16_t* row = rows.channel(c);
            std::uint32_t* table = tables.data() + c * kTables * levels;
            std::size_t x = 0;
            for (; x + kTables <= width; x += kTables) {
                ++table[row[x]];
                ++table[levels + row[x + 1]];
                ++table[2 * levels + row[x + 2]];
                ++table[3 * levels + row[x + 3]];
            }
            for (; x < width; ++x) ++table[row[x]];
        }
    }
    for (std::size_t i = 0; i < tables.size(); ++i)
        (*counts[i / (kTables * levels)])[i % levels] += tables[i];
    histogram.pixels = static_cast<long long>(region.width) * region.height;
}

Histogram counted(const image::CodedFrame& frame, const image::PixelRect& region) {
    Histogram histogram;
    histogram.scale = signalScale();
    for (auto* counts : {&histogram.red, &histogram.green, &histogram.blue, &histogram.luma})
        counts->assign(static_cast<std::size_t>(histogram.scale.count), 0);
    if (isCodedYcc(frame)) {
        countRows(frame, region, histogram);
        return histogram;
    }
    const image::LumaWeights k = image::lumaWeights(
        frame.tags.matrix == image::Matrix::None ? image::Matrix::Bt709 : frame.tags.matrix);
    std::vector<float> luma;
    for (int y0 = 0; y0 < region.height; y0 += kBand) {
        const int rows = std::min(kBand, region.height - y0);
        const image::Frame signal =
            image::signalFrame(frame, {region.x, region.y + y0, region.width, rows});
        const auto& [red, green, blue] = signal.channels;
        luma.resize(red.size());
        for (std::size_t i = 0; i < luma.size(); ++i) {
            luma[i] = static_cast<float>(k.red) * red[i] + static_cast<float>(k.green) * green[i] +
                      static_cast<float>(k.blue) * blue[i];
        }
        count(red, histogram.scale, histogram.red);
        count(green, histogram.scale, histogram.green);
        count(blue, histogram.scale, histogram.blue);
        count(luma, histogram.scale, histogram.luma);
        histogram.pixels += static_cast<long long>(luma.size());
    }
    return histogram;
}

}  // namespace

base::Result<Histogram> histogramOf(const image::CodedFrame& frame, const ScopeOptions& options) {
    const auto area = areaOf(frame, options);
    if (!area) return tl::unexpected(area.error());
    return inStrips(
        frame,
        *area,
        [&frame](const ScopeArea& strip) { return counted(frame, strip.region); },
        [](Histogram& total, const Histogram& more) {
            addCounts(total.red, more.red);
            addCounts(total.green, more.green);
            addCounts(total.blue, more.blue);
            addCounts(total.luma, more.luma);
            total.pixels += more.pixels;
        });
}

}  // namespace rigmatch::scope
