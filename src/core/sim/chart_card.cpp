// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/chart_card.h"

#include <algorithm>
#include <cmath>

#include "chart/pose_refine.h"

namespace rigmatch::sim {
namespace {

constexpr int kSamples = 4;  // per side of a pixel

struct CardColour {
    std::array<double, 3> linear{};
    bool isCard = false;
};

constexpr std::array<double, 3> kThumb{0.40, 0.24, 0.17};

/// The thumbs of whoever holds the card, on its lower border, clear of the patches.
bool isThumb(const ChartCard& card, double column, double row) {
    if (!card.isHeld) return false;
    const double edge = 3.0 + 0.5 * card.patchShare + card.border;
    for (const double middle : {0.9, 4.1}) {
        const double x = (column - middle) / 0.24;
        const double y = (row - edge - 0.12) / 0.36;
        if (x * x + y * y < 1.0) return true;
        // The fist below it.
        const double fx = (column - middle) / 0.62;
        const double fy = (row - edge - 0.42) / 0.42;
        if (fx * fx + fy * fy < 1.0 && row > edge) return true;
    }
    return false;
}

/// What the card shows at chart coordinates (patch centres on whole numbers).
CardColour colourAt(const ChartCard& card, double column, double row) {
    CardColour result;
    const double edge = 0.5 * card.patchShare + card.border;
    if (isThumb(card, column, row)) {
        result.isCard = true;
        for (std::size_t c = 0; c < 3; ++c) result.linear[c] = kThumb[c] * card.light[c];
        return result;
    }
    if (column < -edge || row < -edge || column > 5.0 + edge || row > 3.0 + edge) return result;
    result.isCard = true;
    const double nearestColumn = std::clamp(std::round(column), 0.0, 5.0);
    const double nearestRow = std::clamp(std::round(row), 0.0, 3.0);
    const double half = 0.5 * card.patchShare;
    const bool isPatch = std::abs(column - nearestColumn) <= half && std::abs(row - nearestRow) <= half;
    const double fall = std::exp2(-card.fallStopsAcross * (column / 5.0 - 0.5) - card.fallStopsDown * (row / 3.0 - 0.5));
    const auto patch = static_cast<std::size_t>(nearestRow * 6.0 + nearestColumn);
    for (std::size_t c = 0; c < 3; ++c) {
        const double reflectance =
            isPatch ? chart::nominalLinear()[patch](static_cast<long>(c)) : card.surroundLinear;
        result.linear[c] = reflectance * card.light[c] * fall;
    }
    return result;
}

}  // namespace

void paintChart(image::Frame& linear, const std::array<image::Point, 4>& corners, const ChartCard& card) {
    const chart::ChartPose pose{corners, card.patchShare};
    const image::Homography toPicture = chart::roughMap(pose);
    const image::Homography toCard = toPicture.inverse();
    const double edge = 0.5 * card.patchShare + card.border + (card.isHeld ? 0.9 : 0.0);
    double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
    for (const image::Point p : {image::Point{-edge, -edge}, {5 + edge, -edge}, {5 + edge, 3 + edge}, {-edge, 3 + edge}}) {
        const image::Point q = toPicture.apply(p);
        left = std::min(left, q.x);
        right = std::max(right, q.x);
        top = std::min(top, q.y);
        bottom = std::max(bottom, q.y);
    }
    const double spread = 1.0 + card.blurPx;
    const int x1 = std::min(static_cast<int>(std::ceil(right + spread)), linear.width - 1);
    const int y1 = std::min(static_cast<int>(std::ceil(bottom + spread)), linear.height - 1);
    for (int y = std::max(static_cast<int>(top - spread), 0); y <= y1; ++y) {
        for (int x = std::max(static_cast<int>(left - spread), 0); x <= x1; ++x) {
            std::array<double, 3> sum{};
            int covered = 0;
            for (int s = 0; s < kSamples * kSamples; ++s) {
                const double dx = ((s % kSamples) + 0.5) / kSamples - 0.5;
                const double dy = ((s / kSamples) + 0.5) / kSamples - 0.5;
                const image::Point p = toCard.apply({x + dx * spread, y + dy * spread});
                const CardColour colour = colourAt(card, p.x, p.y);
                if (!colour.isCard) continue;
                ++covered;
                for (std::size_t c = 0; c < 3; ++c) sum[c] += colour.linear[c];
            }
            if (covered == 0) continue;
            const double share = static_cast<double>(covered) / (kSamples * kSamples);
            const std::size_t at = static_cast<std::size_t>(y) * static_cast<std::size_t>(linear.width) +
                                   static_cast<std::size_t>(x);
            for (std::size_t c = 0; c < 3; ++c) {
                float& value = linear.channels[c][at];
                value = static_cast<float>(double(value) * (1.0 - share) + sum[c] / covered * share);
            }
        }
    }
}

}  // namespace rigmatch::sim
