// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <unsupported/Eigen/NonLinearOptimization>

namespace rigmatch::match {

/// What Eigen's Levenberg-Marquardt wants to know of residuals; they add inputs(), values() and
/// operator(). Parameters are handed over plus one: the solver's first step is bounded by their
/// size, and where all are nothing it would stop at once.
struct LeastSquares {
    using Scalar = double;
    using InputType = Eigen::VectorXd;
    using ValueType = Eigen::VectorXd;
    using JacobianType = Eigen::MatrixXd;
    enum { InputsAtCompileTime = Eigen::Dynamic, ValuesAtCompileTime = Eigen::Dynamic };
};

}  // namespace rigmatch::match
