// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

namespace rigmatch::image {

/// Middle value; the mean of the two middle ones for an even count. 0 for none.
[[nodiscard]] double median(std::vector<double> values);

/// Standard deviation estimated from the median absolute deviation (x 1.4826); 0 for fewer than
/// two.
[[nodiscard]] double robustSigma(const std::vector<double>& values);

/// Mean and standard deviation; both 0 for none.
struct MeanSigma {
    double mean = 0.0;
    double sigma = 0.0;
};
[[nodiscard]] MeanSigma meanSigma(const std::vector<double>& values);

/// Spearman rank correlation, -1..1; ties share their mean rank. 0 where one side is constant.
[[nodiscard]] double rankCorrelation(const std::vector<double>& first,
                                     const std::vector<double>& second);

}  // namespace rigmatch::image
