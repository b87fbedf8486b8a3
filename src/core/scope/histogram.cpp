// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <array>

#include "scope/level_rows.h"
#include "scope/scope_region.h"

namespace rigmatch::scope {
namespace {

// Neighbouring pixels mostly share a level; counted into tables by turns they do not wait for each
// other.
constexpr std::size_t kTables = 4;

void countValues(const std::vector<float>& values,
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
    histogram.pixels += static_cast<long long>(region.width) * region.height;
}

void count(const image::CodedFrame& frame, const image::PixelRect& region, Histogram& histogram) {
    if (isCodedYcc(frame)) {
        countRows(frame, region, histogram);
        return;
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
        countValues(red, histogram.scale, histogram.red);
        countValues(green, histogram.scale, histogram.green);
        countValues(blue, histogram.scale, histogram.blue);
        countValues(luma, histogram.scale, histogram.luma);
        histogram.pixels += static_cast<long long>(luma.size());
    }
}

Histogram emptyHistogram() {
    Histogram histogram;
    histogram.scale = signalScale();
    for (auto* counts : {&histogram.red, &histogram.green, &histogram.blue, &histogram.luma})
        counts->assign(static_cast<std::size_t>(histogram.scale.count), 0);
    return histogram;
}

}  // namespace

base::Result<Histogram> histogramOf(const image::CodedFrame& frame, const ScopeOptions& options) {
    const auto area = areaOf(frame, options);
    if (!area) return tl::unexpected(area.error());
    const int workers = workersFor(*area);
    const std::vector<ScopeArea> strips = stripsOf(frame, *area, workers);
    const auto counters =
        sharedOut(workers, strips.size(), emptyHistogram, [&](Histogram& part, std::size_t i) {
            count(frame, strips[i].region, part);
        });
    Histogram total = emptyHistogram();
    for (const Histogram& part : counters) {
        addCounts(total.red, part.red);
        addCounts(total.green, part.green);
        addCounts(total.blue, part.blue);
        addCounts(total.luma, part.luma);
        total.pixels += part.pixels;
    }
    return total;
}

}  // namespace rigmatch::scope
