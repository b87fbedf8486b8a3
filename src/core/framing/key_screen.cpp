// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/key_screen.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/luma.h"
#include "image/robust.h"

namespace rigmatch::framing {
namespace {

constexpr int kScreenWidth = 480;                                 // px that are looked at
constexpr double kLeastArea = 0.14;                               // of the picture
constexpr float kLeastHueExcess = 0.06F, kLeastHueShare = 0.16F;  // over the other channels
constexpr double kAroundHead = 0.4;  // of a ring about a head that is screen
constexpr int kCell = 10;            // px over which light is averaged
constexpr int kScreenMargin = 5;     // px from the person, that count for neither
constexpr int kBand = 4;             // px of the person's edge
constexpr double kGamma = 2.4;       // ITU-R BT.1886
// What a matrix, a codec and folds of the cloth do to the whole (own choice).
constexpr double kLeastLevelDoubt = 0.004, kLeastSaturationDoubt = 0.008, kLeastSpillDoubt = 0.015;
constexpr double kCellDoubt = 0.02;  // stops: grain that cells leave, and the cloth's folds

struct ScreenHue {
    const char* name;
    std::size_t channel;
};
constexpr std::array<ScreenHue, 2> kHues{{{"green", 1}, {"blue", 2}}};

using ScreenPixel = std::array<float, 3>;

/// Of a median of places that scatter so, neighbours counted as one in nine.
double medianDoubt(const std::vector<double>& values, double least) {
    constexpr double kOfMedian = 1.2533, kAlike = 9.0;  // of a mean's error (normal values)
    const double middle = image::median(values);
    std::vector<double> apart;
    apart.reserve(values.size());
    for (const double value : values) apart.push_back(std::abs(value - middle));
    const double sigma = 1.4826 * image::median(apart);
    const double count = std::max(1.0, static_cast<double>(values.size()) / kAlike);
    return std::hypot(kOfMedian * sigma / std::sqrt(count), least);
}

class Screen {
public:
    explicit Screen(const image::CodedFrame& frame)
        : m_step(std::max(1, frame.width / kScreenWidth)),
          m_small(image::shrunkSignal(frame, m_step)) {}

    std::optional<rig::KeyScreen> read(const std::vector<HeadBox>& heads) {
        const double all = static_cast<double>(m_small.width) * m_small.height;
        double most = 0.0;
        for (const ScreenHue& hue : kHues) {
            const cv::Mat mask = maskOf(hue);
            const double share = cv::countNonZero(mask) / all;
            if (share <= most) continue;
            most = share;
            m_hue = hue;
            m_mask = mask;
        }
        const bool isBehind = std::any_of(
            heads.begin(), heads.end(), [&](const HeadBox& head) { return surrounds(head); });
        if (most < kLeastArea || !isBehind) return std::nullopt;
        rig::KeyScreen screen;
        screen.hue = m_hue.name;
        screen.areaShare = most;
        measureLight(screen);
        measureSpill(heads, screen);
        return screen;
    }

private:
    [[nodiscard]] ScreenPixel at(int x, int y) const {
        return {m_small.at(0, x, y), m_small.at(1, x, y), m_small.at(2, x, y)};
    }
    /// How far the hue's channel stands over the mean of the other two.
    [[nodiscard]] float excess(const ScreenPixel& pixel) const {
        const float others = pixel[0] + pixel[1] + pixel[2] - pixel[m_hue.channel];
        return pixel[m_hue.channel] - 0.5F * others;
    }

    cv::Mat maskOf(const ScreenHue& hue) const {
        cv::Mat mask = cv::Mat::zeros(m_small.height, m_small.width, CV_8U);
        for (int y = 0; y < m_small.height; ++y) {
            for (int x = 0; x < m_small.width; ++x) {
                const ScreenPixel pixel = at(x, y);
                float next = 0.0F;
                for (std::size_t c = 0; c < 3; ++c)
                    if (c != hue.channel) next = std::max(next, pixel[c]);
                const float over = pixel[hue.channel] - next;
                if (over > kLeastHueExcess && over > kLeastHueShare * pixel[hue.channel])
                    mask.at<std::uint8_t>(y, x) = 255;
            }
        }
        const cv::Mat kernel = cv::getStructuringElement(cv::MORPH_RECT, {3, 3});
        cv::morphologyEx(mask, mask, cv::MORPH_OPEN, kernel);
        return mask;
    }

    /// To both sides and over it.
    [[nodiscard]] bool surrounds(const HeadBox& head) const {
        const double scale = 1.0 / m_step;
        const cv::Rect inner(cvRound(head.left * scale),
                             cvRound(head.top * scale),
                             std::max(1, cvRound(head.width() * scale)),
                             std::max(1, cvRound(0.6 * head.height() * scale)));
        const int margin = std::max(3, inner.width / 3);
        const cv::Rect outer = cv::Rect(inner.x - margin,
                                        inner.y - margin,
                                        inner.width + 2 * margin,
                                        inner.height + margin) &
                               cv::Rect(0, 0, m_mask.cols, m_mask.rows);
        int seen = 0, screen = 0;
        for (int y = outer.y; y < outer.y + outer.height; ++y) {
            for (int x = outer.x; x < outer.x + outer.width; ++x) {
                if (inner.contains({x, y})) continue;
                ++seen;
                screen += m_mask.at<std::uint8_t>(y, x) != 0 ? 1 : 0;
            }
        }
        return seen > 0 && screen > kAroundHead * seen;
    }

