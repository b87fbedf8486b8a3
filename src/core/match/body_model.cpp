// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/body_model.h"

#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <unsupported/Eigen/NonLinearOptimization>

#include "base/luma.h"
#include "colour/primaries.h"

namespace rigmatch::match {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;
using Eigen::VectorXd;

constexpr double kGrey = 0.18;
constexpr double kHighestSignal = 1.09;  // the top of limited range
constexpr double kLeastLight = 1e-5;
constexpr double kDarkestStops = -11.9;  // where the tone curve's model ends

// Priors, one standard deviation (docs/sources.md, 6.5; common practice).
constexpr double kMixingPrior = 0.15;
constexpr double kSaturationPrior = 0.2;
constexpr double kHuePrior = 3.0;      // degrees
constexpr double kGainPrior = 1.0;     // stops
constexpr double kCurvePrior = 0.05;   // signal, of a point of the curve about the measured grey
constexpr double kModelError = 0.006;  // signal: what no model of a body meets
constexpr double kHuber = 2.0;
constexpr int kRounds = 3;  // of reweighting

// Parameters: gains of red and blue (stops), six of N, ln saturation, hue, then the curve's points.
constexpr int kMixingAt = 2;
constexpr int kSaturationAt = 8;
constexpr int kHueAt = 9;
constexpr int kCurveAt = 10;

Matrix3d mixingOf(const VectorXd& p) {
    Matrix3d n;
    int at = kMixingAt;
    for (int row = 0; row < 3; ++row) {
        double sum = 0.0;
        for (int column = 0; column < 3; ++column) {
            if (column == row) continue;
            n(row, column) = p[at++];
            sum += n(row, column);
        }
        n(row, row) = 1.0 - sum;
    }
    return n;
}

/// Saturation and hue in the BT.709 Y'CbCr plane, as one matrix on R'G'B'.
Matrix3d colourMatrix(double saturation, double hueDegrees) {
    static const Matrix3d kToYcc = [] {
        Matrix3d m;
        m.row(0) =
            Vector3d(base::kLumaBt709[0], base::kLumaBt709[1], base::kLumaBt709[2]).transpose();
        m.row(1) = (Vector3d::UnitZ().transpose() - m.row(0)) / (2.0 * (1.0 - base::kLumaBt709[2]));
        m.row(2) = (Vector3d::UnitX().transpose() - m.row(0)) / (2.0 * (1.0 - base::kLumaBt709[0]));
        return m;
    }();
    static const Matrix3d kFromYcc = kToYcc.inverse();
    const double angle = hueDegrees * std::numbers::pi / 180.0;
    Matrix3d turn = Matrix3d::Identity();
    turn(1, 1) = turn(2, 2) = saturation * std::cos(angle);
    turn(1, 2) = -saturation * std::sin(angle);
    turn(2, 1) = saturation * std::sin(angle);
    return kFromYcc * turn * kToYcc;
}

Vector3d curved(const ToneCurve& curve, const Vector3d& light) {
    Vector3d coded;
    for (int c = 0; c < 3; ++c)
        coded[c] = curve.signalAt(std::log2(std::max(light[c], kLeastLight) / kGrey));
    return coded;
}

/// One usable patch of the chart.
struct Seen {
    Vector3d light, signal, weight;  ///< weight: one over its standard deviation
};

std::vector<Seen> seenOf(const rig::Reading& reading) {
    std::vector<Seen> seen;
    for (const rig::PatchReading& patch : reading.patches) {
        if (!rig::isUsable(patch)) continue;
        Seen one;
        for (std::size_t c = 0; c < 3; ++c) {
            const auto i = static_cast<int>(c);
            one.light[i] = patch.nominalLinear[c];
            one.signal[i] = patch.signal[c];
            one.weight[i] = (patch.isNeutral ? std::numbers::sqrt2 : 1.0) /
                            std::hypot(kModelError, patch.standardError[c]);
        }
        seen.push_back(one);
    }
    return seen;
}

/// Residuals of patches and priors, each over its standard deviation, for Eigen's
/// Levenberg-Marquardt.
struct Residuals {
    using Scalar = double;
    using InputType = VectorXd;
    using ValueType = VectorXd;
    using JacobianType = Eigen::MatrixXd;
    enum { InputsAtCompileTime = Eigen::Dynamic, ValuesAtCompileTime = Eigen::Dynamic };

