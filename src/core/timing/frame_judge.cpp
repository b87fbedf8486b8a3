// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/frame_judge.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numeric>
#include <optional>
#include <utility>

#include "image/robust.h"
#include "timing/frame_watch.h"

namespace rigmatch::timing {
namespace {

constexpr double kAround = 0.4;         // s, in which motion is compared
constexpr double kRepeatShare = 0.3;    // of the motion around
constexpr double kSurelyRepeat = 0.12;  // the same where motion is unsteady
constexpr double kUnsteady = 0.09;      // half of the frames leave the way of their neighbours
constexpr std::size_t kFewestSteps = 4;
constexpr double kMuchMotion = 16.0;                               // codes of 255
constexpr double kDipAlone = 0.5, kDipOwn = 0.4, kDipOfTwo = 0.7;  // steps that are lacking
constexpr double kLeapAlone = 0.5, kLeapStep = 1.3, kLeapOwn = 0.35, kLeapOfTwo = 0.7;
constexpr double kDipStep = 0.9;           // of a step, from which points went on as ever
constexpr double kDipFull = 0.5;           // of the motion around, beside a dip
constexpr double kPopAlike = 0.5;          // of the other, that either side of a repeat moves
constexpr double kUneven = 0.1;            // share of the usual interval; common practice
constexpr double kStampRounding = 0.0016;  // s: containers with stamps of whole milliseconds
constexpr std::size_t kMostBars = 24;
constexpr double kMissingRatio = 1.5;
constexpr double kWeak = 0.4;
constexpr double kStoodRatio = 0.3, kWentRatio = 0.6;  // of a step, where points were followed
constexpr double kUniqueShare = 0.05;  // of repeats, from which the rate itself is another
constexpr std::size_t kFewestBlurs = 3, kFewestSeen = 8;
constexpr double kOpenThroughout = 0.8, kOpenInPart = 0.72;  // share of the time between pictures
constexpr double kLeastSpan = 0.5;                           // s of stillness that are told

class Judge {
public:
    explicit Judge(const std::vector<FrameFacts>& facts) : m_facts(facts), m_count(facts.size()) {}

    FrameReport run() {
        FrameReport report;
        report.frames = static_cast<int>(m_count);
        if (m_count < 2) return report;
        judgeStamps(report);
        judgeMotion();
        judgeSteadiness();
        judgeRepeats(report);
        judgeDips(report);
        judgeSteps(report);
        judgeLeaps(report);
        judgeRate(report);
        judgeCause(report);
        judgeLines(report);
        report.notJudged = spansWhere([this](std::size_t i) { return !m_isJudged[i]; }, kLeastSpan);
        report.unsteady = spansWhere([this](std::size_t i) { return m_isUnsteady[i]; }, 0.0);
        std::sort(report.repeated.begin(), report.repeated.end());
        std::sort(report.missing.begin(), report.missing.end());
        return report;
    }

private:
    [[nodiscard]] double interval(std::size_t i) const {
        return m_facts[i].seconds - m_facts[i - 1].seconds;
    }

    void judgeStamps(FrameReport& report) {
        std::vector<double> intervals;
        for (std::size_t i = 1; i < m_count; ++i) intervals.push_back(interval(i));
        const auto [least, most] = std::minmax_element(intervals.begin(), intervals.end());
        report.shortestSeconds = *least;
        report.longestSeconds = *most;
        report.meanSeconds = std::accumulate(intervals.begin(), intervals.end(), 0.0) /
                             static_cast<double>(intervals.size());
        report.intervals = histogramOf(intervals);
        m_usual = usualInterval(intervals);
        m_isMissingByStamp.assign(m_count, false);
        if (m_usual <= 0.0) return;
        const double allowed = std::max(kUneven * m_usual, kStampRounding);
        std::size_t uneven = 0;
        for (std::size_t i = 1; i < m_count; ++i) {
            const double off = interval(i) - m_usual;
            if (std::abs(off) <= allowed) continue;
            const double times = interval(i) / m_usual;
            const double whole = std::round(times);
            const bool isGap = whole >= 2.0 && std::abs(times - whole) * m_usual <= allowed;
            if (isGap) {
                m_isMissingByStamp[i] = true;
                report.missing.push_back(m_facts[i].seconds);
                continue;
            }
            ++uneven;
            if (off > 0.0) report.late.push_back(m_facts[i].seconds);
        }
        report.isVariable = uneven > std::max<std::size_t>(2, m_count / 200);
        // Of a rate that varies, no single frame is late or missing by its stamp.
        if (uneven > m_count / 10) {
            report.late.clear();
            report.missing.clear();
        }
        report.rate = report.isVariable ? 1.0 / report.meanSeconds : 1.0 / m_usual;
        report.rateText = rateText(report.rate);
    }

