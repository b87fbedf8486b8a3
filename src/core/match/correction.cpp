// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/correction.h"

#include <Eigen/Dense>
#include <cmath>
#include <limits>

namespace rigmatch::match {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

constexpr double kRidge = 0.1;  // of the patches' own weight, toward the models' matrix
constexpr double kWorth = 0.9;  // a refinement stays where patches left out come this much nearer
constexpr std::size_t kNone = std::numeric_limits<std::size_t>::max();

Vector3d vectorOf(const std::array<double, 3>& v) { return {v[0], v[1], v[2]}; }

double distance(const std::array<double, 3>& a, const std::array<double, 3>& b) {
    return (vectorOf(a) - vectorOf(b)).norm();
}

}  // namespace

/// One patch on both cameras: light as each body coded it, and how much a share of the reference's
/// light moves its signal.
struct Correction::Pair {
    Vector3d mine, theirs, weight;
    std::array<double, 3> camera, reference;
};

Correction::Correction(const rig::Reading& camera,
                       const BodyModel& mine,
                       const rig::Reading& reference,
                       const BodyModel& theirs)
    : m_mine(mine), m_theirs(theirs), m_matrix(theirs.toLight() * mine.toLight().inverse()) {
    std::vector<Pair> pairs;
    for (std::size_t i = 0; i < std::min(camera.patches.size(), reference.patches.size()); ++i) {
        const rig::PatchReading& a = camera.patches[i];
        const rig::PatchReading& b = reference.patches[i];
        if (!rig::isUsable(a) || !rig::isUsable(b)) continue;
        Pair pair{mine.lightOf(a.signal), theirs.lightOf(b.signal), {}, a.signal, b.signal};
        for (int c = 0; c < 3; ++c) {
            const double stops = std::log2(std::max(pair.theirs[c], 1e-5) / 0.18);
            pair.weight[c] = theirs.curve().slopeAt(stops) / std::max(pair.theirs[c], 0.005);
        }
        if (a.isNeutral) pair.weight *= std::sqrt(2.0);
        pairs.push_back(pair);
    }
    if (pairs.empty()) return;
    const auto count = static_cast<double>(pairs.size());
    const Matrix3d models = m_matrix;
    double ofModels = 0.0, refinedLeftOut = 0.0;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        m_left.before += distance(pairs[i].camera, pairs[i].reference) / count;
        ofModels += distance(through(models, pairs[i].camera), pairs[i].reference) / count;
        refinedLeftOut +=
            distance(through(refined(pairs, models, i), pairs[i].camera), pairs[i].reference) /
            count;
    }
    m_left.leftOut = ofModels;
    if (refinedLeftOut < kWorth * ofModels) {
        m_matrix = refined(pairs, models, kNone);
        m_left.leftOut = refinedLeftOut;
    }
    for (const Pair& pair : pairs)
        m_left.after += distance(through(m_matrix, pair.camera), pair.reference) / count;
}

/// Weighted least squares per row, drawn toward `about`.
Matrix3d Correction::refined(const std::vector<Pair>& pairs,
                             const Matrix3d& about,
                             std::size_t without) const {
    Matrix3d matrix = about;
    for (int row = 0; row < 3; ++row) {
        Matrix3d normal = Matrix3d::Zero();
        Vector3d right = Vector3d::Zero();
        for (std::size_t i = 0; i < pairs.size(); ++i) {
            if (i == without) continue;
            const double w = pairs[i].weight[row] * pairs[i].weight[row];
            normal += w * pairs[i].mine * pairs[i].mine.transpose();
            right += w * pairs[i].mine * (pairs[i].theirs[row] - about.row(row).dot(pairs[i].mine));
        }
        normal.diagonal().array() += kRidge * normal.trace() / 3.0;
        matrix.row(row) += normal.ldlt().solve(right).transpose();
    }
    return matrix;
}

std::array<double, 3> Correction::through(const Matrix3d& matrix,
                                          const std::array<double, 3>& signal) const {
    return m_theirs.signalOfCoded(matrix * m_mine.lightOf(signal));
}

std::array<double, 3> Correction::apply(const std::array<double, 3>& signal,
                                        double strength) const {
    const std::array<double, 3> full = through(m_matrix, signal);
    std::array<double, 3> result{};
    for (std::size_t c = 0; c < 3; ++c) result[c] = signal[c] + strength * (full[c] - signal[c]);
    return result;
}

}  // namespace rigmatch::match
