// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/correction.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace rigmatch::match {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

// The matrix, as the mean of a posterior (docs/sources.md, 6.7): neutrals stay as the models have
// them, worth that many patches; bodies that are made to show one picture mix their channels alike,
// worth that much light of every channel.
constexpr double kNeutralWorth = 300.0;
constexpr double kAlike = 0.1;
constexpr double kOwnPatches = 1.5;
constexpr double kWorth = 0.97;  // a refinement stays where patches left out come this much nearer
// The remainder, as a Gaussian process over the corrected signal (Rasmussen and Williams 2006, 2.2
// and 5.12).
constexpr double kAmplitude = 0.02;  // signal
// How far one colour speaks for another, and what repeats of no patch, signal: those by which
// patches that are left out come nearest.
constexpr std::array kLengths{0.1, 0.2};
constexpr std::array kLeastNoises{0.0015, 0.004};
constexpr double kGreyNoise = 0.001;
constexpr int kGreys = 33;
constexpr double kWorthRemainder = 0.95;
constexpr std::array kRootRidges{0.02, 0.1, 0.3};
constexpr std::size_t kNone = std::numeric_limits<std::size_t>::max();

Vector3d vectorOf(const std::array<double, 3>& v) { return {v[0], v[1], v[2]}; }

double kernel(const Vector3d& a, const Vector3d& b, double length) {
    return kAmplitude * kAmplitude * std::exp(-0.5 * (a - b).squaredNorm() / (length * length));
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
                       const BodyModel& theirs,
                       std::span<const SkinAim> skin)
    : m_mine(mine), m_theirs(theirs), m_neutral(mine.toLight() * Vector3d::Ones()) {
    m_map.matrix = theirs.toLight() * mine.toLight().inverse();
    m_neutral /= m_neutral[1];
    std::vector<Pair> pairs;
    for (std::size_t i = 0; i < std::min(camera.patches.size(), reference.patches.size()); ++i) {
        const rig::PatchReading& a = camera.patches[i];
        const rig::PatchReading& b = reference.patches[i];
        if (!rig::isUsable(a) || !rig::isUsable(b)) continue;
        Pair pair{mine.lightOf(a.signal), theirs.lightOf(b.signal), {}, a.signal, b.signal};
        // By what eyes make of light, a little: sensors differ by light.
        for (int c = 0; c < 3; ++c)
            pair.weight[c] = std::pow(std::max(pair.theirs[c], 0.01), -0.15);
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
    const LightMap models = m_map;
    for (const Pair& pair : pairs) {
        m_left.before += distance(pair.camera, pair.reference) / count;
        m_left.leftOut += distance(through(models, pair.camera), pair.reference) / count;
    }
    // The models were made with every patch: left out, they would lie farther off.
    double best = kOwnPatches * m_left.leftOut;
    double leftOut = 0.0;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        const LightMap map{refined(pairs, models.matrix, i), models.roots};
        leftOut += distance(through(map, pairs[i].camera), pairs[i].reference) / count;
    }
    if (leftOut < best) {
        best = m_left.leftOut = leftOut;
        m_map.matrix = refined(pairs, models.matrix, kNone);
    }
    const LightMap plain = m_map;
    for (const double ridge : kRootRidges) {
        const double without = leftOutOf(pairs, plain, ridge);
        if (without >= kWorth * best) continue;
        best = m_left.leftOut = without;
        m_map.roots = refinedRoots(pairs, plain.matrix, ridge, kNone);
    }
    fitRemainder(pairs, skin);
    for (const Pair& pair : pairs)
        m_left.after += distance(corrected(pair.camera), pair.reference) / count;
}

/// A corrected signal at which it is known what is still to be taken out.
struct Known {
    Vector3d place, value;
    double noise = 0.0;  ///< signal
    bool isPatch = false;
};

/// How far one colour speaks for another, and what of a patch does not repeat, signal.
struct Shape {
    double length = 0.0, least = 0.0;
};

/// What a Gaussian process makes of what is known.
struct Process {
    Eigen::MatrixXd weights;
    double leftOut = 0.0;  ///< of the patches, each as it would be without itself
};

