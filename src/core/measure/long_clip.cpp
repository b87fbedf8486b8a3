// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/long_clip.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <future>
#include <set>

#include "base/clock_text.h"
#include "chart/chart_finder.h"
#include "face/face_finder.h"

namespace rigmatch::measure {
namespace {

using base::Result;
using media::MediaReader;

constexpr double kPartReach = 20.0;  // of a part around what was seen, s
constexpr double kFirst = 120.0;     // looked at closely: charts are shown before all else
constexpr double kLast = 60.0;       // or after it
constexpr double kClose = 2.0;       // s between close looks
constexpr double kCoarsest = 64.0;   // s between the first looks in the middle
constexpr double kFinest = 4.0;      // and between the last ones
constexpr int kFaceLooks = 24;       // over a clip without a chart
constexpr std::array kNearChart{0.0, -4.0, 4.0, -10.0, 10.0, -20.0, 20.0, -40.0, 40.0};

/// One frame of a clip at a time, each looked at once.
class KeyFrames {
public:
    explicit KeyFrames(MediaReader& reader) : m_reader(reader) {}

    /// The frame at a moment; nothing where it was given before, or none can be read there: what is
    /// damaged or cut off is told by the pass over the part.
    std::optional<image::CodedFrame> at(double seconds) {
        auto frame = m_isExact ? exactly(seconds) : m_reader.keyFrameAt(base::Seconds(seconds));
        if (!frame || !*frame) return std::nullopt;
        if (!m_seen.insert(std::llround((*frame)->seconds * 1000.0)).second) return std::nullopt;
        return std::move(*frame);
    }
    /// True where a frame within `reach` of the moment was looked at.
    [[nodiscard]] bool hasSeen(double seconds, double reach) const {
        const auto next = m_seen.lower_bound(std::llround((seconds - reach) * 1000.0));
        return next != m_seen.end() && double(*next) <= (seconds + reach) * 1000.0;
    }
    void beExact() { m_isExact = true; }
    [[nodiscard]] int looks() const { return static_cast<int>(m_seen.size()); }

private:
    Result<std::optional<image::CodedFrame>> exactly(double seconds) {
        if (auto moved = m_reader.seek(base::Seconds(seconds)); !moved)
            return tl::unexpected(moved.error());
        return m_reader.next();
    }
    MediaReader& m_reader;
    bool m_isExact = false;
    std::set<long long> m_seen;  // ms
};

class Search {
public:
    Search(MediaReader& reader, const chart::ReferenceChart* chart, const base::Progress& progress)
        : m_reader(reader),
          m_chart(chart),
          m_progress(progress),
          m_duration(reader.info().durationSeconds) {}

    Result<ClipSearch> run() {
        m_result.isChartWanted = m_chart != nullptr;
        if (m_chart != nullptr && m_chart->isSearchable()) {
            if (auto done = findChart(); !done) return tl::unexpected(done.error());
        }
        if (auto done = findFaces(); !done) return tl::unexpected(done.error());
        m_result.part = part();
        return m_result;
    }

private:
    Result<void> findChart() {
        KeyFrames frames(m_reader);
        const std::vector<double> moments = searchMoments(m_duration);
        for (const bool isExact : {false, true}) {
            // Where key frames lie far apart, what is between them has to be decoded.
            if (isExact) frames.beExact();
            std::vector<double> wanted;
            for (const double moment : moments) {
                if (!isExact || !frames.hasSeen(moment, kFinest / 2.0)) wanted.push_back(moment);
            }
            if (isExact) std::sort(wanted.begin(), wanted.end());
            // One frame is looked at while the next one is decoded.
            std::future<bool> look;
            double lookedAt = 0.0;
            const auto isFound = [&] {
                if (look.valid() && look.get()) m_result.chartAt = lookedAt;
                return m_result.chartAt.has_value();
            };
            for (std::size_t i = 0; i < wanted.size(); ++i) {
                if (m_progress.isCancelled()) return tl::unexpected(base::cancelledError());
                m_progress.report(0.9 * double(i) / double(wanted.size()),
                                  base::say("progress.lookingForTheChart"));
                auto frame = frames.at(wanted[i]);
                m_result.looks = frames.looks();
                if (!frame) continue;
                if (isFound()) return {};
                lookedAt = frame->seconds;
                look = std::async(std::launch::async,
                                  [this, shown = std::move(*frame)] { return isSeenIn(shown); });
            }
            if (isFound()) return {};
        }
        return {};
    }
    [[nodiscard]] bool isSeenIn(const image::CodedFrame& frame) const {
        const chart::FinderOptions quick{chart::Effort::Quick,
                                         chart::FinderOptions{}.leastAgreement};
        return chart::findChart(frame, quick, *m_chart).has_value();
    }

