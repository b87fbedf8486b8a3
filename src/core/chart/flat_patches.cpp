// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/flat_patches.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <unordered_map>

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

/// Second moments of every connected flat area that is neither tiny nor huge.
std::vector<Moments> areaMoments(const cv::Mat& range, int threshold, double largestArea) {
    // At full size a patch is many pixels wide: shorter stretches are grain, and most of the work.
    const int shortest = range.cols >= kFullSize ? kShortestRun : 1;
    AreaTable table;
    std::vector<Run> above;
    std::vector<Run> here;
    for (int y = 0; y < range.rows; ++y) {
        here.clear();
        std::size_t cursor = 0;
        const auto* row = range.ptr<std::uint8_t>(y);
        for (int x = 0; x < range.cols;) {
            while (x < range.cols && row[x] >= threshold) ++x;
            const int left = x;
            while (x < range.cols && row[x] < threshold) ++x;
            if (x - left >= shortest)
                here.push_back({left, x - 1, place(table, above, cursor, left, x - 1, y)});
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

/// Codes to 8 bit through a table made from their own histogram.
template <class Sample>
void stretchCodes(const image::Plane& plane, int bitDepth, cv::Mat& stretched) {
    const std::size_t codes = std::size_t{1} << static_cast<unsigned>(bitDepth);
    std::vector<int> histogram(codes);
    const auto rowOf = [&](int y) {
        return reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y);
    };
    for (int y = 0; y < plane.height; y += 4) {
        const Sample* row = rowOf(y);
        for (int x = 0; x < plane.width; x += 4)
            ++histogram[std::min<std::size_t>(row[x], codes - 1)];
    }
    const double margin = 0.01 * static_cast<double>(codes);
    const double low = static_cast<double>(binAt(histogram, kDarkest)) - margin;
    const double high = static_cast<double>(binAt(histogram, kBrightest)) + 2.0 * margin;
    const double gain = 255.0 / std::max(high - low, 8.0 * margin);
    std::vector<std::uint8_t> table(codes);
    for (std::size_t code = 0; code < codes; ++code) {
        table[code] = static_cast<std::uint8_t>(
            std::clamp((static_cast<double>(code) - low) * gain, 0.0, 255.0));
    }
    for (int y = 0; y < plane.height; ++y) {
        const Sample* row = rowOf(y);
        auto* to = stretched.ptr<std::uint8_t>(y);
        for (int x = 0; x < plane.width; ++x)
            to[x] = table[std::min<std::size_t>(row[x], codes - 1)];
    }
}

}  // namespace

StretchedPicture stretchedColour(const image::Frame& picture) {
    // A histogram of green on every fourth pixel is enough to find the darkest and brightest
    // percent.
    constexpr int kBins = 512;
    std::array<int, kBins> histogram{};
    const auto& green = picture.channels[1];
    for (std::size_t i = 0; i < green.size(); i += 4) {
        const float scaled = (std::clamp(green[i], -0.1F, 1.2F) + 0.1F) / 1.3F * (kBins - 1);
        ++histogram[static_cast<std::size_t>(scaled)];
    }
    const auto level = [&](double share) {
        return static_cast<float>(binAt(histogram, share)) / (kBins - 1) * 1.3F - 0.1F;
    };
    const float low = level(kDarkest) - 0.01F;
    const float gain = 255.0F / std::max(level(kBrightest) + 0.02F - low, 0.08F);
    StretchedPicture planes;
    for (const auto& channel : picture.channels) {
        cv::Mat plane(picture.height, picture.width, CV_8UC1);
        std::uint8_t* to = plane.data;
        for (std::size_t i = 0; i < channel.size(); ++i) {
            to[i] = static_cast<std::uint8_t>(std::clamp((channel[i] - low) * gain, 0.0F, 255.0F));
        }
        planes.push_back(std::move(plane));
    }
    return planes;
}

StretchedPicture stretchedLuma(const image::CodedFrame& frame) {
    if (frame.samples == image::SampleKind::Float32) {
        const image::Frame whole = image::signalFrame(frame);
        return {stretchedColour(whole)[1]};
    }
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
    if (quantileOf(range, 0.4) > kNoisyRange) {
        StretchedPicture smooth = stretched;
        for (std::size_t i = 0; i < smooth.size(); ++i) {
            smooth[i] = cv::Mat();
            cv::GaussianBlur(stretched[i], smooth[i], {3, 3}, 0.0);
        }
        range = localRange(smooth);
    }
    PatchStore store;
    const double largestArea = kLargestShare * static_cast<double>(range.total());
    for (int threshold : thresholds(range)) {
        for (const Moments& moments : areaMoments(range, threshold, largestArea)) {
            FlatPatch patch;
            if (fillPatch(moments, patch)) store.add(patch);
        }
    }
    return store.take();
}

}  // namespace rigmatch::chart