Process processOf(const std::vector<Known>& known, const Shape& shape) {
    const auto all = static_cast<int>(known.size());
    Eigen::MatrixXd covariance(all, all), values(all, 3);
    int patches = 0;
    for (int i = 0; i < all; ++i) {
        const Known& one = known[static_cast<std::size_t>(i)];
        for (int k = 0; k < all; ++k)
            covariance(i, k) =
                kernel(one.place, known[static_cast<std::size_t>(k)].place, shape.length);
        covariance(i, i) += std::pow(one.isPatch ? std::max(one.noise, shape.least) : one.noise, 2);
        values.row(i) = one.value.transpose();
        patches += one.isPatch ? 1 : 0;
    }
    const Eigen::MatrixXd inverse = covariance.inverse();
    Process process{inverse * values, 0.0};
    for (int i = 0; i < all; ++i) {
        if (!known[static_cast<std::size_t>(i)].isPatch) continue;
        process.leftOut += (process.weights.row(i) / inverse(i, i)).norm() / std::max(patches, 1);
    }
    return process;
}

/// The same skin in more and in less light.
std::vector<Correction::Pair> Correction::skinPairs(std::span<const SkinAim> skin) const {
    constexpr std::array kLevels{0.25, 0.5, 1.0, 1.4};
    std::vector<Pair> pairs;
    for (const SkinAim& aim : skin) {
        const Vector3d mine = m_mine.lightOf(aim.recorded), theirs = m_theirs.lightOf(aim.aim);
        for (const double level : kLevels) {
            Pair pair{level * mine, level * theirs, Vector3d::Ones(), {}, {}, aim.noise};
            pair.camera = m_mine.signalOfCoded(pair.mine);
            pair.reference = m_theirs.signalOfCoded(pair.theirs);
            if (*std::max_element(pair.camera.begin(), pair.camera.end()) < 1.0)
                pairs.push_back(pair);
        }
    }
    return pairs;
}

/// Of patches it stays only where those that are left out of it come nearer; of skin always, and
/// patches then hold it off where they lie, loosely.
void Correction::fitRemainder(const std::vector<Pair>& pairs, std::span<const SkinAim> skin) {
    std::vector<Known> known;
    double without = 0.0;
    const auto put = [&](const Pair& pair, bool isPatch) {
        const Vector3d place = vectorOf(through(m_map, pair.camera));
        known.push_back({place, vectorOf(pair.reference) - place, pair.noise, isPatch});
    };
    for (const Pair& pair : pairs) {
        put(pair, true);
        without += known.back().value.norm() / static_cast<double>(pairs.size());
    }
    for (int i = 0; i < kGreys; ++i) {
        const double light = 0.18 * std::exp2(-6.0 + 8.5 * i / (kGreys - 1.0));
        known.push_back({vectorOf(through(m_map, m_mine.signalOf({light, light, light}))),
                         Vector3d::Zero(),
                         kGreyNoise,
                         false});
    }
    std::optional<Shape> best;
    double leftOut = kWorthRemainder * without;
    for (const double least : kLeastNoises) {
        for (const double length : kLengths) {
            const Process tried = processOf(known, {length, least});
            if (!tried.weights.allFinite() || tried.leftOut >= leftOut) continue;
            leftOut = tried.leftOut;
            best = Shape{length, least};
        }
    }
    if (best) m_left.leftOut = std::min(m_left.leftOut, leftOut);
    if (!best && skin.empty()) return;
    constexpr Shape kSkinAlone{kLengths[0], 0.02};
    const Shape shape = best.value_or(kSkinAlone);
    for (const Pair& pair : skinPairs(skin)) put(pair, false);
    const Process made = processOf(known, shape);
    if (!made.weights.allFinite()) return;
    for (const Known& one : known) m_places.push_back(one.place);
    m_weights = made.weights;
    m_length = shape.length;
}

Vector3d Correction::remainderAt(const Vector3d& signal) const {
    Vector3d sum = Vector3d::Zero();
    for (std::size_t i = 0; i < m_places.size(); ++i)
        sum +=
            kernel(signal, m_places[i], m_length) * m_weights.row(static_cast<int>(i)).transpose();
    return sum;
}

