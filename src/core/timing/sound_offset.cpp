// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/sound_offset.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "timing/coarse_offset.h"
#include "timing/direct_peak.h"
#include "timing/offset_line.h"
#include "timing/piece_search.h"
#include "timing/stretch_match.h"

namespace rigmatch::timing {
namespace {

constexpr double kLongPiece = 300.0, kShortPiece = 40.0;  // s, of the coarse search
constexpr std::size_t kLongTries = 40, kShortTries = 90;  // places that are looked at closely
constexpr double kSoundFirst = 180.0;  // s, up to which all sound is laid at once
constexpr double kLongSpan = 8.0;      // s, that levels have to be alike over
constexpr double kStretch = 2.0;       // s; 100 ppm smear it by a fifth of a millisecond
constexpr std::size_t kLooks = 6;      // stretches of one place
constexpr double kHeight = 6.0;        // two that agree say it
constexpr double kAlike =
    0.65;  // levels so alike over a piece speak for it already; chance reaches 0.55
constexpr double kSurePiece = 16.0;     // some seconds of sound; chance reaches 10
constexpr double kSureAlike = 7.0;      // one stretch alone there
constexpr double kAlikeHeight = 4.5;    // of three that agree there
constexpr double kFastestDrift = 4e-4;  // of any clock that is not broken
constexpr std::size_t kMostStretches = 60;
constexpr double kFastDrift = 2e-4;       // of most
constexpr double kAgreeSeconds = 0.0005;  // s between stretches that agree
constexpr double kLeastShared = 0.3;
constexpr double kSameSeconds = 0.02;   // two places that close are one
constexpr std::size_t kMostPlaces = 3;  // that are followed through the whole
constexpr double kTwinShare = 0.7;      // of the best one's evidence, from which sound repeats
constexpr double kApartShare = 0.2;     // of what both share, between the middles of two parts
constexpr double kWeakShare = 0.7;
constexpr double kWholeShare = 0.25;     // of the stretches with sound that must agree
constexpr double kTogetherHeight = 8.0;  // of all stretches together, from which fewer may
constexpr double kReflections = 0.045;   // s about the line that the direct sound is looked for in
constexpr double kRivalDoubt = 0.6;      // of the way to the farthest rival
constexpr double kNear = 0.002;          // s, once it is found

/// How much of both tracks sounds in every half second of the reference, for one offset.
class Activity {
public:
    Activity(const WhitenedTrack& reference, const WhitenedTrack& other)
        : m_reference(levels(reference)), m_other(levels(other)) {
        m_start = reference.startSeconds;
        m_otherStart = other.startSeconds;
        m_rate = reference.framesPerSecond;
    }

    /// Mean of the lower of both, dB above their floors, over a stretch.
    [[nodiscard]] double over(double startSeconds, double length, double offset) const {
        const double first = (startSeconds - m_start) * m_rate;
        const double there = (startSeconds + offset - m_otherStart) * m_rate;
        double sum = 0.0;
        const auto count = static_cast<int>(length * m_rate);
        for (int i = 0; i < count; ++i)
            sum += std::min(at(m_reference, first + i), at(m_other, there + i));
        return count > 0 ? sum / count : 0.0;
    }

private:
    static std::vector<float> levels(const WhitenedTrack& track) {
        std::vector<float> all(track.bands.empty() ? 0 : track.bands.front().size(), 0.0F);
        for (const auto& band : track.bands) {
            for (std::size_t i = 0; i < all.size(); ++i) all[i] += std::max(band[i], 0.0F);
        }
        return all;
    }
    static double at(const std::vector<float>& levels, double place) {
        if (place < 0.0 || place >= static_cast<double>(levels.size())) return 0.0;
        return static_cast<double>(levels[static_cast<std::size_t>(place)]);
    }

    std::vector<float> m_reference, m_other;
    double m_start = 0.0, m_otherStart = 0.0, m_rate = 1.0;
};

struct Span {
    double from = 0.0, to = 0.0;
    [[nodiscard]] double length() const { return to - from; }
};

/// A place that stood the closer look.
struct Found {
    double atSeconds = 0.0;
    double offsetSeconds = 0.0;
    double evidence = 0.0;
    std::vector<StretchMatch> matches;  ///< those that agree
    bool isSure = false;                ///< by the sound of a whole piece
};

class OffsetSearch {
public:
    OffsetSearch(const WhitenedTrack& reference, const WhitenedTrack& other)
        : m_reference(reference), m_other(other), m_activity(reference, other) {}

