// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/change_fit.h"

#include <Eigen/Core>
#include <cmath>

#include "match/least_squares.h"

namespace rigmatch::match {
namespace {

using Eigen::VectorXd;

constexpr double kChangeError = 0.004;  // signal: what no change of seven numbers meets
/// One unit of each part in the fit, which is also how far it is expected to lie from nothing.
constexpr std::array<double, kChangeParts> kUnits{1.0, 60.0, 0.015, 0.3, 4.0, 0.3, 12.0, 0.4};

Change changeOf(const VectorXd& p) {
    Change change;
    for (std::size_t i = 0; i < kChangeParts; ++i)
        change.*kPartsOfChange[i] = p[static_cast<int>(i)] * kUnits[i];
    return change;
}

/// ChangeResiduals of the patches and of the expectation, each over its standard deviation.
struct ChangeResiduals {
    const Predictor& predictor;
    const PatchSignals& aim;
    const std::vector<std::array<double, 3>>& weights;

    [[nodiscard]] Eigen::Index count() const {
        return static_cast<Eigen::Index>(3 * aim.size() + kChangeParts);
    }

    bool operator()(const VectorXd& p, VectorXd& r) const {
        const PatchSignals shown = predictor.at(changeOf(p));
        int at = 0;
        for (std::size_t i = 0; i < aim.size(); ++i) {
            for (std::size_t c = 0; c < 3; ++c) r[at++] = (shown[i][c] - aim[i][c]) * weights[i][c];
        }
        for (const double part : p) r[at++] = part / 3.0;
        return true;
    }
};

}  // namespace

std::optional<FittedChange> fitChange(const BodyModel& body,
                                      const rig::Reading& before,
                                      const rig::Reading& after) {
    constexpr std::size_t kFewest = 12;
    PatchSignals from, aim;
    std::vector<std::array<double, 3>> weights;
    for (std::size_t i = 0; i < std::min(before.patches.size(), after.patches.size()); ++i) {
        const rig::PatchReading& was = before.patches[i];
        const rig::PatchReading& is = after.patches[i];
        if (!rig::isUsable(was) || !rig::isUsable(is)) continue;
        from.push_back(was.signal);
        aim.push_back(is.signal);
        std::array<double, 3> weight{};
        for (std::size_t c = 0; c < 3; ++c)
            weight[c] = 1.0 / std::hypot(kChangeError, was.standardError[c], is.standardError[c]);
        weights.push_back(weight);
    }
    if (from.size() < kFewest) return std::nullopt;
    const Predictor predictor(body, from);
    const ChangeResiduals residuals{predictor, aim, weights};
    const auto least = leastSquares(residuals, VectorXd::Zero(kChangeParts), residuals.count());
    if (!least) return std::nullopt;

    FittedChange fitted;
    fitted.change = changeOf(least->parameters);
    const VectorXd& r = least->residuals;
    const auto patches = static_cast<double>(3 * aim.size());
    const double scatter =
        r.head(static_cast<int>(patches)).squaredNorm() / (patches - double(kChangeParts));
    const Eigen::MatrixXd covariance = least->covariance * std::max(1.0, scatter);
    double sum = 0.0;
    for (std::size_t i = 0; i < aim.size(); ++i) {
        for (std::size_t c = 0; c < 3; ++c) {
            const double off = r[static_cast<int>(3 * i + c)] / weights[i][c];
            sum += off * off;
        }
    }
    fitted.remainder = std::sqrt(sum / patches);
    for (std::size_t i = 0; i < kChangeParts; ++i) {
        const auto at = static_cast<int>(i);
        fitted.uncertainty.*kPartsOfChange[i] = std::sqrt(covariance(at, at)) * kUnits[i];
    }
    return fitted;
}

}  // namespace rigmatch::match
