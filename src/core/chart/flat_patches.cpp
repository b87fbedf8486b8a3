// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/flat_patches.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <unordered_map>

namespace rigmatch::chart {
namespace {

constexpr double kSmallestArea = 8.0;          // px²: below, moments say nothing
constexpr double kLargestShare = 1.0 / 60.0;   // a patch of a chart that fills the frame
constexpr double kFlattest = 0.32;             // axis ratio of a square tilted 45 degrees and more
constexpr double kSquareTolerance = 0.17;

struct Moments {
    double count = 0, x = 0, y = 0, xx = 0, xy = 0, yy = 0;
};

/// Local range over 3 x 3, the largest of the three channels.
cv::Mat localRange(const cv::Mat& rgb) {
    cv::Mat high;
    cv::Mat low;
    const cv::Mat kernel = cv::getStructuringElement(cv::MORPH_RECT, {3, 3});
    cv::dilate(rgb, high, kernel);
    cv::erode(rgb, low, kernel);
    cv::subtract(high, low, high);
    cv::Mat range(rgb.size(), CV_8UC1);
    for (int y = 0; y < rgb.rows; ++y) {
        const auto* from = high.ptr<std::uint8_t>(y);
        auto* to = range.ptr<std::uint8_t>(y);
        for (int x = 0; x < rgb.cols; ++x) {
            to[x] = std::max(std::max(from[3 * x], from[3 * x + 1]), from[3 * x + 2]);
        }
    }
    return range;
}

int quantileOf(const cv::Mat& grey, double share) {
    std::array<int, 256> histogram{};
    for (int y = 0; y < grey.rows; y += 2) {
        const auto* row = grey.ptr<std::uint8_t>(y);
        for (int x = 0; x < grey.cols; x += 2) ++histogram[row[x]];
    }
    int total = 0;
    for (int count : histogram) total += count;
    double rest = share * total;
    for (int value = 0; value < 256; ++value) {
        rest -= histogram[static_cast<std::size_t>(value)];
        if (rest <= 0) return value;
    }
    return 255;
}

std::vector<int> thresholds(const cv::Mat& range) {
    const double noise = quantileOf(range, 0.4);
    const double first = std::max(4.0, 1.5 * noise + 1.0);
    std::vector<int> levels;
    for (double factor : {1.0, 1.7, 3.0}) {
        const double level = first * factor;
        if (level < 70.0 || levels.empty()) levels.push_back(static_cast<int>(std::min(level, 90.0)));
    }
    return levels;
}

/// Second moments of every connected flat area that is neither tiny nor huge.
std::vector<Moments> areaMoments(const cv::Mat& range, int threshold, double largestArea) {
    cv::Mat mask;
    cv::threshold(range, mask, threshold - 1, 255, cv::THRESH_BINARY_INV);
    cv::Mat labels;
    cv::Mat stats;
    cv::Mat centres;
    const int count = cv::connectedComponentsWithStats(mask, labels, stats, centres, 4, CV_32S);
    std::vector<int> slot(static_cast<std::size_t>(count), -1);
    std::vector<Moments> moments;
    for (int label = 1; label < count; ++label) {
        const int* row = stats.ptr<int>(label);
        const double area = row[cv::CC_STAT_AREA];
        const double box = static_cast<double>(row[cv::CC_STAT_WIDTH]) * row[cv::CC_STAT_HEIGHT];
        const bool touchesEdge = row[cv::CC_STAT_LEFT] <= 0 || row[cv::CC_STAT_TOP] <= 0 ||
                                 row[cv::CC_STAT_LEFT] + row[cv::CC_STAT_WIDTH] >= range.cols ||
                                 row[cv::CC_STAT_TOP] + row[cv::CC_STAT_HEIGHT] >= range.rows;
        if (area < kSmallestArea || area > largestArea || touchesEdge || area < 0.3 * box) continue;
        slot[static_cast<std::size_t>(label)] = static_cast<int>(moments.size());
        Moments& m = moments.emplace_back();
        const int right = row[cv::CC_STAT_LEFT] + row[cv::CC_STAT_WIDTH];
        const int bottom = row[cv::CC_STAT_TOP] + row[cv::CC_STAT_HEIGHT];
        for (int y = row[cv::CC_STAT_TOP]; y < bottom; ++y) {
            const int* at = labels.ptr<int>(y);
            for (int x = row[cv::CC_STAT_LEFT]; x < right; ++x) {
                if (at[x] != label) continue;
                m.count += 1;
                m.x += x;
                m.y += y;
                m.xx += static_cast<double>(x) * x;
                m.xy += static_cast<double>(x) * y;
                m.yy += static_cast<double>(y) * y;
            }
        }
    }
    return moments;
}

/// A candidate where the moments fit a square under an affine view: area = 12 sqrt(det covariance).
bool fillPatch(const Moments& m, FlatPatch& patch) {
    patch.area = m.count;
    patch.centre = {m.x / m.count, m.y / m.count};
    const double pixel = 1.0 / 12.0;
    patch.covariance << m.xx / m.count - patch.centre.x() * patch.centre.x() + pixel,
        m.xy / m.count - patch.centre.x() * patch.centre.y(), 0.0,
        m.yy / m.count - patch.centre.y() * patch.centre.y() + pixel;
    patch.covariance(1, 0) = patch.covariance(0, 1);
    const double determinant = patch.covariance.determinant();
    if (determinant <= 0.0) return false;
    patch.squareness = std::abs(1.0 - m.count / (12.0 * std::sqrt(determinant)));
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> axes(patch.covariance);
    const double ratio = std::sqrt(axes.eigenvalues()(0) / axes.eigenvalues()(1));
    const double slack = m.count < 30.0 ? 0.08 : 0.0;
    return ratio > kFlattest && patch.squareness < kSquareTolerance + slack;
}

/// Keeps the squarest of the candidates that stand at one place.
class PatchStore {
public:
    void add(const FlatPatch& patch) {
        const double radius = 0.35 * std::sqrt(patch.area);
        const int cellX = static_cast<int>(patch.centre.x() / kCell);
        const int cellY = static_cast<int>(patch.centre.y() / kCell);
        for (int y = cellY - 1; y <= cellY + 1; ++y) {
            for (int x = cellX - 1; x <= cellX + 1; ++x) {
                const auto found = m_cells.find(key(x, y));
                if (found == m_cells.end()) continue;
                for (std::size_t index : found->second) {
                    FlatPatch& old = m_patches[index];
                    if ((old.centre - patch.centre).norm() > std::max(radius, 1.0)) continue;
                    if (old.area > 2.0 * patch.area || patch.area > 2.0 * old.area) continue;
                    if (patch.squareness < old.squareness) old = patch;
                    return;
                }
            }
        }
        m_cells[key(cellX, cellY)].push_back(m_patches.size());
        m_patches.push_back(patch);
    }