    base::Result<SoundOffset> run(const base::Progress& progress) {
        const double longest = std::max(m_reference.seconds(), m_other.seconds());
        // Short tracks by their sound at once; long ones by their levels first, which cost little.
        std::vector<Ways> ways{Ways::LongLevels, Ways::ShortLevels, Ways::Sound};
        if (longest <= kShortPiece)
            ways = {Ways::Sound, Ways::LongLevels};
        else if (longest <= kSoundFirst)
            ways = {Ways::Sound, Ways::LongLevels, Ways::ShortLevels};
        bool isHeard = false;
        for (const Ways way : ways) {
            const auto places = placesBy(way, progress.part(0.0, 0.5));
            const auto found = verified(places,
                                        way == Ways::LongLevels ? kLongTries : kShortTries,
                                        progress.part(0.5, 0.7));
            if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
            if (found.empty()) continue;
            isHeard = true;
            auto offset = best(found, progress.part(0.7, 1.0));
            const bool isOver =
                offset || offset.error().code == base::ErrorCode::Cancelled || m_isRepeating;
            if (isOver) return offset;
        }
        return nothing(isHeard ? base::say("soundOffset.soundAlikeStands")
                               : base::say("soundOffset.nothingOneThem"));
    }

private:
    /// By levels in bands of long or of short pieces, or by the sound itself.
    enum class Ways { LongLevels, ShortLevels, Sound };
    [[nodiscard]] std::vector<CoarsePlace> placesBy(Ways way,
                                                    const base::Progress& progress) const {
        if (way == Ways::Sound) return piecePlaces(m_reference, m_other, progress);
        const double piece = way == Ways::LongLevels ? kLongPiece : kShortPiece;
        return coarsePlaces(m_reference, m_other, std::min(piece, m_reference.seconds()), progress);
    }

    static tl::unexpected<base::Error> nothing(base::Text detail) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("soundOffset.twoNoSound"),
                          std::move(detail),
                          base::say("soundOffset.checkBothBelong"));
    }

    [[nodiscard]] Span overlap(double offset) const {
        return {std::max(m_reference.startSeconds, m_other.startSeconds - offset),
                std::min(m_reference.endSeconds(), m_other.endSeconds() - offset)};
    }

    /// The places whose sound itself, not only its levels, stands in both.
    std::vector<Found> verified(const std::vector<CoarsePlace>& places,
                                std::size_t tries,
                                const base::Progress& progress) {
        std::vector<Found> found;
        std::size_t tried = 0;
        for (const CoarsePlace& place : places) {
            if (tried++ >= tries || progress.isCancelled()) break;
            progress.report(static_cast<double>(tried) / static_cast<double>(tries),
                            base::say("progress.comparingSound"));
            const bool isKnown = std::any_of(found.begin(), found.end(), [&](const Found& one) {
                const double reach =
                    0.1 + kFastestDrift * std::abs(one.atSeconds - place.startSeconds);
                return std::abs(one.offsetSeconds - place.offsetSeconds) < reach;
            });
            if (isKnown) continue;
            if (const auto one = lookAt(place)) found.push_back(*one);
            if (found.size() >= 2 * kMostPlaces) break;
        }
        std::sort(found.begin(), found.end(), [](const Found& a, const Found& b) {
            return a.evidence > b.evidence;
        });
        return found;
    }

    std::optional<Found> lookAt(const CoarsePlace& place) const {
        Span span = overlap(place.offsetSeconds);
        span.from = std::max(span.from, place.startSeconds);
        span.to = std::min(span.to, place.startSeconds + place.lengthSeconds);
        if (span.length() < kLeastShared) return std::nullopt;
        const double length = std::min(kStretch, span.length());
        const double reach = 0.05 + kFastestDrift * place.lengthSeconds / 2.0;
        std::vector<StretchMatch> matches;
        for (const double start : loudest(span, length, place.offsetSeconds, kLooks)) {
            const auto match = matchStretch(
                m_reference,
                m_other,
                {start, length, place.offsetSeconds, 0.0, reach, place.height >= kSurePiece});
            if (match) matches.push_back(*match);
        }
        if (place.height >= kSurePiece) return surely(place, matches);
        return agreed(matches, place.likeness >= kAlike && span.length() > kLongSpan);
    }

    /// A piece that stands far out of chance needs no second one: in a short take everybody speaks
    /// once, and each from another distance.
    static Found surely(const CoarsePlace& place, const std::vector<StretchMatch>& matches) {
        Found found{place.startSeconds, place.offsetSeconds, place.height, {}, true};
        for (const StretchMatch& one : matches) {
            const double apart = std::abs(one.offsetSeconds - place.offsetSeconds);
            if (apart > kAgreeSeconds || std::abs(one.height) < kLeastHeight) continue;
            found.evidence += std::abs(one.height);
            found.matches.push_back(one);
        }
        return found;
    }

