// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/frame_watch.h"

#include <algorithm>
#include <cmath>
#include <deque>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "image/robust.h"
#include "timing/combing.h"
#include "timing/frame_judge.h"
#include "timing/masked_corners.h"
#include "timing/small_luma.h"
#include "timing/step_blur.h"

namespace rigmatch::timing {
namespace {

constexpr int kWidth = 640;
constexpr int kBlock = 16;
constexpr std::size_t kMoving = 12;  // blocks that stand for what moves
constexpr float kFade = 0.85F;       // of the memory of where it moved, per frame
constexpr std::size_t kKept = 4;     // pictures for following points
constexpr double kJump = 1.25;       // change over both neighbours', from which a step is measured
constexpr double kDip = 0.85, kDeep = 0.65, kNothing = 0.1;  // of the neighbours' change
constexpr int kPoints = 60;
constexpr int kAroundMoving = 32;    // px, that points may go
constexpr double kLeastStep = 0.08;  // px of the small picture
constexpr double kRepeatDip = 0.3;   // of the change before and after
constexpr int kMostBlurs = 60;       // steps over which blur is looked at in a clip
constexpr double kCombMotion = 2.0;  // times the least motion, from which lines are compared
constexpr double kCombedPan = 0.02;  // share of samples
constexpr int kFlowWidth = 128, kLeastFlowHeight = 32, kFlowScale = 1;
constexpr double kFlowMotion = 0.5;  // codes of change, below which nothing is followed
constexpr double kCombed = 0.008, kCombedTimes = 4.0;  // share of samples; over what is still

/// Mean square of the difference in every block.
std::vector<float> blockChanges(const cv::Mat& before, const cv::Mat& now) {
    const int across = now.cols / kBlock, down = now.rows / kBlock;
    std::vector<float> changes(static_cast<std::size_t>(std::max(across * down, 1)), 0.0F);
    for (int y = 0; y < down * kBlock; ++y) {
        const std::uint8_t* a = before.ptr<std::uint8_t>(y);
        const std::uint8_t* b = now.ptr<std::uint8_t>(y);
        float* row = changes.data() + std::ptrdiff_t{y / kBlock} * across;
        for (int bx = 0; bx < across; ++bx) {
            int sum = 0;
            for (int x = bx * kBlock; x < (bx + 1) * kBlock; ++x) {
                const int off = static_cast<int>(a[x]) - static_cast<int>(b[x]);
                sum += off * off;
            }
            row[bx] += static_cast<float>(sum);
        }
    }
    for (float& change : changes) change /= kBlock * kBlock;
    return changes;
}

/// How far points went over three steps, as the middle one against the two beside it; nothing where
/// too few could be followed or the motion is not steady.
std::optional<double> middleStepRatio(const std::deque<cv::Mat>& whole, const cv::Mat& mask) {
    const cv::Rect part = maskedPart(mask, kAroundMoving);
    const std::vector<cv::Point2f> start = maskedCorners(whole[0](part), mask(part), kPoints);
    if (start.size() < 4) return std::nullopt;
    // Each picture is followed from and to: its pyramid is built once.
    const cv::Size window{15, 15};
    std::array<std::vector<cv::Mat>, 4> four;
    for (std::size_t i = 0; i < four.size(); ++i)
        cv::buildOpticalFlowPyramid(whole[i](part), four[i], window, 3);
    std::array<std::vector<cv::Point2f>, 4> places;
    places[0] = start;
    std::vector<bool> isGood(start.size(), true);
    for (std::size_t i = 0; i < 3; ++i) {
        std::vector<std::uint8_t> found, back;
        std::vector<float> error;
        std::vector<cv::Point2f> returned;
        cv::calcOpticalFlowPyrLK(
            four[i], four[i + 1], places[i], places[i + 1], found, error, window, 3);
        cv::calcOpticalFlowPyrLK(
            four[i + 1], four[i], places[i + 1], returned, back, error, window, 3);
        for (std::size_t p = 0; p < start.size(); ++p) {
            const cv::Point2f off = returned[p] - places[i][p];
            isGood[p] =
                isGood[p] && found[p] != 0 && back[p] != 0 && std::hypot(off.x, off.y) < 0.3F;
        }
    }
    std::vector<double> ratios;
    for (std::size_t p = 0; p < start.size(); ++p) {
        if (!isGood[p]) continue;
        const cv::Point2f first = places[1][p] - places[0][p], middle = places[2][p] - places[1][p],
                          last = places[3][p] - places[2][p];
        const cv::Point2f mean = 0.5F * (first + last);
        const double size = std::hypot(mean.x, mean.y);
        const cv::Point2f apart = first - last;
        if (size < kLeastStep || std::hypot(apart.x, apart.y) > 0.8 * size) continue;
        ratios.push_back(static_cast<double>(middle.dot(mean)) / (size * size));
    }
    if (ratios.size() < 4) return std::nullopt;
    return image::median(ratios);
}

}  // namespace

class FrameWatch::Impl {
public:
    // The library's own threads would wait, spinning, for cores that decode.
    Impl() {
        cv::setNumThreads(1);
        m_flow->setFinestScale(kFlowScale);
    }

