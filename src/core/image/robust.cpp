// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/robust.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace rigmatch::image {
namespace {

std::vector<double> ranksOf(const std::vector<double>& values) {
    std::vector<std::size_t> order(values.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
        return values[a] < values[b];
    });
    std::vector<double> ranks(values.size());
    for (std::size_t i = 0; i < order.size();) {
        std::size_t end = i;
        while (end < order.size() && values[order[end]] <= values[order[i]]) ++end;
        const double shared = 0.5 * static_cast<double>(i + end - 1);
        for (; i < end; ++i) ranks[order[i]] = shared;
    }
    return ranks;
}

}  // namespace

double median(std::vector<double> values) {
    if (values.empty()) return 0.0;
    const std::size_t middle = values.size() / 2;
    std::nth_element(values.begin(), values.begin() + static_cast<long>(middle), values.end());
    const double upper = values[middle];
    if (values.size() % 2 == 1) return upper;
    return 0.5 *
           (upper + *std::max_element(values.begin(), values.begin() + static_cast<long>(middle)));
}

double robustSigma(const std::vector<double>& values) {
    if (values.size() < 2) return 0.0;
    const double centre = median(values);
    std::vector<double> deviations;
    deviations.reserve(values.size());
    for (double value : values) deviations.push_back(std::abs(value - centre));
    return 1.4826 * median(std::move(deviations));
}

MeanSigma meanSigma(const std::vector<double>& values) {
    if (values.empty()) return {};
    const double count = static_cast<double>(values.size());
    const double mean = std::accumulate(values.begin(), values.end(), 0.0) / count;
    double squares = 0.0;
    for (double value : values) squares += (value - mean) * (value - mean);
    return {mean, values.size() > 1 ? std::sqrt(squares / (count - 1.0)) : 0.0};
}

double rankCorrelation(const std::vector<double>& first, const std::vector<double>& second) {
    const std::vector<double> a = ranksOf(first);
    const std::vector<double> b = ranksOf(second);
    const double centre = 0.5 * (static_cast<double>(a.size()) - 1.0);
    double ab = 0.0;
    double aa = 0.0;
    double bb = 0.0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        ab += (a[i] - centre) * (b[i] - centre);
        aa += (a[i] - centre) * (a[i] - centre);
        bb += (b[i] - centre) * (b[i] - centre);
    }
    return aa > 0.0 && bb > 0.0 ? ab / std::sqrt(aa * bb) : 0.0;
}

}  // namespace rigmatch::image