std::array<double, 3> Correction::corrected(const std::array<double, 3>& signal) const {
    const Vector3d plain = vectorOf(through(m_map, signal));
    const Vector3d full = plain + remainderAt(plain);
    return {full[0], full[1], full[2]};
}

/// Weighted least squares per row, without one patch; the neutral stays where `about` takes it.
Matrix3d Correction::refined(const std::vector<Pair>& pairs,
                             const Matrix3d& about,
                             std::size_t without) const {
    constexpr double kGrey = 0.3;  // light of the neutral, about the middle of a chart's
    const Vector3d grey = kGrey * m_neutral, to = about * grey;
    Matrix3d solution;
    for (int row = 0; row < 3; ++row) {
        Matrix3d normal = Matrix3d::Zero();
        Vector3d right = Vector3d::Zero();
        double sum = 0.0;
        for (std::size_t i = 0; i < pairs.size(); ++i) {
            if (i == without) continue;
            const double w = pairs[i].weight[row] * pairs[i].weight[row];
            sum += w;
            normal += w * pairs[i].mine * pairs[i].mine.transpose();
            right += w * pairs[i].mine * pairs[i].theirs[row];
        }
        const double one = sum / static_cast<double>(std::max<std::size_t>(pairs.size(), 1));
        normal += one * kNeutralWorth * grey * grey.transpose();
        right += one * kNeutralWorth * to[row] * grey;
        normal.diagonal().array() += one * kAlike;
        right[row] += one * kAlike * to[row] / grey[row];
        solution.row(row) = normal.ldlt().solve(right).transpose();
    }
    return solution;
}

/// Geometric means of two channels over their arithmetic ones, neutrals at nothing (Finlayson,
/// Mackiewicz and Hurlbert 2015, root-polynomial regression, from memory).
Vector3d Correction::mixtures(const Vector3d& light) const {
    const Vector3d even = light.cwiseQuotient(m_neutral).cwiseMax(0.0);
    const auto mixture = [&](int a, int b) {
        return std::sqrt(even[a] * even[b]) - 0.5 * (even[a] + even[b]);
    };
    return {mixture(0, 1), mixture(1, 2), mixture(0, 2)};
}

/// Weighted least squares per row on what `matrix` leaves, drawn toward nothing.
Matrix3d Correction::refinedRoots(const std::vector<Pair>& pairs,
                                  const Matrix3d& matrix,
                                  double ridge,
                                  std::size_t without) const {
    Matrix3d solution;
    for (int row = 0; row < 3; ++row) {
        Matrix3d normal = Matrix3d::Zero();
        Vector3d right = Vector3d::Zero();
        for (std::size_t i = 0; i < pairs.size(); ++i) {
            if (i == without) continue;
            const double w = pairs[i].weight[row] * pairs[i].weight[row];
            const Vector3d features = mixtures(pairs[i].mine);
            normal += w * features * features.transpose();
            right += w * features * (pairs[i].theirs[row] - matrix.row(row).dot(pairs[i].mine));
        }
        normal.diagonal().array() += ridge * std::max(normal.trace(), 1e-12) / 3.0;
        solution.row(row) = normal.ldlt().solve(right).transpose();
    }
    return solution;
}

double Correction::leftOutOf(const std::vector<Pair>& pairs,
                             const LightMap& about,
                             double rootRidge) const {
    double sum = 0.0;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        const LightMap map{about.matrix, refinedRoots(pairs, about.matrix, rootRidge, i)};
        sum += distance(through(map, pairs[i].camera), pairs[i].reference);
    }
    return sum / static_cast<double>(pairs.size());
}

std::array<double, 3> Correction::through(const LightMap& map,
                                          const std::array<double, 3>& signal) const {
    const Vector3d mine = m_mine.lightOf(signal);
    Vector3d light = map.matrix * mine;
    if (!map.roots.isZero()) light += map.roots * mixtures(mine);
    return m_theirs.signalOfCoded(light);
}

std::array<double, 3> Correction::apply(const std::array<double, 3>& signal,
                                        double strength) const {
    const std::array<double, 3> full = corrected(signal);
    std::array<double, 3> result{};
    for (std::size_t c = 0; c < 3; ++c) result[c] = signal[c] + strength * (full[c] - signal[c]);
    return result;
}

}  // namespace rigmatch::match