    const std::vector<Seen>& seen;
    std::vector<CurvePoint> points;  ///< of the curve before the fit
    std::vector<double> trust;       ///< of each patch, by how far off it was; 1: fully
    bool isCurveFree = true;

    [[nodiscard]] int inputs() const {
        return kCurveAt + (isCurveFree ? static_cast<int>(points.size()) : 0);
    }
    [[nodiscard]] int values() const { return static_cast<int>(3 * seen.size()) + inputs(); }

    [[nodiscard]] ToneCurve curveOf(const VectorXd& p) const {
        std::vector<CurvePoint> moved = points;
        if (isCurveFree) {
            for (std::size_t i = 0; i < moved.size(); ++i)
                moved[i].signal += p[kCurveAt + static_cast<int>(i)];
        }
        return ToneCurve(moved);
    }

    int operator()(const VectorXd& p, VectorXd& r) const {
        const ToneCurve curve = curveOf(p);
        if (!curve.isUsable() || (isCurveFree && curve.points().size() != points.size())) {
            r.setConstant(1e3);
            return 0;
        }
        const Matrix3d light =
            mixingOf(p) * Vector3d(std::exp2(p[0]), 1.0, std::exp2(p[1])).asDiagonal();
        const Matrix3d after = colourMatrix(std::exp(p[kSaturationAt]), p[kHueAt]);
        int at = 0;
        for (std::size_t i = 0; i < seen.size(); ++i) {
            const Vector3d signal = after * curved(curve, light * seen[i].light);
            for (int c = 0; c < 3; ++c)
                r[at++] = trust[i] * (signal[c] - seen[i].signal[c]) * seen[i].weight[c];
        }
        r[at++] = p[0] / kGainPrior;
        r[at++] = p[1] / kGainPrior;
        for (int i = kMixingAt; i < kSaturationAt; ++i) r[at++] = p[i] / kMixingPrior;
        r[at++] = p[kSaturationAt] / kSaturationPrior;
        r[at++] = p[kHueAt] / kHuePrior;
        for (int i = kCurveAt; i < inputs(); ++i) r[at++] = p[i] / kCurvePrior;
        return 0;
    }
};

/// Patches that lie off by more than kHuber deviations count for less (Huber 1964).
void reweigh(const VectorXd& residuals, std::vector<double>& trust) {
    for (std::size_t i = 0; i < trust.size(); ++i) {
        double worst = 0.0;
        for (int c = 0; c < 3; ++c)
            worst = std::max(worst, std::abs(residuals[static_cast<int>(3 * i) + c]) / trust[i]);
        trust[i] = worst <= kHuber ? 1.0 : std::sqrt(kHuber / worst);
    }
}

colour::WhitePoint whiteOfGains(const Vector3d& gains, const colour::WhitePoint& otherwise) {
    static const colour::Matrix3 kToXyz = colour::rgbToXyz(colour::kBt709);
    const auto white =
        colour::whitePointOf(colour::chromaticityOf(colour::Vector3(kToXyz * gains)));
    return white ? *white : otherwise;
}

}  // namespace

BodyModel::BodyModel(const rig::Reading& reading, const NeutralFit& neutrals)
    : m_curve(neutrals.curve), m_white(neutrals.white) {
    m_gains = {std::exp2(neutrals.channelStops[0]), 1.0, std::exp2(neutrals.channelStops[2])};
    fit(reading, neutrals);
    m_white = whiteOfGains(m_gains, neutrals.white);
}

