// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/result.h"

namespace rigmatch::colour {

enum class CurveKind { Linear, Bt709, Srgb, Bt1886, Hlg, Log, Standard, Table };

/// A logarithmic curve: V = (log2 L + offset) / spanStops above `cut`, continued by its tangent
/// below. The defaults are AMPAS S-2016-001, from memory (18 % -> 0.4136, one stop = 0.05708).
struct LogParameters {
    double spanStops = 17.52;
    double offset = 9.72;
    double cut = 0.0078125;

    bool operator==(const LogParameters&) const = default;
};

/// A display-ready camera look: the BT.709 OETF bent into an S about mid-grey, over a pedestal.
/// V = pedestal + (1 - pedestal) s(g), s(g) = g + 4 bend g (1 - g) (g - 0.409), g = BT.709(L).
/// Our own model of what cameras call "standard"; `bend` 0..0.4, `pedestal` -0.05..0.1.
struct StandardParameters {
    double bend = 0.2;
    double pedestal = 0.0;

    bool operator==(const StandardParameters&) const = default;
};

/// A curve as a list of points, straight between them and continued by its end pieces: from a
/// look-up table, or measured from takes with known steps.
struct TableParameters {
    std::string source;          ///< where it comes from: "worklog.cube", "takes 1, 2 and 3"
    std::vector<double> signal;  ///< strictly rising
    std::vector<double> linear;  ///< strictly rising, as many

    bool operator==(const TableParameters&) const = default;
};

/// One scalar transfer curve between linear light and signal.
/// Linear light: 1 = diffuse white (100 % reflectance), 0.18 = mid-grey. Signal: 0 = black, 1 =
/// nominal white. Both directions are strictly increasing and inverse of each other on the whole
/// real line.
struct TransferCurve {
    CurveKind kind = CurveKind::Bt709;
    LogParameters log;
    StandardParameters standard;
    TableParameters table{};

    /// Light to signal. BT.709: ITU-R BT.709; sRGB: IEC 61966-2-1; BT.1886 with Lb = 0: its inverse
    /// (L^(1/2.4)); HLG: ITU-R BT.2100 with diffuse white at 75 % (ITU-R BT.2408).
    [[nodiscard]] double encode(double linear) const;
    /// Signal to light, the inverse of encode().
    [[nodiscard]] double decode(double signal) const;

    bool operator==(const TransferCurve&) const = default;
};

/// A curve of `kind` with its default parameters.
[[nodiscard]] TransferCurve curveOf(CurveKind kind);

/// Plain name for screens and files: "BT.709", "HLG", "log (17.52 stops)", …
[[nodiscard]] std::string curveName(const TransferCurve& curve);

/// A curve through points. Fails with OutOfRange, naming the point, where there are fewer than four
/// or where light or signal do not rise from one to the next.
[[nodiscard]] base::Result<TransferCurve> tableCurve(TableParameters points);

/// ITU-R BT.1886 EOTF: screen luminance in cd/m² of `signal` on a display with `white` and `black`
/// cd/m².
[[nodiscard]] double bt1886Luminance(double signal, double white, double black);

}  // namespace rigmatch::colour
