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
    double pedestal = 0.0;                      ///< added to the signal
    double veil = 0.0;                          ///< of white, added to the light (sheen)
    double veilFall = 0.0;                      ///< how much less of it at the left edge, share
    double fadeFrom = 9.0;                      ///< stops from grey from which colour fades …
    double fadePerStop = 0.0;                   ///< … by that share a stop
    double cutAt = 9.0;                         ///< signal at which a limiter cuts
    double localContrast = 0.0;                 ///< stops per stop against the surroundings
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
inline Triple signalOf(const OwnCamera& camera, const Triple& light, double veilShare = 1.0) {
    Triple coded{};
    for (std::size_t row = 0; row < 3; ++row) {
        double mixed = 0.0;
        for (std::size_t c = 0; c < 3; ++c) mixed += camera.matrix[3 * row + c] * light[c];
        const double exposed =
            (std::max(mixed, 0.0) * camera.gains[row]) * std::exp2(camera.stops) +
            camera.veil * veilShare;
        coded[row] = ownSignal(camera.curve, exposed);
        if (camera.contrast != 1.0) {
            const double share = coded[row] / camera.contrastPivot;
            coded[row] = camera.contrastPivot *
                         (camera.isContrastPower ? std::pow(std::max(share, 0.0), camera.contrast)
                                                 : 1.0 + camera.contrast * (share - 1.0));
        }
    }
    const double luma = 0.2126 * coded[0] + 0.7152 * coded[1] + 0.0722 * coded[2];
    const double bright =
        std::log2(std::max(0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2], 1e-5) / 0.18);
    const double kept =
        std::clamp(1.0 - camera.fadePerStop * std::max(0.0, bright - camera.fadeFrom), 0.0, 1.0);
    const double angle = camera.hueDegrees * std::numbers::pi / 180.0;
    const double cb = kept * camera.saturation * (coded[2] - luma) / 1.8556;
    const double cr = kept * camera.saturation * (coded[0] - luma) / 1.5748;
    const double cb2 = cb * std::cos(angle) - cr * std::sin(angle);
    const double cr2 = cb * std::sin(angle) + cr * std::cos(angle);
    Triple signal{luma + 1.5748 * cr2, 0.0, luma + 1.8556 * cb2};
    signal[1] = (luma - 0.2126 * signal[0] - 0.0722 * signal[2]) / 0.7152;
    for (double& value : signal) value = std::min(value + camera.pedestal, camera.cutAt);
    return signal;
}

inline Triple lightOf(std::size_t patch) {
    const auto& linear = chart::nominalLinear()[patch];
    return {linear(0), linear(1), linear(2)};
}

/// Light of the patches at their places: falling light, local contrast against the neighbours, a
/// shining black.
inline Triple placedLight(const OwnCamera& camera, std::size_t patch) {
    const double x = static_cast<double>(patch % 6) / 5.0 - 0.5;
    const double y = static_cast<double>(patch / 6) / 3.0 - 0.5;
    Triple light = lightOf(patch);
    double stops = camera.acrossStops * x + camera.downStops * y;
    if (camera.localContrast != 0.0) {
        const auto stopsAt = [](int column, int row) {
            if (column < 0 || row < 0 || column > 5 || row > 3) return std::log2(0.045 / 0.18);
            const Triple l = lightOf(static_cast<std::size_t>(row * 6 + column));
            return std::log2((0.2126 * l[0] + 0.7152 * l[1] + 0.0722 * l[2]) / 0.18);
        };
        const int column = static_cast<int>(patch % 6);
        const int row = static_cast<int>(patch / 6);
        double around = 0.0;
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx)
                if (dx != 0 || dy != 0) around += stopsAt(column + dx, row + dy) / 8.0;
        stops += camera.localContrast * (stopsAt(column, row) - around);
    }
    for (double& value : light) value *= std::exp2(stops);
    if (patch == 23)
        for (double& value : light) value += camera.shineOnBlack;
    return light;
}

struct Size {
    int width = kWidth;
    int height = kHeight;
};

