// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/range_check.h"

#include <algorithm>
#include <cmath>

#include "base/luma.h"
#include "colour/curve_fit.h"

namespace rigmatch::measure {
namespace {

using base::Number;
using base::say;

constexpr double kTail = 0.002;  // share of pixels ignored at either end

base::Text percent(double signal) {
    return say("common.percent", {{"percent", Number{100.0 * signal, 1, true}}});
}

/// The best error of any published curve over the grey row, % of signal, when its codes are read
/// so.
std::optional<double> curveError(const rig::Reading& reading,
                                 image::Range asRead,
                                 image::Range asTried) {
    std::vector<colour::FittedGrey> greys;
    for (const rig::PatchReading* grey : rig::usableGreys(reading)) {
        double signal = base::lumaOf(grey->signal);
        // Codes of 8 bit: black at 16, white at 235 in limited range, 0 and 255 in full (BT.709-6).
        if (asRead == image::Range::Full && asTried == image::Range::Limited)
            signal = (255.0 * signal - 16.0) / 219.0;
        if (asRead == image::Range::Limited && asTried == image::Range::Full)
            signal = (219.0 * signal + 16.0) / 255.0;
        greys.push_back({base::lumaOf(grey->nominalLinear), signal, grey->standardError[1]});
    }
    const auto fits = colour::fitPublishedCurves(greys, asTried == image::Range::Limited);
    return fits.empty() ? std::nullopt : std::optional(fits.front().errorPercent);
}

/// True where the grey row of a file read as full range speaks for limited codes.
bool looksLimited(const rig::Reading& reading, double brightest) {
    constexpr double kFits = 0.6;        // % of signal, as for identifying a curve
    constexpr double kFlatWhite = 0.75;  // full-range log keeps diffuse white below
    const auto full = curveError(reading, image::Range::Full, image::Range::Full);
    const auto limited = curveError(reading, image::Range::Full, image::Range::Limited);
    if (!full || !limited) return brightest > kFlatWhite;
    if (*full <= kFits && *full <= *limited) return false;
    if (*limited <= kFits && *limited < 0.5 * *full) return true;
    return brightest > kFlatWhite;
}

}  // namespace

void RangeCheck::take(const image::CodedFrame& frame) {
    // A sample of rows is enough, and much faster than the whole picture.
    constexpr int kRowsApart = 4;
    const int step = std::max(1, frame.width / 320);
    std::vector<float> green;
    for (int y = 0; y < image::shrunkSize(frame.height, step); y += kRowsApart) {
        const image::Frame row = image::shrunkRows(frame, step, y, 1);
        green.insert(green.end(), row.channels[1].begin(), row.channels[1].end());
    }
    if (green.empty()) return;
    const auto tail = static_cast<std::size_t>(kTail * static_cast<double>(green.size()));
    std::nth_element(green.begin(), green.begin() + static_cast<long>(tail), green.end());
    m_darkest = std::min(m_darkest, static_cast<double>(green[tail]));
    const std::size_t top = green.size() - 1 - tail;
    std::nth_element(green.begin(), green.begin() + static_cast<long>(top), green.end());
    m_brightest = std::max(m_brightest, static_cast<double>(green[top]));
}

std::optional<base::Warning> RangeCheck::warning(image::Range asRead,
                                                 const rig::Reading& reading) const {
    if (asRead == image::Range::Limited && m_darkest < -0.04) {
        return base::Warning{"RangeTagContradicted",
                             say("rangeTagContradicted.seen", {{"darkest", percent(m_darkest)}}),
                             say("rangeTagContradicted.hint")};
    }
    const bool isNarrow = m_darkest > 0.055 && m_brightest < 0.93;
    if (asRead == image::Range::Full && reading.hasChart && isNarrow &&
        looksLimited(reading, m_brightest)) {
        return base::Warning{
            "RangeTagContradicted",
            say("rangeTagContradicted.fileReadFull",
                {{"darkest", percent(m_darkest)}, {"brightest", percent(m_brightest)}}),
            say("rangeTagContradicted.readLimitedRange")};
    }
    return std::nullopt;
}

}  // namespace rigmatch::measure
