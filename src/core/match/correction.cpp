// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/correction.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <limits>

namespace rigmatch::match {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

constexpr double kRidge = 0.1;  // of the patches' own weight, toward the models' matrix
constexpr double kWorth = 0.9;  // a refinement stays where patches left out come this much nearer
// The remainder, as a Gaussian process over the corrected signal (Rasmussen and Williams 2006, 2.2
// and 5.12).
constexpr double kAmplitude = 0.02, kLength = 0.3;  // signal
constexpr double kLeastNoise = 0.004;               // signal: what repeats of no patch
constexpr double kGreyNoise = 0.001;
constexpr int kGreys = 33;
constexpr std::size_t kNone = std::numeric_limits<std::size_t>::max();

Vector3d vectorOf(const std::array<double, 3>& v) { return {v[0], v[1], v[2]}; }

double kernel(const Vector3d& a, const Vector3d& b) {
    return kAmplitude * kAmplitude * std::exp(-0.5 * (a - b).squaredNorm() / (kLength * kLength));
}

double distance(const std::array<double, 3>& a, const std::array<double, 3>& b) {
    return (vectorOf(a) - vectorOf(b)).norm();
}

}  // namespace

/// One patch on both cameras: light as each body coded it, and how much a share of the reference's
/// light moves its signal.
struct Correction::Pair {
    Vector3d mine, theirs, weight;
    std::array<double, 3> camera, reference;
    double noise = 0.0;  ///< signal, of their difference
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
        double variance = 0.0;
        for (std::size_t c = 0; c < 3; ++c)
            variance += (a.standardError[c] * a.standardError[c] +
                         b.standardError[c] * b.standardError[c]) /
                        3.0;
        pair.noise = std::sqrt(variance);
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
    fitRemainder(pairs);
    for (const Pair& pair : pairs)
        m_left.after += distance(corrected(pair.camera), pair.reference) / count;
}

/// Stays only where patches that are left out of it come nearer by a tenth.
void Correction::fitRemainder(const std::vector<Pair>& pairs) {
    std::vector<Vector3d> places, left;
    std::vector<double> noise;
    for (const Pair& pair : pairs) {
        places.push_back(vectorOf(through(m_matrix, pair.camera)));
        left.push_back(vectorOf(pair.reference) - places.back());
        noise.push_back(std::max(pair.noise, kLeastNoise));
    }
    for (int i = 0; i < kGreys; ++i) {
        const double light = 0.18 * std::exp2(-6.0 + 8.5 * i / (kGreys - 1.0));
        places.push_back(vectorOf(through(m_matrix, m_mine.signalOf({light, light, light}))));
        left.push_back(Vector3d::Zero());
        noise.push_back(kGreyNoise);
    }
    const auto count = static_cast<int>(places.size());
    Eigen::MatrixXd covariance(count, count), aim(count, 3);
    for (int i = 0; i < count; ++i) {
        const auto at = static_cast<std::size_t>(i);
        for (int k = 0; k < count; ++k)
            covariance(i, k) = kernel(places[at], places[static_cast<std::size_t>(k)]);
        covariance(i, i) += noise[at] * noise[at];
        aim.row(i) = left[at].transpose();
    }
    const Eigen::MatrixXd inverse = covariance.inverse();
    const Eigen::MatrixXd weights = inverse * aim;
    // Each patch as it would be without itself (Rasmussen and Williams 2006, 5.12).
    double without = 0.0, with = 0.0;
    for (int i = 0; i < static_cast<int>(pairs.size()); ++i) {
        without += aim.row(i).norm() / static_cast<double>(pairs.size());
        with += (weights.row(i) / inverse(i, i)).norm() / static_cast<double>(pairs.size());
    }
    if (!weights.allFinite() || with > kWorth * without) return;
    m_places = std::move(places);
    m_weights = weights;
    m_left.leftOut = std::min(m_left.leftOut, with);
}

Vector3d Correction::remainderAt(const Vector3d& signal) const {
    Vector3d sum = Vector3d::Zero();
    for (std::size_t i = 0; i < m_places.size(); ++i)
        sum += kernel(signal, m_places[i]) * m_weights.row(static_cast<int>(i)).transpose();
    return sum;
}

std::array<double, 3> Correction::corrected(const std::array<double, 3>& signal) const {
    const Vector3d plain = vectorOf(through(m_matrix, signal));
    const Vector3d full = plain + remainderAt(plain);
    return {full[0], full[1], full[2]};
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
    const std::array<double, 3> full = corrected(signal);
    std::array<double, 3> result{};
    for (std::size_t c = 0; c < 3; ++c) result[c] = signal[c] + strength * (full[c] - signal[c]);
    return result;
}

}  // namespace rigmatch::match
