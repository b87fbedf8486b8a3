// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/tile_align.h"

#include <algorithm>
#include <cmath>
#include <opencv2/calib3d.hpp>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "image/robust.h"

namespace rigmatch::framing {
namespace {

constexpr int kTile = 48, kSmallTile = 32;
constexpr int kSmallWidth = 1000;    // px, from which tiles are small
constexpr int kLittleArea = 150;     // tiles, under which they are small as well
constexpr double kLeastShare = 0.5;  // of a tile that shows the set
constexpr std::size_t kLeastTiles = 8;
constexpr double kLocal = 14.0;         // px, over which means are taken out
constexpr double kLeastContrast = 2.5;  // 8-bit codes: flatter places tell noise
// Gaussian smoothing leaves that many px to one independent value.
constexpr double kPerValue = 12.0;
constexpr double kStudent = 4.0;
constexpr double kWider = 2.25;  // shadows of people and moved lamps are alike in neighbours
constexpr double kOffSigma = 5.0, kOffPx = 0.5;
constexpr int kLeastTilePoints = 8;

constexpr int kNumbers = 9;
using Vector = cv::Vec<double, kNumbers>;
using Matrix = cv::Matx<double, kNumbers, kNumbers>;

/// Brightness less its local mean, over its local contrast.
cv::Mat evened(const cv::Mat& luma, double smooth) {
    cv::Mat picture, mean, square, variance;
    luma.convertTo(picture, CV_32F);
    cv::GaussianBlur(picture, picture, {}, smooth);
    cv::GaussianBlur(picture, mean, {}, kLocal);
    cv::GaussianBlur(picture.mul(picture), square, {}, kLocal);
    variance = square - mean.mul(mean) + kLeastContrast * kLeastContrast;
    cv::sqrt(cv::max(variance, kLeastContrast * kLeastContrast), variance);
    return (picture - mean) / variance;
}

struct Tile {
    double x = 0.0, y = 0.0;  ///< of its middle, in widths from the picture's
    double gxx = 0, gxy = 0, gyy = 0, bx = 0, by = 0;
    double noise = 1.0;  ///< variance of what is left
    double weight = 1.0;
};

/// What moves a tile, as rows of the nine numbers.
std::pair<Vector, Vector> rowsOf(double x, double y) {
    const double square = x * x + y * y;
    return {Vector(1, x, y, 0, 0, 0, x * x, x * y, x * square),
            Vector(0, 0, 0, 1, x, y, x * y, y * y, y * square)};
}

std::vector<Tile> tilesOf(const cv::Mat& first, const cv::Mat& mask, const cv::Mat& warped) {
    cv::Mat dx, dy;
    const cv::Mat mean = 0.5 * (first + warped);
    cv::Sobel(mean, dx, CV_32F, 1, 0, 3, 0.125);
    cv::Sobel(mean, dy, CV_32F, 0, 1, 3, 0.125);
    std::vector<Tile> tiles;
    const bool isLittle = cv::countNonZero(mask) < kLittleArea * kTile * kTile;
    const int side = first.cols < kSmallWidth || isLittle ? kSmallTile : kTile;
    for (int ty = 0; ty + side <= first.rows; ty += side) {
        for (int tx = 0; tx + side <= first.cols; tx += side) {
            const cv::Rect area(tx, ty, side, side);
            const int count = cv::countNonZero(mask(area));
            if (count < kLeastShare * side * side) continue;
            Tile tile;
            double left = 0.0;
            for (int y = ty; y < ty + side; ++y) {
                for (int x = tx; x < tx + side; ++x) {
                    if (mask.at<std::uint8_t>(y, x) == 0) continue;
                    const double gx = static_cast<double>(dx.at<float>(y, x)),
                                 gy = static_cast<double>(dy.at<float>(y, x));
                    const double off = static_cast<double>(first.at<float>(y, x)) -
                                       static_cast<double>(warped.at<float>(y, x));
                    tile.gxx += gx * gx;
                    tile.gxy += gx * gy;
                    tile.gyy += gy * gy;
                    tile.bx += gx * off;
                    tile.by += gy * off;
                    left += off * off;
                }
            }
            const double det = tile.gxx * tile.gyy - tile.gxy * tile.gxy;
            if (tile.gxx + tile.gyy < 1.0 || det <= 1e-9) continue;
            // What the tile's own best shift would leave.
            const double ux = (tile.gyy * tile.bx - tile.gxy * tile.by) / det;
            const double uy = (tile.gxx * tile.by - tile.gxy * tile.bx) / det;
            const double rest = std::max(left - ux * tile.bx - uy * tile.by, 0.1 * left);
            tile.noise = std::max(kPerValue * rest / count, 1e-6);
            tile.x = (tx + 0.5 * side - 0.5 * first.cols) / first.cols;
            tile.y = (ty + 0.5 * side - 0.5 * first.rows) / first.cols;
            tiles.push_back(tile);
        }
    }
    return tiles;
}

/// Correlation of two evened pictures where both count.
double likeness(const cv::Mat& first, const cv::Mat& second, const cv::Mat& mask) {
    cv::Mat a, b;
    first.copyTo(a, mask);
    second.copyTo(b, mask);
    const double scale = std::sqrt(a.dot(a) * b.dot(b));
    return scale > 0.0 ? a.dot(b) / scale : 0.0;
}

/// Where each px of the first picture lies in the second, lines bowed.
cv::Mat bentMap(const Alignment& align, cv::Size size) {
    cv::Mat map(size, CV_32FC2);
    const double middleX = 0.5 * (size.width - 1), middleY = 0.5 * (size.height - 1);
    for (int y = 0; y < size.height; ++y) {
        for (int x = 0; x < size.width; ++x) {
            const double dx = x - middleX, dy = y - middleY;
            const double square = (dx * dx + dy * dy) / (size.width * size.width);
            const double grown = 1.0 + align.bend * square;
            const cv::Vec3d at =
                align.h * cv::Vec3d(middleX + grown * dx, middleY + grown * dy, 1.0);
            map.at<cv::Vec2f>(y, x) = {static_cast<float>(at[0] / at[2]),
                                       static_cast<float>(at[1] / at[2])};
        }
    }
    return map;
}

struct Solved {
    Vector change;
    Matrix spread;
    double offShare = 0.0;
};

/// Pictures keep their shape: pixels are square and not sheared; and lens and sensor are long
/// against the turn, so that perspective changes little.
void holdShape(Matrix& normal, double width, bool isBent) {
    const auto hold = [&](std::initializer_list<std::pair<int, double>> terms, double sigma) {
        for (const auto& [i, a] : terms)
            for (const auto& [j, b] : terms) normal(i, j) += a * b / (sigma * sigma);
    };
    hold({{1, 1.0}, {5, -1.0}}, 1e-4 * width);
    hold({{2, 1.0}, {4, 1.0}}, 1e-4 * width);
    hold({{6, 1.0}}, 0.05 * width);
    hold({{7, 1.0}}, 0.05 * width);
    hold({{8, 1.0}}, isBent ? 0.1 * width : 1e-6 * width);
}

/// A small change as a homography about the middle: x' = x + u / (1 - (p6 x + p7 y) / width), to
/// first order.
cv::Matx33d changedBy(const Vector& p, double width, double height) {
    const double s = 1.0 / width;
    const cv::Matx33d change(1.0 + p[1] * s,
                             p[2] * s,
                             p[0] * s,
                             p[4] * s,
                             1.0 + p[5] * s,
                             p[3] * s,
                             -p[6] * s,
                             -p[7] * s,
                             1.0);
    const cv::Matx33d norm(s, 0, -0.5 * (width - 1) * s, 0, s, -0.5 * (height - 1) * s, 0, 0, 1);
    return norm.inv() * change * norm;
}

Solved solved(std::vector<Tile>& tiles, double width, bool isBent) {
    Solved result;
    Vector p = Vector::all(0.0);
    for (int round = 0; round < 8; ++round) {
        Matrix normal = Matrix::zeros();
        Vector right = Vector::all(0.0);
        holdShape(normal, width, isBent);
        for (const Tile& tile : tiles) {
            const auto [ru, rv] = rowsOf(tile.x, tile.y);
            const double w = tile.weight / tile.noise;
            for (int i = 0; i < kNumbers; ++i) {
                right[i] += w * (ru[i] * tile.bx + rv[i] * tile.by);
                for (int j = 0; j < kNumbers; ++j)
                    normal(i, j) += w * (ru[i] * (tile.gxx * ru[j] + tile.gxy * rv[j]) +
                                         rv[i] * (tile.gxy * ru[j] + tile.gyy * rv[j]));
            }
        }
        result.spread = normal.inv(cv::DECOMP_CHOLESKY);
        p = result.spread * right;
        double off = 0.0, sums = 0.0;
        for (Tile& tile : tiles) {
            const auto [ru, rv] = rowsOf(tile.x, tile.y);
            const double u = ru.dot(p), v = rv.dot(p);
            const double cx = tile.bx - tile.gxx * u - tile.gxy * v,
                         cy = tile.by - tile.gxy * u - tile.gyy * v;
            const double det = tile.gxx * tile.gyy - tile.gxy * tile.gxy;
            const double ex = (tile.gyy * cx - tile.gxy * cy) / det,
                         ey = (tile.gxx * cy - tile.gxy * cx) / det;
            const double distance = (cx * ex + cy * ey) / tile.noise;
            tile.weight = (kStudent + 2.0) / (kStudent + distance);
            const double information = std::min(tile.gxx, tile.gyy) / tile.noise;
            const double say = std::min(information, 400.0);
            sums += say;
            if (distance > kOffSigma * kOffSigma && std::hypot(ex, ey) > kOffPx) off += say;
        }
        result.offShare = sums > 0.0 ? off / sums : 0.0;
    }
    result.change = p;
    // Tiles scatter more than their pixels: the whole is scaled by how they really do.
    std::vector<double> distances;
    distances.reserve(tiles.size());
    for (const Tile& tile : tiles) distances.push_back((kStudent + 2.0) / tile.weight - kStudent);
    const double usual = image::median(distances) / 1.386;  // of two degrees of freedom
    result.spread *= kWider * std::max(usual, 0.25);
    return result;
}

}  // namespace

std::optional<cv::Matx33d> homographyOf(const std::vector<cv::Point2f>& before,
                                        const std::vector<cv::Point2f>& after,
                                        cv::Size size,
                                        double startReach) {
    constexpr double kFar = 24.0, kNear = 2.0;  // px
    cv::setRNGSeed(1);
    const cv::Mat similar = cv::estimateAffinePartial2D(
        before, after, cv::noArray(), cv::RANSAC, startReach, 10000, 0.9999);
    if (similar.empty()) return std::nullopt;
    cv::Matx33d h = cv::Matx33d::eye();
    for (int y = 0; y < 2; ++y)
        for (int x = 0; x < 3; ++x) h(y, x) = similar.at<double>(y, x);
    const double width = size.width;
    double reach = kFar;
    int agreeing = 0;
    for (int round = 0; round < 12; ++round) {
        Matrix normal = Matrix::zeros();
        Vector right = Vector::all(0.0);
        holdShape(normal, width, false);
        agreeing = 0;
        const cv::Matx33d back = h.inv();
        for (std::size_t i = 0; i < before.size(); ++i) {
            // Where the second point comes from, against the first: the change that is missing.
            const cv::Vec3d v = back * cv::Vec3d(after[i].x, after[i].y, 1.0);
            const double u = v[0] / v[2] - before[i].x, w = v[1] / v[2] - before[i].y;
            const double off = std::hypot(u, w);
            if (off > reach) continue;
            agreeing += off < kNear ? 1 : 0;
            const double weight = off > 1.0 ? 1.0 / off : 1.0;
            const auto [ru, rv] = rowsOf((before[i].x - 0.5 * (width - 1)) / width,
                                         (before[i].y - 0.5 * (size.height - 1)) / width);
            for (int r = 0; r < kNumbers; ++r) {
                right[r] += weight * (ru[r] * u + rv[r] * w);
                for (int c = 0; c < kNumbers; ++c)
                    normal(r, c) += weight * (ru[r] * ru[c] + rv[r] * rv[c]);
            }
        }
        const Vector p = normal.inv(cv::DECOMP_CHOLESKY) * right;
        h = h * changedBy(p, width, size.height);
        reach = std::max(kNear * 2.0, 0.7 * reach);
    }
    if (agreeing < kLeastTilePoints) return std::nullopt;
    return h;
}

std::vector<EvenedPair> evenedPairs(const cv::Mat& first, const cv::Mat& second) {
    std::vector<EvenedPair> pairs;
    for (const auto& [smooth, rounds] : {std::pair{5.0, 2}, {3.0, 2}, {1.5, 4}})
        pairs.push_back({rounds, evened(first, smooth), evened(second, smooth)});
    return pairs;
}

namespace {

/// One round: the second picture laid on the first as known so far, and what is missing added.
/// False where too few tiles have structure.
bool refine(Alignment& result,
            const EvenedPair& pair,
            const cv::Mat& firstMask,
            const cv::Mat& secondMask,
            bool isBent) {
    const cv::Size size = pair.first.size();
    cv::Mat warped, there, mask;
    if (isBent) {
        const cv::Mat map = bentMap(result, size);
        cv::remap(pair.second, warped, map, {}, cv::INTER_CUBIC);
        cv::remap(secondMask, there, map, {}, cv::INTER_NEAREST, cv::BORDER_CONSTANT, 0);
    } else {
        constexpr int kBack = cv::WARP_INVERSE_MAP;
        cv::warpPerspective(pair.second, warped, result.h, size, cv::INTER_CUBIC | kBack);
        cv::warpPerspective(secondMask, there, result.h, size, cv::INTER_NEAREST | kBack);
    }
    cv::erode(there, there, cv::Mat::ones(9, 9, CV_8U));
    cv::bitwise_and(firstMask, there, mask);
    std::vector<Tile> tiles = tilesOf(pair.first, mask, warped);
    if (tiles.size() < kLeastTiles) return false;
    const Solved step = solved(tiles, size.width, isBent);
    const Vector& p = step.change;
    result.h = result.h * changedBy(p, size.width, size.height);
    result.bend += p[8] / size.width;
    result.spread = step.spread;
    result.tiles = static_cast<int>(tiles.size());
    result.offShare = step.offShare;
    result.likeness = likeness(pair.first, warped, mask);
    return true;
}

}  // namespace

std::optional<Alignment> aligned(const std::vector<EvenedPair>& pairs,
                                 const cv::Mat& firstMask,
                                 const cv::Mat& secondMask,
                                 const cv::Matx33d& h,
                                 bool isBent) {
    Alignment result;
    result.h = h;
    for (const EvenedPair& pair : pairs)
        for (int round = 0; round < pair.rounds; ++round)
            if (!refine(result, pair, firstMask, secondMask, isBent)) return std::nullopt;
    return result;
}

}  // namespace rigmatch::framing
