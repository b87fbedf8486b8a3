// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "colour/primaries.h"
#include "match/tone_curve.h"

namespace rigmatch::match {

/// Recorded signals of other primaries as a body of BT.709's would code them, and back: through the
/// curve of the recording's own greys into light, by the matrix, and back. Light that the matrix
/// makes negative lands at the curve's foot.
class PrimariesMap {
public:
    PrimariesMap(ToneCurve curve, const colour::Matrix3& toBt709);

    [[nodiscard]] std::array<double, 3> toBt709(const std::array<double, 3>& signal) const;
    [[nodiscard]] std::array<double, 3> fromBt709(const std::array<double, 3>& signal) const;

private:
    [[nodiscard]] std::array<double, 3> through(const colour::Matrix3& matrix,
                                                const std::array<double, 3>& signal) const;

    ToneCurve m_curve;
    colour::Matrix3 m_to, m_from;
};

}  // namespace rigmatch::match
