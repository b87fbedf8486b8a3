// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/random_frames.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/constants.h"
#include "colour/transfer.h"
#include "rig/rig.h"
#include "sim/camera_model.h"
#include "sim/chart_card.h"
#include "sim/clutter.h"
#include "sim/ray_scene.h"

namespace rigmatch::sim {
namespace {

/// Projects a chart of unit width, tilted and rolled, so that it spans `share` of the frame if seen
/// straight.
std::array<image::Point, 4> posedChart(Random& random,
                                       const RandomFrameOptions& options,
                                       double share,
                                       double patchShare,
                                       double& tiltDegrees) {
    const double view = random.between(20.0, 70.0) * base::kRadiansPerDegree;
    const double focalPx = 0.5 * options.width / std::tan(0.5 * view);
    tiltDegrees = random.between(0.0, options.largestTiltDegrees);
    const double axisAngle = random.between(0.0, 2.0 * std::numbers::pi);
    const Vec axis(std::cos(axisAngle), std::sin(axisAngle), 0.0);
    const Eigen::Matrix3d turn =
        (Eigen::AngleAxisd(tiltDegrees * base::kRadiansPerDegree, axis) *
         Eigen::AngleAxisd(random.between(0.0, 2.0 * std::numbers::pi), Vec::UnitZ()))
            .toRotationMatrix();
    const double ratio = (3.0 + patchShare) / (5.0 + patchShare);
    const std::array<Vec, 4> corners{Vec(-0.5, -0.5 * ratio, 0),
                                     {0.5, -0.5 * ratio, 0},
                                     {0.5, 0.5 * ratio, 0},
                                     {-0.5, 0.5 * ratio, 0}};
    for (int attempt = 0;; ++attempt) {
        const double distance = focalPx / (share * options.width);
        std::array<image::Point, 4> quad;
        double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
        for (std::size_t i = 0; i < 4; ++i) {
            const Vec p = turn * corners[i] + Vec(0, 0, distance);
            quad[i] = {focalPx * p.x() / p.z(), focalPx * p.y() / p.z()};
            left = std::min(left, quad[i].x);
            right = std::max(right, quad[i].x);
            top = std::min(top, quad[i].y);
            bottom = std::max(bottom, quad[i].y);
        }
        const double margin = 0.06 * (right - left) + 6.0;
        const double roomX = options.width - (right - left) - 2.0 * margin;
        const double roomY = options.height - (bottom - top) - 2.0 * margin;
        if ((roomX < 0.0 || roomY < 0.0) && attempt < 60) {
            share *= 0.95;
            continue;
        }
        const double shiftX = margin - left + random.unit() * std::max(roomX, 0.0);
        const double shiftY = margin - top + random.unit() * std::max(roomY, 0.0);
        for (image::Point& p : quad) p = {p.x + shiftX, p.y + shiftY};
        return quad;
    }
}

colour::TransferCurve randomCurve(Random& random) {
    switch (random.whole(0, 5)) {
        case 0:
            return colour::curveOf(colour::CurveKind::Bt709);
        case 1:
            return colour::curveOf(colour::CurveKind::Srgb);
        case 2:
            return colour::curveOf(colour::CurveKind::Hlg);
        case 3:
            return colour::curveOf(colour::CurveKind::Log);
        default:
            break;
    }
    colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Standard);
    curve.standard = {random.between(0.05, 0.3), random.between(-0.02, 0.05)};
    return curve;
}

rig::Camera randomCamera(Random& random) {
    rig::Camera camera;
    camera.settings = nominalSettings();
    camera.settings.profile = "none";
    rig::SimulatedBody body;
    body.curve = randomCurve(random);
    body.sensitivityStops =
        random.between(-1.0, body.curve.kind == colour::CurveKind::Log ? 1.0 : 0.35);
    body.warmthMired = random.between(-60.0, 60.0);
    body.tintDuv = random.between(-0.012, 0.012);
    body.saturation = random.between(0.75, 1.25);
    body.crosstalk = random.between(0.0, 0.08);
    body.noiseAtBase = random.between(0.0008, 0.006);
    body.vignetteStops = random.between(0.0, 0.7);
    camera.simulated = body;
    return camera;
}

/// Softens the whole picture with two box passes, as a lens out of focus does.
void soften(image::Frame& frame, double radiusPx) {
    const int radius = static_cast<int>(std::lround(radiusPx));
    if (radius < 1) return;
    std::vector<float> line;
    const auto pass = [&](std::vector<float>& values,
                          std::size_t start,
                          std::size_t stride,
                          int count) {
        line.resize(static_cast<std::size_t>(count));
        float sum = 0.0F;
        const auto at = [&](int i) {
            return values[start + static_cast<std::size_t>(std::clamp(i, 0, count - 1)) * stride];
        };
        for (int i = -radius; i <= radius; ++i) sum += at(i);
        for (int i = 0; i < count; ++i) {
            line[static_cast<std::size_t>(i)] = sum / static_cast<float>(2 * radius + 1);
            sum += at(i + radius + 1) - at(i - radius);
        }
        for (int i = 0; i < count; ++i)
            values[start + static_cast<std::size_t>(i) * stride] =
                line[static_cast<std::size_t>(i)];
    };
    const auto width = static_cast<std::size_t>(frame.width);
    for (auto& channel : frame.channels) {
        for (std::size_t y = 0; y < static_cast<std::size_t>(frame.height); ++y)
            pass(channel, y * width, 1, frame.width);
        for (std::size_t x = 0; x < width; ++x) pass(channel, x, width, frame.height);
    }
}

}  // namespace

RandomFrame randomFrame(std::uint64_t seed, const RandomFrameOptions& options) {
    Random random(seed * 0x51ED2701U + 17U);
    RandomFrame result;
    image::Frame linear = image::blankFrame(options.width, options.height);
    paintClutter(linear, random);
    const rig::Camera camera = randomCamera(random);
    if (options.hasChart) {
        ChartCard card;
        card.patchShare = random.between(0.80, 0.90);
        card.border = random.between(0.15, 0.45);
        card.surroundLinear = random.between(0.02, 0.05);
        card.fallStopsAcross = random.between(-0.5, 0.5);
        card.fallStopsDown = random.between(-0.4, 0.4);
        result.share = options.smallestShare *
                       std::pow(options.largestShare / options.smallestShare, random.unit());
        result.corners =
            posedChart(random, options, result.share, card.patchShare, result.tiltDegrees);
        paintChart(linear, result.corners, card);
    }
    // Focus and motion soften small charts least, or nothing of them would be left.
    const double patchPx = options.hasChart ? result.share * options.width / 6.0 : 60.0;
    result.blurPx =
        random.chance(0.4) ? random.between(0.5, std::clamp(0.035 * patchPx, 0.6, 3.0)) : 0.0;
    soften(linear, result.blurPx);
    result.curve = colour::curveName(camera.simulated->curve);
    result.noise = camera.simulated->noiseAtBase;
    image::SignalTags tags;
    tags.isRangeTagged = true;
    result.frame = image::codedFromSignal(
        CameraModel(camera).develop(linear, random.next()), tags, random.chance(0.5) ? 8 : 10, 1);
    return result;
}

}  // namespace rigmatch::sim
