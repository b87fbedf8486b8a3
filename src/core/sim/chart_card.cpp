// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/chart_card.h"

#include <algorithm>
#include <cmath>

#include "chart/pose_refine.h"

namespace rigmatch::sim {
namespace {

constexpr int kSamples = 4;  // per side of a pixel
constexpr int kMostSamples = 8;

struct CardColour {
    std::array<double, 3> linear{};
    bool isCard = false;
};

constexpr std::array<double, 3> kThumb{0.40, 0.24, 0.17};

/// The thumbs of whoever holds the card, on its lower border, clear of the patches.
bool isThumb(const ChartCard& card, double column, double row) {
    if (!card.isHeld) return false;
    const double edge = card.lastRow() + 0.5 * card.patchShare + card.border;
    for (const double middle : {0.9, card.lastColumn() - 0.9}) {
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
    if (column < -edge || row < -edge || column > card.lastColumn() + edge ||
        row > card.lastRow() + edge)
        return result;
    result.isCard = true;
    const double nearestColumn = std::clamp(std::round(column), 0.0, card.lastColumn());
    const double nearestRow = std::clamp(std::round(row), 0.0, card.lastRow());
    const double half = 0.5 * card.patchShare;
    const bool isPatch =
        std::abs(column - nearestColumn) <= half && std::abs(row - nearestRow) <= half;
    const double fall =
        std::exp2(-card.fallStopsAcross * (column / std::max(card.lastColumn(), 1.0) - 0.5) -
                  card.fallStopsDown * (row / std::max(card.lastRow(), 1.0) - 0.5));
    const auto patch = static_cast<std::size_t>(
        nearestRow * static_cast<double>(card.chart->columns) + nearestColumn);
    for (std::size_t c = 0; c < 3; ++c) {
        const double reflectance =
            isPatch ? card.chart->patches[patch].linear(static_cast<long>(c)) : card.surroundLinear;
        result.linear[c] = reflectance * card.light[c] * fall;
    }
    return result;
}

/// Which field of the card a place belongs to: equal answers mean equal colour, but for the fall of
/// light.
int fieldAt(const ChartCard& card, double column, double row) {
    const double edge = 0.5 * card.patchShare + card.border;
    if (isThumb(card, column, row)) return -3;
    if (column < -edge || row < -edge || column > card.lastColumn() + edge ||
        row > card.lastRow() + edge)
        return -2;
    const double nearestColumn = std::clamp(std::round(column), 0.0, card.lastColumn());
    const double nearestRow = std::clamp(std::round(row), 0.0, card.lastRow());
    const double half = 0.5 * card.patchShare;
    const bool isPatch =
        std::abs(column - nearestColumn) <= half && std::abs(row - nearestRow) <= half;
    return isPatch ? static_cast<int>(nearestRow * static_cast<double>(card.chart->columns) +
                                      nearestColumn)
                   : -1;
}

chart::ChartPose poseOf(const std::array<image::Point, 4>& corners, const ChartCard& card) {
    return {corners, card.patchShare, card.chart->columns, card.chart->rows};
}

struct PixelColour {
    std::array<double, 3> linear{};
    double share = 0.0;  // of the pixel that the card covers
};

PixelColour supersampled(
    const ChartCard& card, const image::Homography& toCard, int x, int y, double spread) {
    PixelColour pixel;
    int covered = 0;
    const int samples =
        std::clamp(static_cast<int>(std::ceil(1.5 * spread)), kSamples, kMostSamples);
    for (int s = 0; s < samples * samples; ++s) {
        const int column = s % samples, row = s / samples;
        const double dx = (column + 0.5) / samples - 0.5;
        const double dy = (row + 0.5) / samples - 0.5;
        const image::Point p = toCard.apply({x + dx * spread, y + dy * spread});
        const CardColour colour = colourAt(card, p.x, p.y);
        if (!colour.isCard) continue;
        ++covered;
        for (std::size_t c = 0; c < 3; ++c) pixel.linear[c] += colour.linear[c];
    }
    for (double& value : pixel.linear) value /= std::max(covered, 1);
    pixel.share = static_cast<double>(covered) / (samples * samples);
    return pixel;
}

}  // namespace

image::PixelRect chartRegion(const std::array<image::Point, 4>& corners,
                             const ChartCard& card,
                             int frameWidth,
                             int frameHeight) {
    const image::Homography toPicture = chart::roughMap(poseOf(corners, card));
    const double edge = 0.5 * card.patchShare + card.border + (card.isHeld ? 0.9 : 0.0);
    const double right = card.lastColumn() + edge;
    const double below = card.lastRow() + edge;
    double left = 1e9, top = 1e9, last = -1e9, bottom = -1e9;
    for (const image::Point p :
         {image::Point{-edge, -edge}, {right, -edge}, {right, below}, {-edge, below}}) {
        const image::Point q = toPicture.apply(p);
        left = std::min(left, q.x);
        last = std::max(last, q.x);
        top = std::min(top, q.y);
        bottom = std::max(bottom, q.y);
    }
    const double spread = 1.0 + card.blurPx;
    const int x0 = std::clamp(static_cast<int>(left - spread), 0, frameWidth);
    const int y0 = std::clamp(static_cast<int>(top - spread), 0, frameHeight);
    const int x1 = std::clamp(static_cast<int>(std::ceil(last + spread)) + 1, x0, frameWidth);
    const int y1 = std::clamp(static_cast<int>(std::ceil(bottom + spread)) + 1, y0, frameHeight);
    return {x0, y0, x1 - x0, y1 - y0};
}

void paintChart(image::Frame& linear,
                const std::array<image::Point, 4>& corners,
                const ChartCard& card) {
    const image::Homography toCard = chart::roughMap(poseOf(corners, card)).inverse();
    const image::PixelRect region = chartRegion(corners, card, linear.width, linear.height);
    const double spread = 1.0 + card.blurPx;
    const int reach = spread < 1.5 ? 0 : static_cast<int>(std::ceil(0.5 * card.blurPx));
    const auto columns = static_cast<std::size_t>(region.width + 2 * reach) + 1;
    // The field at the corners of what a pixel sees: where the four agree, it lies within one.
    std::vector<int> upper(columns);
    std::vector<int> lower(columns);
    const auto fillCorners = [&](std::vector<int>& fields, int y) {
        for (std::size_t i = 0; i < columns; ++i) {
            const image::Point p =
                toCard.apply({region.x - reach + static_cast<double>(i) - 0.5, y - 0.5});
            fields[i] = fieldAt(card, p.x, p.y);
        }
    };
    fillCorners(lower, region.y);
    for (int y = region.y; y < region.y + region.height; ++y) {
        std::swap(upper, lower);
        if (reach > 0) fillCorners(upper, y - reach);
        fillCorners(lower, y + 1 + reach);
        for (int x = region.x; x < region.x + region.width; ++x) {
            const auto i = static_cast<std::size_t>(x - region.x);
            const std::size_t last = i + 1 + 2 * static_cast<std::size_t>(reach);
            const int field = upper[i];
            const bool isOneField =
                field == upper[last] && field == lower[i] && field == lower[last];
            if (isOneField && field == -2) continue;
            PixelColour pixel{{}, 1.0};
            if (isOneField) {
                const image::Point p = toCard.apply({double(x), double(y)});
                pixel.linear = colourAt(card, p.x, p.y).linear;
            } else {
                pixel = supersampled(card, toCard, x, y, spread);
            }
            const std::size_t at =
                static_cast<std::size_t>(y) * static_cast<std::size_t>(linear.width) +
                static_cast<std::size_t>(x);
            for (std::size_t c = 0; c < 3; ++c) {
                float& value = linear.channels[c][at];
                value = static_cast<float>(double(value) * (1.0 - pixel.share) +
                                           pixel.linear[c] * pixel.share);
            }
        }
    }
}

}  // namespace rigmatch::sim
