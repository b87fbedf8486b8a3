// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <array>
#include <memory>
#include <optional>
#include <vector>

#include "match/neutral_fit.h"
#include "match/predict.h"

namespace rigmatch::match {

class Predictor;

/// What a body does between its white-balance dial and its file, as one chart tells it:
/// signal = P(F(N diag(g) (light + v))), light in BT.709 primaries with 18 % grey as the chart has
/// it. v is a veil of light over all of the picture, N mixes the channels (sensor and matrix
/// together; rows sum to 1, so that it leaves neutrals alone), F is one tone curve for all of them,
/// P is saturation and hue in Y'CbCr after the curve. The dial acts on g: what it does is seen
/// through everything after it. The exposure stands in F, and so does a veil that cannot be told
/// from a lifted foot of the curve: v is 0 unless the curve is declared. (docs/sources.md, 6.5.)
class BodyModel {
public:
    /// Standard deviations of what the chart tells, the priors among it.
    struct Errors {
        double saturation = 0.0;
        double hueDegrees = 0.0;
        std::array<double, 3> gainStops{};  ///< of red, green (0) and blue
        Eigen::Matrix3d mixing = Eigen::Matrix3d::Zero();
    };

    /// `fit` of the same reading. Never fails: what the chart does not tell stays at its prior, N
    /// and P changing nothing.
    BodyModel(const rig::Reading& reading, const NeutralFit& fit);

    /// Signal of a light under the present settings.
    [[nodiscard]] std::array<double, 3> signalOf(const std::array<double, 3>& light) const;
    /// Light in front of the curve, of a recorded signal: P, F and the veil undone. 18 % grey lies
    /// at 0.18.
    [[nodiscard]] Eigen::Vector3d lightOf(const std::array<double, 3>& signal) const;
    /// And the way back.
    [[nodiscard]] std::array<double, 3> signalOfCoded(const Eigen::Vector3d& light) const;
    /// Light of the scene to light in front of the curve: N diag(g).
    [[nodiscard]] Eigen::Matrix3d toLight() const { return m_mixing * m_gains.asDiagonal(); }
    [[nodiscard]] double saturation() const { return m_saturation; }
    [[nodiscard]] double hueDegrees() const { return m_hueDegrees; }
    [[nodiscard]] const Eigen::Matrix3d& mixing() const { return m_mixing; }
    [[nodiscard]] const ToneCurve& curve() const { return *m_curve; }
    [[nodiscard]] const Eigen::Vector3d& gains() const { return m_gains; }
    /// Of diffuse white; 0 where there is none or it cannot be told.
    [[nodiscard]] double veil() const { return m_veil; }
    /// What the picture tells of it, where the curve is declared.
    [[nodiscard]] const std::optional<Measured>& veilSeen() const { return m_veilSeen; }
    /// Nothing where the chart told nothing.
    [[nodiscard]] const std::optional<Errors>& errors() const { return m_errors; }
    /// Remainder of the fit, signal, root mean square.
    [[nodiscard]] double remainder() const { return m_remainder; }

    /// The body after its controls are turned: exposure, white balance and tint move the gains,
    /// contrast stretches the curve about a middle grey, black lifts its foot, saturation and hue
    /// act after it.
    [[nodiscard]] BodyModel turned(const Change& dial) const;

    /// What a change of the dials does to what is measured: exposure, white balance and tint of the
    /// recorded neutral, contrast at grey and black once exposure is equal, where the dials change
    /// the curve; saturation and hue are as in `dial`. `referenceGrey`: the signal to which
    /// exposure is referred.
    [[nodiscard]] Change effectOf(const Change& dial, double referenceGrey) const;
    /// The change of the dials after which the recorded neutral has changed by `wanted`, while
    /// contrast, black, saturation and hue change as `wanted` has them.
    [[nodiscard]] Change dialFor(const Change& wanted, double referenceGrey) const;

    /// What a change of the dials does to any recorded signal.
    class Map {
    public:
        Map(const BodyModel& model, const Change& dial);
        /// At most 1.09, the top of limited range.
        [[nodiscard]] std::array<double, 3> apply(const std::array<double, 3>& signal) const;

        // Its parts, for who maps whole pictures by tables: signal to coded value, coded value to
        // light (18 % grey at 0.18), light to light, and back.
        [[nodiscard]] const ToneCurve& curve() const { return *m_curve; }
        [[nodiscard]] const ToneCurve& curveAfter() const { return *m_curveAfter; }
        [[nodiscard]] const Eigen::Matrix3d& toCoded() const { return m_before; }
        [[nodiscard]] const Eigen::Matrix3d& lightToLight() const { return m_light; }
        [[nodiscard]] const Eigen::Matrix3d& toSignal() const { return m_after; }
        /// Signal that the curve's foot is lifted by.
        [[nodiscard]] double black() const { return m_black; }

    private:
        friend class Predictor;
        struct Undone;
        [[nodiscard]] Undone undone(const std::array<double, 3>& signal) const;
        [[nodiscard]] std::array<double, 3> done(const Undone& seen) const;

        std::shared_ptr<const ToneCurve> m_curve, m_curveAfter;
        Eigen::Matrix3d m_before, m_after;  ///< P undone, and done as turned
        Eigen::Matrix3d m_light;            ///< light to light
        double m_black = 0.0;               ///< signal that is added at black
        bool m_isIdentity = false;
    };

    /// The patches of `reading` after the dials are turned.
    [[nodiscard]] PatchSignals predicted(const rig::Reading& reading, const Change& dial) const;

private:
    struct Neutral {
        double exposureStops = 0.0;
        colour::WhitePoint white;
        double logSlope = 0.0;  ///< natural logarithm of signal per stop, where grey lies at the
                                ///< reference's level …
        double blackPercent = 0.0;  ///< … and the chart's black then, % of signal
    };
    [[nodiscard]] Neutral neutralAt(const Change& dial, double referenceGrey) const;
    [[nodiscard]] Eigen::Vector3d gainsAfter(const Change& dial) const;
    void fit(const rig::Reading& reading, const NeutralFit& neutrals);
    /// Light with the veil over it, by as much less that grey stays where it is.
    [[nodiscard]] double veiled(double light) const;
    /// The veil in front of the curve.
    [[nodiscard]] Eigen::Vector3d haze() const;

    std::shared_ptr<const ToneCurve> m_curve;
    Eigen::Matrix3d m_mixing = Eigen::Matrix3d::Identity();
    Eigen::Vector3d m_gains = Eigen::Vector3d::Ones();  ///< green 1
    double m_saturation = 1.0;
    double m_hueDegrees = 0.0;
    double m_veil = 0.0;
    std::optional<Measured> m_veilSeen;
    double m_remainder = 0.0;
    std::optional<Errors> m_errors;
    colour::WhitePoint m_white;
};

/// Predicts the same patches under many changes: what is undone is undone once.
class Predictor {
public:
    /// `model` must outlive it.
    Predictor(const BodyModel& model, PatchSignals recorded);
    ~Predictor();
    Predictor(const Predictor&) = delete;
    Predictor& operator=(const Predictor&) = delete;
    [[nodiscard]] PatchSignals at(const Change& dial) const;

private:
    const BodyModel& m_model;
    PatchSignals m_signals;
    std::vector<BodyModel::Map::Undone> m_undone;
};

}  // namespace rigmatch::match
