// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/transfer.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

namespace rigmatch::colour {
namespace {

constexpr double kGreyPivot = 0.409;           // BT.709 signal of 18 % grey
constexpr double kHlgDiffuseWhite = 0.264963;  // scene light E of 75 % signal, sources 11.2
constexpr double kHlgA = 0.17883277;
constexpr double kHlgB = 0.28466892;
constexpr double kHlgC = 0.55991073;

double bt709Encode(double linear) {
    return linear < 0.018 ? 4.5 * linear : 1.099 * std::pow(linear, 0.45) - 0.099;
}

double bt709Decode(double signal) {
    return signal < 0.081 ? signal / 4.5 : std::pow((signal + 0.099) / 1.099, 1.0 / 0.45);
}

double srgbEncode(double linear) {
    return linear <= 0.0031308 ? 12.92 * linear : 1.055 * std::pow(linear, 1.0 / 2.4) - 0.055;
}

double srgbDecode(double signal) {
    return signal <= 0.04045 ? signal / 12.92 : std::pow((signal + 0.055) / 1.055, 2.4);
}

/// Odd continuation: a pure power has no real value below zero.
double signedPower(double base, double exponent) {
    return std::copysign(std::pow(std::abs(base), exponent), base);
}

double hlgEncode(double linear) {
    const double e = linear * kHlgDiffuseWhite;
    if (e <= 1.0 / 12.0) return std::copysign(std::sqrt(3.0 * std::abs(e)), e);
    return kHlgA * std::log(12.0 * e - kHlgB) + kHlgC;
}

double hlgDecode(double signal) {
    const double e = signal <= 0.5 ? std::copysign(signal * signal / 3.0, signal)
                                   : (std::exp((signal - kHlgC) / kHlgA) + kHlgB) / 12.0;
    return e / kHlgDiffuseWhite;
}

double logTangent(const LogParameters& p) { return 1.0 / (p.spanStops * p.cut * std::log(2.0)); }

double logEncode(const LogParameters& p, double linear) {
    if (linear > p.cut) return (std::log2(linear) + p.offset) / p.spanStops;
    return (std::log2(p.cut) + p.offset) / p.spanStops + logTangent(p) * (linear - p.cut);
}

double logDecode(const LogParameters& p, double signal) {
    const double cutSignal = (std::log2(p.cut) + p.offset) / p.spanStops;
    if (signal > cutSignal) return std::exp2(signal * p.spanStops - p.offset);
    return p.cut + (signal - cutSignal) / logTangent(p);
}

double bendSlope(double bend, double g) {
    return 1.0 + 4.0 * bend * (-3.0 * g * g + 2.0 * (1.0 + kGreyPivot) * g - kGreyPivot);
}

/// The S about grey; straight beyond 0..1, so that it stays monotone everywhere.
double bendForward(double bend, double g) {
    if (g <= 0.0) return g * bendSlope(bend, 0.0);
    if (g >= 1.0) return 1.0 + (g - 1.0) * bendSlope(bend, 1.0);
    return g + 4.0 * bend * g * (1.0 - g) * (g - kGreyPivot);
}

double bendInverse(double bend, double s) {
    if (s <= 0.0) return s / bendSlope(bend, 0.0);
    if (s >= 1.0) return 1.0 + (s - 1.0) / bendSlope(bend, 1.0);
    double low = 0.0;
    double high = 1.0;
    double g = s;
    for (int step = 0; step < 60; ++step) {
        const double error = bendForward(bend, g) - s;
        if (std::abs(error) < 1e-15) break;
        (error > 0 ? high : low) = g;
        const double newton = g - error / bendSlope(bend, g);
        g = (newton > low && newton < high) ? newton : 0.5 * (low + high);
    }
    return g;
}

/// Straight through the points, continued by the end pieces.
double alongTable(const std::vector<double>& from, const std::vector<double>& to, double value) {
    const auto upper = std::upper_bound(from.begin(), from.end(), value);
    const auto last = static_cast<long>(from.size()) - 1;
    const auto i = static_cast<std::size_t>(std::clamp<long>(upper - from.begin(), 1, last) - 1);
    return to[i] + (value - from[i]) / (from[i + 1] - from[i]) * (to[i + 1] - to[i]);
}

}  // namespace

double TransferCurve::encode(double linear) const {
    switch (kind) {
        case CurveKind::Linear:
            return linear;
        case CurveKind::Bt709:
            return bt709Encode(linear);
        case CurveKind::Srgb:
            return srgbEncode(linear);
        case CurveKind::Bt1886:
            return signedPower(linear, 1.0 / 2.4);
        case CurveKind::Hlg:
            return hlgEncode(linear);
        case CurveKind::Log:
            return logEncode(log, linear);
        case CurveKind::Standard:
            return standard.pedestal +
                   (1.0 - standard.pedestal) * bendForward(standard.bend, bt709Encode(linear));
        case CurveKind::Table:
            return alongTable(table.linear, table.signal, linear);
    }
    return linear;
}

double TransferCurve::decode(double signal) const {
    switch (kind) {
        case CurveKind::Linear:
            return signal;
        case CurveKind::Bt709:
            return bt709Decode(signal);
        case CurveKind::Srgb:
            return srgbDecode(signal);
        case CurveKind::Bt1886:
            return signedPower(signal, 2.4);
        case CurveKind::Hlg:
            return hlgDecode(signal);
        case CurveKind::Log:
            return logDecode(log, signal);
        case CurveKind::Standard:
            return bt709Decode(bendInverse(
                standard.bend, (signal - standard.pedestal) / (1.0 - standard.pedestal)));
        case CurveKind::Table:
            return alongTable(table.signal, table.linear, signal);
    }
    return signal;
}

TransferCurve curveOf(CurveKind kind) {
    TransferCurve curve;
    curve.kind = kind;
    return curve;
}

std::string curveName(const TransferCurve& curve) {
    switch (curve.kind) {
        case CurveKind::Linear:
            return "linear";
        case CurveKind::Bt709:
            return "BT.709";
        case CurveKind::Srgb:
            return "sRGB";
        case CurveKind::Bt1886:
            return "BT.1886";
        case CurveKind::Hlg:
            return "HLG";
        case CurveKind::Log:
            return "log (" + base::fixed(curve.log.spanStops, 2) + " stops)";
        case CurveKind::Standard:
            return "standard";
        case CurveKind::Table:
            return curve.table.source;
    }
    return "unknown";
}

base::Result<TransferCurve> tableCurve(TableParameters points) {
    constexpr std::size_t kFewest = 4;
    const auto refuse = [&](const base::Text& detail) {
        return base::fail(base::ErrorCode::OutOfRange,
                          base::say("transfer.noCurve", {{"source", points.source}}),
                          detail,
                          base::say("transfer.giveLeastFour"));
    };
    if (points.signal.size() != points.linear.size() || points.signal.size() < kFewest)
        return refuse(base::say("transfer.signalsAndLight",
                                {{"signals", base::whole(points.signal.size())},
                                 {"values", base::whole(points.linear.size())}}));
    for (std::size_t i = 0; i < points.signal.size(); ++i) {
        const bool isRising = i == 0 || (points.signal[i] > points.signal[i - 1] &&
                                         points.linear[i] > points.linear[i - 1]);
        if (!isRising || !std::isfinite(points.signal[i]) || !std::isfinite(points.linear[i]))
            return refuse(base::say("transfer.notRising",
                                    {{"point", base::whole(i + 1)},
                                     {"signal", base::Number{points.signal[i], 4}},
                                     {"light", base::Number{points.linear[i], 5}}}));
    }
    TransferCurve curve = curveOf(CurveKind::Table);
    curve.table = std::move(points);
    return curve;
}

double bt1886Luminance(double signal, double white, double black) {
    const double whiteRoot = std::pow(white, 1.0 / 2.4);
    const double blackRoot = std::pow(black, 1.0 / 2.4);
    const double a = std::pow(whiteRoot - blackRoot, 2.4);
    const double b = blackRoot / (whiteRoot - blackRoot);
    return a * std::pow(std::max(signal + b, 0.0), 2.4);
}

}  // namespace rigmatch::colour
