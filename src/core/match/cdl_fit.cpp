// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/cdl_fit.h"

#include <Eigen/Core>
#include <algorithm>
#include <cmath>

#include "match/least_squares.h"

namespace rigmatch::match {
namespace {

using Eigen::VectorXd;

constexpr int kNumbers = 10;    // ln slopes, offsets over 0.1, ln powers, ln saturation
constexpr double kRidge = 0.3;  // ΔE for one unit of any number

colour::Cdl cdlOf(const VectorXd& p) {
    colour::Cdl cdl;
    for (std::size_t c = 0; c < 3; ++c) {
        const auto at = static_cast<int>(c);
        cdl.slope[c] = std::clamp(std::exp(p[at]), 0.6, 1.6);
        cdl.offset[c] = std::clamp(0.1 * p[3 + at], -0.1, 0.1);
        cdl.power[c] = std::clamp(std::exp(p[6 + at]), 0.7, 1.4);
    }
    cdl.saturation = std::clamp(std::exp(p[9]), 0.6, 1.6);
    return cdl;
}

/// Distances in CIELAB of all signals, and of the numbers from nothing.
struct CdlResiduals {
    const PatchSignals& from;
    const std::vector<colour::Lab>& aim;

    [[nodiscard]] Eigen::Index count() const {
        return static_cast<Eigen::Index>(3 * aim.size()) + kNumbers;
    }

    bool operator()(const VectorXd& p, VectorXd& r) const {
        const colour::Cdl cdl = cdlOf(p);
        int at = 0;
        for (std::size_t i = 0; i < aim.size(); ++i) {
            const colour::Lab lab = labOf(cdl.apply(from[i]), {});
            r[at++] = lab.lightness - aim[i].lightness;
            r[at++] = lab.a - aim[i].a;
            r[at++] = lab.b - aim[i].b;
        }
        for (int i = 0; i < kNumbers; ++i) r[at++] = kRidge * p[i];
        return true;
    }
};

}  // namespace

colour::Cdl fitCdl(const PatchSignals& from, const PatchSignals& to) {
    const std::size_t count = std::min(from.size(), to.size());
    std::vector<colour::Lab> aim;
    for (std::size_t i = 0; i < count; ++i) aim.push_back(labOf(to[i], {}));
    const CdlResiduals residuals{from, aim};
    const auto fitted = leastSquares(residuals, VectorXd::Zero(kNumbers), residuals.count());
    return fitted ? cdlOf(fitted->parameters) : colour::Cdl{};
}

colour::Cdl weakened(const colour::Cdl& cdl, double strength) {
    colour::Cdl weak = cdl;
    for (std::size_t c = 0; c < 3; ++c) {
        weak.slope[c] = std::pow(cdl.slope[c], strength);
        weak.offset[c] = strength * cdl.offset[c];
        weak.power[c] = std::pow(cdl.power[c], strength);
    }
    weak.saturation = std::pow(cdl.saturation, strength);
    return weak;
}

}  // namespace rigmatch::match
