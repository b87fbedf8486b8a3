// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <numbers>
#include <random>
#include <vector>

#include "chart/chart_definition.h"
#include "chart/patch_reader.h"
#include "image/frame.h"

namespace rigmatch::support {

/// Charts as cameras record them, drawn without the product's own camera, curve and coding: the
/// formulas stand here as they are published, so that nothing is checked against itself. Only the
/// values of the patches and the container of a frame are the product's.
struct OwnCamera {
    enum class Curve { Bt709, Gamma22, Hlg, LogA, LogB, Look, SoftLook };
    Curve curve = Curve::Bt709;
    double stops = 0.0;  ///< exposure against diffuse white at 1
    std::array<double, 3> gains{1.0, 1.0, 1.0};
    std::array<double, 9> matrix{1, 0, 0, 0, 1, 0, 0, 0, 1};  ///< sensor, rows sum to 1
    double saturation = 1.0;                                  ///< after the curve
    double hueDegrees = 0.0;
    double contrast = 1.0;         ///< after the curve, about `contrastPivot` …
    bool isContrastPower = false;  ///< … as a power of the signal, else as a straight stretch
    double contrastPivot = 0.45;
    double kneeSlope = 1.0;      ///< after contrast, of what lies above 70 % of signal
    double pedestal = 0.0;       ///< added to the signal
    double veil = 0.0;           ///< of white, added to the light (sheen)
    double veilFall = 0.0;       ///< how much less of it at the left edge, share
    double fadeFrom = 9.0;       ///< stops from grey from which colour fades …
    double fadePerStop = 0.0;    ///< … by that share a stop
    double cutAt = 9.0;          ///< signal at which a limiter cuts
    double localContrast = 0.0;  ///< stops per stop against the surroundings
    double acrossStops = 0.0, downStops = 0.0;  ///< light over the chart
    double readNoise = 0.002;                   ///< signal
    double photonNoise = 0.004;                 ///< signal at full light, grows with the root of it
    double noiseRadius = 0.0;                   ///< px by which noise reduction ties neighbours
    double rowNoise = 0.0;                      ///< signal, one value a row and frame
    double blurPx = 0.6;
    double sharpening = 0.0;  ///< unsharp mask, share
    int bitDepth = 10;
    bool isFullRange = false;
    int chromaShift = 1;
    double shineOnBlack = 0.0;  ///< light added to the black patch alone
};

/// Light (1 = diffuse white) to signal. BT.709: ITU-R BT.709-6 item 1.2; HLG: ITU-R BT.2100-2
/// table 5 with diffuse white at 75 % (BT.2408-7); LogA: a camera log of ten stops over 18 % grey
/// at 41 %; LogB: another with grey at 33 % (own parameters of the common form a log10(b x + c) +
/// d); Look and SoftLook: logistic display looks (own).
inline double ownSignal(OwnCamera::Curve curve, double light) {
    const double x = std::max(light, 0.0);
    switch (curve) {
        case OwnCamera::Curve::Bt709:
            return x < 0.018 ? 4.5 * x : 1.099 * std::pow(x, 0.45) - 0.099;
        case OwnCamera::Curve::Gamma22:
            return std::pow(x, 1.0 / 2.2);
        case OwnCamera::Curve::Hlg: {
            const double e = x * 0.26496;  // the scene light that HLG codes at 75 %
            return e <= 1.0 / 12.0 ? std::sqrt(3.0 * e)
                                   : 0.17883277 * std::log(12.0 * e - 0.28466892) + 0.55991073;
        }
        case OwnCamera::Curve::LogA:
            return 0.260000 * std::log10(6.0 * x + 0.06) + 0.395;
        case OwnCamera::Curve::LogB:
            return 0.310000 * std::log10(7.2 * x + 0.11) + 0.276;
        case OwnCamera::Curve::Look: {
            const double stops = std::log2(std::max(x, 1e-5) / 0.18);
            return 1.02 / (1.0 + std::exp(-0.86 * (stops + 0.35))) * 0.93 + 0.012;
        }
        case OwnCamera::Curve::SoftLook: {
            const double stops = std::log2(std::max(x, 1e-5) / 0.18);
            return 1.04 / (1.0 + std::exp(-0.66 * (stops + 0.30))) * 0.93 + 0.03;
        }
    }
    return 0.0;
}

namespace own {

inline constexpr int kPatchPx = 40;
inline constexpr int kMargin = 34;
inline constexpr int kWidth = 6 * kPatchPx + 2 * kMargin;
inline constexpr int kHeight = 4 * kPatchPx + 2 * kMargin;
inline constexpr double kPatchShare = 0.86;
using Triple = std::array<double, 3>;

/// Signal of one colour of light on this camera, without noise: matrix, exposure, gains, veil,
/// curve, then saturation and hue in BT.709 Y'CbCr, fading toward white, pedestal, limiter.
Triple signalOf(const OwnCamera& camera, const Triple& light, double veilShare = 1.0);

inline Triple lightOf(std::size_t patch) {
    const auto& linear = chart::nominalLinear()[patch];
    return {linear(0), linear(1), linear(2)};
}

/// Light of the patches at their places: falling light, local contrast against the neighbours, a
/// shining black.
Triple placedLight(const OwnCamera& camera, std::size_t patch);

struct Size {
    int width = kWidth;
    int height = kHeight;
};

void blur(std::vector<double>& plane, double radius, Size size = {});

/// Codes of R'G'B' signals: BT.709 luma and chroma, 4:2:0 by the mean of four, rounded.
image::CodedFrame coded(const std::array<std::vector<double>, 3>& rgb,
                        const OwnCamera& camera,
                        Size size = {});

}  // namespace own

/// Where ownFrame() draws the chart.
inline chart::ChartPose ownPose() {
    chart::ChartPose pose;
    pose.patchShare = own::kPatchShare;
    const double edge = 0.5 * (1.0 - own::kPatchShare) * own::kPatchPx;
    const double left = own::kMargin + edge - 0.5;
    const double top = own::kMargin + edge - 0.5;
    const double right = own::kMargin + 6 * own::kPatchPx - edge - 0.5;
    const double bottom = own::kMargin + 4 * own::kPatchPx - edge - 0.5;
    pose.corners = {image::Point{left, top}, {right, top}, {right, bottom}, {left, bottom}};
    return pose;
}

/// The chart on its dark card before a grey wall, without noise, in three planes.
std::array<std::vector<double>, 3> ownPicture(const OwnCamera& camera);

/// One frame with fresh noise: photon noise in the signal's own terms, tied between neighbours by
/// noise reduction (its size kept), and a part that is one value a row.
image::CodedFrame ownFrame(const std::array<std::vector<double>, 3>& picture,
                           const OwnCamera& camera,
                           std::mt19937& random,
                           own::Size size = {});

}  // namespace rigmatch::support
