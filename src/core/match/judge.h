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
/// Standard error of one axis of a chroma from those of red, green and blue (the mean of both
/// axes).
[[nodiscard]] double chromaError(const std::array<double, 3>& standardError);

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
    /// The recording is one to be converted: scene light by this curve, then as a finished picture.
    std::optional<colour::TransferCurve> scene{};
    bool isHlg = false;  ///< with `scene`: shown by the BT.2100 OOTF (system gamma 1.2, Y^0.2 E);
                         ///< otherwise coded by the BT.709 OETF and shown by BT.1886
};

/// Standard errors of patches, signal per channel, in chart order.
using PatchErrors = std::vector<std::array<double, 3>>;

/// Light that a display gives for a signal under `judge`, 1 = white.
[[nodiscard]] std::array<double, 3> displayLight(const std::array<double, 3>& signal,
                                                 const Judge& judge);

using PatchSignals = std::vector<std::array<double, 3>>;

/// CIELAB (D65) of a signal under `judge`. Recorded signals above 1 are kept; linear light is
/// clamped at 0.
[[nodiscard]] colour::Lab labOf(const std::array<double, 3>& signal, const Judge& judge);

/// CIEDE2000 of patch lists: mean, largest, and where; over as many patches as both have.
struct ColourDifference {
    double mean = 0.0;
    double max = 0.0;
    std::size_t worstPatch = 0;
    std::vector<double> perPatch;
    double meanError = 0.0;   ///< standard deviation of `mean`
    double noiseFloor = 0.0;  ///< what equal colours would show for their noise alone; it is taken
                              ///< out of every number here
};
[[nodiscard]] ColourDifference colourDifference(const PatchSignals& camera,
                                                const Judge& cameraJudge,
                                                const PatchSignals& reference,
                                                const Judge& referenceJudge);
/// The same with the noise of both sides taken out. A distance never averages to zero: noise of n
/// ΔE makes it sqrt(d^2 + n^2) on average, so each patch's is sqrt(max(0, measured^2 - n^2)); what
/// that leaves of the bias near zero is part of `meanError`.
[[nodiscard]] ColourDifference colourDifference(const PatchSignals& camera,
                                                const Judge& cameraJudge,
                                                const PatchErrors& cameraErrors,
                                                const PatchSignals& reference,
                                                const Judge& referenceJudge,
                                                const PatchErrors& referenceErrors);

}  // namespace rigmatch::match