    void take(const image::CodedFrame& frame) {
        cv::Mat small = smallLuma(frame, kWidth);
        FrameFacts facts;
        facts.seconds = frame.seconds;
        const double mean = cv::mean(small)[0];
        // A size that changes within the file begins anew.
        if (!m_kept.empty() && m_kept.back().size() != small.size()) m_kept.clear();
        if (!m_kept.empty()) {
            const std::vector<float> changes = blockChanges(m_kept.back(), small);
            measure(changes, facts);
            facts.brightening = mean - m_mean;
            const bool isPan = facts.stillness > kPanned;
            if (facts.change > kCombMotion * kLeastMotion &&
                (isPan || facts.change > kAboveStill * facts.stillness))
                facts.isCombed = isCombed(frame, small.cols, isPan);
        }
        m_mean = mean;
        m_sinking.push_back(sinkingOf(small, facts.motion));
        m_kept.push_back(small);
        if (m_kept.size() > kKept) m_kept.pop_front();
        m_facts.push_back(facts);
        lookForJump();
        lookForBlur();
    }

    [[nodiscard]] const std::vector<FrameFacts>& facts() const { return m_facts; }
    /// PictureCurve::sinking, of every frame.
    [[nodiscard]] const std::vector<double>& sinking() const { return m_sinking; }

private:
    double sinkingOf(const cv::Mat& small, double motion) {
        cv::Mat tiny;
        const double share = static_cast<double>(kFlowWidth) / std::max(small.cols, 1);
        const cv::Size size(kFlowWidth, static_cast<int>(std::lround(small.rows * share)));
        double sinking = 0.0;
        if (size.height >= kLeastFlowHeight) {
            cv::resize(small, tiny, size, 0.0, 0.0, cv::INTER_AREA);
            if (tiny.size() == m_tiny.size() && motion >= kFlowMotion) {
                cv::Mat flow;
                m_flow->calc(m_tiny, tiny, flow);
                sinking = cv::mean(flow)[1];
            }
        }
        m_tiny = tiny;
        return std::isfinite(sinking) ? sinking : 0.0;
    }

    void measure(const std::vector<float>& changes, FrameFacts& facts) {
        if (m_memory.size() != changes.size()) m_memory.assign(changes.size(), 0.0F);
        std::vector<std::size_t> order(changes.size());
        for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
        const std::size_t count = std::min(kMoving, order.size());
        // Where it moved up to now, or moves now.
        std::vector<float> weight(changes.size());
        for (std::size_t i = 0; i < changes.size(); ++i)
            weight[i] = std::max(m_memory[i], changes[i]);
        std::partial_sort(order.begin(),
                          order.begin() + static_cast<std::ptrdiff_t>(count),
                          order.end(),
                          [&](std::size_t a, std::size_t b) { return weight[a] > weight[b]; });
        double sum = 0.0;
        for (std::size_t i = 0; i < count; ++i) sum += static_cast<double>(changes[order[i]]);
        facts.change = std::sqrt(sum / static_cast<double>(std::max<std::size_t>(count, 1)));
        m_moving.assign(order.begin(), order.begin() + static_cast<std::ptrdiff_t>(count));
        // As many that were never seen to move.
        std::partial_sort(order.begin(),
                          order.begin() + static_cast<std::ptrdiff_t>(count),
                          order.end(),
                          [&](std::size_t a, std::size_t b) { return weight[a] < weight[b]; });
        m_still.assign(order.begin(), order.begin() + static_cast<std::ptrdiff_t>(count));
        double all = 0.0;
        std::vector<float> sorted = changes;
        const auto middle = static_cast<std::ptrdiff_t>(sorted.size() / 2);
        std::nth_element(sorted.begin(), sorted.begin() + middle, sorted.end());
        facts.stillness = std::sqrt(static_cast<double>(sorted[static_cast<std::size_t>(middle)]));
        for (const float change : changes) all += static_cast<double>(change);
        facts.motion =
            std::sqrt(all / static_cast<double>(std::max<std::size_t>(changes.size(), 1)));
        for (std::size_t i = 0; i < changes.size(); ++i)
            m_memory[i] = std::max(kFade * m_memory[i], changes[i]);
    }

