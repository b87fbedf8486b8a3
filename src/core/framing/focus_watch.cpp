// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/focus_watch.h"

#include <algorithm>
#include <cmath>
#include <opencv2/calib3d.hpp>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "framing/luma_picture.h"
#include "image/robust.h"

namespace rigmatch::framing {
namespace {

constexpr int kSmall = 960;                             // px wide, on which size is followed
constexpr int kSomeApart = 31;                          // px, of what the stretch is told from
constexpr double kEvery = 0.2;                          // s
constexpr int kAcross = 8, kDown = 5, kFocusTile = 96;  // px
constexpr double kRests = 3.0;    // 8-bit codes of the mean change, up to which a tile rests
constexpr double kTexture = 4.0;  // 8-bit codes of slope, from which a tile tells focus
constexpr double kSoft = 0.5;     // log2 of fine over coarse detail, that counts as another focus
constexpr double kSoftAtFirst = 1.0;    // the same in a file's first moments
constexpr double kMostBreathing = 0.1;  // of the picture's size; common practice: 1 to 8 %
constexpr std::size_t kFewestTiles = 4, kFewestSamples = 8;
constexpr double kLongest = 4.0;  // s: what stays longer is a focus that was moved

/// Fine detail over coarse, log2; nothing where there is too little of either.
std::optional<double> detailOf(const cv::Mat& tile) {
    cv::Mat fine, coarse, small;
    cv::Laplacian(tile, fine, CV_32F, 1);
    cv::resize(tile, small, {}, 0.25, 0.25, cv::INTER_AREA);
    cv::Mat dx, dy;
    cv::Sobel(small, dx, CV_32F, 1, 0, 3, 0.125);
    cv::Sobel(small, dy, CV_32F, 0, 1, 3, 0.125);
    const double energy = cv::mean(dx.mul(dx) + dy.mul(dy))[0];
    if (energy < kTexture * kTexture / 4.0) return std::nullopt;
    return std::log2((cv::mean(fine.mul(fine))[0] + 1.0) / energy);
}

struct FocusSample {
    double seconds = 0.0;
    std::vector<std::optional<double>> detail;  ///< by tile; nothing where it moves
    double unrest = 0.0;
};

/// How much larger everything is in the second picture.
std::optional<double> growth(const cv::Mat& before, const cv::Mat& after) {
    std::vector<cv::Point2f> from, to;
    cv::goodFeaturesToTrack(before, from, 200, 0.02, 12.0);
    if (from.size() < 20) return std::nullopt;
    std::vector<std::uint8_t> found;
    std::vector<float> error;
    cv::calcOpticalFlowPyrLK(before, after, from, to, found, error, {25, 25}, 3);
    std::vector<cv::Point2f> a, b;
    for (std::size_t i = 0; i < from.size(); ++i) {
        if (found[i] == 0) continue;
        a.push_back(from[i]);
        b.push_back(to[i]);
    }
    if (a.size() < 20) return std::nullopt;
    cv::setRNGSeed(1);
    const cv::Mat change = cv::estimateAffinePartial2D(a, b, cv::noArray(), cv::RANSAC, 0.6);
    if (change.empty()) return std::nullopt;
    return std::hypot(change.at<double>(0, 0), change.at<double>(1, 0)) - 1.0;
}

}  // namespace

class FocusWatch::Impl {
public:
    void take(const image::CodedFrame& frame) {
        if (!m_samples.empty() && frame.seconds < m_samples.back().seconds + kEvery - 1e-6) return;
        const cv::Mat luma = lumaPlane(frame);
        if (luma.cols < kAcross * kFocusTile / 2 || luma.rows < kDown * kFocusTile / 2) return;
        if (!m_before.empty() && m_size != luma.size()) return;
        m_size = luma.size();
        cv::Mat small;
        const double share = std::min(1.0, static_cast<double>(kSmall) / luma.cols);
        cv::resize(luma, small, {}, share, share, cv::INTER_AREA);
        const LumaStretch stretch = lumaStretch(small, lumaPerSignal(frame), kSomeApart);
        std::vector<cv::Mat> coarse;
        FocusSample sample;
        sample.seconds = frame.seconds;
        for (int j = 0; j < kDown; ++j) {
            for (int i = 0; i < kAcross; ++i) {
                const cv::Rect at =
                    cv::Rect((2 * i + 1) * luma.cols / (2 * kAcross) - kFocusTile / 2,
                             (2 * j + 1) * luma.rows / (2 * kDown) - kFocusTile / 2,
                             kFocusTile,
                             kFocusTile) &
                    cv::Rect(0, 0, luma.cols, luma.rows);
                cv::Mat tile, blurred;
                luma(at).convertTo(tile, CV_8U, stretch.gain, stretch.offset);
                // Of coarse detail: grain and focus change the fine.
                cv::resize(tile, blurred, {}, 0.125, 0.125, cv::INTER_AREA);
                const bool isStill =
                    m_before.empty() || changeOf(m_before[coarse.size()], blurred) <= kRests;
                sample.detail.push_back(isStill ? detailOf(tile) : std::nullopt);
                coarse.push_back(blurred);
            }
        }
        small.convertTo(small, CV_8U, stretch.gain, stretch.offset);
        keepExtremes(sample, small);
        m_samples.push_back(std::move(sample));
        m_before = std::move(coarse);
    }

