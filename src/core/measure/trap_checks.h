// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "base/warning.h"
#include "image/frame.h"

namespace rigmatch::measure {

/// Tells whether codes of 8 bit were stretched or squeezed on the way (a capture chain that turned
/// limited range into full range, or back): a stretch by 255/219 leaves every seventh code empty,
/// a squeeze fills every sixth twice. Seen only where no lossy codec came after the conversion.
class CodeComb {
public:
    void take(const image::CodedFrame& frame);
    [[nodiscard]] std::optional<base::Warning> warning() const;

private:
    std::array<std::uint64_t, 256> m_counts{};
    bool m_isEightBit = true;
};

/// Looks for displays burned into the picture: white letters or digits along the upper or lower
/// edge that stay where they are, to the pixel, from frame to frame.
class OverlayCheck {
public:
    void take(const image::CodedFrame& frame);
    [[nodiscard]] std::optional<base::Warning> warning() const;
    /// Glyphs in rows of at least five, as counted in what stayed.
    [[nodiscard]] int glyphs() const;

private:
    int m_width = 0;
    int m_height = 0;
    int m_frames = 0;
    template <class Sample>
    void takeZones(const image::CodedFrame& frame);

    std::vector<float> m_luma;         ///< of the first frame, both zones, row by row, as codes
    std::vector<std::uint8_t> m_kept;  ///< 255: near white and unchanged so far
};

}  // namespace rigmatch::measure
