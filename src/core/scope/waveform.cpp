// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <array>
#include <cstring>

#include "scope/level_rows.h"
#include "scope/scope_region.h"

namespace rigmatch::scope {
namespace {

// Columns are counted in groups as wide as a cache line, into tables of bytes that stay in the
// nearest cache; that is what makes the scope fast. A byte holds 255 rows, then it is emptied; so
// many rows also lie on few enough pages for the processor to keep track of.
constexpr int kGroup = 64;
constexpr int kRowsPerByte = 255;
constexpr int kConvert = 256;  // columns turned into R'G'B' at a time

/// A stretch of columns of the region, from its left border.
struct Stretch {
    int from = 0;
    int to = 0;
};

/// Where the columns of one group go.
struct GroupBins {
    /// Neighbouring columns that share a column of the scope.
    struct Run {
        std::size_t bin = 0;
        std::size_t end = 0;
    };

    GroupBins(const ScopeArea& area, int firstColumn, int columns)
        : count(static_cast<std::size_t>(columns)), isOneEach(area.columns == area.region.width) {
        for (std::size_t x = 0; x < count; ++x) {
            const auto bin =
                static_cast<std::size_t>(area.binOf(firstColumn + static_cast<int>(x)));
            if (runs == 0 || list[runs - 1].bin != bin) list[runs++].bin = bin;
            list[runs - 1].end = x + 1;
        }
    }

    /// How many columns every column of the scope takes, 0 where that changes along the group.
    [[nodiscard]] std::size_t columnsEach() const {
        if (isOneEach) return 1;
        for (std::size_t i = 0, start = 0; i < runs; start = list[i++].end) {
            if (list[i].end - start != list[0].end) return 0;
        }
        return list[0].end;
    }

    std::array<Run, kGroup> list{};
    std::size_t runs = 0;
    std::size_t count;
    bool isOneEach;
};

/// to += the sums of `Each` neighbours.
template <std::size_t Each>
void addNeighbours(const std::uint8_t* from, std::size_t count, std::uint32_t* to) {
    for (std::size_t i = 0; i < count; ++i) {
        std::uint32_t sum = 0;
        for (std::size_t k = 0; k < Each; ++k) sum += from[Each * i + k];
        to[i] += sum;
    }
}

/// Table of one group of columns, level by level.
class GroupTable {
public:
    explicit GroupTable(int levels) : m_counts(static_cast<std::size_t>(levels) * kGroup) {}

    [[nodiscard]] std::uint8_t* counts() { return m_counts.data(); }

    /// Adds the counts to the columns of `waveform` and starts anew: at the latest after 255 rows.
    void emptyInto(Waveform& waveform, int plane, const GroupBins& group) {
        const auto width = static_cast<std::size_t>(waveform.columns);
        const auto levels = static_cast<std::size_t>(waveform.scale.count);
        std::uint32_t* row =
            waveform.counts.data() + static_cast<std::size_t>(plane) * levels * width;
        std::uint8_t* from = m_counts.data();
        const std::size_t each = group.columnsEach();
        for (std::size_t level = 0; level < levels; ++level, row += width, from += kGroup) {
            if (isEmpty(from)) continue;  // most levels of a column are
            addRow(from, group, each, row + group.list[0].bin);
            std::memset(from, 0, kGroup);
        }
    }

private:
    /// One level into the scope's columns from the group's first on.
    static void addRow(const std::uint8_t* from,
                       const GroupBins& group,
                       std::size_t each,
                       std::uint32_t* to) {
        switch (each) {
            case 1:
                addNeighbours<1>(from, group.runs, to);
                return;
            case 2:
                addNeighbours<2>(from, group.runs, to);
                return;
            case 4:
                addNeighbours<4>(from, group.runs, to);
                return;
            default:
                break;
        }
        std::size_t x = 0;
        for (std::size_t i = 0; i < group.runs; ++i) {
            std::uint32_t sum = 0;
            for (; x < group.list[i].end; ++x) sum += from[x];
            to[i] += sum;
        }
    }
    static bool isEmpty(const std::uint8_t* counts) {
        std::array<std::uint64_t, kGroup / 8> words{};
        std::memcpy(words.data(), counts, kGroup);
        std::uint64_t any = 0;
        for (const std::uint64_t word : words) any |= word;
        return any == 0;
    }