void BodyModel::fit(const rig::Reading& reading, const NeutralFit& neutrals) {
    const std::vector<Seen> seen = seenOf(reading);
    constexpr std::size_t kFewestPatches = 12;  // fewer tell no mixing
    if (seen.size() < kFewestPatches || !neutrals.isCastKnown) return;
    Residuals residuals{seen, neutrals.curve.points(), std::vector<double>(seen.size(), 1.0)};
    residuals.isCurveFree = !neutrals.isCurveAssumed;
    VectorXd p = VectorXd::Zero(residuals.inputs());
    p[0] = neutrals.channelStops[0];
    p[1] = neutrals.channelStops[2];
    VectorXd r(residuals.values());
    for (int round = 0; round < kRounds; ++round) {
        Eigen::NumericalDiff<Residuals> differentiated(residuals);
        Eigen::LevenbergMarquardt<Eigen::NumericalDiff<Residuals>> solver(differentiated);
        solver.parameters.maxfev = 600;
        solver.parameters.xtol = solver.parameters.ftol = 1e-7;
        solver.minimize(p);
        residuals(p, r);
        reweigh(r, residuals.trust);
    }
    if (!p.allFinite()) return;
    m_curve = residuals.curveOf(p);
    m_mixing = mixingOf(p);
    m_gains = {std::exp2(p[0]), 1.0, std::exp2(p[1])};
    m_saturation = std::exp(p[kSaturationAt]);
    m_hueDegrees = p[kHueAt];
    double sum = 0.0;
    for (const Seen& one : seen) {
        const auto signal = signalOf({one.light[0], one.light[1], one.light[2]});
        for (int c = 0; c < 3; ++c)
            sum += std::pow(signal[static_cast<std::size_t>(c)] - one.signal[c], 2.0);
    }
    m_remainder = std::sqrt(sum / (3.0 * static_cast<double>(seen.size())));
}

std::array<double, 3> BodyModel::signalOf(const std::array<double, 3>& light) const {
    const Vector3d signal =
        colourMatrix(m_saturation, m_hueDegrees) *
        curved(m_curve, m_mixing * m_gains.cwiseProduct(Vector3d(light[0], light[1], light[2])));
    return {signal[0], signal[1], signal[2]};
}

Vector3d BodyModel::lightOf(const std::array<double, 3>& signal) const {
    const Vector3d coded = colourMatrix(m_saturation, m_hueDegrees).inverse() *
                           Vector3d(signal[0], signal[1], signal[2]);
    Vector3d light;
    for (int c = 0; c < 3; ++c) light[c] = kGrey * std::exp2(m_curve.stopsAt(coded[c]));
    return light;
}

std::array<double, 3> BodyModel::signalOfCoded(const Vector3d& light) const {
    const Vector3d signal = colourMatrix(m_saturation, m_hueDegrees) * curved(m_curve, light);
    return {signal[0], signal[1], signal[2]};
}

Vector3d BodyModel::gainsAfter(const Change& dial) const {
    const colour::WhitePoint white{
        base::Mired(std::clamp(m_white.mired.value() + dial.whiteBalanceMired, 20.0, 900.0)),
        m_white.duv + base::Duv(dial.tintDuv)};
    const auto before = gainsOf(m_white);
    const auto after = gainsOf(white);
    Vector3d gains = m_gains;
    if (before && after) {
        for (std::size_t c = 0; c < 3; ++c)
            gains[static_cast<int>(c)] *= (*after)[c] / (*before)[c];
    }
    return gains * std::exp2(dial.exposureStops);
}

/// The neutral of a chart under changed dials as fitNeutrals() would find it: green's signals are
/// the curve, red and blue lie on it, shifted.
BodyModel::Neutral BodyModel::neutralAt(const Change& dial, double referenceGrey) const {
    const Vector3d toLight = m_mixing * gainsAfter(dial);
    const Matrix3d after = colourMatrix(m_saturation, m_hueDegrees);
    const auto signalAt = [&](double stops) -> Vector3d {
        return after * curved(m_curve, toLight * (kGrey * std::exp2(stops)));
    };
    const auto stopsOf = [&](double green) {
        double low = -9.0;
        double high = 7.0;
        for (int i = 0; i < 40; ++i) {
            const double middle = 0.5 * (low + high);
            (signalAt(middle)[1] < green ? low : high) = middle;
        }
        return 0.5 * (low + high);
    };
    const Vector3d grey = signalAt(0.0);
    const Vector3d shift(stopsOf(grey[0]), 0.0, stopsOf(grey[2]));
    const Vector3d linear(std::exp2(shift[0]), 1.0, std::exp2(shift[2]));
    const double luminance = std::log2(base::lumaOf(linear));
    return {-(stopsOf(referenceGrey) - luminance), whiteOfGains(linear, m_white)};
}

