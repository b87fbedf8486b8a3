// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <functional>
#include <optional>

namespace rigmatch::match {

/// Writes what is left over under `parameters`, each over its standard deviation, into `residuals`,
/// which has its size already. False where there is nothing to be computed: the fit then turns
/// back.
using Residuals =
    std::function<bool(const Eigen::VectorXd& parameters, Eigen::VectorXd& residuals)>;

struct LeastSquaresFit {
    Eigen::VectorXd parameters;
    Eigen::VectorXd residuals;
    /// (JᵀJ)⁻¹ of the parameters: their variances and what they share, as far as the residuals are
    /// as large as their standard deviations say.
    Eigen::MatrixXd covariance;
};

struct LeastSquaresOptions {
    int mostSteps = 50;
    double tolerance = 1e-8;  ///< of a step against the parameters, of the sum against itself
};

/// The parameters near `start` under which the sum of `count` squared residuals is least
/// (Levenberg-Marquardt, Ceres). Nothing where they cannot be computed at the start or the fit
/// leaves all numbers.
[[nodiscard]] std::optional<LeastSquaresFit> leastSquares(const Residuals& residuals,
                                                          const Eigen::VectorXd& start,
                                                          Eigen::Index count,
                                                          const LeastSquaresOptions& options = {});

}  // namespace rigmatch::match
