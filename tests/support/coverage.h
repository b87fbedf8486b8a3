// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

#include "match/differences.h"
#include "support/own_take.h"
#include "support/qt_test.h"
#include "support/samples.h"

namespace rigmatch::support {

/// Cases that had no part in setting any term: the whole samples have a seed of their own.
inline OwnRandom coverageRandom(unsigned seed) {
    return OwnRandom{std::mt19937(isFullSample() ? seed + 777U : seed)};
}

inline double quantile(std::vector<double> values, double share) {
    if (values.empty()) return 0.0;
    std::sort(values.begin(), values.end());
    return values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
}

/// One quantity over many cases: an uncertainty is one standard deviation, and an error within
/// twice of it counts as covered. `repeats` leaves out the part that scene and method add.
struct CoverageRow {
    const char* name;
    int covered = 0, count = 0, unknown = 0;
    std::vector<double> errors{}, ratios{}, repeats{};

    void take(const match::Difference& d, double truth) {
        if (!d.value) {
            ++unknown;
            return;
        }
        const double error = std::abs(*d.value - truth);
        const double alone =
            std::sqrt(std::max(d.uncertainty * d.uncertainty - d.floor * d.floor, 1e-18));
        errors.push_back(error);
        ratios.push_back(error / d.uncertainty);
        repeats.push_back(error / alone);
        covered += error <= 2.0 * d.uncertainty ? 1 : 0;
        ++count;
    }
    void take(const match::Measured& m, double truth) {
        match::Difference d;
        d.value = m.value;
        d.uncertainty = m.uncertainty;
        take(d, truth);
    }
    [[nodiscard]] double percent() const { return 100.0 * covered / std::max(count, 1); }
    [[nodiscard]] double repeatPercent() const {
        const auto inside = std::count_if(
            repeats.begin(), repeats.end(), [](double ratio) { return ratio <= 2.0; });
        return 100.0 * static_cast<double>(inside) / std::max(count, 1);
    }
    void tell() const {
        qInfo(
            "%-24s %3d cases (%d unknown): covered %5.1f %%, without scene and method %5.1f %%; "
            "error median %.5f, 95th %.5f; over the stated deviation median %.2f, 95th %.2f; over "
            "what repeats median %.2f, 95th %.2f",
            name,
            count,
            unknown,
            percent(),
            repeatPercent(),
            quantile(errors, 0.5),
            quantile(errors, 0.95),
            quantile(ratios, 0.5),
            quantile(ratios, 0.95),
            quantile(repeats, 0.5),
            quantile(repeats, 0.95));
    }
    /// Of a tenth of the cases a few more may lie outside by chance.
    [[nodiscard]] bool isCovered() const {
        return count > 0 && percent() >= (isFullSample() ? 90.0 : 80.0) &&
               (!isFullSample() || count >= 200);
    }
};

}  // namespace rigmatch::support
