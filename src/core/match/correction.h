// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "match/body_model.h"
#include "match/skin_aim.h"

namespace rigmatch::match {

/// What turns of controls leave, corrected in the picture: this camera's signal to the reference's.
/// The camera's body is undone down to the light it recorded, the light is taken to the reference's
/// by one 3 × 3, and coded as the reference codes; what unlike sensors leave of single colours
/// after that is taken out by a Gaussian process that is held at nothing along grey and dies away
/// from the measured colours. Smooth everywhere, rising along grey, and beyond the measured colours
/// what the two bodies make of it. (docs/sources.md, 6.7.)
class Correction {
public:
    /// Readings of one chart in one light. The matrix takes the patches to each other, neutrals as
    /// the two models have them; it stays that of the models where patches that were left out of
    /// the fit lie farther off by it. `skin`: what was seen of people on both (skinAims()); their
    /// colour is trimmed toward it, in light and in shade.
    Correction(const rig::Reading& camera,
               const BodyModel& mine,
               const rig::Reading& reference,
               const BodyModel& theirs,
               std::span<const SkinAim> skin = {});

    /// `strength` 0 leaves the signal as it is, 1 corrects it fully.
    [[nodiscard]] std::array<double, 3> apply(const std::array<double, 3>& signal,
                                              double strength = 1.0) const;
    /// True where a remainder is taken out of single colours: it stays only where patches that were
    /// left out of it come nearer by it; or skin is trimmed.
    [[nodiscard]] bool hasRemainder() const { return !m_places.empty(); }
    /// Mean distance of the patches from the reference, signal: before, corrected, and corrected
    /// with each patch left out of its own correction.
    struct Left {
        double before = 0.0, after = 0.0, leftOut = 0.0;
    };
    [[nodiscard]] const Left& left() const { return m_left; }

private:
    struct Pair;
    void fitRemainder(const std::vector<Pair>& pairs, std::span<const SkinAim> skin);
    [[nodiscard]] std::vector<Pair> skinPairs(std::span<const SkinAim> skin) const;
    [[nodiscard]] Eigen::Vector3d remainderAt(const Eigen::Vector3d& signal) const;
    [[nodiscard]] std::array<double, 3> corrected(const std::array<double, 3>& signal) const;
    /// Light to light: a 3 × 3, and what mixtures of two channels add to it, which is nothing on
    /// neutrals (a root polynomial of degree two).
    struct LightMap {
        Eigen::Matrix3d matrix = Eigen::Matrix3d::Identity();
        Eigen::Matrix3d roots = Eigen::Matrix3d::Zero();
    };
    [[nodiscard]] Eigen::Vector3d mixtures(const Eigen::Vector3d& light) const;
    [[nodiscard]] std::array<double, 3> through(const LightMap& map,
                                                const std::array<double, 3>& signal) const;
    [[nodiscard]] double leftOutOf(const std::vector<Pair>& pairs,
                                   const LightMap& about,
                                   double rootRidge) const;
    [[nodiscard]] Eigen::Matrix3d refinedRoots(const std::vector<Pair>& pairs,
                                               const Eigen::Matrix3d& matrix,
                                               double ridge,
                                               std::size_t without) const;
    [[nodiscard]] Eigen::Matrix3d refined(const std::vector<Pair>& pairs,
                                          const Eigen::Matrix3d& about,
                                          std::size_t without) const;

    BodyModel m_mine, m_theirs;
    LightMap m_map;
    Eigen::Vector3d m_neutral;  ///< light of a neutral in this camera's channels, green 1
    std::vector<Eigen::Vector3d> m_places;  ///< corrected signals where the remainder is known …
    Eigen::MatrixXd m_weights;              ///< … and the process's weights there
    double m_length = 0.0;                  ///< signal: how far one colour speaks for another
    Left m_left;
};

}  // namespace rigmatch::match
