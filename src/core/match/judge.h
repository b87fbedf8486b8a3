// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "colour/lab.h"
#include "colour/transfer.h"

namespace rigmatch::match {

/// How signals become colours that are compared.
struct Judge {
    /// As recorded: seen on a BT.1886 display (black 0). Otherwise linearised by this curve.
    std::optional<colour::TransferCurve> linearise;
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
