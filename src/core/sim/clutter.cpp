// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/clutter.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace rigmatch::sim {
namespace {

using Colour = std::array<float, 3>;

enum class Pattern {
    Gradient,
    Shelf,
    Window,
    Tiles,
    Keyboard,
    Checks,
    Plaid,
    Swatches,
    Bricks,
    Lamp,
    Count
};

/// A value that belongs to a cell of a grid: the same cell always gives the same number.
double cellValue(std::uint64_t seed, int column, int row, int which) {
    Random random(seed + static_cast<std::uint64_t>(column + 1000) * 73856093U +
                  static_cast<std::uint64_t>(row + 1000) * 19349663U +
                  static_cast<std::uint64_t>(which) * 83492791U);
    return random.unit();
}

Colour cellColour(std::uint64_t seed, int column, int row, double saturation) {
    const double level = 0.03 + 0.6 * std::pow(cellValue(seed, column, row, 0), 1.7);
    Colour colour{};
    for (int c = 0; c < 3; ++c) {
        const double own = std::pow(cellValue(seed, column, row, c + 1), 1.5);
        colour[static_cast<std::size_t>(c)] =
            static_cast<float>(level * (1.0 - saturation) + 0.7 * own * saturation);
    }
    return colour;
}

/// One flat thing in the picture, seen in perspective.
struct Layer {
    Pattern pattern = Pattern::Gradient;
    image::Homography toLayer;  // picture px to 0..1 on the thing
    std::uint64_t seed = 0;
    int columns = 6;
    int rows = 4;
    double gap = 0.12;
    Colour base{};
    Colour other{};
    double saturation = 0.5;
};

bool isInGap(double place, double gap) {
    const double inCell = place - std::floor(place);
    return inCell < 0.5 * gap || inCell > 1.0 - 0.5 * gap;
}

Colour mixed(const Colour& a, const Colour& b, double share) {
    Colour colour{};
    for (std::size_t c = 0; c < 3; ++c)
        colour[c] = static_cast<float>(double(a[c]) * (1.0 - share) + double(b[c]) * share);
    return colour;
}

Colour scaled(const Colour& a, double factor) {
    return {static_cast<float>(double(a[0]) * factor),
            static_cast<float>(double(a[1]) * factor),
            static_cast<float>(double(a[2]) * factor)};
}

Colour layerColour(const Layer& layer, double u, double v) {
    const double x = u * layer.columns;
    const double y = v * layer.rows;
    const int column = static_cast<int>(std::floor(x));
    const int row = static_cast<int>(std::floor(y));
    const bool isGap = isInGap(x, layer.gap) || isInGap(y, layer.gap);
    switch (layer.pattern) {
        case Pattern::Gradient:
            return mixed(layer.base, layer.other, 0.5 * (u + v));
        case Pattern::Shelf: {
            const double width = 0.35 + 0.6 * cellValue(layer.seed, column, row, 5);
            const double height = 0.2 + 0.5 * cellValue(layer.seed, column, row, 6);
            const bool isBook = x - column < width && (y - row) > height * 0.5 && !isInGap(y, 0.12);
            return isBook ? cellColour(layer.seed, column, row, 0.7) : scaled(layer.base, 0.5);
        }
        case Pattern::Window:
            return isGap ? layer.base : scaled(layer.other, 2.0 + 0.3 * std::sin(5.0 * u));
        case Pattern::Tiles: {
            const double shade = 0.85 + 0.3 * cellValue(layer.seed, column, row, 0);
            return isGap ? layer.other : scaled(layer.base, shade);
        }
        case Pattern::Keyboard:
            return isGap ? scaled(layer.base, 0.3) : scaled(layer.base, 0.9 + 0.2 * (y - row));
        case Pattern::Checks:
            return (column + row) % 2 == 0 ? layer.base : layer.other;
        case Pattern::Plaid: {
            const double share = 0.5 + 0.25 * std::sin(6.28 * x) + 0.25 * std::sin(6.28 * y);
            return mixed(layer.base, layer.other, share);
        }
        case Pattern::Swatches:
            return isGap ? layer.base : cellColour(layer.seed, column, row, layer.saturation);
        case Pattern::Bricks: {
            const double shifted = x + (row % 2 == 0 ? 0.0 : 0.5);
            return isInGap(shifted, layer.gap) || isInGap(y, layer.gap * 2.0)
                       ? layer.other
                       : scaled(layer.base,
                                0.8 + 0.4 * cellValue(layer.seed,
                                                      static_cast<int>(std::floor(shifted)),
                                                      row,
                                                      0));
        }
        case Pattern::Lamp: {
            const double distance = std::hypot(u - 0.5, v - 0.5);
            return distance < 0.48 ? scaled(layer.other, 3.0 * (1.0 - distance)) : layer.base;
        }
        case Pattern::Count:
            break;
    }
    return layer.base;
}

Colour randomColour(Random& random, double darkest, double brightest) {
    const double level = darkest * std::pow(brightest / darkest, random.unit());
    Colour colour{};
    for (float& value : colour) value = static_cast<float>(level * random.between(0.7, 1.3));
    return colour;
}

Layer randomLayer(Random& random, int width, int height, bool isWhole) {
    Layer layer;
    layer.pattern =
        isWhole ? Pattern::Gradient
                : static_cast<Pattern>(random.whole(0, static_cast<int>(Pattern::Count) - 1));
    layer.seed = random.next();
    layer.columns = random.whole(3, 14);
    layer.rows = random.whole(2, 10);
    layer.gap = random.between(0.06, 0.3);
    layer.base = randomColour(random, 0.02, 0.5);
    layer.other = randomColour(random, 0.03, 0.8);
    layer.saturation = random.between(0.1, 1.0);
    if (layer.pattern == Pattern::Swatches && random.chance(0.5)) {
        // The hardest look-alike: as many fields as the chart has.
        layer.columns = 6;
        layer.rows = 4;
        layer.gap = random.between(0.08, 0.2);
    }
    const double w = isWhole ? 1.3 * width : random.between(0.12, 0.6) * width;
    const double h = isWhole ? 1.3 * height : w * random.between(0.4, 1.2);
    const double cx = isWhole ? 0.5 * width : random.between(0.05, 0.95) * width;
    const double cy = isWhole ? 0.5 * height : random.between(0.05, 0.95) * height;
    const double turn =
        random.chance(0.5) ? random.between(-0.15, 0.15) : random.between(-3.14, 3.14);
    std::array<image::Point, 4> quad;
    const std::array<std::pair<double, double>, 4> unit{
        {{-0.5, -0.5}, {0.5, -0.5}, {0.5, 0.5}, {-0.5, 0.5}}};
    for (std::size_t i = 0; i < 4; ++i) {
        const double x = unit[i].first * w * random.between(0.85, 1.15);
        const double y = unit[i].second * h * random.between(0.85, 1.15);
        quad[i] = {cx + x * std::cos(turn) - y * std::sin(turn),
                   cy + x * std::sin(turn) + y * std::cos(turn)};
    }
    const std::array<image::Point, 4> square{image::Point{0, 0}, {1, 0}, {1, 1}, {0, 1}};
    layer.toLayer = image::Homography::fit(quad, square).value_or(image::Homography());
    return layer;
}

void paintLayer(image::Frame& linear, const Layer& layer) {
    const image::Homography toPicture = layer.toLayer.inverse();
    double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
    for (const image::Point p : {image::Point{0, 0}, {1, 0}, {1, 1}, {0, 1}}) {
        const image::Point q = toPicture.apply(p);
        left = std::min(left, q.x);
        right = std::max(right, q.x);
        top = std::min(top, q.y);
        bottom = std::max(bottom, q.y);
    }
    const int x0 = std::clamp(static_cast<int>(left), 0, linear.width - 1);
    const int x1 = std::clamp(static_cast<int>(right) + 1, 0, linear.width - 1);
    const int y0 = std::clamp(static_cast<int>(top), 0, linear.height - 1);
    const int y1 = std::clamp(static_cast<int>(bottom) + 1, 0, linear.height - 1);
    const Eigen::Matrix3d& m = layer.toLayer.matrix();
    for (int y = y0; y <= y1; ++y) {
        for (int x = x0; x <= x1; ++x) {
            const double depth = m(2, 0) * x + m(2, 1) * y + m(2, 2);
            const double u = (m(0, 0) * x + m(0, 1) * y + m(0, 2)) / depth;
            const double v = (m(1, 0) * x + m(1, 1) * y + m(1, 2)) / depth;
            if (!(u >= 0.0 && v >= 0.0 && u < 1.0 && v < 1.0)) continue;
            const Colour colour = layerColour(layer, u, v);
            const std::size_t at =
                static_cast<std::size_t>(y) * static_cast<std::size_t>(linear.width) +
                static_cast<std::size_t>(x);
            for (std::size_t c = 0; c < 3; ++c) linear.channels[c][at] = colour[c];
        }
    }
}

}  // namespace

void paintClutter(image::Frame& linear, Random& random) {
    paintLayer(linear, randomLayer(random, linear.width, linear.height, true));
    const int things = random.whole(4, 11);
    for (int i = 0; i < things; ++i)
        paintLayer(linear, randomLayer(random, linear.width, linear.height, false));
}

}  // namespace rigmatch::sim
