// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/body_model.h"

#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

#include "base/constants.h"
#include "base/luma.h"
#include "colour/primaries.h"
#include "match/least_squares.h"
#include "match/tone_curve.h"

namespace rigmatch::match {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;
using Eigen::VectorXd;
constexpr double kLeastLight = 1e-5;

// Priors, one standard deviation (docs/sources.md, 6.5; common practice).
constexpr double kMixingPrior = 0.15;
constexpr double kSaturationPrior = 0.2;
constexpr double kHuePrior = 3.0;     // degrees
constexpr double kGainPrior = 1.0;    // stops
constexpr double kCurvePrior = 0.05;  // signal, of a point of the curve about the measured grey
// What no model of a body meets: in signal, of neutrals and of colours, and in light (1 is diffuse
// white), by which unlike sensors see one colour unlike: of dark colours no less than of light
// ones.
constexpr double kNeutralError = 0.002;
constexpr double kBodyError = 0.003;
constexpr double kUnlikeLight = 0.007;
constexpr double kHuber = 2.0;
constexpr int kFitRounds = 3;  // of reweighting
// Of white: more is no veil but a picture that cannot be judged (own choice).
constexpr double kMostVeil = 0.1;

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
        coded[c] = curve.signalAt(std::log2(std::max(light[c], kLeastLight) / base::kMidGrey));
    return coded;
}

/// One usable patch of the chart.
struct SeenBody {
    Vector3d light, signal, weight;  ///< weight: one over its standard deviation
};

std::vector<SeenBody> seenOf(const rig::Reading& reading,
                             const ToneCurve& curve,
                             const std::function<double(double)>& veiled) {
    constexpr double kDarkest = 0.02;  // of light, where the curve's slope is looked up
    std::vector<SeenBody> seen;
    for (const rig::PatchReading& patch : reading.patches) {
        if (!rig::isUsable(patch)) continue;
        SeenBody one;
        for (std::size_t c = 0; c < 3; ++c) {
            const auto i = static_cast<int>(c);
            one.light[i] = veiled(patch.nominalLinear[c]);
            one.signal[i] = patch.signal[c];
            const double light = std::max(one.light[i], kDarkest);
            const double slope =
                curve.slopeAt(std::log2(light / base::kMidGrey)) / (light * std::numbers::ln2);
            const double error =
                patch.isNeutral ? kNeutralError : std::hypot(kBodyError, kUnlikeLight * slope);
            one.weight[i] = 1.0 / std::hypot(error, patch.standardError[c]);
        }
        seen.push_back(one);
    }
    return seen;
}

/// What is left of patches and priors, each over its standard deviation.
struct BodyResiduals {
    const std::vector<SeenBody>& seen;
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

