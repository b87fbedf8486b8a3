// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>

#include "sim/camera_model.h"
#include "sim/chart_card.h"

namespace rigmatch::support {

/// A grey wall with a reference at `corners`, as a nominal BT.709 camera records it.
inline image::CodedFrame chartFrame(
    const std::array<image::Point, 4>& corners,
    double gain = 1.0,
    int bitDepth = 10,
    const chart::ReferenceChart& chart = chart::classicChart(),
    colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Bt709)) {
    image::Frame linear = image::blankFrame(1280, 720);
    for (auto& channel : linear.channels) std::fill(channel.begin(), channel.end(), 0.10F);
    sim::ChartCard card;
    card.light = {gain, gain, gain};
    card.chart = &chart;
    card.patchShare = chart.patchShare;
    sim::paintChart(linear, corners, card);
    rig::Camera camera;
    camera.settings = sim::nominalSettings();
    camera.settings.profile = "none";
    rig::SimulatedBody body;
    body.curve = std::move(curve);
    body.vignetteStops = 0.0;
    body.noiseAtBase = 0.001;
    camera.simulated = body;
    return image::codedFromSignal(sim::CameraModel(camera).develop(linear, 3), {}, bitDepth, 1);
}

/// Corners of a field of that size, px, turned about the middle of the picture.
inline std::array<image::Point, 4> turnedField(double width, double height, double degrees) {
    const double x = 0.5 * width;
    const double y = 0.5 * height;
    std::array<image::Point, 4> corners{image::Point{-x, -y}, {x, -y}, {x, y}, {-x, y}};
    const double angle = degrees * 3.14159265358979 / 180.0;
    for (image::Point& p : corners) {
        p = {640 + p.x * std::cos(angle) - p.y * std::sin(angle),
             360 + p.x * std::sin(angle) + p.y * std::cos(angle)};
    }
    return corners;
}

}  // namespace rigmatch::support