    static std::optional<Found> agreed(const std::vector<StretchMatch>& matches, bool isAlike) {
        const double least = isAlike ? kAlikeHeight : kHeight;
        const int needed = isAlike ? 3 : 2;
        std::optional<Found> best;
        for (const StretchMatch& one : matches) {
            Found found{one.atSeconds, one.offsetSeconds, 0.0, {}, false};
            for (const StretchMatch& other : matches) {
                const double apart = std::abs(one.offsetSeconds - other.offsetSeconds);
                const double allowed =
                    kAgreeSeconds + kFastDrift * std::abs(one.atSeconds - other.atSeconds);
                const bool isSameSign = one.height * other.height > 0.0;
                if (apart > allowed || !isSameSign || std::abs(other.height) < least) continue;
                found.evidence += std::abs(other.height);
                found.matches.push_back(other);
            }
            const auto agreeing = static_cast<int>(found.matches.size());
            const double likely = isAlike ? kSureAlike : kSureHeight;
            const bool isSure = std::abs(one.height) >= likely || agreeing >= needed;
            if (!isSure || std::abs(one.height) < least) continue;
            if (!best || found.evidence > best->evidence) best = std::move(found);
        }
        return best;
    }

    /// Starts of the stretches with the most sound in both, apart from each other.
    [[nodiscard]] std::vector<double> loudest(const Span& span,
                                              double length,
                                              double offset,
                                              std::size_t count) const {
        struct Start {
            double seconds, activity;
        };
        std::vector<Start> starts;
        const double step = std::max(length / 2.0, span.length() / 600.0);
        for (double start = span.from; start + length <= span.to + 1e-9; start += step)
            starts.push_back({start, m_activity.over(start, length, offset)});
        if (starts.empty()) return {span.from};
        std::sort(starts.begin(), starts.end(), [](const Start& a, const Start& b) {
            return a.activity > b.activity;
        });
        std::vector<double> chosen;
        for (const Start& start : starts) {
            if (chosen.size() >= count) break;
            const bool isApart = std::all_of(chosen.begin(), chosen.end(), [&](double other) {
                return std::abs(other - start.seconds) >= length;
            });
            if (isApart) chosen.push_back(start.seconds);
        }
        return chosen;
    }

    base::Result<SoundOffset> best(const std::vector<Found>& found,
                                   const base::Progress& progress) {
        std::vector<SoundOffset> lines;
        std::vector<double> evidence;
        for (std::size_t i = 0; i < std::min(found.size(), kMostPlaces); ++i) {
            if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
            progress.report(static_cast<double>(i) / kMostPlaces,
                            base::say("progress.followingTheOffset"));
            const auto line = followed(found[i]);
            if (!line) continue;
            double sum = 0.0;
            for (const OffsetPoint& point : line->points) sum += point.isUsed ? point.height : 0.0;
            lines.push_back(*line);
            evidence.push_back(sum);
        }
        if (lines.empty()) return nothing(base::say("soundOffset.soundAlikeStands"));
        const auto first = static_cast<std::size_t>(
            std::max_element(evidence.begin(), evidence.end()) - evidence.begin());
        for (std::size_t i = 0; i < lines.size(); ++i) {
            const double apart = lines[i].offsetSeconds - lines[first].offsetSeconds;
            if (i == first || std::abs(apart) < kSameSeconds) continue;
            if (evidence[i] > kTwinShare * evidence[first] && !areApart(lines[first], lines[i])) {
                m_isRepeating = true;
                return base::fail(
                    base::ErrorCode::Unmeasurable,
                    base::say("soundOffset.soundRepeatsItself"),
                    base::say("soundOffset.fitAlike",
                              {{"first", base::Number{lines[first].offsetSeconds, 3, true}},
                               {"second", base::Number{lines[i].offsetSeconds, 3, true}}}),
                    base::say("soundOffset.clapOnceHearing"));
            }
            noteJump(lines[first], lines[i]);
        }
        return lines[first];
    }