    Result<void> findFaces() {
        auto finder = face::FaceFinder::create();
        if (!finder) return {};  // the measurer of faces says why
        std::vector<double> moments;
        if (m_result.chartAt) {
            for (const double apart : kNearChart) moments.push_back(*m_result.chartAt + apart);
        } else {
            for (int i = 0; i < kFaceLooks; ++i)
                moments.push_back(m_duration * (i + 0.5) / kFaceLooks);
        }
        KeyFrames frames(m_reader);
        face::FaceOptions options;
        options.effort = face::FaceEffort::Quick;
        for (const double moment : moments) {
            if (m_progress.isCancelled()) return tl::unexpected(base::cancelledError());
            m_progress.report(0.95, base::say("progress.lookingForFaces"));
            if (moment < 0.0 || moment > m_duration) continue;
            const auto frame = frames.at(moment);
            if (!frame) continue;
            ++m_result.looks;
            const auto found = finder->find(*frame, options);
            if (!found || found->empty()) continue;
            m_result.facesAt = frame->seconds;
            return {};
        }
        return {};
    }

    [[nodiscard]] ClipPart part() const {
        const double middle = m_result.chartAt.value_or(m_result.facesAt.value_or(0.0));
        ClipPart part = partAround(middle, m_duration);
        if (m_result.facesAt) {
            part.from = std::min(part.from, std::max(0.0, *m_result.facesAt - kClose));
            part.to = std::max(part.to, std::min(m_duration, *m_result.facesAt + kClose));
        }
        return part;
    }

    MediaReader& m_reader;
    const chart::ReferenceChart* m_chart;
    const base::Progress& m_progress;
    double m_duration;
    ClipSearch m_result;
};

}  // namespace

bool isLongClip(const media::MediaInfo& info) {
    return !info.isStill && info.durationSeconds > kLongClipSeconds;
}

std::vector<double> searchMoments(double durationSeconds) {
    std::vector<double> moments;
    const double first = std::min(kFirst, durationSeconds);
    for (double t = 0.0; t < first; t += kClose) moments.push_back(t);
    const double last = std::max(first, durationSeconds - kLast);
    for (double t = durationSeconds - 0.5 * kClose; t >= last; t -= kClose) moments.push_back(t);
    for (double step = kCoarsest; step >= kFinest; step /= 2.0) {
        // Each round looks midway between the looks of the rounds before it.
        const bool isFirst = step == kCoarsest;
        for (double t = first + (isFirst ? 0.0 : step); t < last; t += isFirst ? step : 2.0 * step)
            moments.push_back(t);
    }
    return moments;
}

ClipPart partAround(double seconds, double durationSeconds) {
    // A part at either end is as long as one in the middle.
    const double from =
        std::clamp(seconds - kPartReach, 0.0, std::max(0.0, durationSeconds - 2.0 * kPartReach));
    return {from, std::min(from + 2.0 * kPartReach, durationSeconds)};
}

Result<ClipSearch> searchClip(MediaReader& reader,
                              const chart::ReferenceChart* chart,
                              const base::Progress& progress) {
    return Search(reader, chart, progress).run();
}

base::Warning partWarning(const ClipSearch& search, double durationSeconds) {
    const bool hasChart = search.chartAt.has_value();
    const char* where = hasChart                     ? "partLookedAt.chart"
                        : search.facesAt.has_value() ? "partLookedAt.face"
                                                     : "partLookedAt.beginning";
    base::Text seen = base::say("partLookedAt.seen",
                                {{"whole", base::clockText(durationSeconds)},
                                 {"from", base::clockText(search.part.from)},
                                 {"to", base::clockText(search.part.to)},
                                 {"why", base::say(where)}});
    if (!hasChart && search.isChartWanted && search.looks > 0)
        seen += base::say("partLookedAt.noChart", {{"frames", base::Number{double(search.looks)}}});
    const base::Text hint = base::say("partLookedAt.hint");
    return {"PartLookedAt", seen, hasChart ? base::say("partLookedAt.enough") + hint : hint};
}

}  // namespace rigmatch::measure
