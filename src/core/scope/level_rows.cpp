// SPDX-License-Identifier: GPL-3.0-or-later
#include "scope/level_rows.h"

#include <algorithm>
#include <cmath>

#include "scope/scope_region.h"

namespace rigmatch::scope {
namespace {

constexpr float kPerSignal = 255.0F;  // levels of signalScale()
constexpr float kFoot = 26.0F;

std::uint16_t levelOf(float level) {
    constexpr float kTop = 319.0F;
    // By way of a whole int: that the processor turns many of at once.
    return static_cast<std::uint16_t>(
        static_cast<std::int32_t>(std::min(std::max(level, 0.0F), kTop)));
}

// Compiled twice, for processors with wide registers and for all others; the program chooses when
// it starts. (Sanitizers cannot look into functions chosen so early.)
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && \
    !defined(__SANITIZE_ADDRESS__)
#define RIGMATCH_WIDE __attribute__((target_clones("avx2", "default")))
#else
#define RIGMATCH_WIDE
#endif

/// levels = luma scale + chroma, a row at a time.
RIGMATCH_WIDE void mix(const std::uint8_t* __restrict luma,
                       const float* __restrict chroma,
                       float scale,
                       std::size_t count,
                       std::uint16_t* __restrict levels) {
    for (std::size_t i = 0; i < count; ++i)
        levels[i] = levelOf(static_cast<float>(luma[i]) * scale + chroma[i]);
}

RIGMATCH_WIDE void mix(const std::uint16_t* __restrict luma,
                       const float* __restrict chroma,
                       float scale,
                       std::size_t count,
                       std::uint16_t* __restrict levels) {
    for (std::size_t i = 0; i < count; ++i)
        levels[i] = levelOf(static_cast<float>(luma[i]) * scale + chroma[i]);
}

}  // namespace

LevelRows::LevelRows(const image::CodedFrame& frame, int x0, int width)
    : m_frame(frame), m_x0(x0), m_width(width) {
    for (auto& levels : m_levels) levels.resize(static_cast<std::size_t>(width));
    for (auto& chroma : m_chroma) chroma.resize(static_cast<std::size_t>(width));
    const double unit = std::exp2(frame.bitDepth - 8);
    const bool isLimited = frame.tags.range == image::Range::Limited;
    const double span = isLimited ? 219.0 * unit : std::exp2(frame.bitDepth) - 1.0;
    m_lumaScale = static_cast<float>(double(kPerSignal) / span);
    const float black = isLimited ? static_cast<float>(16.0 * unit) * m_lumaScale : 0.0F;
    m_lumaOffset = kFoot + 0.5F - black;
    std::fill(m_chroma[3].begin(), m_chroma[3].end(), m_lumaOffset);
}

/// R' = Y' + redCr Cr, G' = Y' - greenCb Cb - greenCr Cr, B' = Y' + blueCb Cb, in levels; the
/// offsets of black, of the scale's foot and of rounding go in here, once for all rows that share
/// the chroma.
template <class Sample>
void LevelRows::mixChroma(int row) {
    const image::LumaWeights k = image::lumaWeights(m_frame.tags.matrix);
    const bool isLimited = m_frame.tags.range == image::Range::Limited;
    const double unit = std::exp2(m_frame.bitDepth - 8);
    const double span = isLimited ? 224.0 * unit : std::exp2(m_frame.bitDepth) - 1.0;
    const auto scale = static_cast<float>(double(kPerSignal) / span);
    const auto middle = static_cast<float>(128.0 * unit);
    const auto redCr = static_cast<float>(2.0 * (1.0 - k.red)) * scale;
    const auto blueCb = static_cast<float>(2.0 * (1.0 - k.blue)) * scale;
    const float greenCb = blueCb * static_cast<float>(k.blue / k.green);
    const float greenCr = redCr * static_cast<float>(k.red / k.green);
    const float offset = m_lumaOffset;
    const Sample* cb = rowOf<Sample>(m_frame.planes[1], row);
    const Sample* cr = rowOf<Sample>(m_frame.planes[2], row);
    const int shift = m_frame.chromaShiftX;
    for (int x = 0; x < m_width; ++x) {
        const int at = (m_x0 + x) >> shift;
        const float blue = static_cast<float>(cb[at]) - middle;
        const float red = static_cast<float>(cr[at]) - middle;
        const auto i = static_cast<std::size_t>(x);
        m_chroma[0][i] = redCr * red + offset;
        m_chroma[1][i] = offset - greenCb * blue - greenCr * red;
        m_chroma[2][i] = blueCb * blue + offset;
    }
    m_chromaRow = row;
}

template <class Sample>
void LevelRows::takeRow(int y) {
    const int row = y >> m_frame.chromaShiftY;
    if (row != m_chromaRow) mixChroma<Sample>(row);
    const Sample* luma = rowOf<Sample>(m_frame.planes[0], y) + m_x0;
    const auto count = static_cast<std::size_t>(m_width);
    for (std::size_t c = 0; c < m_levels.size(); ++c)
        mix(luma, m_chroma[c].data(), m_lumaScale, count, m_levels[c].data());
}

void LevelRows::take(int y) {
    if (m_frame.samples == image::SampleKind::Unsigned8)
        takeRow<std::uint8_t>(y);
    else
        takeRow<std::uint16_t>(y);
}

}  // namespace rigmatch::scope