    /// True where the two hold for parts of the reference that follow each other: sound that was
    /// cut, not sound that repeats.
    [[nodiscard]] bool areApart(const SoundOffset& one, const SoundOffset& other) const {
        const Span mine = overlap(one.offsetSeconds), theirs = overlap(other.offsetSeconds);
        // Where both could hold: elsewhere only one of them has anything to lie on.
        const Span both{std::max(mine.from, theirs.from), std::min(mine.to, theirs.to)};
        const auto middleOf = [&](const SoundOffset& offset) {
            double sum = 0.0, times = 0.0;
            for (const OffsetPoint& point : offset.points) {
                const bool isInside = point.atSeconds >= both.from && point.atSeconds <= both.to;
                const double weight = point.isUsed && isInside ? point.height * point.height : 0.0;
                sum += weight;
                times += weight * point.atSeconds;
            }
            return sum > 0.0 ? times / sum : 0.0;
        };
        const double first = middleOf(one), second = middleOf(other);
        if (std::abs(first - second) < kApartShare * both.length()) return false;
        // Each is weak where the other is strong.
        const auto heightAt = [&](const SoundOffset& offset, double seconds) {
            double sum = 0.0, count = 0.0;
            for (const OffsetPoint& point : offset.points) {
                if (std::abs(point.atSeconds - seconds) > 0.2 * both.length()) continue;
                sum += point.isUsed ? point.height : 0.0;
                count += 1.0;
            }
            return count > 0.0 ? sum / count : 0.0;
        };
        return heightAt(one, second) < kWeakShare * heightAt(one, first) &&
               heightAt(other, first) < kWeakShare * heightAt(other, second);
    }

    /// Another place that is as sure by itself: a cut, or a second take in the file.
    static void noteJump(SoundOffset& line, const SoundOffset& other) {
        std::size_t sure = 0;
        for (const OffsetPoint& point : other.points)
            sure += point.isUsed && point.height >= kHeight ? 1 : 0;
        if (sure < 2) return;
        for (const OffsetPoint& point : other.points) {
            if (!point.isUsed || point.height < kHeight) continue;
            if (!line.jump || point.atSeconds < line.jump->atSeconds) line.jump = point;
        }
    }

    /// The place followed through the whole overlap, from where it was found to both ends.
    std::optional<SoundOffset> followed(const Found& found) {
        m_isProved = found.isSure;
        const Span span = overlap(found.offsetSeconds);
        if (span.length() < kLeastShared) return std::nullopt;
        const double length = std::min(kStretch, span.length());
        const auto starts = spread(span, length, found.offsetSeconds);
        OffsetLine line;
        for (const StretchMatch& match : found.matches)
            line.add({match.atSeconds, match.offsetSeconds, match.height, true});
        const auto middle = std::lower_bound(starts.begin(), starts.end(), found.atSeconds);
        for (auto at = middle; at != starts.end(); ++at) follow(*at, length, line);
        for (auto at = middle; at != starts.begin();) follow(*--at, length, line);
        if (!line.fit()) return std::nullopt;
        // Again, each block shifted as the clocks drift: longer stretches stay sharp.
        const double whole = std::min(4.0 * kStretch, span.length());
        const Together all = together(starts, span, whole, line);
        OffsetLine sharp;
        for (const double start : starts) {
            const double from = std::clamp(start, span.from, std::max(span.from, span.to - whole));
            const Stretch stretch{
                from, whole, line.at(from) + all.lagSeconds, line.slope(), kNear, m_isProved};
            if (const auto match = matchStretch(m_reference, m_other, stretch))
                sharp.add({match->atSeconds, match->offsetSeconds, match->height, true});
        }
        auto offset = summary(sharp, span, length, all.height, found.isSure);
        if (offset)
            offset->uncertaintySeconds =
                std::hypot(offset->uncertaintySeconds, kRivalDoubt * all.rivalSeconds);
        return offset;
    }

    struct Together {
        double lagSeconds = 0.0;    ///< of the highest peak, from the line
        double height = 0.0;        ///< over chance
        double rivalSeconds = 0.0;  ///< to the farthest peak that is nearly as high
    };
    /// All stretches laid over each other along the line: where the direct sound is weak, one of
    /// them may follow a reflection; together they do not.
    [[nodiscard]] Together together(const std::vector<double>& starts,
                                    const Span& span,
                                    double length,
                                    const OffsetLine& line) const {
        std::vector<double> sum;
        double count = 0.0;
        for (const double start : starts) {
            const double from = std::clamp(start, span.from, std::max(span.from, span.to - length));
            const auto match =
                matchStretch(m_reference,
                             m_other,
                             {from, length, line.at(from), line.slope(), kReflections, m_isProved});
            if (!match) continue;
            sum.resize(match->lags.size(), 0.0);
            for (std::size_t i = 0; i < std::min(sum.size(), match->lags.size()); ++i)
                sum[i] += static_cast<double>(match->lags[i]);
            count += 1.0;
        }
        if (sum.empty()) return {};
        for (double& height : sum) height /= std::sqrt(count);
        const std::size_t direct = directPeak(sum, m_reference.sampleRate, kHeight);
        const std::size_t middle = sum.size() / 2;
        const double lag = static_cast<double>(direct) - static_cast<double>(middle);
        return {lag / m_reference.sampleRate,
                std::abs(sum[direct]),
                rivalSeconds(sum, direct, m_reference.sampleRate)};
    }

