// SPDX-License-Identifier: GPL-3.0-or-later
#include "face/skin_patch.h"

#include <algorithm>
#include <cmath>

#include "base/luma.h"
#include "image/robust.h"

namespace rigmatch::face {
namespace {

constexpr std::size_t kLeastPixels = 40;
constexpr double kReach = 2.5;  // robust deviations

bool isInside(const std::vector<image::Point>& outline, double x, double y) {
    bool isIn = false;
    for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
        const image::Point& a = outline[i];
        const image::Point& b = outline[j];
        if ((a.y > y) == (b.y > y)) continue;
        if (x < (b.x - a.x) * (y - a.y) / (b.y - a.y) + a.x) isIn = !isIn;
    }
    return isIn;
}

}  // namespace

std::optional<SkinPatch> skinPatch(const image::CodedFrame& frame,
                                   const std::vector<image::Point>& outline) {
    if (outline.size() < 3) return std::nullopt;
    image::PixelRect bounds = image::boundsOf(outline);
    const int left = std::clamp(bounds.x, 0, frame.width);
    const int top = std::clamp(bounds.y, 0, frame.height);
    bounds = {left,
              top,
              std::clamp(bounds.x + bounds.width, 0, frame.width) - left,
              std::clamp(bounds.y + bounds.height, 0, frame.height) - top};
    if (bounds.width < 2 || bounds.height < 2) return std::nullopt;
    const image::Frame signal = image::signalFrame(frame, bounds);
    const double clip = image::clipSignal(frame);
    std::vector<std::array<double, 3>> pixels;
    std::vector<double> brightness;
    int clipped = 0;
    int all = 0;
    for (int y = 0; y < signal.height; ++y) {
        for (int x = 0; x < signal.width; ++x) {
            if (!isInside(outline, bounds.x + x, bounds.y + y)) continue;
            ++all;
            const std::array<double, 3> pixel{
                double(signal.at(0, x, y)), double(signal.at(1, x, y)), double(signal.at(2, x, y))};
            if (*std::max_element(pixel.begin(), pixel.end()) >= clip) {
                ++clipped;
                continue;
            }
            pixels.push_back(pixel);
            brightness.push_back(base::lumaOf(pixel));
        }
    }
    if (pixels.size() < kLeastPixels) return std::nullopt;
    const double middle = image::median(brightness);
    const double reach = kReach * std::max(image::robustSigma(brightness), 0.004);
    std::array<std::vector<double>, 3> kept;
    for (std::size_t i = 0; i < pixels.size(); ++i) {
        if (std::abs(brightness[i] - middle) > reach) continue;
        for (std::size_t c = 0; c < 3; ++c) kept[c].push_back(pixels[i][c]);
    }
    if (kept[0].size() < kLeastPixels) return std::nullopt;
    SkinPatch patch;
    patch.pixels = static_cast<int>(kept[0].size());
    patch.clippedShare = static_cast<double>(clipped) / all;
    for (std::size_t c = 0; c < 3; ++c) {
        const image::MeanSigma mean = image::meanSigma(kept[c]);
        patch.signal[c] = mean.mean;
        // Noise reduction in the camera ties neighbours together: a quarter of them counts.
        patch.standardError[c] = mean.sigma / std::sqrt(0.25 * static_cast<double>(kept[c].size()));
    }
    return patch;
}

}  // namespace rigmatch::face