Change BodyModel::effectOf(const Change& dial, double referenceGrey) const {
    const Neutral before = neutralAt({}, referenceGrey);
    const Neutral after = neutralAt(dial, referenceGrey);
    return {after.exposureStops - before.exposureStops,
            (after.white.mired - before.white.mired).value(),
            (after.white.duv - before.white.duv).value()};
}

Change BodyModel::dialFor(const Change& wanted, double referenceGrey) const {
    // What is left of each of three numbers, which hardly mix, is turned again until nothing is;
    // saturation makes a change of the dial show larger.
    Change dial = wanted;
    for (int i = 0; i < 12; ++i) {
        const Change got = effectOf(dial, referenceGrey);
        const Change left{wanted.exposureStops - got.exposureStops,
                          wanted.whiteBalanceMired - got.whiteBalanceMired,
                          wanted.tintDuv - got.tintDuv};
        if (std::abs(left.exposureStops) < 1e-4 && std::abs(left.whiteBalanceMired) < 0.02 &&
            std::abs(left.tintDuv) < 2e-6)
            break;
        const double share = 1.0 / std::clamp(m_saturation, 0.5, 2.0);
        dial.exposureStops += left.exposureStops;
        dial.whiteBalanceMired =
            std::clamp(dial.whiteBalanceMired + share * left.whiteBalanceMired, -400.0, 400.0);
        dial.tintDuv = std::clamp(dial.tintDuv + share * left.tintDuv, -0.05, 0.05);
    }
    return dial;
}

BodyModel::Map::Map(const BodyModel& model, const Change& dial)
    : m_curve(std::make_shared<const ToneCurve>(model.m_curve)),
      m_after(colourMatrix(model.m_saturation, model.m_hueDegrees)) {
    m_before = m_after.inverse();
    const Vector3d gain = model.gainsAfter(dial).cwiseQuotient(model.m_gains);
    m_light = model.m_mixing * gain.asDiagonal() * model.m_mixing.inverse();
    m_isIdentity = (m_light - Matrix3d::Identity()).cwiseAbs().maxCoeff() < 1e-9;
}

std::array<double, 3> BodyModel::Map::apply(const std::array<double, 3>& signal) const {
    if (m_isIdentity) return signal;
    const Vector3d coded = m_before * Vector3d(signal[0], signal[1], signal[2]);
    Vector3d light;
    for (int c = 0; c < 3; ++c) light[c] = kGrey * std::exp2(m_curve->stopsAt(coded[c]));
    const Vector3d moved = m_light * light;
    Vector3d after;
    for (int c = 0; c < 3; ++c) {
        const double stops = std::log2(std::max(light[c], kLeastLight) / kGrey);
        // Colours beyond the gamut lie under the pedestal: no light can be told for them.
        if (stops < kDarkestStops || moved[c] < kLeastLight) {
            after[c] = coded[c];
        } else {
            after[c] = coded[c] + m_curve->signalAt(std::log2(moved[c] / kGrey)) -
                       m_curve->signalAt(stops);
        }
    }
    const Vector3d result = m_after * after;
    return {std::min(result[0], kHighestSignal),
            std::min(result[1], kHighestSignal),
            std::min(result[2], kHighestSignal)};
}

PatchSignals BodyModel::predicted(const rig::Reading& reading, const Change& dial) const {
    const Map map(*this, dial);
    PatchSignals signals = signalsOf(reading);
    for (auto& signal : signals) signal = map.apply(signal);
    return signals;
}

}  // namespace rigmatch::match
