// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/least_squares.h"

#include <ceres/ceres.h>

#include <Eigen/Cholesky>

namespace rigmatch::match {
namespace {

using Eigen::Map;
using Eigen::MatrixXd;
using Eigen::VectorXd;

/// Residuals as Ceres asks for them.
struct AllResiduals {
    const Residuals& residuals;
    Eigen::Index inputs, count;

    bool operator()(double const* const* parameters, double* out) const {
        VectorXd left(count);
        if (!residuals(Map<const VectorXd>(parameters[0], inputs), left)) return false;
        Map<VectorXd>(out, count) = left;
        return left.allFinite();
    }
};

using Differentiated = ceres::DynamicNumericDiffCostFunction<AllResiduals, ceres::CENTRAL>;

}  // namespace

std::optional<LeastSquaresFit> leastSquares(const Residuals& residuals,
                                            const VectorXd& start,
                                            Eigen::Index count,
                                            const LeastSquaresOptions& options) {
    const Eigen::Index inputs = start.size();
    LeastSquaresFit fit{start, VectorXd::Zero(count), {}};
    auto* cost = new Differentiated(new AllResiduals{residuals, inputs, count});
    cost->AddParameterBlock(static_cast<int>(inputs));
    cost->SetNumResiduals(static_cast<int>(count));
    // The problem owns the cost function, and that the residuals.
    ceres::Problem problem;
    problem.AddResidualBlock(cost, nullptr, fit.parameters.data());
    ceres::Solver::Options how;
    how.linear_solver_type = ceres::DENSE_QR;
    how.max_num_iterations = options.mostSteps;
    how.function_tolerance = how.parameter_tolerance = options.tolerance;
    how.num_threads = 1;
    how.logging_type = ceres::SILENT;
    ceres::Solver::Summary summary;
    ceres::Solve(how, &problem, &summary);
    if (!summary.IsSolutionUsable() || !fit.parameters.allFinite()) return std::nullopt;

    Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor> jacobian(count, inputs);
    double* rows = jacobian.data();
    const double* parameters = fit.parameters.data();
    if (!cost->Evaluate(&parameters, fit.residuals.data(), &rows)) return std::nullopt;
    const MatrixXd information = jacobian.transpose() * jacobian;
    fit.covariance = information.ldlt().solve(MatrixXd::Identity(inputs, inputs));
    return fit;
}

}  // namespace rigmatch::match