inline void blur(std::vector<double>& plane, double radius, Size size = {}) {
    if (radius <= 0.05) return;
    const int reach = std::max(1, static_cast<int>(std::ceil(2.5 * radius)));
    std::vector<double> kernel;
    double sum = 0.0;
    for (int i = -reach; i <= reach; ++i) {
        kernel.push_back(std::exp(-0.5 * i * i / (radius * radius)));
        sum += kernel.back();
    }
    std::vector<double> other(plane.size());
    for (const bool isAcross : {true, false}) {
        for (int y = 0; y < size.height; ++y) {
            for (int x = 0; x < size.width; ++x) {
                double value = 0.0;
                for (int i = -reach; i <= reach; ++i) {
                    const int px = isAcross ? std::clamp(x + i, 0, size.width - 1) : x;
                    const int py = isAcross ? y : std::clamp(y + i, 0, size.height - 1);
                    value += kernel[static_cast<std::size_t>(i + reach)] *
                             plane[static_cast<std::size_t>(py * size.width + px)];
                }
                other[static_cast<std::size_t>(y * size.width + x)] = value / sum;
            }
        }
        plane.swap(other);
    }
}

/// Codes of R'G'B' signals: BT.709 luma and chroma, 4:2:0 by the mean of four, rounded.
inline image::CodedFrame coded(const std::array<std::vector<double>, 3>& rgb,
                               const OwnCamera& camera,
                               Size size = {}) {
    struct Planes {
        std::array<std::vector<std::uint16_t>, 3> wide;
        std::array<std::vector<std::uint8_t>, 3> narrow;
    };
    auto owner = std::make_shared<Planes>();
    const double unit = std::exp2(camera.bitDepth - 8);
    const double top = std::exp2(camera.bitDepth) - 1.0;
    const double black = camera.isFullRange ? 0.0 : 16.0 * unit;
    const double span = camera.isFullRange ? top : 219.0 * unit;
    const double chromaSpan = camera.isFullRange ? top : 224.0 * unit;
    const int shift = camera.chromaShift;
    image::CodedFrame frame;
    frame.width = size.width;
    frame.height = size.height;
    frame.bitDepth = camera.bitDepth;
    frame.samples =
        camera.bitDepth > 8 ? image::SampleKind::Unsigned16 : image::SampleKind::Unsigned8;
    frame.chromaShiftX = frame.chromaShiftY = shift;
    frame.tags.range = camera.isFullRange ? image::Range::Full : image::Range::Limited;
    frame.tags.isRangeTagged = frame.tags.isMatrixTagged = true;
    for (std::size_t plane = 0; plane < 3; ++plane) {
        const int step = plane == 0 ? 1 : 1 << shift;
        const int width = (size.width + step - 1) / step;
        const int height = (size.height + step - 1) / step;
        for (int y = 0; y < height; ++y) {
            for (int x = 0; x < width; ++x) {
                double sum = 0.0;
                for (int dy = 0; dy < step; ++dy) {
                    for (int dx = 0; dx < step; ++dx) {
                        const auto at = static_cast<std::size_t>(
                            std::min(y * step + dy, size.height - 1) * size.width +
                            std::min(x * step + dx, size.width - 1));
                        const double r = rgb[0][at], g = rgb[1][at], b = rgb[2][at];
                        const double luma = 0.2126 * r + 0.7152 * g + 0.0722 * b;
                        sum += plane == 0   ? luma
                               : plane == 1 ? (b - luma) / 1.8556
                                            : (r - luma) / 1.5748;
                    }
                }
                const double mean = sum / (step * step);
                const double code =
                    plane == 0 ? black + span * mean : 128.0 * unit + chromaSpan * mean;
                const double kept = std::clamp(std::round(code), 0.0, top);
                if (camera.bitDepth > 8)
                    owner->wide[plane].push_back(static_cast<std::uint16_t>(kept));
                else
                    owner->narrow[plane].push_back(static_cast<std::uint8_t>(kept));
            }
        }
        const auto* data = camera.bitDepth > 8
                               ? reinterpret_cast<const std::byte*>(owner->wide[plane].data())
                               : reinterpret_cast<const std::byte*>(owner->narrow[plane].data());
        frame.planes[plane] = {data,
                               static_cast<std::ptrdiff_t>(width) * (camera.bitDepth > 8 ? 2 : 1),
                               width,
                               height};
    }
    frame.owner = owner;
    return frame;
}

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
inline std::array<std::vector<double>, 3> ownPicture(const OwnCamera& camera) {
    using namespace own;
    std::array<std::vector<double>, 3> picture;
    for (auto& plane : picture) plane.resize(static_cast<std::size_t>(kWidth * kHeight));
    const Triple wall = signalOf(camera, {0.12, 0.12, 0.12});
    const Triple card = signalOf(camera, {0.045, 0.045, 0.045});
    for (int y = 0; y < kHeight; ++y) {
        for (int x = 0; x < kWidth; ++x) {
            Triple signal = wall;
            const double px = (x + 0.5 - kMargin) / kPatchPx;
            const double py = (y + 0.5 - kMargin) / kPatchPx;
            if (px > -0.35 && py > -0.35 && px < 6.35 && py < 4.35) signal = card;
            const double inX = px - std::floor(px) - 0.5;
            const double inY = py - std::floor(py) - 0.5;
            const bool isPatch = px >= 0.0 && py >= 0.0 && px < 6.0 && py < 4.0 &&
                                 std::abs(inX) < 0.5 * kPatchShare &&
                                 std::abs(inY) < 0.5 * kPatchShare;
            if (isPatch) {
                const auto patch = static_cast<std::size_t>(py) * 6 + static_cast<std::size_t>(px);
                const double along = 1.0 - camera.veilFall * (1.0 - px / 6.0);
                signal = signalOf(camera, placedLight(camera, patch), along);
            }
            for (std::size_t c = 0; c < 3; ++c)
                picture[c][static_cast<std::size_t>(y * kWidth + x)] = signal[c];
        }
    }
    for (auto& plane : picture) {
        blur(plane, camera.blurPx);
        if (camera.sharpening > 0.0) {
            std::vector<double> soft = plane;
            blur(soft, 1.2);
            for (std::size_t i = 0; i < plane.size(); ++i)
                plane[i] += camera.sharpening * (plane[i] - soft[i]);
        }
    }
    return picture;
}

