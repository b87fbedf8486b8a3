// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/range_check.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

namespace rigmatch::measure {
namespace {

constexpr double kTail = 0.002;  // share of pixels ignored at either end

std::string percent(double signal) { return base::signedFixed(100.0 * signal, 1) + " %"; }

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

std::optional<base::Warning> RangeCheck::warning(image::Range asRead, bool hasChart) const {
    if (asRead == image::Range::Limited && m_darkest < -0.04) {
        return base::Warning{
            "RangeTagContradicted",
            "The file was read as limited range, but its blacks go down to " + percent(m_darkest) +
                ": it seems to hold full-range codes.",
            "Read it as full range; if blacks then look right, correct the tag in the camera."};
    }
    if (asRead == image::Range::Full && hasChart && m_darkest > 0.055 && m_brightest < 0.93) {
        return base::Warning{
            "RangeTagContradicted",
            "The file was read as full range, but its signal stays between " + percent(m_darkest) +
                " and " + percent(m_brightest) + ": it seems to hold limited-range codes.",
            "Read it as limited range; if blacks then look right, correct the tag in the camera."};
    }
    return std::nullopt;
}

}  // namespace rigmatch::measure