    std::vector<std::uint8_t> m_counts;
};
using Tables = std::array<GroupTable, 3>;  ///< one per plane

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
               const Stretch& stretch,
               int shift,
               GroupTable& table,
               Waveform& waveform) {
    const std::size_t top = static_cast<std::size_t>(waveform.scale.count) - 1;
    const image::PixelRect& region = area.region;
    for (int y0 = 0; y0 < region.height; y0 += kRowsPerByte) {
        const int y1 = std::min(y0 + kRowsPerByte, region.height);
        for (int x0 = stretch.from; x0 < stretch.to; x0 += kGroup) {
            const int count = std::min(kGroup, stretch.to - x0);
            for (int y = y0; y < y1; ++y) {
                const Sample* row = rowOf<Sample>(frame.planes[0], region.y + y) + region.x + x0;
                // Rows lie pages apart, out of the reach of the processor's own foresight.
                const int ahead = std::min(y + kRowsAhead, region.height - 1);
                __builtin_prefetch(rowOf<Sample>(frame.planes[0], region.y + ahead) + region.x +
                                   x0);
                countRow(row, count, shift, top, table.counts());
            }
            table.emptyInto(waveform, 0, {area, x0, count});
        }
    }
}

/// Levels of `count` columns, one row.
void countLevels(const std::uint16_t* levels, int count, std::uint8_t* counts) {
    constexpr int kAtOnce = 8;
    int x = 0;
    for (; x + kAtOnce <= count; x += kAtOnce, counts += kAtOnce) {
        for (int k = 0; k < kAtOnce; ++k)
            ++counts[std::size_t{levels[x + k]} * kGroup + static_cast<std::size_t>(k)];
    }
    for (; x < count; ++x, ++counts) ++counts[std::size_t{levels[x]} * kGroup];
}

/// One channel of a converted stretch of columns.
void countChannel(const std::vector<float>& channel,
                  int width,
                  int height,
                  int x0,
                  int plane,
                  const ScopeArea& area,
                  GroupTable& table,
                  Waveform& waveform) {
    const auto scale = static_cast<float>(1.0 / waveform.scale.stepSignal);
    const auto offset =
        static_cast<float>(0.5 - waveform.scale.lowestSignal / waveform.scale.stepSignal);
    const auto top = static_cast<float>(waveform.scale.count) - 0.5F;
    std::array<std::uint16_t, kGroup> levels{};
    for (int group = 0; group < width; group += kGroup) {
        const int count = std::min(kGroup, width - group);
        const GroupBins bins(area, x0 + group, count);
        for (int y = 0; y < height; ++y) {
            const float* row = channel.data() + static_cast<std::ptrdiff_t>(y) * width + group;
            for (int x = 0; x < count; ++x) {
                levels[static_cast<std::size_t>(x)] = static_cast<std::uint16_t>(
                    std::min(std::max(row[x] * scale + offset, 0.0F), top));
            }
            countLevels(levels.data(), count, table.counts());
            if (y % kRowsPerByte == kRowsPerByte - 1) table.emptyInto(waveform, plane, bins);
        }
        table.emptyInto(waveform, plane, bins);
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

void countSignal(const image::CodedFrame& frame,
                 const ScopeArea& area,
                 const Stretch& stretch,
                 GroupTable& table,
                 Waveform& waveform) {
    const image::PixelRect& region = area.region;
    for (int x0 = stretch.from; x0 < stretch.to; x0 += kConvert) {
        const int width = std::min(kConvert, stretch.to - x0);
        const image::Frame signal =
            image::signalFrame(frame, {region.x + x0, region.y, width, region.height});
        if (waveform.planes == 1) {
            countChannel(lumaOf(signal), width, region.height, x0, 0, area, table, waveform);
            continue;
        }
        for (int plane = 0; plane < 3; ++plane) {
            countChannel(signal.channels[static_cast<std::size_t>(plane)],
                         width,
                         region.height,
                         x0,
                         plane,
                         area,
                         table,
                         waveform);
        }
    }
}

/// The parade of a coded frame, without a picture in between.
void countParade(const image::CodedFrame& frame,
                 const ScopeArea& area,
                 const Stretch& stretch,
                 Tables& tables,
                 Waveform& waveform) {
    const image::PixelRect& region = area.region;
    for (int y0 = 0; y0 < region.height; y0 += kRowsPerByte) {
        const int y1 = std::min(y0 + kRowsPerByte, region.height);
        for (int x0 = stretch.from; x0 < stretch.to; x0 += kGroup) {
            const int count = std::min(kGroup, stretch.to - x0);
            LevelRows rows(frame, region.x + x0, count, 3);
            for (int y = y0; y < y1; ++y) {
                rows.take(region.y + y);
                for (std::size_t plane = 0; plane < 3; ++plane)
                    countLevels(rows.channel(plane), count, tables[plane].counts());
            }
            const GroupBins bins(area, x0, count);
            for (std::size_t plane = 0; plane < 3; ++plane)
                tables[plane].emptyInto(waveform, static_cast<int>(plane), bins);
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

void countStretch(const image::CodedFrame& frame,
                  const ScopeArea& area,
                  const Stretch& stretch,
                  Tables& tables,
                  Waveform& waveform) {
    if (!isCodedYcc(frame)) {
        countSignal(frame, area, stretch, tables[0], waveform);
    } else if (waveform.kind == WaveformKind::Parade) {
        countParade(frame, area, stretch, tables, waveform);
    } else if (frame.samples == image::SampleKind::Unsigned8) {
        countLuma<std::uint8_t>(frame, area, stretch, 0, tables[0], waveform);
    } else {
        const int shift = std::max(0, frame.bitDepth - 10);
        countLuma<std::uint16_t>(frame, area, stretch, shift, tables[0], waveform);
    }
}

/// The region cut so that no column of the scope belongs to two stretches: each is counted straight
/// into the one result.
std::vector<Stretch> stretchesOf(const ScopeArea& area) {
    constexpr int kColumns = 4 * kGroup;
    std::vector<Stretch> stretches;
    const int width = area.region.width;
    for (int from = 0; from < width;) {
        int to = std::min(from + kColumns, width);
        while (to < width && area.binOf(to) == area.binOf(to - 1)) ++to;
        stretches.push_back({from, to});
        from = to;
    }
    return stretches;
}

}  // namespace

base::Result<Waveform> waveformOf(const image::CodedFrame& frame,
                                  WaveformKind kind,
                                  const ScopeOptions& options) {
    const auto area = areaOf(frame, options);
    if (!area) return tl::unexpected(area.error());
    Waveform waveform;
    waveform.kind = kind;
    waveform.planes = kind == WaveformKind::Parade ? 3 : 1;
    waveform.columns = area->columns;
    waveform.scale =
        kind == WaveformKind::Luma && isCodedYcc(frame) ? lumaScaleOf(frame) : signalScale();
    waveform.counts.assign(static_cast<std::size_t>(waveform.planes) *
                               static_cast<std::size_t>(waveform.scale.count) *
                               static_cast<std::size_t>(waveform.columns),
                           0);
    const std::vector<Stretch> stretches = stretchesOf(*area);
    (void)sharedOut(
        workersFor(*area),
        stretches.size(),
        [&] {
            const GroupTable empty(waveform.scale.count);
            return Tables{empty, empty, empty};
        },
        [&](Tables& tables, std::size_t i) {
            countStretch(frame, *area, stretches[i], tables, waveform);
        });
    return waveform;
}

}  // namespace rigmatch::scope