    std::vector<FlatPatch> take() { return std::move(m_patches); }

private:
    static constexpr double kCell = 12.0;
    static long key(int x, int y) { return static_cast<long>(y) * 100000 + x; }

    std::vector<FlatPatch> m_patches;
    std::unordered_map<long, std::vector<std::size_t>> m_cells;
};

}  // namespace

cv::Mat stretchedPicture(const image::Frame& picture) {
    // A histogram of green on every fourth pixel is enough to find the darkest and brightest percent.
    constexpr int kBins = 512;
    std::array<int, kBins> histogram{};
    const auto& green = picture.channels[1];
    int total = 0;
    for (std::size_t i = 0; i < green.size(); i += 4) {
        const float scaled = (std::clamp(green[i], -0.1F, 1.2F) + 0.1F) / 1.3F * (kBins - 1);
        ++histogram[static_cast<std::size_t>(scaled)];
        ++total;
    }
    const auto level = [&](double share) {
        double rest = share * total;
        int bin = 0;
        while (bin < kBins - 1 && (rest -= histogram[static_cast<std::size_t>(bin)]) > 0) ++bin;
        return static_cast<float>(bin) / (kBins - 1) * 1.3F - 0.1F;
    };
    const float low = level(0.01) - 0.01F;
    const float high = std::max(level(0.99) + 0.02F, low + 0.08F);
    const float gain = 255.0F / (high - low);
    cv::Mat stretched(picture.height, picture.width, CV_8UC3);
    for (int y = 0; y < picture.height; ++y) {
        auto* to = stretched.ptr<std::uint8_t>(y);
        const auto row = static_cast<std::size_t>(y) * static_cast<std::size_t>(picture.width);
        for (std::size_t c = 0; c < 3; ++c) {
            const float* from = picture.channels[c].data() + row;
            for (std::size_t x = 0; x < static_cast<std::size_t>(picture.width); ++x) {
                to[3 * x + c] =
                    static_cast<std::uint8_t>(std::clamp((from[x] - low) * gain, 0.0F, 255.0F));
            }
        }
    }
    return stretched;
}

std::vector<FlatPatch> flatPatches(const cv::Mat& stretched) {
    cv::Mat range = localRange(stretched);
    constexpr int kNoisyRange = 14;
    if (quantileOf(range, 0.4) > kNoisyRange) {
        cv::Mat smooth;
        cv::GaussianBlur(stretched, smooth, {3, 3}, 0.0);
        range = localRange(smooth);
    }
    PatchStore store;
    const double largestArea = kLargestShare * static_cast<double>(stretched.total());
    for (int threshold : thresholds(range)) {
        for (const Moments& moments : areaMoments(range, threshold, largestArea)) {
            FlatPatch patch;
            if (fillPatch(moments, patch)) store.add(patch);
        }
    }
    return store.take();
}

}  // namespace rigmatch::chart
