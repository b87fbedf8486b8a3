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
struct CdlResiduals : LeastSquares {
    const PatchSignals& from;
    const std::vector<colour::Lab>& aim;

    [[nodiscard]] int inputs() const { return kNumbers; }
    [[nodiscard]] int values() const { return static_cast<int>(3 * aim.size()) + kNumbers; }

    int operator()(const VectorXd& x, VectorXd& r) const {
        const VectorXd p = x.array() - 1.0;
        const colour::Cdl cdl = cdlOf(p);
        int at = 0;
        for (std::size_t i = 0; i < aim.size(); ++i) {
            const colour::Lab lab = labOf(cdl.apply(from[i]), {});
            r[at++] = lab.lightness - aim[i].lightness;
            r[at++] = lab.a - aim[i].a;
            r[at++] = lab.b - aim[i].b;
        }
        for (int i = 0; i < kNumbers; ++i) r[at++] = kRidge * p[i];
        return 0;
    }
};

}  // namespace

colour::Cdl fitCdl(const PatchSignals& from, const PatchSignals& to) {
    const std::size_t count = std::min(from.size(), to.size());
    std::vector<colour::Lab> aim;
    for (std::size_t i = 0; i < count; ++i) aim.push_back(labOf(to[i], {}));
    VectorXd x = VectorXd::Ones(kNumbers);
    const CdlResiduals residuals{{}, from, aim};
    Eigen::NumericalDiff<CdlResiduals> differentiated(residuals);
    Eigen::LevenbergMarquardt<Eigen::NumericalDiff<CdlResiduals>> solver(differentiated);
    solver.parameters.maxfev = 600;
    solver.minimize(x);
    return x.allFinite() ? cdlOf(x.array() - 1.0) : colour::Cdl{};
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
