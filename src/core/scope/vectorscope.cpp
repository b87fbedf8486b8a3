// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <cstring>
#include <type_traits>
#include <utility>

#include "scope/scope_region.h"

#include "scope/level_rows.h"

namespace rigmatch::scope {
namespace {

class Cells {
public:
    explicit Cells(int size)
        : m_sums(static_cast<std::size_t>(size) * static_cast<std::size_t>(size)) {}

    template <class Place>
    void add(const std::vector<Place>& places) {
        std::uint32_t* const sums = m_sums.data();
        constexpr std::size_t kAtOnce = 8 / sizeof(Place);  // one read of the processor
        constexpr unsigned kBits = 8 * sizeof(Place);
        std::size_t i = 0;
        for (; i + kAtOnce <= places.size(); i += kAtOnce) {
            std::uint64_t word = 0;
            std::memcpy(&word, places.data() + i, sizeof word);
            for (std::size_t k = 0; k < kAtOnce; ++k)
                ++sums[static_cast<Place>(word >> (k * kBits))];
        }
        for (; i < places.size(); ++i) ++sums[places[i]];
    }
    [[nodiscard]] std::vector<std::uint32_t> takeSums() { return std::move(m_sums); }

private:
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
    using Place = std::conditional_t<Size <= 256, std::uint16_t, std::uint32_t>;
    std::vector<Place> places(static_cast<std::size_t>(right - left));
    for (int y = top; y < bottom; ++y) {
        const Sample* cb = rowOf<Sample>(frame.planes[1], y) + left;
        const Sample* cr = rowOf<Sample>(frame.planes[2], y) + left;
        // All cells of a row at once, then the counting: each loop does one thing, fast.
        for (std::size_t i = 0; i < places.size(); ++i) {
            places[i] = static_cast<Place>(std::min(cr[i] >> shift, kLast) * Size +
                                           std::min(cb[i] >> shift, kLast));
        }
        cells.add(places);
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
        std::vector<std::uint32_t> places(signal.channels[0].size());
        for (std::size_t i = 0; i < places.size(); ++i) {
            const double red = double(signal.channels[0][i]);
            const double blue = double(signal.channels[2][i]);
            const double luma =
                k.red * red + k.green * double(signal.channels[1][i]) + k.blue * blue;
            const std::size_t cb = place((blue - luma) / (2.0 * (1.0 - k.blue)));
            const std::size_t cr = place((red - luma) / (2.0 * (1.0 - k.red)));
            places[i] = static_cast<std::uint32_t>(cr * static_cast<std::size_t>(scope.size) + cb);
        }
        cells.add(places);
    }
}

bool isDeep(const image::CodedFrame& frame) { return isCodedYcc(frame) && frame.bitDepth > 8; }

void count(const image::CodedFrame& frame,
           const image::PixelRect& region,
           const Vectorscope& scope,
           Cells& cells) {
    if (!isCodedYcc(frame)) {
        countSignal(frame, region, scope, cells);
    } else if (isDeep(frame)) {
        countCodes<std::uint16_t, 512>(frame, region, frame.bitDepth - 9, cells);
    } else {
        countCodes<std::uint8_t, 256>(frame, region, 0, cells);
    }
}

}  // namespace

base::Result<Vectorscope> vectorscopeOf(const image::CodedFrame& frame,
                                        const ScopeOptions& options) {
    const auto area = areaOf(frame, options);
    if (!area) return tl::unexpected(area.error());
    Vectorscope scope;
    scope.size = isDeep(frame) ? 512 : 256;
    const double span = frame.tags.range == image::Range::Full && isCodedYcc(frame) ? 255.0 : 224.0;
    scope.cellsPerUnit = span * scope.size / 256.0;
    const int workers = workersFor(*area);
    const std::vector<ScopeArea> strips = stripsOf(frame, *area, workers);
    auto counters = sharedOut(
        workers,
        strips.size(),
        [&] { return Cells(scope.size); },
        [&](Cells& cells, std::size_t i) { count(frame, strips[i].region, scope, cells); });
    scope.counts = counters.front().takeSums();
    for (std::size_t i = 1; i < counters.size(); ++i)
        addCounts(scope.counts, counters[i].takeSums());
    return scope;
}

}  // namespace rigmatch::scope
