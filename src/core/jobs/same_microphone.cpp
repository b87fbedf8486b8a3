// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/same_microphone.h"

#include <algorithm>
#include <cmath>
#include <filesystem>

#include "timing/stretch_match.h"

namespace rigmatch::jobs {
namespace {

constexpr double kExcerpt = 12.0;  // s
constexpr double kAround = 0.5;    // s beside it, for what is late
constexpr double kPiece = 4.0;     // s that are correlated at once
constexpr double kReach = 0.02;    // s
/// Two microphones hear different reflections, a copy hears the same ones (own choice,
/// docs/sources.md 13.8).
constexpr double kSame = 0.8;

/// Samples of a track between two times of its file.
timing::WhitenedTrack cut(const timing::WhitenedTrack& track, double from, double to) {
    const auto at = [&](double seconds) {
        const double index = (seconds - track.startSeconds) * track.sampleRate;
        return static_cast<std::ptrdiff_t>(
            std::clamp(std::llround(index), 0LL, static_cast<long long>(track.samples.size())));
    };
    const std::ptrdiff_t first = at(from), last = std::max(first, at(to));
    timing::WhitenedTrack part;
    part.sampleRate = track.sampleRate;
    part.channel = track.channel;
    part.startSeconds = track.startSeconds + static_cast<double>(first) / track.sampleRate;
    part.samples.assign(track.samples.begin() + first, track.samples.begin() + last);
    return part;
}

/// Where the track holds most sound, s of its file.
double loudestStart(const timing::WhitenedTrack& track) {
    const auto step = static_cast<std::size_t>(track.sampleRate);
    std::vector<double> seconds;
    for (std::size_t i = 0; i < track.samples.size(); i += step) {
        double sum = 0.0;
        for (std::size_t j = i; j < std::min(i + step, track.samples.size()); ++j)
            sum += static_cast<double>(track.samples[j]) * static_cast<double>(track.samples[j]);
        seconds.push_back(sum);
    }
    const auto length = static_cast<std::size_t>(kExcerpt);
    double best = -1.0;
    std::size_t at = 0;
    for (std::size_t i = 0; i + std::min(length, seconds.size()) <= seconds.size(); ++i) {
        double sum = 0.0;
        for (std::size_t j = i; j < std::min(i + length, seconds.size()); ++j) sum += seconds[j];
        if (sum > best) {
            best = sum;
            at = i;
        }
    }
    return track.startSeconds + static_cast<double>(at);
}

base::Text channelText(std::size_t channel) {
    return base::say("sameMicrophone.channel", {{"channel", base::Number{double(channel + 1)}}});
}

}  // namespace

MicrophoneTwins::MicrophoneTwins(const SyncSource& reference) {
    if (reference.tracks.empty()) return;
    // The middle of what is loud, so that shorter files overlap it too.
    m_from = loudestStart(reference.tracks.front());
    keep(reference, 0.0);
}

void MicrophoneTwins::add(const SyncSource& source, const timing::SoundOffset& offset) {
    const double drift = 1e-6 * offset.driftPpm.value_or(0.0);
    keep(source, offset.offsetSeconds + drift * (m_from - offset.atSeconds));
}

void MicrophoneTwins::keep(const SyncSource& source, double offsetSeconds) {
    for (const timing::WhitenedTrack& track : source.tracks) {
        Excerpt excerpt;
        excerpt.file = source.file;
        excerpt.offsetSeconds = offsetSeconds;
        excerpt.track = cut(
            track, m_from + offsetSeconds - kAround, m_from + offsetSeconds + kExcerpt + kAround);
        if (excerpt.track.seconds() >= kPiece) m_excerpts.push_back(std::move(excerpt));
    }
}

double MicrophoneTwins::likenessOf(const Excerpt& one, const Excerpt& other) const {
    // Drift over some seconds is far less than a sample.
    double least = 1.0;
    int pieces = 0;
    for (double start = m_from; start + kPiece <= m_from + kExcerpt; start += kPiece) {
        const timing::Stretch stretch{start + one.offsetSeconds,
                                      kPiece,
                                      other.offsetSeconds - one.offsetSeconds,
                                      0.0,
                                      kReach};
        const auto match = timing::matchStretch(one.track, other.track, stretch);
        if (!match || std::abs(match->height) < timing::kSureHeight) continue;
        least = std::min(least, match->likeness);
        ++pieces;
    }
    return pieces > 0 ? least : 0.0;
}

void MicrophoneTwins::tell(SyncReport& report) const {
    for (std::size_t later = 0; later < m_excerpts.size(); ++later) {
        const Excerpt& mine = m_excerpts[later];
        const auto result = std::find_if(report.results.begin(),
                                         report.results.end(),
                                         [&](const auto& one) { return one.file == mine.file; });
        if (result == report.results.end()) continue;
        for (std::size_t earlier = 0; earlier < later; ++earlier) {
            const Excerpt& theirs = m_excerpts[earlier];
            if (theirs.file == mine.file) continue;
            const double likeness = likenessOf(theirs, mine);
            if (likeness < kSame) continue;
            result->findings.push_back(
                {"SameMicrophone",
                 base::say("sameMicrophone.seen",
                           {{"own", channelText(mine.track.channel)},
                            {"other", channelText(theirs.track.channel)},
                            {"file", std::filesystem::path(theirs.file).filename().string()},
                            {"percent", base::Number{100.0 * likeness}}}),
                 base::say("sameMicrophone.hint")});
            break;
        }
    }
}

}  // namespace rigmatch::jobs
