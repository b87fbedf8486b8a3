// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/trap_checks.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace rigmatch::measure {
namespace {

using base::Number;
using base::say;

constexpr std::uint64_t kFewest = 150;  // samples beside a code that must be there to judge it
constexpr double kEmpty = 0.08;         // of its neighbours: an empty code
constexpr double kDouble = 1.6;         // of its neighbours: a code filled twice
constexpr int kFewestTeeth = 6;
constexpr double kTeethShare = 0.6;  // of those that the scaling would leave
constexpr int kSampleStep = 2;

constexpr double kZone = 0.14;       // of the height, at the top and at the bottom
constexpr double kNearWhite = 0.9;   // signal
constexpr double kUnchanged = 0.02;  // signal
constexpr int kFewestFrames = 2;
constexpr int kFewestInRow = 5;
constexpr double kLeastGlyph = 0.012;  // height of a letter, of the picture's
constexpr double kMostGlyph = 0.06;

/// Codes from..to with enough neighbours whose count stands out, and how regularly they come.
struct Teeth {
    int count = 0;
    int expected = 0;
};

template <class IsTooth>
Teeth teethOf(const std::array<std::uint64_t, 256>& counts, double period, IsTooth isTooth) {
    std::vector<int> places;
    int judged = 0;
    for (std::size_t i = 2; i + 2 < counts.size(); ++i) {
        const double beside = 0.25 * static_cast<double>(counts[i - 2] + counts[i - 1] +
                                                         counts[i + 1] + counts[i + 2]);
        if (counts[i - 1] < kFewest || counts[i + 1] < kFewest) continue;
        ++judged;
        if (isTooth(static_cast<double>(counts[i]) / beside)) places.push_back(static_cast<int>(i));
    }
    Teeth teeth;
    teeth.expected = static_cast<int>(judged / period);
    // Only those count whose neighbour tooth stands where the scaling puts it.
    for (std::size_t k = 1; k < places.size(); ++k) {
        const int step = places[k] - places[k - 1];
        if (std::abs(step - period) <= 1.2) ++teeth.count;
    }
    return teeth;
}

bool isComb(const Teeth& teeth) {
    return teeth.count >= kFewestTeeth && teeth.count >= kTeethShare * teeth.expected;
}

/// Rows of the two zones, from the top: first rows, then last rows.
int zoneRows(int height) { return static_cast<int>(kZone * height); }

}  // namespace

void CodeComb::take(const image::CodedFrame& frame) {
    m_isEightBit = frame.samples == image::SampleKind::Unsigned8;
    if (!m_isEightBit) return;
    const image::Plane& plane =
        frame.planes[frame.tags.matrix == image::Matrix::None && frame.planeCount == 3 ? 1 : 0];
    for (int y = 0; y < plane.height; y += kSampleStep) {
        const auto* row = reinterpret_cast<const std::uint8_t*>(plane.data + plane.strideBytes * y);
        for (int x = 0; x < plane.width; x += kSampleStep) ++m_counts[row[x]];
    }
}

std::optional<base::Warning> CodeComb::warning() const {
    if (!m_isEightBit) return std::nullopt;
    const Teeth gaps = teethOf(m_counts, 255.0 / 36.0, [](double share) { return share < kEmpty; });
    const Teeth spikes =
        teethOf(m_counts, 219.0 / 36.0, [](double share) { return share > kDouble; });
    if (isComb(gaps)) {
        return base::Warning{
            "CodesStretched", say("codesStretched.seen"), say("codesStretched.hint")};
    }
    if (isComb(spikes)) {
        return base::Warning{"CodesSqueezed", say("codesSqueezed.seen"), say("codesSqueezed.hint")};
    }
    return std::nullopt;
}

