// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>

#include "scope/scope_region.h"

namespace rigmatch::scope {
namespace {

// Neighbouring samples mostly share a cell; counted into tables by turns they do not wait for each
// other. Tables of bytes stay in the near caches; what runs over goes into the sums.
constexpr std::size_t kTables = 2;
constexpr int kBand = 16;  // rows turned into R'G'B' at a time

class Cells {
public:
    explicit Cells(int size)
        : m_cells(static_cast<std::size_t>(size) * static_cast<std::size_t>(size)),
          m_counts(m_cells * kTables),
          m_sums(m_cells) {}

    void add(std::size_t table, std::size_t cell) {
        if (++m_counts[table * m_cells + cell] == 0) m_sums[cell] += 256;
    }
    [[nodiscard]] std::vector<std::uint32_t> sum() const {
        std::vector<std::uint32_t> total = m_sums;
        for (std::size_t i = 0; i < m_cells; ++i) {
            for (std::size_t t = 0; t < kTables; ++t) total[i] += m_counts[t * m_cells + i];
        }
        return total;
    }

private:
    std::size_t m_cells;
    std::vector<std::uint8_t> m_counts;
    std::vector<std::uint32_t> m_sums;
};

template <class Sample, int Size>
void countCodes(const image::CodedFrame& frame,
                const image::PixelRect& region,
                int shift,
                Cells& cells) {
    const int left = region.x >> frame.chromaShiftX;
    const int right = ((region.x + region.width - 1) >> frame.chromaShiftX) + 1;
    const int top = region.y >> frame.chromaShiftY;
    const int bottom = ((region.y + region.height - 1) >> frame.chromaShiftY) + 1;
    constexpr int kLast = Size - 1;
    std::vector<std::uint32_t> places(static_cast<std::size_t>(right - left));
    for (int y = top; y < bottom; ++y) {
        const Sample* cb = rowOf<Sample>(frame.planes[1], y) + left;
        const Sample* cr = rowOf<Sample>(frame.planes[2], y) + left;
        // All cells of a row at once, then the counting: each loop does one thing, fast.
        for (std::size_t i = 0; i < places.size(); ++i) {
            places[i] = static_cast<std::uint32_t>(std::min(cr[i] >> shift, kLast)) * Size +
                        static_cast<std::uint32_t>(std::min(cb[i] >> shift, kLast));
        }
        std::size_t i = 0;
        for (; i + 1 < places.size(); i += 2) {
            cells.add(0, places[i]);
            cells.add(1, places[i + 1]);
        }
        if (i < places.size()) cells.add(0, places[i]);
    }
}

/// R'G'B', grey and floating-point frames: colour differences of BT.709 from the signal.
void countSignal(const image::CodedFrame& frame,
                 const image::PixelRect& region,
                 const Vectorscope& scope,
                 Cells& cells) {
    const image::LumaWeights k = image::lumaWeights(image::Matrix::Bt709);
    const double middle = 0.5 * scope.size;
    const auto place = [&](double difference) {
        return static_cast<std::size_t>(std::clamp(
            std::floor(difference * scope.cellsPerUnit + middle + 0.5), 0.0, scope.size - 1.0));
    };
    for (int y0 = 0; y0 < region.height; y0 += kBand) {
        const int rows = std::min(kBand, region.height - y0);
        const image::Frame signal =
            image::signalFrame(frame, {region.x, region.y + y0, region.width, rows});
        for (std::size_t i = 0; i < signal.channels[0].size(); ++i) {
            const double red = double(signal.channels[0][i]);
            const double blue = double(signal.channels[2][i]);
            const double luma =
                k.red * red + k.green * double(signal.channels[1][i]) + k.blue * blue;
            const std::size_t cb = place((blue - luma) / (2.0 * (1.0 - k.blue)));
            const std::size_t cr = place((red - luma) / (2.0 * (1.0 - k.red)));
            cells.add(i % kTables, cr * static_cast<std::size_t>(scope.size) + cb);
        }
    }
}

Vectorscope counted(const image::CodedFrame& frame, const image::PixelRect& region) {
    Vectorscope scope;
    const bool isByCode = isCodedYcc(frame);
    const bool isDeep = isByCode && frame.bitDepth > 8;
    scope.size = isDeep ? 512 : 256;
    const double span = frame.tags.range == image::Range::Full && isByCode ? 255.0 : 224.0;
    scope.cellsPerUnit = span * scope.size / 256.0;
    Cells cells(scope.size);
    if (!isByCode) {
        countSignal(frame, region, scope, cells);
    } else if (isDeep) {
        countCodes<std::uint16_t, 512>(frame, region, frame.bitDepth - 9, cells);
    } else {
        countCodes<std::uint8_t, 256>(frame, region, 0, cells);
    }
    scope.counts = cells.sum();
    return scope;
}

}  // namespace

base::Result<Vectorscope> vectorscopeOf(const image::CodedFrame& frame,
                                        const ScopeOptions& options) {
    const auto area = areaOf(frame, options);
    if (!area) return tl::unexpected(area.error());
    return inStrips(
        frame,
        *area,
        [&frame](const ScopeArea& strip) { return counted(frame, strip.region); },
        [](Vectorscope& total, const Vectorscope& more) { addCounts(total.counts, more.counts); });
}

}  // namespace rigmatch::scope