    bool operator()(const VectorXd& p, VectorXd& r) const {
        const ToneCurve curve = curveOf(p);
        if (!curve.isUsable() || (isCurveFree && curve.points().size() != points.size()))
            return false;
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
        return true;
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

/// Standard deviations of the parameters; larger by as much as the patches lie farther off than
/// they should (docs/measurement.md, uncertainty).
BodyModel::Errors errorsOfFit(const LeastSquaresFit& fit, std::size_t patches) {
    const auto seen = static_cast<Eigen::Index>(3 * patches);
    const double freedom =
        static_cast<double>(std::max<Eigen::Index>(seen - fit.parameters.size(), 1));
    const double scale = std::max(1.0, fit.residuals.head(seen).squaredNorm() / freedom);
    const auto shared = [&](int i, int k) { return scale * fit.covariance(i, k); };
    BodyModel::Errors errors;
    errors.gainStops = {std::sqrt(shared(0, 0)), 0.0, std::sqrt(shared(1, 1))};
    errors.saturation =
        std::exp(fit.parameters[kSaturationAt]) * std::sqrt(shared(kSaturationAt, kSaturationAt));
    errors.hueDegrees = std::sqrt(shared(kHueAt, kHueAt));
    int at = kMixingAt;
    for (int row = 0; row < 3; ++row) {
        const int first = at;
        for (int column = 0; column < 3; ++column) {
            if (column == row) continue;
            errors.mixing(row, column) = std::sqrt(shared(at, at));
            ++at;
        }
        // The rest of its row.
        errors.mixing(row, row) = std::sqrt(shared(first, first) + shared(first + 1, first + 1) +
                                            2.0 * shared(first, first + 1));
    }
    return errors;
}

colour::WhitePoint whiteOfGains(const Vector3d& gains, const colour::WhitePoint& otherwise) {
    static const colour::Matrix3 kToXyz = colour::rgbToXyz(colour::kBt709);
    const auto white =
        colour::whitePointOf(colour::chromaticityOf(colour::Vector3(kToXyz * gains)));
    return white ? *white : otherwise;
}

}  // namespace

BodyModel::BodyModel(const rig::Reading& reading, const NeutralFit& neutrals)
    : m_curve(std::make_shared<const ToneCurve>(neutrals.curve)),
      m_veilSeen(neutrals.veil),
      m_white(neutrals.white) {
    m_gains = {std::exp2(neutrals.channelStops[0]), 1.0, std::exp2(neutrals.channelStops[2])};
    // What lies within its own uncertainty is none, and light under black is no veil.
    if (neutrals.veil && neutrals.veil->value > 2.0 * neutrals.veil->uncertainty) {
        m_veil = std::min(neutrals.veil->value, kMostVeil);
        std::vector<CurvePoint> points = m_curve->points();
        for (CurvePoint& point : points)
            point.stops =
                std::log2(veiled(base::kMidGrey * std::exp2(point.stops)) / base::kMidGrey);
        m_curve = std::make_shared<const ToneCurve>(std::move(points));
    }
    fit(reading, neutrals);
    m_white = whiteOfGains(m_gains, neutrals.white);
}

double BodyModel::veiled(double light) const {
    return (light + m_veil) * base::kMidGrey / (base::kMidGrey + m_veil);
}

Vector3d BodyModel::haze() const { return veiled(0.0) * (m_mixing * m_gains); }

void BodyModel::fit(const rig::Reading& reading, const NeutralFit& neutrals) {
    const std::vector<SeenBody> seen =
        seenOf(reading, *m_curve, [this](double light) { return veiled(light); });
    constexpr std::size_t kFewestPatches = 12;  // fewer tell no mixing
    if (seen.size() < kFewestPatches || !neutrals.isCastKnown) return;
    BodyResiduals residuals{seen, m_curve->points(), std::vector<double>(seen.size(), 1.0)};
    residuals.isCurveFree = !neutrals.isCurveAssumed;
    VectorXd p = VectorXd::Zero(residuals.inputs());
    p[0] = neutrals.channelStops[0];
    p[1] = neutrals.channelStops[2];
    std::optional<LeastSquaresFit> fitted;
    for (int round = 0; round < kFitRounds; ++round) {
        fitted = leastSquares(std::cref(residuals), p, residuals.values(), {50, 1e-7});
        if (!fitted) return;
        p = fitted->parameters;
        if (round + 1 < kFitRounds) reweigh(fitted->residuals, residuals.trust);
    }
    m_curve = std::make_shared<const ToneCurve>(residuals.curveOf(p));
    m_mixing = mixingOf(p);
    m_gains = {std::exp2(p[0]), 1.0, std::exp2(p[1])};
    m_saturation = std::exp(p[kSaturationAt]);
    m_hueDegrees = p[kHueAt];
    m_errors = errorsOfFit(*fitted, seen.size());
    double sum = 0.0;
    for (const SeenBody& one : seen) {
        const Vector3d signal =
            colourMatrix(m_saturation, m_hueDegrees) * curved(*m_curve, toLight() * one.light);
        sum += (signal - one.signal).squaredNorm();
    }
    m_remainder = std::sqrt(sum / (3.0 * static_cast<double>(seen.size())));
}

std::array<double, 3> BodyModel::signalOf(const std::array<double, 3>& light) const {
    const Vector3d signal =
        colourMatrix(m_saturation, m_hueDegrees) *
        curved(*m_curve,
               toLight() * Vector3d(veiled(light[0]), veiled(light[1]), veiled(light[2])));
    return {signal[0], signal[1], signal[2]};
}

Vector3d BodyModel::lightOf(const std::array<double, 3>& signal) const {
    const Vector3d coded = colourMatrix(m_saturation, m_hueDegrees).inverse() *
                           Vector3d(signal[0], signal[1], signal[2]);
    Vector3d light;
    for (int c = 0; c < 3; ++c) light[c] = base::kMidGrey * std::exp2(m_curve->stopsAt(coded[c]));
    return (light - haze()) * (base::kMidGrey + m_veil) / base::kMidGrey;
}

std::array<double, 3> BodyModel::signalOfCoded(const Vector3d& light) const {
    const Vector3d before = light * base::kMidGrey / (base::kMidGrey + m_veil) + haze();
    const Vector3d signal = colourMatrix(m_saturation, m_hueDegrees) * curved(*m_curve, before);
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

namespace {

/// The curve with its contrast stretched about a middle grey, where such knobs pivot (common
/// practice), its foot lifted, and its light tones spread or drawn together.
ToneCurve curveTurned(const ToneCurve& curve, const Change& dial) {
    constexpr double kPivotSignal = 0.42;
    const double pivot = std::clamp(curve.stopsAt(kPivotSignal), -2.0, 2.0);
    const double stretch = std::exp(std::clamp(dial.contrast, -1.5, 1.5));
    const double black = dial.blackPercent / 100.0;
    std::vector<CurvePoint> points = curve.points();
    for (CurvePoint& point : points) {
        point.stops = pivot + (point.stops - pivot) / stretch;
        point.signal = black + (1.0 - black) * point.signal;
    }
    if (dial.knee == 0.0) return ToneCurve(points);
    // Knees of cameras begin at 70 to 90 % (common practice); the bend is a point of the curve.
    constexpr double kKneeSignal = 0.7;
    const ToneCurve straight(points);
    const double bend = straight.stopsAt(kKneeSignal);
    if (straight.isUsable() && straight.covers(bend)) points.push_back({bend, kKneeSignal});
    const double spread = std::exp(std::clamp(dial.knee, -1.5, 1.5));
    for (CurvePoint& point : points)
        point.signal = kKneeSignal +
                       (point.signal - kKneeSignal) * (point.signal > kKneeSignal ? spread : 1.0);
    return ToneCurve(points);
}

}  // namespace

BodyModel BodyModel::turned(const Change& dial) const {
    BodyModel next = *this;
    next.m_gains = gainsAfter(dial);
    next.m_white = whiteOfGains(next.m_gains, m_white);
    next.m_saturation *= std::exp(dial.saturation);
    next.m_hueDegrees += dial.hueDegrees;
    if (dial.contrast != 0.0 || dial.blackPercent != 0.0 || dial.knee != 0.0) {
        const ToneCurve curve = curveTurned(*m_curve, dial);
        if (curve.isUsable()) next.m_curve = std::make_shared<const ToneCurve>(curve);
    }
    return next;
}

/// The neutral of a chart under changed dials as fitNeutrals() would find it: green's signals are
/// the curve, red and blue lie on it, shifted.
BodyModel::Neutral BodyModel::neutralAt(const Change& dial, double referenceGrey) const {
    const BodyModel next = turned(dial);
    const Vector3d toLight = next.m_mixing * next.m_gains;
    const Matrix3d after = colourMatrix(next.m_saturation, next.m_hueDegrees);
    const auto signalAt = [&](double stops) -> Vector3d {
        return after * curved(*next.m_curve, toLight * veiled(base::kMidGrey * std::exp2(stops)));
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
    // Where grey lies at the reference's level: slope there, and black by as much less light.
    constexpr double kBlackStops = -2.533;  // the chart's black, 3.11 % against 18 %
    constexpr double kStep = 0.05;
    const double needed = stopsOf(referenceGrey);
    const double slope =
        (signalAt(needed + kStep)[1] - signalAt(needed - kStep)[1]) / (2.0 * kStep);
    return {-(needed - luminance),
            whiteOfGains(linear, m_white),
            std::log(std::max(slope, 1e-4)),
            100.0 * signalAt(needed + kBlackStops)[1]};
}

Change BodyModel::effectOf(const Change& dial, double referenceGrey) const {
    const Neutral before = neutralAt({}, referenceGrey);
    const Neutral after = neutralAt(dial, referenceGrey);
    Change effect = dial;
    effect.exposureStops = after.exposureStops - before.exposureStops;
    effect.whiteBalanceMired = (after.white.mired - before.white.mired).value();
    effect.tintDuv = (after.white.duv - before.white.duv).value();
    if (dial.contrast == 0.0 && dial.blackPercent == 0.0 && dial.knee == 0.0) return effect;
    effect.contrast = after.logSlope - before.logSlope;
    effect.blackPercent = after.blackPercent - before.blackPercent;
    return effect;
}

Change BodyModel::dialFor(const Change& wanted, double referenceGrey) const {
    // What is left of each of three numbers, which hardly mix, is turned again until nothing is;
    // saturation makes a change of the dial show larger.
    Change dial = wanted;
    for (int i = 0; i < 12; ++i) {
        const Change got = effectOf(dial, referenceGrey);
        Change left;
        for (const auto part :
             {&Change::exposureStops, &Change::whiteBalanceMired, &Change::tintDuv})
            left.*part = wanted.*part - got.*part;
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

/// A signal with saturation, hue and curve undone.
struct BodyModel::Map::Undone {
    Vector3d coded, light;
    Vector3d from;               ///< what the curve gives at `light`
    std::array<bool, 3> isDark;  ///< under the curve's foot
};

BodyModel::Map::Map(const BodyModel& model, const Change& dial) : m_curve(model.m_curve) {
    const BodyModel next = model.turned(dial);
    m_curveAfter = next.m_curve;
    m_after = colourMatrix(next.m_saturation, next.m_hueDegrees);
    const Matrix3d before = colourMatrix(model.m_saturation, model.m_hueDegrees);
    m_before = before.inverse();
    const Vector3d gain = next.m_gains.cwiseQuotient(model.m_gains);
    m_light = model.m_mixing * gain.asDiagonal() * model.m_mixing.inverse();
    m_black = dial.blackPercent / 100.0;
    m_isIdentity = m_curveAfter == m_curve &&
                   (m_light - Matrix3d::Identity()).cwiseAbs().maxCoeff() < 1e-9 &&
                   (m_after - before).cwiseAbs().maxCoeff() < 1e-9;
}

BodyModel::Map::Undone BodyModel::Map::undone(const std::array<double, 3>& signal) const {
    Undone seen;
    seen.coded = m_before * Vector3d(signal[0], signal[1], signal[2]);
    for (int c = 0; c < 3; ++c) {
        const double stops = m_curve->stopsAt(seen.coded[c]);
        seen.light[c] = base::kMidGrey * std::exp2(stops);
        seen.from[c] = m_curve->signalAt(stops);
        // Colours beyond the gamut lie under the pedestal: no light can be told for them.
        seen.isDark[static_cast<std::size_t>(c)] = stops < kDarkestStops;
    }
    return seen;
}

std::array<double, 3> BodyModel::Map::done(const Undone& seen) const {
    const Vector3d moved = m_light * seen.light;
    Vector3d after;
    for (int c = 0; c < 3; ++c) {
        if (seen.isDark[static_cast<std::size_t>(c)] || moved[c] < kLeastLight) {
            after[c] = m_black + (1.0 - m_black) * seen.coded[c];
        } else {
            after[c] = seen.coded[c] +
                       m_curveAfter->signalAt(std::log2(moved[c] / base::kMidGrey)) - seen.from[c];
        }
    }
    const Vector3d result = m_after * after;
    return {std::min(result[0], kHighestSignal),
            std::min(result[1], kHighestSignal),
            std::min(result[2], kHighestSignal)};
}

std::array<double, 3> BodyModel::Map::apply(const std::array<double, 3>& signal) const {
    return m_isIdentity ? signal : done(undone(signal));
}

PatchSignals BodyModel::predicted(const rig::Reading& reading, const Change& dial) const {
    const Map map(*this, dial);
    PatchSignals signals = signalsOf(reading);
    for (auto& signal : signals) signal = map.apply(signal);
    return signals;
}

Predictor::Predictor(const BodyModel& model, PatchSignals recorded)
    : m_model(model), m_signals(std::move(recorded)) {
    const BodyModel::Map map(model, {});
    for (const auto& signal : m_signals) m_undone.push_back(map.undone(signal));
}

Predictor::~Predictor() = default;

PatchSignals Predictor::at(const Change& dial) const {
    const BodyModel::Map map(m_model, dial);
    if (map.m_isIdentity) return m_signals;
    PatchSignals after;
    for (const auto& seen : m_undone) after.push_back(map.done(seen));
    return after;
}

}  // namespace rigmatch::match