/// Luma (or green) codes are enough: white letters are white in them, and no colour is asked for.
template <class Sample>
void OverlayCheck::takeZones(const image::CodedFrame& frame) {
    const bool isRgb = frame.tags.matrix == image::Matrix::None && frame.planeCount == 3;
    const image::Plane& plane = frame.planes[isRgb ? 1 : 0];
    const auto [black, perSignal] = image::lumaCodes(frame);
    const auto nearWhite = static_cast<float>(black + kNearWhite * perSignal);
    const auto unchanged = static_cast<float>(kUnchanged * perSignal);
    const int rows = zoneRows(m_height);
    const auto width = static_cast<std::size_t>(m_width);
    for (int row = 0; row < 2 * rows; ++row) {
        const int y = row < rows ? row : m_height - 2 * rows + row;
        const auto* codes = reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y);
        const std::size_t start = static_cast<std::size_t>(row) * width;
        float* before = m_luma.data() + start;
        std::uint8_t* kept = m_kept.data() + start;
        if (m_frames == 0) {
            for (std::size_t x = 0; x < width; ++x) {
                before[x] = static_cast<float>(codes[x]);
                kept[x] = before[x] >= nearWhite ? 255 : 0;
            }
        } else {
            for (std::size_t x = 0; x < width; ++x)
                kept[x] =
                    std::abs(static_cast<float>(codes[x]) - before[x]) > unchanged ? 0 : kept[x];
        }
    }
}

void OverlayCheck::take(const image::CodedFrame& frame) {
    const int rows = zoneRows(frame.height);
    if (rows < 16 || (m_frames > 0 && (frame.width != m_width || frame.height != m_height))) return;
    if (m_frames == 0) {
        m_width = frame.width;
        m_height = frame.height;
        m_luma.resize(2 * static_cast<std::size_t>(rows) * static_cast<std::size_t>(frame.width));
        m_kept.resize(m_luma.size());
    }
    switch (frame.samples) {
        case image::SampleKind::Unsigned8:
            takeZones<std::uint8_t>(frame);
            break;
        case image::SampleKind::Unsigned16:
            takeZones<std::uint16_t>(frame);
            break;
        case image::SampleKind::Float32:
            takeZones<float>(frame);
            break;
    }
    ++m_frames;
}

int OverlayCheck::glyphs() const {
    if (m_frames < kFewestFrames) return 0;
    const int rows = zoneRows(m_height);
    int found = 0;
    for (int zone = 0; zone < 2; ++zone) {
        // The library's Mat takes no const bytes; it only reads them here.
        const cv::Mat mask(rows,
                           m_width,
                           CV_8UC1,
                           const_cast<std::uint8_t*>(
                               m_kept.data()) +  // NOLINT(cppcoreguidelines-pro-type-const-cast)
                               static_cast<std::ptrdiff_t>(zone) * rows * m_width);
        cv::Mat labels, stats, centres;
        const int count = cv::connectedComponentsWithStats(mask, labels, stats, centres, 8);
        std::vector<cv::Rect> letters;
        for (int i = 1; i < count; ++i) {
            const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT),
                               stats.at<int>(i, cv::CC_STAT_TOP),
                               stats.at<int>(i, cv::CC_STAT_WIDTH),
                               stats.at<int>(i, cv::CC_STAT_HEIGHT));
            const double fill =
                static_cast<double>(stats.at<int>(i, cv::CC_STAT_AREA)) / box.area();
            const bool isLetter = box.height >= kLeastGlyph * m_height &&
                                  box.height <= kMostGlyph * m_height &&
                                  box.width <= 1.6 * box.height && box.width >= 2 && fill > 0.15 &&
                                  (fill < 0.92 || box.width < 0.45 * box.height);
            if (isLetter) letters.push_back(box);
        }
        std::sort(letters.begin(), letters.end(), [](const cv::Rect& a, const cv::Rect& b) {
            return a.x < b.x;
        });
        for (const cv::Rect& first : letters) {
            // One line: letters of one height on one base, each near the one before.
            int inRow = 0;
            int edge = first.x;
            for (const cv::Rect& next : letters) {
                const bool isBeside =
                    next.x >= first.x && next.x - edge < 2 * first.height &&
                    std::abs(next.br().y - first.br().y) <= std::max(2, first.height / 6) &&
                    std::abs(next.height - first.height) <= std::max(2, first.height / 5);
                if (!isBeside) continue;
                ++inRow;
                edge = next.br().x;
            }
            if (inRow >= kFewestInRow) found = std::max(found, inRow);
        }
    }
    return found;
}

std::optional<base::Warning> OverlayCheck::warning() const {
    const int count = glyphs();
    if (count == 0) return std::nullopt;
    return base::Warning{"DisplaysBurnedIn",
                         say("displaysBurnedIn.seen", {{"count", base::whole(count)}}),
                         say("displaysBurnedIn.hint")};
}

}  // namespace rigmatch::measure