    /// Whole milliseconds, as the coarsest containers have them; of very many kinds the most
    /// frequent.
    static std::vector<IntervalCount> histogramOf(const std::vector<double>& intervals) {
        std::map<long, IntervalCount> bars;
        for (const double one : intervals) {
            if (!std::isfinite(one)) continue;
            IntervalCount& bar = bars[std::lround(std::clamp(1000.0 * one, -1e9, 1e9))];
            ++bar.frames;
            bar.seconds += (one - bar.seconds) / bar.frames;
        }
        std::vector<IntervalCount> all;
        all.reserve(bars.size());
        for (auto& [at, bar] : bars) all.push_back(bar);
        std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
            return a.frames > b.frames;
        });
        if (all.size() > kMostBars) all.resize(kMostBars);
        std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
            return a.seconds < b.seconds;
        });
        return all;
    }

    /// The mean of the intervals that are like their median: stamps of whole milliseconds round.
    static double usualInterval(const std::vector<double>& intervals) {
        const double middle = image::median(intervals);
        double sum = 0.0;
        int count = 0;
        for (const double one : intervals) {
            if (std::abs(one - middle) > std::max(0.05 * middle, kStampRounding)) continue;
            sum += one;
            ++count;
        }
        return count > 0 ? sum / count : middle;
    }

    /// How much moves around every frame, and whether that is enough to judge by.
    void judgeMotion() {
        m_motion.assign(m_count, 0.0);
        m_isJudged.assign(m_count, false);
        for (std::size_t i = 1; i < m_count; ++i) {
            std::vector<double> changes, still;
            const auto [from, to] = around(i, 1);
            for (std::size_t j = from; j < to; ++j) {
                if (j == i) continue;
                changes.push_back(m_facts[j].change);
                still.push_back(m_facts[j].stillness);
            }
            if (changes.size() < 4) continue;
            std::sort(changes.begin(), changes.end());
            std::sort(still.begin(), still.end());
            const double high = changes[changes.size() * 85 / 100];
            const double noise = still[still.size() * 85 / 100];
            m_motion[i] = high;
            // Where the whole picture moves (a pan), all blocks change and none is still.
            const bool isPan = noise > 0.25 * high && noise > kPanned;
            m_isJudged[i] = high > kLeastMotion && (isPan || high > kAboveStill * noise);
        }
    }

    /// Frames around one, as far as motion is compared, none before `first`.
    [[nodiscard]] std::pair<std::size_t, std::size_t> around(std::size_t i,
                                                             std::size_t first) const {
        const double usual = m_usual > 0.0 ? m_usual : 0.04;
        const auto half = std::max<std::size_t>(3, static_cast<std::size_t>(kAround / usual));
        return {i > half + first ? i - half : first, std::min(m_count, i + half + 1)};
    }

    /// Things go on as they went. Where what changes jumps from frame to frame although every frame
    /// is a new one, strong compression lets things go by itself, and a single small or large step
    /// tells nothing (own experiments).
    void judgeSteadiness() {
        std::vector<std::optional<double>> off(m_count);
        for (std::size_t i = 2; i + 1 < m_count; ++i) {
            const std::array<double, 3> three{
                m_facts[i - 1].change, m_facts[i].change, m_facts[i + 1].change};
            const double least = *std::min_element(three.begin(), three.end());
            if (least <= 0.0 || least < kRepeatShare * m_motion[i]) continue;
            off[i] = std::abs(std::log(three[1]) - 0.5 * std::log(three[0] * three[2]));
        }
        m_isUnsteady.assign(m_count, false);
        for (std::size_t i = 1; i < m_count; ++i) {
            // Where much changes, things go far: what an encoder adds is lost in it.
            if (!m_isJudged[i] || m_motion[i] > kMuchMotion) continue;
            std::vector<double> known;
            const auto [from, to] = around(i, 1);
            for (std::size_t j = from; j < to; ++j)
                if (off[j]) known.push_back(*off[j]);
            m_isUnsteady[i] = known.size() >= kFewestSteps && image::median(known) > kUnsteady;
        }
    }

    [[nodiscard]] bool isLow(std::size_t i) const {
        const double share = m_isUnsteady[i] ? kSurelyRepeat : kRepeatShare;
        return m_facts[i].change < share * m_motion[i];
    }

    void judgeRepeats(FrameReport& report) {
        m_isRepeat.assign(m_count, false);
        const double usual = m_usual > 0.0 ? m_usual : 0.04;
        const auto longest = std::max<std::size_t>(1, static_cast<std::size_t>(kAround / usual));
        for (std::size_t i = 1; i < m_count;) {
            if (m_isJudged[i] && !m_isUnsteady[i] && m_facts[i].stepRatio &&
                *m_facts[i].stepRatio < kStoodRatio && m_facts[i].change < m_motion[i]) {
                repeat(i, i + 1, report);
                ++i;
                continue;
            }
            if (!m_isJudged[i] || !isLow(i) || m_facts[i].stepRatio.value_or(0.0) > kWentRatio) {
                ++i;
                continue;
            }
            std::size_t end = i;
            while (end < m_count && m_isJudged[end] && isLow(end)) ++end;
            // Between frames that move: before the first motion and after the last, things rest.
            const bool isWithin = i > 1 && end < m_count && end - i <= longest &&
                                  m_isJudged[i - 1] && m_isJudged[end];
            const bool isPart = isWithin && !isPop(i, end, longest) && isBetweenSteps(i, end);
            if (isPart && !isTurn(i, end)) {
                repeat(i, end, report);
            } else if (!isPart) {
                for (std::size_t j = i; j < end; ++j) m_isJudged[j] = false;
            }
            i = end;
        }
    }

    void repeat(std::size_t from, std::size_t to, FrameReport& report) {
        for (std::size_t j = from; j < to; ++j) {
            m_isRepeat[j] = true;
            report.repeated.push_back(m_facts[j].seconds);
        }
    }

    /// A single frame that changes between a rest and these: what an encoder let lie while things
    /// went slowly, it makes good with its next key frame. Only one that repeats alone, beside as
    /// much motion as follows, tells of a chain that just began to.
    [[nodiscard]] bool isPop(std::size_t from, std::size_t to, std::size_t longest) const {
        const auto isStill = [&](std::size_t i) { return !m_isJudged[i] || isLow(i); };
        const auto isRest = [&](std::size_t at, bool isBack) {
            std::size_t length = 0;
            for (std::size_t i = at; i > 0 && i < m_count && isStill(i) && !m_isRepeat[i];
                 i = isBack ? i - 1 : i + 1)
                ++length;
            return length > longest;
        };
        const bool isAfterRest = from >= 3 && isRest(from - 2, true);
        const bool isBeforeRest = to + 1 < m_count && isRest(to + 1, false);
        if (!isAfterRest && !isBeforeRest) return false;
        if (to - from > 1) return true;
        const double before = m_facts[from - 1].change, after = m_facts[to].change;
        return std::min(before, after) < kPopAlike * std::max(before, after);
    }

    /// Where motion is unsteady, only what stands between full steps on both sides is told.
    [[nodiscard]] bool isBetweenSteps(std::size_t from, std::size_t to) const {
        if (!m_isUnsteady[from] && !m_isUnsteady[to]) return true;
        const double least = std::min(m_facts[from - 1].change, m_facts[to].change);
        return least >= kDipFull * m_motion[from];
    }

    /// Things that swing come to rest and go on: what changes falls and rises step by step. A
    /// repeat stands between full steps.
    [[nodiscard]] bool isTurn(std::size_t from, std::size_t to) const {
        const auto step = [&](std::size_t i, bool isBack) -> double {
            // The next frame on that side that is no repeat itself.
            std::size_t at = i;
            while (at > 0 && at < m_count && (isLow(at) || at == i)) {
                if (isBack && at == 1) return m_facts[i].change;
                at = isBack ? at - 1 : at + 1;
            }
            return at < m_count ? m_facts[at].change : m_facts[i].change;
        };
        const double before = m_facts[from - 1].change, after = m_facts[to].change;
        const double floor = m_facts[from].change;
        const double expectedBefore = 2.0 * before - step(from - 1, true);
        const double expectedAfter = 2.0 * after - step(to, false);
        const double expected = std::min(expectedBefore, expectedAfter);
        return expected < 2.0 * floor + 0.25 * std::min(before, after);
    }

    /// A repeat that compression let go on a little: where things move steadily, one frame lacks
    /// half a step and more, or it and the next a whole one, while points go on in the same
    /// direction (things that bounce turn round).
    void judgeDips(FrameReport& report) {
        for (std::size_t i = 3; i + 3 < m_count; ++i) {
            if (!isSteadyAround(i)) continue;
            const double full = kDipFull * m_motion[i];
            if (std::min(m_facts[i - 1].change, m_facts[i + 1].change) < full) continue;
            if (m_facts[i].stepRatio.value_or(1.0) >= kDipStep) continue;
            // Alone, or with the frame before or after it.
            const std::array<Lack, 3> lacks{lack(i, i, i), lack(i - 1, i, i), lack(i, i + 1, i)};
            const bool isDip = std::any_of(lacks.begin(), lacks.end(), [](const Lack& one) {
                return one.own >= kDipAlone || (one.own >= kDipOwn && one.all >= kDipOfTwo);
            });
            if (!isDip) continue;
            repeat(i, i + 1, report);
        }
    }

    /// No other event within two frames, and motion that tells: little enough that an encoder can
    /// have evened a step out.
    [[nodiscard]] bool isSteadyAround(std::size_t i) const {
        if (m_motion[i] > kMuchMotion) return false;
        for (std::size_t j = i - 2; j <= i + 2; ++j)
            if (!m_isJudged[j] || m_isUnsteady[j] || m_isRepeat[j] || m_isMissingByStamp[j])
                return false;
        return true;
    }

    /// How many steps things lack, or went too far.
    struct Lack {
        double all = 0.0;  ///< in all frames looked at
        double own = 0.0;  ///< in the one frame asked for
    };
    enum class Side { Less, More };
    /// From `from` to `to`, against the way things went before and went on after: of what joining
    /// or continuing those lets expect, what makes it least.
    [[nodiscard]] Lack lack(std::size_t from,
                            std::size_t to,
                            std::size_t asked,
                            Side side = Side::Less) const {
        const auto change = [&](std::size_t i) { return m_facts[i].change; };
        const double sign = side == Side::Less ? 1.0 : -1.0;
        Lack found;
        if (from < 3 || to + 2 >= m_count) return found;
        const auto count = static_cast<double>(to - from + 1);
        for (std::size_t i = from; i <= to; ++i) {
            const auto k = static_cast<double>(i - from + 1);
            const double before = change(from - 1), after = change(to + 1);
            const double joined = before + (after - before) * k / (count + 1.0);
            const double onward = before + (before - change(from - 2)) * k;
            const double back = after + (after - change(to + 2)) * (count + 1.0 - k);
            const double expected = side == Side::Less ? std::min({joined, onward, back})
                                                       : std::max({joined, onward, back});
            if (expected <= 0.0) return {};
            const double one = std::max(0.0, sign * (1.0 - change(i) / expected));
            found.all += one;
            if (i == asked) found.own = one;
        }
        return found;
    }

    void judgeSteps(FrameReport& report) const {
        for (std::size_t i = 2; i + 1 < m_count; ++i) {
            const FrameFacts& facts = m_facts[i];
            if (!facts.stepRatio || !m_isJudged[i] || m_isUnsteady[i] || m_isMissingByStamp[i])
                continue;
            // A frame that stood in for a lost one is told as a repeat already.
            if (m_isRepeat[i - 1] || m_isRepeat[i] || m_isRepeat[i + 1]) continue;
            // Heavy compression evens steps out: beside a weak one a strong one tells nothing.
            const double least = std::min(m_facts[i - 1].change, m_facts[i + 1].change);
            if (least < kWeak * m_motion[i]) continue;
            const double time = interval(i) / (0.5 * (interval(i - 1) + interval(i + 1)));
            if (*facts.stepRatio / time > kMissingRatio) report.missing.push_back(facts.seconds);
        }
    }

    /// A picture left out whose step compression spread over two frames, or evened out a little.
    void judgeLeaps(FrameReport& report) const {
        const auto isTold = [&](std::size_t i) {
            return std::any_of(report.missing.begin(), report.missing.end(), [&](double one) {
                return std::abs(one - m_facts[i].seconds) < 2.5 * m_usual;
            });
        };
        for (std::size_t i = 3; i + 3 < m_count; ++i) {
            if (!isSteadyAround(i) || isTold(i)) continue;
            const double full = kDipFull * m_motion[i];
            if (std::min(m_facts[i - 1].change, m_facts[i + 2].change) < full) continue;
            const Lack alone = lack(i, i, i, Side::More), two = lack(i, i + 1, i, Side::More);
            const bool isAlone =
                alone.own >= kLeapAlone && m_facts[i].stepRatio.value_or(0.0) > kLeapStep;
            const bool isSpread =
                two.all >= kLeapOfTwo && std::min(two.own, two.all - two.own) >= kLeapOwn;
            if (isAlone || isSpread) report.missing.push_back(m_facts[i].seconds);
        }
    }

    void judgeRate(FrameReport& report) const {
        std::size_t judged = 0;
        for (std::size_t i = 1; i < m_count; ++i) judged += m_isJudged[i] ? 1 : 0;
        const auto repeats = static_cast<double>(report.repeated.size());
        report.uniqueRate = report.rate;
        if (judged == 0 || repeats < kUniqueShare * static_cast<double>(judged)) return;
        const double share = repeats / static_cast<double>(judged);
        report.uniqueRate = report.rate * (1.0 - share);
        report.pattern = patternOf(share);
    }

    /// Stamps that are uneven where frames repeat, or blur against the way things went.
    void judgeCause(FrameReport& report) const {
        if (report.repeated.empty()) return;
        const double allowed = std::max(kUneven * m_usual, kStampRounding);
        std::size_t uneven = 0;
        std::vector<double> blurs;
        for (std::size_t i = 1; i < m_count; ++i) {
            if (!m_isRepeat[i]) continue;
            const bool isLast = i + 1 == m_count;
            const double after = isLast ? m_usual : interval(i + 1);
            if (std::abs(interval(i) - m_usual) > allowed || std::abs(after - m_usual) > allowed)
                ++uneven;
            if (!isLast && m_facts[i + 1].blurShare) blurs.push_back(*m_facts[i + 1].blurShare);
        }
        if (2 * uneven >= report.repeated.size()) {
            report.repeatCause = "file";
            return;
        }
        if (blurs.size() < kFewestBlurs) return;
        report.repeatBlurShare = image::median(blurs);
        if (*report.repeatBlurShare >= kOpenThroughout)
            report.repeatCause = "shutter";
        else if (*report.repeatBlurShare <= kOpenInPart)
            report.repeatCause = "chain";
    }

    void judgeLines(FrameReport& report) const {
        std::size_t seen = 0, combed = 0;
        for (const FrameFacts& facts : m_facts) {
            seen += facts.isCombed ? 1 : 0;
            combed += facts.isCombed.value_or(false) ? 1 : 0;
        }
        if (seen >= kFewestSeen)
            report.combedShare = static_cast<double>(combed) / static_cast<double>(seen);
    }

    /// Repeats that come at even distances, as a chain that changes the rate makes them.
    [[nodiscard]] base::Text patternOf(double share) const {
        std::vector<double> distances;
        std::size_t last = 0;
        for (std::size_t i = 1; i < m_count; ++i) {
            if (!m_isRepeat[i]) continue;
            if (last > 0) distances.push_back(static_cast<double>(i - last));
            last = i;
        }
        if (distances.size() < 3) return {};
        const double usual = image::median(distances);
        const auto even = std::count_if(distances.begin(), distances.end(), [&](double one) {
            return std::abs(one - usual) < 0.5;
        });
        if (static_cast<double>(even) < 0.8 * static_cast<double>(distances.size())) return {};
        constexpr std::array<const char*, 7> kNames{"",
                                                    "",
                                                    "frames.everySecond",
                                                    "frames.everyThird",
                                                    "frames.everyFourth",
                                                    "frames.everyFifth",
                                                    "frames.everySixth"};
        const auto at = static_cast<std::size_t>(usual);
        if (at == 1 && share > 0.6) return base::say("frames.most");
        if (at < kNames.size()) return at < 2 ? base::Text{} : base::say(kNames[at]);
        return base::say("frames.everyNth", {{"number", base::whole(at)}});
    }

    template <class Is>
    [[nodiscard]] std::vector<TimeSpan> spansWhere(const Is& is, double leastSeconds) const {
        std::vector<TimeSpan> spans;
        std::size_t from = 1;
        while (from < m_count) {
            if (!is(from)) {
                ++from;
                continue;
            }
            std::size_t to = from;
            while (to < m_count && is(to)) ++to;
            const double start = m_facts[from - 1].seconds, end = m_facts[to - 1].seconds;
            if (end - start >= leastSeconds) spans.push_back({start, end});
            from = to;
        }
        return spans;
    }

    const std::vector<FrameFacts>& m_facts;
    std::size_t m_count;
    double m_usual = 0.0;
    std::vector<double> m_motion;
    std::vector<bool> m_isJudged, m_isUnsteady, m_isRepeat, m_isMissingByStamp;
};

}  // namespace

FrameReport judgedFrames(const std::vector<FrameFacts>& facts) { return Judge(facts).run(); }

std::string rateText(double rate) {
    if (rate <= 0.0) return "0/1";
    const double whole = std::round(rate);
    if (whole > 0.0 && std::abs(rate - whole * 1000.0 / 1001.0) < 0.0003 * rate)
        return std::to_string(static_cast<long long>(whole) * 1000) + "/1001";
    if (std::abs(rate - whole) < 0.0003 * rate)
        return std::to_string(static_cast<long long>(whole)) + "/1";
    return std::to_string(std::llround(rate * 1000.0)) + "/1000";
}

}  // namespace rigmatch::timing