    void measureLight(rig::KeyScreen& screen) const {
        cv::Mat inside;
        cv::erode(m_mask,
                  inside,
                  cv::getStructuringElement(cv::MORPH_RECT,
                                            {2 * kScreenMargin + 1, 2 * kScreenMargin + 1}));
        std::vector<double> stops, levels, saturations;
        for (int y = 0; y + kCell <= m_small.height; y += kCell) {
            for (int x = 0; x + kCell <= m_small.width; x += kCell) {
                if (cv::countNonZero(inside(cv::Rect(x, y, kCell, kCell))) < kCell * kCell / 2)
                    continue;
                ScreenPixel sum{};
                int count = 0;
                for (int j = y; j < y + kCell; ++j) {
                    for (int i = x; i < x + kCell; ++i) {
                        if (inside.at<std::uint8_t>(j, i) == 0) continue;
                        const ScreenPixel pixel = at(i, j);
                        for (std::size_t c = 0; c < 3; ++c) sum[c] += pixel[c];
                        ++count;
                    }
                }
                for (float& channel : sum) channel /= static_cast<float>(count);
                ScreenPixel light{};
                for (std::size_t c = 0; c < 3; ++c)
                    light[c] = std::pow(std::max(sum[c], 0.001F), static_cast<float>(kGamma));
                stops.push_back(std::log2(base::lumaOf(light)));
                levels.push_back(base::lumaOf(sum));
                const auto [least, most] = std::minmax_element(sum.begin(), sum.end());
                saturations.push_back(
                    static_cast<double>((*most - *least) / std::max(*most, 0.001F)));
            }
        }
        if (stops.empty()) return;
        screen.level = image::median(levels);
        screen.saturation = image::median(saturations);
        screen.levelDoubt = medianDoubt(levels, kLeastLevelDoubt);
        screen.saturationDoubt = medianDoubt(saturations, kLeastSaturationDoubt);
        std::sort(stops.begin(), stops.end());
        const auto part = [&](double share) {
            return stops[static_cast<std::size_t>(share * static_cast<double>(stops.size() - 1))];
        };
        screen.evennessStops = {part(0.95) - part(0.05),
                                kCellDoubt + 1.0 / std::sqrt(static_cast<double>(stops.size())) *
                                                 0.5 * (part(0.95) - part(0.05))};
    }

    /// The screen's hue on the edge of a head, as a share of the screen's own: skin and hair have
    /// none of it themselves. Blue is told too small on skin, which has less of blue than of red.
    void measureSpill(const std::vector<HeadBox>& heads, rig::KeyScreen& told) const {
        const auto grown = [&](int px) {
            cv::Mat larger;
            cv::dilate(m_mask,
                       larger,
                       cv::getStructuringElement(cv::MORPH_ELLIPSE, {2 * px + 1, 2 * px + 1}));
            return larger;
        };
        // Two px beside the screen mix with it in any picture.
        const cv::Mat band = grown(2 + kBand) - grown(2);
        std::vector<double> edge, screen;
        for (int y = 0; y < m_small.height; ++y) {
            for (int x = 0; x < m_small.width; ++x) {
                const auto value = static_cast<double>(excess(at(x, y)));
                if (m_mask.at<std::uint8_t>(y, x) != 0) {
                    if ((x + y) % 7 == 0) screen.push_back(value);
                    continue;
                }
                const double px = (x + 0.5) * m_step, py = (y + 0.5) * m_step;
                const bool isHead = std::any_of(heads.begin(), heads.end(), [&](const auto& head) {
                    return px > head.left - 0.2 * head.width() &&
                           px < head.right + 0.2 * head.width() && py > head.top &&
                           py < head.bottom;
                });
                if (isHead && band.at<std::uint8_t>(y, x) != 0) edge.push_back(value);
            }
        }
        constexpr std::size_t kFewest = 30;
        if (edge.size() < kFewest || screen.empty()) return;
        const double own = image::median(screen);
        if (own <= 0.0) return;
        told.spillShare = std::clamp(image::median(edge) / own, 0.0, 1.0);
        told.spillDoubt = medianDoubt(edge, kLeastSpillDoubt * own) / own;
    }

    int m_step;
    image::Frame m_small;
    ScreenHue m_hue = kHues[0];
    cv::Mat m_mask;
};

}  // namespace

std::optional<rig::KeyScreen> keyScreen(const image::CodedFrame& frame,
                                        const std::vector<HeadBox>& heads) {
    return Screen(frame).read(heads);
}

}  // namespace rigmatch::framing
