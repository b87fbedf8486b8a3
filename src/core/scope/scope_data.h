// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "base/result.h"
#include "image/pixel_rect.h"

namespace rigmatch::image {
struct CodedFrame;
}

namespace rigmatch::scope {

/// The vertical axis of a scope: whole levels, evenly spaced in signal.
struct LevelScale {
    int count = 256;
    double lowestSignal = 0.0;  ///< signal of level 0
    double stepSignal = 1.0 / 255.0;

    [[nodiscard]] double signalOf(double level) const { return lowestSignal + level * stepSignal; }
    [[nodiscard]] double levelOf(double signal) const {
        return (signal - lowestSignal) / stepSignal;
    }

    bool operator==(const LevelScale&) const = default;
};

/// Which part of a frame a scope looks at, and how wide it draws.
struct ScopeOptions {
    std::optional<image::PixelRect> region;  ///< nothing: the whole frame
    int columns = 0;                         ///< 1..width of the region; 0: one per pixel
};

enum class WaveformKind {
    Luma,    ///< one plane: Y' at the resolution of the codes (10 bit at most)
    Parade,  ///< three planes: R' G' B', -10..+115 % in steps of 1/255
};

/// How many pixels of each column of the picture have each level.
struct Waveform {
    WaveformKind kind = WaveformKind::Luma;
    LevelScale scale;
    int columns = 0;
    int planes = 1;
    std::vector<std::uint32_t> counts;  ///< plane by plane, level by level, column by column

    [[nodiscard]] std::uint32_t at(int plane, int level, int column) const {
        const auto row = static_cast<std::size_t>(plane) * static_cast<std::size_t>(scale.count) +
                         static_cast<std::size_t>(level);
        return counts[row * static_cast<std::size_t>(columns) + static_cast<std::size_t>(column)];
    }
};

/// How many chroma samples have each pair of colour differences. Cb to the right, Cr upward from
/// the middle; the plane is that of the frame's own matrix (BT.709 for R'G'B' frames).
struct Vectorscope {
    int size = 256;                     ///< cells along each axis; cell size / 2 holds 0
    std::vector<std::uint32_t> counts;  ///< Cr by Cr (lowest first), Cb by Cb

    /// Cells per unit of Cb or Cr, which run from -0.5 to 0.5.
    double cellsPerUnit = 224.0;
    [[nodiscard]] std::uint32_t at(int cb, int cr) const {
        return counts[static_cast<std::size_t>(cr) * static_cast<std::size_t>(size) +
                      static_cast<std::size_t>(cb)];
    }
};

/// How many pixels have each level of R', G', B' and Y', -10..+115 % in steps of 1/255.
struct Histogram {
    LevelScale scale;
    std::vector<std::uint32_t> red, green, blue, luma;
    long long pixels = 0;
};

/// Levels of a parade and of a histogram.
[[nodiscard]] LevelScale signalScale();

/// Fails with OutOfRange where the region lies outside the frame or `columns` is more than its
/// width. About 1 ns a pixel and plane; thread-safe.
[[nodiscard]] base::Result<Waveform> waveformOf(const image::CodedFrame& frame,
                                                WaveformKind kind,
                                                const ScopeOptions& options = {});
/// Counts at the resolution of the chroma planes. Fails as waveformOf().
[[nodiscard]] base::Result<Vectorscope> vectorscopeOf(const image::CodedFrame& frame,
                                                      const ScopeOptions& options = {});
/// Fails as waveformOf(). `options.columns` does not matter.
[[nodiscard]] base::Result<Histogram> histogramOf(const image::CodedFrame& frame,
                                                  const ScopeOptions& options = {});

/// Angle of a colour difference on the vectorscope, degrees anticlockwise from +Cb.
[[nodiscard]] double hueDegrees(double cb, double cr);
/// Where many software scopes draw the skin line in the Cb/Cr plane, degrees (sources 5.7: 123°,
/// common practice; one lit, healthy skin falls within 15° of it).
inline constexpr double kSkinLineDegrees = 123.0;

}  // namespace rigmatch::scope
