// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <array>
#include <cstring>

#include "scope/level_rows.h"
#include "scope/scope_region.h"

namespace rigmatch::scope {
namespace {

// Columns are counted in groups as wide as a cache line, into tables of bytes that stay in the
// nearest cache; that is what makes the scope fast. A byte holds 255 rows, then it is emptied.
constexpr int kGroup = 64;
constexpr int kRowsPerByte = 255;
constexpr int kRowsAhead = 12;
constexpr int kConvert = 256;  // columns turned into R'G'B' at a time

/// Tables of one group of columns, level by level.
class GroupTables {
public:
    explicit GroupTables(int levels)
        : m_counts(static_cast<std::size_t>(levels) * kGroup), m_sums(m_counts.size()) {}

    [[nodiscard]] std::uint8_t* counts() { return m_counts.data(); }

    /// Empties the bytes into the sums: at the latest after 255 rows.
    void carry() {
        for (std::size_t i = 0; i < m_counts.size(); ++i) m_sums[i] += m_counts[i];
        std::fill(m_counts.begin(), m_counts.end(), std::uint8_t{0});
    }

    /// Adds the sums to the columns of `waveform` and starts anew.
    void addTo(Waveform& waveform, int plane, const ScopeArea& area, int firstColumn, int count) {
        const auto width = static_cast<std::size_t>(waveform.columns);
        const auto levels = static_cast<std::size_t>(waveform.scale.count);
        std::array<std::size_t, kGroup> bins{};
        for (int x = 0; x < count; ++x)
            bins[static_cast<std::size_t>(x)] =
                static_cast<std::size_t>(area.binOf(firstColumn + x));
        std::uint32_t* row =
            waveform.counts.data() + static_cast<std::size_t>(plane) * levels * width;
        const std::uint32_t* from = m_sums.data();
        for (std::size_t level = 0; level < levels; ++level, row += width, from += kGroup) {
            if (width == static_cast<std::size_t>(area.region.width)) {
                for (std::size_t x = 0; x < static_cast<std::size_t>(count); ++x)
                    row[bins[0] + x] += from[x];
                continue;
            }
            for (std::size_t x = 0; x < static_cast<std::size_t>(count); ++x)
                row[bins[x]] += from[x];
        }
        std::fill(m_sums.begin(), m_sums.end(), 0U);
    }

private:
    std::vector<std::uint8_t> m_counts;
    std::vector<std::uint32_t> m_sums;
};

/// Eight columns of 8-bit codes at once: one read instead of eight.
void countEight(const std::uint8_t* row, std::uint8_t* counts) {
    std::uint64_t codes = 0;
    std::memcpy(&codes, row, sizeof codes);
    ++counts[(codes & 255) * kGroup];
    ++counts[((codes >> 8) & 255) * kGroup + 1];
    ++counts[((codes >> 16) & 255) * kGroup + 2];
    ++counts[((codes >> 24) & 255) * kGroup + 3];
    ++counts[((codes >> 32) & 255) * kGroup + 4];
    ++counts[((codes >> 40) & 255) * kGroup + 5];
    ++counts[((codes >> 48) & 255) * kGroup + 6];
    ++counts[(codes >> 56) * kGroup + 7];
}

template <class Sample>
void countRow(const Sample* row, int count, int shift, std::size_t top, std::uint8_t* counts) {
    int x = 0;
    if constexpr (sizeof(Sample) == 1) {
        for (; x + 8 <= count; x += 8) countEight(row + x, counts + x);
    }
    for (; x < count; ++x)
        ++counts[std::min<std::size_t>(row[x] >> shift, top) * kGroup +
                 static_cast<std::size_t>(x)];
}

template <class Sample>
void countLuma(const image::CodedFrame& frame,
               const ScopeArea& area,
               int shift,
               Waveform& waveform) {
    const std::size_t top = static_cast<std::size_t>(waveform.scale.count) - 1;
    const image::PixelRect& region = area.region;
    GroupTables tables(waveform.scale.count);
    for (int x0 = 0; x0 < region.width; x0 += kGroup) {
        const int count = std::min(kGroup, region.width - x0);
        for (int y = 0; y < region.height; ++y) {
            // Rows lie pages apart, out of the reach of the processor's own foresight.
            const int ahead = region.y + std::min(y + kRowsAhead, region.height - 1);
            __builtin_prefetch(rowOf<Sample>(frame.planes[0], ahead) + region.x + x0);
            const Sample* row = rowOf<Sample>(frame.planes[0], region.y + y) + region.x + x0;
            countRow(row, count, shift, top, tables.counts());
            if (y % kRowsPerByte == kRowsPerByte - 1) tables.carry();
        }
        tables.carry();
        tables.addTo(waveform, 0, area, x0, count);
    }
}

/// One channel of a converted stretch of columns.
void countChannel(const std::vector<float>& channel,
                  int width,
                  int height,
                  int x0,
                  int plane,
                  const ScopeArea& area,
                  GroupTables& tables,
                  Waveform& waveform) {
    const auto scale = static_cast<float>(1.0 / waveform.scale.stepSignal);
    const auto offset =
        static_cast<float>(0.5 - waveform.scale.lowestSignal / waveform.scale.stepSignal);
    const auto top = static_cast<float>(waveform.scale.count) - 0.5F;
    std::array<std::int32_t, kGroup> levels{};
    for (int group = 0; group < width; group += kGroup) {
        const int count = std::min(kGroup, width - group);
        for (int y = 0; y < height; ++y) {
            const float* row = channel.data() + static_cast<std::ptrdiff_t>(y) * width + group;
            for (int x = 0; x < count; ++x) {
                levels[static_cast<std::size_t>(x)] = static_cast<std::int32_t>(
                    std::min(std::max(row[x] * scale + offset, 0.0F), top));
            }
            std::uint8_t* counts = tables.counts();
            for (int x = 0; x < count; ++x, ++counts)
                ++counts[levels[static_cast<std::size_t>(x)] * kGroup];
            if (y % kRowsPerByte == kRowsPerByte - 1) tables.carry();
        }
        tables.carry();
        tables.addTo(waveform, plane, area, x0 + group, count);
    }
}

std::vector<float> lumaOf(const image::Frame& signal) {
    const image::LumaWeights k = image::lumaWeights(image::Matrix::Bt709);
    std::vector<float> luma(signal.channels[0].size());
    for (std::size_t i = 0; i < luma.size(); ++i) {
        luma[i] = static_cast<float>(k.red) * signal.channels[0][i] +
                  static_cast<float>(k.green) * signal.channels[1][i] +
                  static_cast<float>(k.blue) * signal.channels[2][i];
    }
    return luma;
}

void countSignal(const image::CodedFrame& frame, const ScopeArea& area, Waveform& waveform) {
    GroupTables tables(waveform.scale.count);
    const image::PixelRect& region = area.region;
    for (int x0 = 0; x0 < region.width; x0 += kConvert) {
        const int width = std::min(kConvert, region.width - x0);
        const image::Frame signal =
            image::signalFrame(frame, {region.x + x0, region.y, width, region.height});
        if (waveform.planes == 1) {
            countChannel(lumaOf(signal), width, region.height, x0, 0, area, tables, waveform);
            continue;
        }
        for (int plane = 0; plane < 3; ++plane) {
            countChannel(signal.channels[static_cast<std::size_t>(plane)],
                         width,
                         region.height,
                         x0,
                         plane,
                         area,
                         tables,
                         waveform);
        }
    }
}

/// The parade of a coded frame, without a picture in between. Levels of a strip of rows are made
/// first, then counted channel by channel: one table at a time stays in the nearest cache.
void countParade(const image::CodedFrame& frame, const ScopeArea& area, Waveform& waveform) {
    const image::PixelRect& region = area.region;
    GroupTables table(waveform.scale.count);
    std::array<std::vector<std::uint16_t>, 3> strip;
    for (int x0 = 0; x0 < region.width; x0 += kGroup) {
        const int count = std::min(kGroup, region.width - x0);
        LevelRows rows(frame, region.x + x0, count);
        for (auto& levels : strip) levels.clear();
        for (int y = 0; y < region.height; ++y) {
            rows.take(region.y + y);
            for (std::size_t plane = 0; plane < 3; ++plane)
                strip[plane].insert(
                    strip[plane].end(), rows.channel(plane), rows.channel(plane) + count);
        }
        for (int plane = 0; plane < 3; ++plane) {
            const std::uint16_t* levels = strip[static_cast<std::size_t>(plane)].data();
            for (int y = 0; y < region.height; ++y, levels += count) {
                std::uint8_t* counts = table.counts();
                for (int x = 0; x < count; ++x, ++counts)
                    ++counts[static_cast<std::size_t>(levels[x]) * kGroup];
                if (y % kRowsPerByte == kRowsPerByte - 1) table.carry();
            }
            table.carry();
            table.addTo(waveform, plane, area, x0, count);
        }
    }
}

/// Codes of the luma plane as levels: 256, or 1024 where there are more bits.
LevelScale lumaScaleOf(const image::CodedFrame& frame) {
    const int bits = std::min(frame.bitDepth, 10);
    const int count = 1 << bits;
    if (frame.tags.range == image::Range::Full) return {count, 0.0, 1.0 / (count - 1.0)};
    const double unit = count / 256.0;
    return {count, -16.0 / 219.0, 1.0 / (219.0 * unit)};
}

Waveform counted(const image::CodedFrame& frame, WaveformKind kind, const ScopeArea& area) {
    const bool isByCode = kind == WaveformKind::Luma && isCodedYcc(frame);
    Waveform waveform;
    waveform.kind = kind;
    waveform.planes = kind == WaveformKind::Parade ? 3 : 1;
    waveform.columns = area.columns;
    waveform.scale = isByCode ? lumaScaleOf(frame) : signalScale();
    waveform.counts.assign(static_cast<std::size_t>(waveform.planes) *
                               static_cast<std::size_t>(waveform.scale.count) *
                               static_cast<std::size_t>(waveform.columns),
                           0);
    if (kind == WaveformKind::Parade && isCodedYcc(frame)) {
        countParade(frame, area, waveform);
    } else if (!isByCode) {
        countSignal(frame, area, waveform);
    } else if (frame.samples == image::SampleKind::Unsigned8) {
        countLuma<std::uint8_t>(frame, area, 0, waveform);
    } else {
        countLuma<std::uint16_t>(frame, area, std::max(0, frame.bitDepth - 10), waveform);
    }
    return waveform;
}

}  // namespace

base::Result<Waveform> waveformOf(const image::CodedFrame& frame,
                                  WaveformKind kind,
                                  const ScopeOptions& options) {
    const auto area = areaOf(frame, options);
    if (!area) return tl::unexpected(area.error());
    return inStrips(
        frame,
        *area,
        [&frame, kind](const ScopeArea& strip) { return counted(frame, kind, strip); },
        [](Waveform& total, const Waveform& more) { addCounts(total.counts, more.counts); });
}

}  // namespace rigmatch::scope
