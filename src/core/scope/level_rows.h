// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "scope/scope_data.h"

namespace rigmatch::scope {

/// Rows turned into levels at a time, which stay in the near caches.
inline constexpr int kBand = 16;
/// Rows whose counting waits while their levels are made.
inline constexpr int kRowsAhead = 16;

/// R', G', B' and Y' of a stretch of columns, row by row, as levels of signalScale(). Codes are
/// turned into levels directly, without a picture in between: that is what makes scopes fast.
class LevelRows {
public:
    /// Columns `x0` to `x0 + width` of `frame`, which must hold them and be coded as Y'CbCr; the
    /// first `channels` of channel() are made.
    LevelRows(const image::CodedFrame& frame, int x0, int width, std::size_t channels = 4);

    /// Makes the levels of row `y` of the frame.
    void take(int y);
    /// Levels of the row taken last; 0 red, 1 green, 2 blue, 3 luma.
    [[nodiscard]] const std::uint16_t* channel(std::size_t index) const {
        return m_levels[index].data();
    }

private:
    template <class Sample>
    void takeRow(int y);
    template <class Sample>
    void mixChroma(int row);
    void spread(std::vector<float>& columns);

    const image::CodedFrame& m_frame;
    int m_x0;
    std::size_t m_width;
    std::size_t m_channels;
    int m_firstChroma;
    std::size_t m_chromaCount;
    float m_lumaScale = 1.0F;
    float m_lumaOffset = 0.0F;
    std::vector<float> m_blue, m_red, m_terms;   ///< of the chroma samples of one row
    std::array<std::vector<float>, 4> m_chroma;  ///< what chroma and offsets add to each channel;
                                                 ///< the last, for luma, offsets alone
    int m_chromaRow = -1;
    std::array<std::vector<std::uint16_t>, 4> m_levels;
};

}  // namespace rigmatch::scope