    void follow(double start, double length, OffsetLine& line) const {
        const double middle = start + length / 2.0;
        const double reach = 0.004 + line.doubtAt(middle, kFastestDrift);
        const auto match = matchStretch(
            m_reference,
            m_other,
            {start, length, line.at(start), line.slope(), std::min(reach, 0.25), m_isProved});
        if (match && std::abs(match->height) >= kLeastHeight)
            line.add({match->atSeconds, match->offsetSeconds, match->height, true});
    }

    /// Starts over the whole overlap, each where its part of it is loudest.
    [[nodiscard]] std::vector<double> spread(const Span& span, double length, double offset) const {
        const auto slots = std::clamp<std::size_t>(
            static_cast<std::size_t>(span.length() / (2.0 * length)), 1, kMostStretches);
        std::vector<double> starts;
        const double slot = span.length() / static_cast<double>(slots);
        for (std::size_t i = 0; i < slots; ++i) {
            const double from = span.from + slot * static_cast<double>(i);
            const auto one = loudest({from, from + slot}, std::min(length, slot), offset, 1);
            starts.insert(starts.end(), one.begin(), one.end());
        }
        return starts;
    }

    std::optional<SoundOffset> summary(
        OffsetLine& line, const Span& span, double length, double height, bool isSure) const {
        if (!line.fit()) return std::nullopt;
        SoundOffset offset;
        offset.atSeconds = line.middle();
        offset.offsetSeconds = line.at(offset.atSeconds);
        offset.uncertaintySeconds = line.uncertainty();
        if (const auto drift = line.drift()) {
            offset.driftPpm = 1e6 * drift->slope;
            offset.driftUncertaintyPpm = 1e6 * drift->uncertainty;
        }
        offset.overlapSeconds = span.length();
        double turned = 0.0, used = 0.0, sounding = 0.0;
        double least = offset.offsetSeconds, most = offset.offsetSeconds;
        for (OffsetPoint point : line.points()) {
            turned += point.isUsed ? point.height : 0.0;
            const double start = point.atSeconds - length / 2.0;
            const bool hasSound =
                m_activity.over(start, length, offset.offsetSeconds) > kSoundingDecibels;
            sounding += point.isUsed || hasSound ? 1.0 : 0.0;
            used += point.isUsed ? 1.0 : 0.0;
            point.height = std::abs(point.height);
            offset.points.push_back(point);
            if (!point.isUsed) continue;
            least = std::min(least, point.offsetSeconds);
            most = std::max(most, point.offsetSeconds);
        }
        if (used >= 3.0) offset.wanderSeconds = most - least;
        offset.isInverted = turned < 0.0;
        // A few stretches alike among many that are not: the same words, not the same moment.
        if (used < 1.0 || (used < kWholeShare * sounding && height < kTogetherHeight && !isSure))
            return std::nullopt;
        offset.confidence = used / sounding * (1.0 - std::exp(-std::abs(turned) / 10.0));
        return offset;
    }

    static constexpr double kSoundingDecibels = 12.0;  // of all bands together

    const WhitenedTrack& m_reference;
    const WhitenedTrack& m_other;
    Activity m_activity;
    bool m_isRepeating = false;
    bool m_isProved = false;  ///< the place that is followed
};

}  // namespace

base::Result<SoundOffset> findSoundOffset(const WhitenedTrack& reference,
                                          const WhitenedTrack& other,
                                          const base::Progress& progress) {
    for (const WhitenedTrack* track : {&reference, &other}) {
        if (track->samples.empty()) {
            return base::fail(base::ErrorCode::Unmeasurable,
                              base::say("soundOffset.twoNoSound"),
                              track == &reference
                                  ? base::say("soundOffset.referenceSilentThroughout")
                                  : base::say("soundOffset.fileSilentThroughout"),
                              base::say("soundOffset.checkMicrophoneInput"));
        }
    }
    return OffsetSearch(reference, other).run(progress);
}

}  // namespace rigmatch::timing