/// One frame with fresh noise: photon noise in the signal's own terms, tied between neighbours by
/// noise reduction (its size kept), and a part that is one value a row.
inline image::CodedFrame ownFrame(const std::array<std::vector<double>, 3>& picture,
                                  const OwnCamera& camera,
                                  std::mt19937& random,
                                  own::Size size = {}) {
    using namespace own;
    std::normal_distribution<double> normal;
    std::array<std::vector<double>, 3> noisy = picture;
    std::vector<double> rows(static_cast<std::size_t>(size.height));
    for (double& value : rows) value = camera.rowNoise * normal(random);
    for (auto& plane : noisy) {
        std::vector<double> noise(plane.size());
        for (double& value : noise) value = normal(random);
        // A Gaussian of radius r keeps 1 / (2 sqrt(pi) r) of white noise's deviation.
        if (camera.noiseRadius > 0.0) blur(noise, camera.noiseRadius, size);
        const double kept = camera.noiseRadius > 0.05
                                ? 2.0 * std::sqrt(std::numbers::pi) * camera.noiseRadius
                                : 1.0;
        for (std::size_t i = 0; i < plane.size(); ++i) {
            const double deviation =
                std::sqrt(camera.readNoise * camera.readNoise +
                          camera.photonNoise * camera.photonNoise * std::clamp(plane[i], 0.0, 1.0));
            plane[i] +=
                kept * deviation * noise[i] + rows[i / static_cast<std::size_t>(size.width)];
            plane[i] = std::min(plane[i], std::max(camera.cutAt, -1.0));
        }
    }
    return coded(noisy, camera, size);
}

}  // namespace rigmatch::support