    [[nodiscard]] std::optional<rig::FocusOverTime> report() const {
        if (m_samples.size() < kFewestSamples) return std::nullopt;
        std::vector<FocusSample> samples = m_samples;
        if (!putUnrest(samples)) return std::nullopt;
        rig::FocusOverTime focus;
        focus.samples = static_cast<int>(samples.size());
        for (std::size_t i = 0; i < samples.size();) {
            if (samples[i].unrest < kSoft) {
                ++i;
                continue;
            }
            rig::FocusHunt hunt;
            hunt.startSeconds = samples[i].seconds;
            while (i < samples.size() && samples[i].unrest >= kSoft) {
                hunt.endSeconds = samples[i].seconds;
                hunt.strength = std::max(hunt.strength, samples[i].unrest);
                ++i;
            }
            // A file's first frames hold more grain, or less, until its encoder has settled.
            if (hunt.startSeconds == samples.front().seconds && hunt.strength < kSoftAtFirst)
                continue;
            hunt.hasStayed = i == samples.size() || hunt.endSeconds - hunt.startSeconds > kLongest;
            focus.hunts.push_back(hunt);
        }
        if (!focus.hunts.empty() && !m_sharp.empty() && !m_soft.empty())
            focus.breathing = growth(m_sharp, m_soft);
        // No lens breathes by more: then points were taken for others.
        if (focus.breathing && std::abs(*focus.breathing) > kMostBreathing) focus.breathing.reset();
        return focus;
    }

private:
    static double changeOf(const cv::Mat& before, const cv::Mat& now) {
        cv::Mat off;
        cv::absdiff(before, now, off);
        return cv::mean(off)[0];
    }

    /// The sharpest and the softest picture, for how much it breathes between them.
    void keepExtremes(const FocusSample& sample, const cv::Mat& small) {
        double sum = 0.0;
        std::size_t count = 0;
        for (const auto& one : sample.detail) {
            if (!one) continue;
            sum += *one;
            ++count;
        }
        if (count < kFewestTiles) return;
        const double mean = sum / static_cast<double>(count);
        if (m_sharp.empty() || mean > m_most) {
            m_most = mean;
            m_sharp = small;
        }
        if (m_soft.empty() || mean < m_least) {
            m_least = mean;
            m_soft = small;
        }
    }

    /// How far every sample's tiles are from what they usually are.
    static bool putUnrest(std::vector<FocusSample>& samples) {
        const std::size_t tiles = samples.front().detail.size();
        std::vector<std::optional<double>> usual(tiles);
        std::size_t telling = 0;
        for (std::size_t t = 0; t < tiles; ++t) {
            std::vector<double> values;
            for (const FocusSample& sample : samples) {
                if (sample.detail[t]) values.push_back(*sample.detail[t]);
            }
            if (2 * values.size() < samples.size()) continue;
            usual[t] = image::median(values);
            ++telling;
        }
        if (telling < kFewestTiles) return false;
        for (FocusSample& sample : samples) {
            std::vector<double> off;
            for (std::size_t t = 0; t < tiles; ++t) {
                if (usual[t] && sample.detail[t])
                    off.push_back(std::abs(*sample.detail[t] - *usual[t]));
            }
            sample.unrest = off.size() < kFewestTiles ? 0.0 : image::median(off);
        }
        return true;
    }

    std::vector<FocusSample> m_samples;
    std::vector<cv::Mat> m_before;  ///< coarse tiles
    cv::Size m_size;
    cv::Mat m_sharp, m_soft;
    double m_most = 0.0, m_least = 0.0;
};

FocusWatch::FocusWatch() : m_impl(std::make_unique<Impl>()) {}
FocusWatch::FocusWatch(FocusWatch&&) noexcept = default;
FocusWatch& FocusWatch::operator=(FocusWatch&&) noexcept = default;
FocusWatch::~FocusWatch() = default;

void FocusWatch::take(const image::CodedFrame& frame) { m_impl->take(frame); }
std::optional<rig::FocusOverTime> FocusWatch::report() const { return m_impl->report(); }

}  // namespace rigmatch::framing
