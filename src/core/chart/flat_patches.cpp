// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/flat_patches.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <bit>
#include <cmath>
#include <opencv2/core/hal/intrin.hpp>
#include <opencv2/imgproc.hpp>
#include <utility>

#include "base/wide.h"
#include "chart/point_grid.h"

namespace rigmatch::chart {
namespace {

constexpr double kSmallestArea = 8.0;         // px²: below, moments say nothing
constexpr double kLargestShare = 1.0 / 60.0;  // a patch of a chart that fills the frame
constexpr double kFlattest = 0.32;            // axis ratio of a square tilted 45 degrees and more
constexpr double kSquareTolerance = 0.17;
constexpr int kFullSize = 1400;  // columns of a picture that was not shrunken
constexpr int kShortestRun = 3;  // px

struct Moments {
    double count = 0, x = 0, y = 0, xx = 0, xy = 0, yy = 0;
};

/// Local range over 3 x 3, the largest of all planes.
cv::Mat localRange(const StretchedPicture& planes) {
    const cv::Mat kernel = cv::getStructuringElement(cv::MORPH_RECT, {3, 3});
    cv::Mat range;
    cv::Mat high;
    cv::Mat low;
    for (const cv::Mat& plane : planes) {
        cv::dilate(plane, high, kernel);
        cv::erode(plane, low, kernel);
        cv::subtract(high, low, high);
        if (range.empty()) {
            range = high.clone();
        } else {
            cv::max(range, high, range);
        }
    }
    return range;
}

int quantileOf(const cv::Mat& grey, double share) {
    std::array<int, 256> histogram{};
    for (int y = 0; y < grey.rows; y += 4) {
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

std::vector<int> thresholds(int noise) {
    const double first = std::max(4.0, 1.5 * noise + 1.0);
    std::vector<int> levels;
    for (double factor : {1.0, 1.7, 3.0}) {
        const double level = first * factor;
        if (level < 70.0 || levels.empty())
            levels.push_back(static_cast<int>(std::min(level, 90.0)));
    }
    return levels;
}

/// A stretch of flat pixels in one row, and the area it belongs to.
struct Run {
    int left;
    int right;  // inclusive
    int area;
};

/// Connected areas being gathered from runs; areas that turn out to be one are joined.
class AreaTable {
public:
    struct Area {
        Moments moments;
        int left = 0, right = 0, top = 0, bottom = 0;
        int parent = -1;
    };

    int open(int left, int right, int y) {
        Area area;
        area.left = left;
        area.right = right;
        area.top = area.bottom = y;
        m_areas.push_back(area);
        add(static_cast<int>(m_areas.size()) - 1, left, right, y);
        return static_cast<int>(m_areas.size()) - 1;
    }

    void add(int index, int left, int right, int y) {
        Area& area = m_areas[static_cast<std::size_t>(index)];
        const double count = right - left + 1;
        const double sumX = 0.5 * count * (left + right);
        const double l = left - 1;
        const double r = right;
        area.moments.count += count;
        area.moments.x += sumX;
        area.moments.y += count * y;
        area.moments.xx += r * (r + 1) * (2 * r + 1) / 6.0 - l * (l + 1) * (2 * l + 1) / 6.0;
        area.moments.xy += sumX * y;
        area.moments.yy += count * y * y;
        area.left = std::min(area.left, left);
        area.right = std::max(area.right, right);
        area.bottom = std::max(area.bottom, y);
    }

    int rootOf(int index) {
        while (m_areas[static_cast<std::size_t>(index)].parent >= 0)
            index = m_areas[static_cast<std::size_t>(index)].parent;
        return index;
    }

    int join(int first, int second) {
        if (first == second) return first;
        Area& keep = m_areas[static_cast<std::size_t>(std::min(first, second))];
        Area& gone = m_areas[static_cast<std::size_t>(std::max(first, second))];
        gone.parent = std::min(first, second);
        keep.moments.count += gone.moments.count;
        keep.moments.x += gone.moments.x;
        keep.moments.y += gone.moments.y;
        keep.moments.xx += gone.moments.xx;
        keep.moments.xy += gone.moments.xy;
        keep.moments.yy += gone.moments.yy;
        keep.left = std::min(keep.left, gone.left);
        keep.right = std::max(keep.right, gone.right);
        keep.top = std::min(keep.top, gone.top);
        keep.bottom = std::max(keep.bottom, gone.bottom);
        return gone.parent;
    }

    [[nodiscard]] const std::vector<Area>& areas() const { return m_areas; }

private:
    std::vector<Area> m_areas;
};

/// Hangs a run on the areas that it touches in the row above.
int place(AreaTable& table,
          const std::vector<Run>& above,
          std::size_t& cursor,
          int left,
          int right,
          int y) {
    while (cursor < above.size() && above[cursor].right < left) ++cursor;
    int area = -1;
    for (std::size_t i = cursor; i < above.size() && above[i].left <= right; ++i) {
        const int touched = table.rootOf(above[i].area);
        if (area < 0) {
            table.add(touched, left, right, y);
            area = touched;
        } else {
            area = table.join(area, touched);
        }
    }
    return area < 0 ? table.open(left, right, y) : area;
}

/// Which pixels of a row are flat, one bit each.
class FlatBits {
public:
    explicit FlatBits(int columns)
        : m_columns(columns), m_words(static_cast<std::size_t>(columns) / 64 + 2) {}

    void take(const std::uint8_t* row, std::uint8_t threshold) {
        std::fill(m_words.begin(), m_words.end(), 0U);
        int x = 0;
#if CV_SIMD128
        const cv::v_uint8x16 limit = cv::v_setall_u8(threshold);
        for (; x + 16 <= m_columns; x += 16) {
            const auto bits = static_cast<std::uint64_t>(
                static_cast<std::uint32_t>(cv::v_signmask(cv::v_load(row + x) < limit)));
            m_words[static_cast<std::size_t>(x) / 64] |= bits << (x % 64);
        }
#endif
        for (; x < m_columns; ++x) {
            if (row[x] < threshold)
                m_words[static_cast<std::size_t>(x) / 64] |= std::uint64_t{1} << (x % 64);
        }
    }

    /// The next flat pixel from `x` on, or the number of columns.
    [[nodiscard]] int nextFlat(int x) const { return next(x, 0); }
    /// The next pixel from `x` on that is not flat, or the number of columns.
    [[nodiscard]] int nextRough(int x) const { return next(x, ~std::uint64_t{0}); }

private:
    [[nodiscard]] int next(int x, std::uint64_t flip) const {
        auto index = static_cast<std::size_t>(x) / 64;
        std::uint64_t word = (m_words[index] ^ flip) >> (x % 64) << (x % 64);
        while (word == 0 && static_cast<int>(index) * 64 + 64 < m_columns)
            word = m_words[++index] ^ flip;
        if (word == 0) return m_columns;
        return std::min(static_cast<int>(index) * 64 + std::countr_zero(word), m_columns);
    }

    int m_columns;
    std::vector<std::uint64_t> m_words;
};

/// Second moments of every connected flat area that is neither tiny nor huge.
std::vector<Moments> areaMoments(const cv::Mat& range, int threshold, double largestArea) {
    // At full size a patch is many pixels wide: shorter stretches are grain, and most of the work.
    const int shortest = range.cols >= kFullSize ? kShortestRun : 1;
    AreaTable table;
    FlatBits bits(range.cols);
    std::vector<Run> above;
    std::vector<Run> here;
    for (int y = 0; y < range.rows; ++y) {
        here.clear();
        std::size_t cursor = 0;
        bits.take(range.ptr<std::uint8_t>(y), static_cast<std::uint8_t>(threshold));
        for (int x = bits.nextFlat(0); x < range.cols;) {
            const int left = x;
            x = bits.nextRough(left);
            if (x - left >= shortest)
                here.push_back({left, x - 1, place(table, above, cursor, left, x - 1, y)});
            if (x < range.cols) x = bits.nextFlat(x);
        }
        std::swap(above, here);
    }
    std::vector<Moments> moments;
    for (const AreaTable::Area& area : table.areas()) {
        const double count = area.moments.count;
        const double box = (area.right - area.left + 1.0) * (area.bottom - area.top + 1.0);
        const bool touchesEdge = area.left <= 0 || area.top <= 0 || area.right >= range.cols - 1 ||
                                 area.bottom >= range.rows - 1;
        const bool isCandidate =
            area.parent < 0 && count >= kSmallestArea && count <= largestArea && count >= 0.3 * box;
        if (isCandidate && !touchesEdge) moments.push_back(area.moments);
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
    explicit PatchStore(cv::Size picture) : m_grid(kCell, picture.width, picture.height) {}

    void add(const FlatPatch& patch) {
        const double radius = std::max(0.35 * std::sqrt(patch.area), 1.0);
        bool isKnown = false;
        m_grid.near(patch.centre, std::min(radius, kCell), [&](std::size_t index) {
            FlatPatch& old = m_patches[index];
            if ((old.centre - patch.centre).squaredNorm() > radius * radius) return false;
            if (old.area > 2.0 * patch.area || patch.area > 2.0 * old.area) return false;
            if (patch.squareness < old.squareness) old = patch;
            isKnown = true;
            return true;
        });
        if (isKnown) return;
        m_grid.add(patch.centre);
        m_patches.push_back(patch);
    }

    std::vector<FlatPatch> take() { return std::move(m_patches); }

private:
    static constexpr double kCell = 12.0;

    std::vector<FlatPatch> m_patches;
    PointGrid m_grid;
};

constexpr double kDarkest = 0.01;
constexpr double kBrightest = 0.99;

template <class Histogram>
std::size_t binAt(const Histogram& histogram, double share) {
    double rest = 0.0;
    for (const int count : histogram) rest += share * count;
    std::size_t bin = 0;
    while (bin + 1 < histogram.size() && (rest -= histogram[bin]) > 0) ++bin;
    return bin;
}

/// 8 bit from what lies between `low` and `low + 255 / gain`.
RIGMATCH_WIDE void stretchRow(const float* __restrict values,
                              std::size_t count,
                              float low,
                              float gain,
                              std::uint8_t* __restrict stretched) {
    for (std::size_t i = 0; i < count; ++i) {
        const auto level = static_cast<std::int32_t>((values[i] - low) * gain);
        stretched[i] = static_cast<std::uint8_t>(std::min(std::max(level, 0), 255));
    }
}

/// Codes to 8 bit, between limits from their own histogram.
template <class Sample>
void stretchCodes(const image::Plane& plane, int bitDepth, cv::Mat& stretched) {
    const std::size_t codes = std::size_t{1} << static_cast<unsigned>(bitDepth);
    std::vector<int> histogram(codes);
    for (int y = 0; y < plane.height; y += 4) {
        const auto* row = reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y);
        for (int x = 0; x < plane.width; x += 4)
            ++histogram[std::min<std::size_t>(row[x], codes - 1)];
    }
    const double margin = 0.01 * static_cast<double>(codes);
    const double low = static_cast<double>(binAt(histogram, kDarkest)) - margin;
    const double high = static_cast<double>(binAt(histogram, kBrightest)) + 2.0 * margin;
    const double gain = 255.0 / std::max(high - low, 8.0 * margin);
    // The library takes no read-only data; it does not write to it either.
    const cv::Mat from(plane.height,
                       plane.width,
                       sizeof(Sample) == 1 ? CV_8UC1 : CV_16UC1,
                       const_cast<std::byte*>(plane.data),
                       static_cast<std::size_t>(plane.strideBytes));
    from.convertTo(stretched, CV_8UC1, gain, -low * gain - 0.5);
}

/// Signal of the darkest and of the brightest percent of green: a sample of rows is enough.
std::pair<float, float> greenLimits(const image::CodedFrame& frame, int step) {
    constexpr int kBins = 512;
    constexpr int kLinesApart = 8;
    std::array<int, kBins> histogram{};
    for (int y = 0; y < image::shrunkSize(frame.height, step); y += kLinesApart) {
        const image::Frame row = image::shrunkRows(frame, step, y, 1);
        for (const float green : row.channels[1]) {
            const float scaled = (std::clamp(green, -0.1F, 1.2F) + 0.1F) / 1.3F * (kBins - 1);
            ++histogram[static_cast<std::size_t>(scaled)];
        }
    }
    const auto level = [&](double share) {
        return static_cast<float>(binAt(histogram, share)) / (kBins - 1) * 1.3F - 0.1F;
    };
    return {level(kDarkest), level(kBrightest)};
}

}  // namespace

StretchedPicture stretchedColour(const image::CodedFrame& frame, int step) {
    constexpr int kBand = 8;  // rows at a time, which stay in the near caches
    const auto [darkest, brightest] = greenLimits(frame, step);
    const float low = darkest - 0.01F;
    const float gain = 255.0F / std::max(brightest + 0.02F - low, 0.08F);
    const int width = image::shrunkSize(frame.width, step);
    const int height = image::shrunkSize(frame.height, step);
    StretchedPicture planes;
    for (int c = 0; c < 3; ++c) planes.emplace_back(height, width, CV_8UC1);
    for (int y = 0; y < height; y += kBand) {
        const image::Frame band = image::shrunkRows(frame, step, y, std::min(kBand, height - y));
        for (std::size_t c = 0; c < 3; ++c)
            stretchRow(band.channels[c].data(),
                       band.channels[c].size(),
                       low,
                       gain,
                       planes[c].ptr<std::uint8_t>(y));
    }
    return planes;
}

StretchedPicture halved(const StretchedPicture& picture) {
    StretchedPicture half;
    for (const cv::Mat& plane : picture) {
        const cv::Size size(std::max(plane.cols / 2, 1), std::max(plane.rows / 2, 1));
        const cv::Mat even = plane(cv::Rect(
            0, 0, std::min(2 * size.width, plane.cols), std::min(2 * size.height, plane.rows)));
        cv::resize(even, half.emplace_back(), size, 0.0, 0.0, cv::INTER_AREA);
    }
    return half;
}

StretchedPicture stretchedLuma(const image::CodedFrame& frame) {
    if (frame.samples == image::SampleKind::Float32) return {stretchedColour(frame, 1)[1]};
    const bool isRgb = frame.tags.matrix == image::Matrix::None && frame.planeCount == 3;
    const image::Plane& plane = frame.planes[isRgb ? 1 : 0];
    cv::Mat stretched(plane.height, plane.width, CV_8UC1);
    if (frame.samples == image::SampleKind::Unsigned8) {
        stretchCodes<std::uint8_t>(plane, 8, stretched);
    } else {
        stretchCodes<std::uint16_t>(plane, frame.bitDepth, stretched);
    }
    return {stretched};
}

std::vector<FlatPatch> flatPatches(const StretchedPicture& stretched) {
    cv::Mat range = localRange(stretched);
    constexpr int kNoisyRange = 14;
    constexpr double kQuietShare = 0.4;
    int noise = quantileOf(range, kQuietShare);
    if (noise > kNoisyRange) {
        StretchedPicture smooth = stretched;
        for (std::size_t i = 0; i < smooth.size(); ++i) {
            smooth[i] = cv::Mat();
            cv::GaussianBlur(stretched[i], smooth[i], {3, 3}, 0.0);
        }
        range = localRange(smooth);
        noise = quantileOf(range, kQuietShare);
    }
    PatchStore store(range.size());
    const double largestArea = kLargestShare * static_cast<double>(range.total());
    for (int threshold : thresholds(noise)) {
        for (const Moments& moments : areaMoments(range, threshold, largestArea)) {
            FlatPatch patch;
            if (fillPatch(moments, patch)) store.add(patch);
        }
    }
    return store.take();
}

}  // namespace rigmatch::chart
