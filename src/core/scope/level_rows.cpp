// SPDX-License-Identifier: GPL-3.0-or-later
#include "scope/level_rows.h"

#include <algorithm>
#include <cmath>

#include "base/wide.h"
#include "scope/scope_region.h"

namespace rigmatch::scope {
namespace {

constexpr float kPerSignal = 255.0F;  // levels of signalScale()
constexpr float kFoot = 26.0F;

std::uint16_t levelOf(float level) {
    constexpr std::int32_t kTop = 319;
    // Limits of whole numbers: those the processor sets for many at once.
    return static_cast<std::uint16_t>(
        std::min(std::max(static_cast<std::int32_t>(level), 0), kTop));
}

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

/// terms = first weight1 + second weight2 + offset, for the chroma samples of a row.
RIGMATCH_WIDE void weigh(const float* __restrict first,
                         float weight1,
                         const float* __restrict second,
                         float weight2,
                         float offset,
                         std::size_t count,
                         float* __restrict terms) {
    for (std::size_t i = 0; i < count; ++i)
        terms[i] = first[i] * weight1 + second[i] * weight2 + offset;
}

/// Every term twice.
RIGMATCH_WIDE void doubled(const float* __restrict terms,
                           std::size_t count,
                           float* __restrict out) {
    for (std::size_t i = 0; i < count; ++i) {
        out[2 * i] = terms[i];
        out[2 * i + 1] = terms[i];
    }
}

}  // namespace

LevelRows::LevelRows(const image::CodedFrame& frame, int x0, int width, std::size_t channels)
    : m_frame(frame),
      m_x0(x0),
      m_width(static_cast<std::size_t>(width)),
      m_channels(channels),
      m_firstChroma(x0 >> frame.chromaShiftX),
      m_chromaCount(
          static_cast<std::size_t>(((x0 + width - 1) >> frame.chromaShiftX) - m_firstChroma + 1)) {
    for (std::size_t c = 0; c < channels; ++c) m_levels[c].resize(m_width);
    // An odd first column begins in the middle of a chroma sample: one place more.
    for (auto& chroma : m_chroma) chroma.resize(m_width + 2);
    for (auto* row : {&m_blue, &m_red, &m_terms}) row->resize(m_chromaCount);
    const double unit = std::exp2(frame.bitDepth - 8);
    const bool isLimited = frame.tags.range == image::Range::Limited;
    const double span = isLimited ? 219.0 * unit : std::exp2(frame.bitDepth) - 1.0;
    m_lumaScale = static_cast<float>(double(kPerSignal) / span);
    const float black = isLimited ? static_cast<float>(16.0 * unit) * m_lumaScale : 0.0F;
    m_lumaOffset = kFoot + 0.5F - black;
    std::fill(m_chroma[3].begin(), m_chroma[3].end(), m_lumaOffset);
}

/// Spreads the terms of the chroma samples over the columns that share them.
void LevelRows::spread(std::vector<float>& columns) {
    const int shift = m_frame.chromaShiftX;
    if (shift == 1 && m_x0 % 2 == 0) {
        doubled(m_terms.data(), m_chromaCount, columns.data());
        return;
    }
    for (std::size_t x = 0; x < m_width; ++x)
        columns[x] = m_terms[static_cast<std::size_t>(((m_x0 + static_cast<int>(x)) >> shift) -
                                                      m_firstChroma)];
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
    const Sample* cb = rowOf<Sample>(m_frame.planes[1], row) + m_firstChroma;
    const Sample* cr = rowOf<Sample>(m_frame.planes[2], row) + m_firstChroma;
    const int ahead = std::min(row + kRowsAhead / 2, m_frame.planes[1].height - 1);
    __builtin_prefetch(rowOf<Sample>(m_frame.planes[1], ahead) + m_firstChroma);
    __builtin_prefetch(rowOf<Sample>(m_frame.planes[2], ahead) + m_firstChroma);
    for (std::size_t i = 0; i < m_chromaCount; ++i) {
        m_blue[i] = static_cast<float>(cb[i]) - middle;
        m_red[i] = static_cast<float>(cr[i]) - middle;
    }
    const std::array<std::array<float, 2>, 3> weights{
        {{0.0F, redCr}, {-greenCb, -greenCr}, {blueCb, 0.0F}}};
    for (std::size_t c = 0; c < weights.size(); ++c) {
        weigh(m_blue.data(),
              weights[c][0],
              m_red.data(),
              weights[c][1],
              m_lumaOffset,
              m_chromaCount,
              m_terms.data());
        spread(m_chroma[c]);
    }
    m_chromaRow = row;
}

template <class Sample>
void LevelRows::takeRow(int y) {
    const int row = y >> m_frame.chromaShiftY;
    if (row != m_chromaRow) mixChroma<Sample>(row);
    const Sample* luma = rowOf<Sample>(m_frame.planes[0], y) + m_x0;
    // Narrow rows lie pages apart, out of the reach of the processor's own foresight.
    const int ahead = std::min(y + kRowsAhead, m_frame.height - 1);
    __builtin_prefetch(rowOf<Sample>(m_frame.planes[0], ahead) + m_x0);
    for (std::size_t c = 0; c < m_channels; ++c)
        mix(luma, m_chroma[c].data(), m_lumaScale, m_width, m_levels[c].data());
}

void LevelRows::take(int y) {
    if (m_frame.samples == image::SampleKind::Unsigned8)
        takeRow<std::uint8_t>(y);
    else
        takeRow<std::uint16_t>(y);
}

}  // namespace rigmatch::scope
