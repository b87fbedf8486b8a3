// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "colour/lab.h"
#include "colour/transfer.h"
#include "colour/viewing_lut.h"

namespace rigmatch::match {

/// Luma of a signal by the weights of ITU-R BT.709.
[[nodiscard]] double lumaOf(const std::array<double, 3>& signal);

/// Colour differences in the BT.709 Cb/Cr plane, each -0.5..0.5.
struct Chroma {
    double cb = 0.0;
    double cr = 0.0;
};
[[nodiscard]] Chroma chromaOf(const std::array<double, 3>& signal);

/// What colours are compared by.
enum class Judging {
    Recorded,    ///< as a BT.1886 display shows the files
    Linear,      ///< linearised by the declared curves
    ThroughLut,  ///< as a BT.1886 display shows them through each camera's viewing LUT
};

/// How signals become colours that are compared.
struct Judge {
    /// As recorded: seen on a BT.1886 display (black 0). Otherwise linearised by this curve.
    std::optional<colour::TransferCurve> linearise;
    /// Looked through first.
    std::optional<colour::ViewingLut> lut;
};

using PatchSignals = std::vector<std::array<double, 3>>;

/// CIELAB (D65) of a signal under `judge`. Recorded signals above 1 are kept; linear light is
/// clamped at 0.
[[nodiscard]] colour::Lab labOf(const std::array<double, 3>& signal, const Judge& judge);

/// CIEDE2000 of patch lists of equal length: mean, largest, and where.
struct ColourDifference {
    double mean = 0.0;
    double max = 0.0;
    std::size_t worstPatch = 0;
    std::vector<double> perPatch;
};
[[nodiscard]] ColourDifference colourDifference(const PatchSignals& camera,
                                                const Judge& cameraJudge,
                                                const PatchSignals& reference,
                                                const Judge& referenceJudge);

}  // namespace rigmatch::match