    [[nodiscard]] cv::Rect blockAt(std::size_t block, int margin) const {
        const int across = m_kept.back().cols / kBlock;
        const int x = static_cast<int>(block) % across * kBlock,
                  y = static_cast<int>(block) / across * kBlock;
        return {x - margin, y - margin, kBlock + 2 * margin, kBlock + 2 * margin};
    }

    /// Lines alternate where things move, and not where nothing does.
    [[nodiscard]] bool isCombed(const image::CodedFrame& frame, int width, bool isPan) const {
        const auto share = [&](const std::vector<std::size_t>& blocks) {
            std::vector<cv::Rect> areas;
            areas.reserve(blocks.size());
            for (const std::size_t block : blocks) areas.push_back(blockAt(block, 0));
            return combingIn(frame, areas, width);
        };
        const double moving = share(m_moving);
        if (isPan) return moving > kCombedPan;  // nothing is still
        return moving > kCombed && moving > kCombedTimes * share(m_still);
    }

    [[nodiscard]] cv::Mat movingMask() const {
        cv::Mat mask = cv::Mat::zeros(m_kept.back().size(), CV_8U);
        for (const std::size_t block : m_moving)
            cv::rectangle(mask, blockAt(block, kBlock), 255, cv::FILLED);
        return mask;
    }

    /// A frame that goes on after one that repeats: over how much of its step does it blur?
    void lookForBlur() {
        if (m_kept.size() < 2 || m_facts.size() < 4 || m_blurs >= kMostBlurs) return;
        FrameFacts& last = m_facts.back();
        const double dip = m_facts[m_facts.size() - 2].change;
        const double before = m_facts[m_facts.size() - 3].change;
        if (last.change < kCombMotion * kLeastMotion || dip > kRepeatDip * last.change ||
            dip > kRepeatDip * before)
            return;
        ++m_blurs;
        last.blurShare = blurOverStep(m_kept[m_kept.size() - 2], m_kept.back(), movingMask());
    }

    /// The frame before the last, where much more or much less changed than before and after: how
    /// far did points go there?
    void lookForJump() {
        if (m_kept.size() < kKept || m_facts.size() < kKept + 1) return;
        const std::size_t last = m_facts.size() - 1;
        FrameFacts& middle = m_facts[last - 1];
        const double beside = std::max(m_facts[last - 2].change, m_facts[last].change);
        const double least = std::min(m_facts[last - 2].change, m_facts[last].change);
        const bool isJump = middle.change >= kJump * beside && least >= 0.15 * middle.change;
        // What is next to nothing needs no following.
        const bool isDip = middle.change <= kDip * least && middle.change <= kDeep * beside &&
                           middle.change >= kNothing * least;
        if (!isJump && !isDip) return;
        middle.stepRatio = middleStepRatio(m_kept, movingMask());
    }

    std::deque<cv::Mat> m_kept;
    cv::Mat m_tiny;
    cv::Ptr<cv::DISOpticalFlow> m_flow =
        cv::DISOpticalFlow::create(cv::DISOpticalFlow::PRESET_ULTRAFAST);
    std::vector<double> m_sinking;
    double m_mean = 0.0;
    std::vector<float> m_memory;
    std::vector<std::size_t> m_moving, m_still;
    int m_blurs = 0;
    std::vector<FrameFacts> m_facts;
};

FrameWatch::FrameWatch() : m_impl(std::make_unique<Impl>()) {}
FrameWatch::FrameWatch(FrameWatch&&) noexcept = default;
FrameWatch& FrameWatch::operator=(FrameWatch&&) noexcept = default;
FrameWatch::~FrameWatch() = default;

void FrameWatch::take(const image::CodedFrame& frame) { m_impl->take(frame); }
FrameReport FrameWatch::report() const { return judgedFrames(m_impl->facts()); }

PictureCurve FrameWatch::curve() const {
    PictureCurve curve;
    const auto& facts = m_impl->facts();
    for (std::size_t i = 1; i < facts.size(); ++i) {
        curve.seconds.push_back(0.5 * (facts[i - 1].seconds + facts[i].seconds));
        curve.motion.push_back(facts[i].motion);
        curve.sinking.push_back(m_impl->sinking()[i]);
        curve.brightening.push_back(facts[i].brightening);
        const bool isPan = facts[i].stillness > kPanned;
        if (facts[i].change >= kLeastMotion &&
            (isPan || facts[i].change >= kAboveStill * facts[i].stillness))
            ++curve.movingFrames;
        curve.largestBrightening =
            std::max(curve.largestBrightening, std::abs(facts[i].brightening));
    }
    if (facts.size() > 1)
        curve.frameSeconds =
            (facts.back().seconds - facts.front().seconds) / static_cast<double>(facts.size() - 1);
    return curve;
}

}  // namespace rigmatch::timing
