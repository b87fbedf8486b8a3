// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/crop_track.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>

#include "base/format.h"
#include "face/face_finder.h"
#include "media/media_reader.h"

namespace rigmatch::jobs {
namespace {

using base::fixed;
using base::say;

constexpr double kSamePerson = 1.2;  // widths of the face, up to which it is the same person
constexpr int kMostSide = 100;       // of a shape's numbers

struct Shape {
    int across = 0, down = 0;
};

std::optional<Shape> shapeOf(const std::string& text) {
    const auto colon = text.find(':');
    if (colon == std::string::npos) return std::nullopt;
    const auto number = [](std::string_view part) -> std::optional<int> {
        int value = 0;
        const auto read = std::from_chars(part.data(), part.data() + part.size(), value);
        if (read.ec != std::errc() || read.ptr != part.data() + part.size()) return std::nullopt;
        return value >= 1 && value <= kMostSide ? std::optional(value) : std::nullopt;
    };
    const std::string_view all = text;
    const auto across = number(all.substr(0, colon)), down = number(all.substr(colon + 1));
    if (!across || !down) return std::nullopt;
    return Shape{*across, *down};
}

struct Seen {
    double seconds = 0.0;
    std::optional<image::Point> eyes;
};

/// The eyes of one person over the clip, found again by where they were.
class Follower {
public:
    Follower(face::FaceFinder finder, int person) : m_finder(std::move(finder)), m_person(person) {}

    Seen look(const image::CodedFrame& frame) {
        Seen seen;
        seen.seconds = frame.seconds;
        face::FaceOptions options;
        options.effort = face::FaceEffort::Quick;
        const auto faces = m_finder.find(frame, options);
        if (!faces) return seen;
        if (!m_last) {
            if (m_person < static_cast<int>(faces->size()))
                m_last = (*faces)[static_cast<std::size_t>(m_person)];
        } else {
            const face::Face* next = nullptr;
            double least = kSamePerson * m_last->width;
            for (const face::Face& face : *faces) {
                const double off = std::hypot(face.centre().x - m_last->centre().x,
                                              face.centre().y - m_last->centre().y);
                if (off >= least) continue;
                least = off;
                next = &face;
            }
            if (next == nullptr) return seen;
            m_last = *next;
        }
        if (m_last) seen.eyes = m_last->eyes;
        return seen;
    }

private:
    face::FaceFinder m_finder;
    int m_person;
    std::optional<face::Face> m_last;
};

/// Places between those that were seen on a straight line, before the first and after the last as
/// they are.
std::vector<image::Point> filled(const std::vector<Seen>& all) {
    std::vector<image::Point> places(all.size());
    std::optional<std::size_t> last;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (!all[i].eyes) continue;
        places[i] = *all[i].eyes;
        const std::size_t from = last ? *last + 1 : 0;
        for (std::size_t j = from; j < i; ++j) {
            const double share = last ? (all[j].seconds - all[*last].seconds) /
                                            std::max(1e-9, all[i].seconds - all[*last].seconds)
                                      : 1.0;
            const image::Point before = last ? places[*last] : places[i];
            places[j] = {before.x + share * (places[i].x - before.x),
                         before.y + share * (places[i].y - before.y)};
        }
        last = i;
    }
    for (std::size_t j = last ? *last + 1 : all.size(); j < all.size(); ++j)
        places[j] = places[*last];
    return places;
}

/// Each place as the mean of those about it, by a bell over time.
std::vector<image::Point> smoothed(const std::vector<Seen>& all,
                                   const std::vector<image::Point>& places,
                                   double spread) {
    if (spread <= 0.0) return places;
    std::vector<image::Point> calm(places.size());
    for (std::size_t i = 0; i < places.size(); ++i) {
        double weights = 0.0, x = 0.0, y = 0.0;
        for (std::size_t j = 0; j < places.size(); ++j) {
            const double off = (all[j].seconds - all[i].seconds) / spread;
            if (std::abs(off) > 4.0) continue;
            const double weight = std::exp(-0.5 * off * off);
            weights += weight;
            x += weight * places[j].x;
            y += weight * places[j].y;
        }
        calm[i] = {x / weights, y / weights};
    }
    return calm;
}

base::Result<std::vector<Seen>> watched(media::MediaReader& reader,
                                        Follower& follower,
                                        double every,
                                        const base::Progress& progress) {
    std::vector<Seen> all;
    const double length = std::max(0.01, reader.info().durationSeconds);
    while (true) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        const auto frame = reader.next();
        if (!frame) return tl::unexpected(frame.error());
        if (!*frame) break;
        if (!all.empty() && (*frame)->seconds < all.back().seconds + every - 1e-6) continue;
        all.push_back(follower.look(**frame));
        progress.report(std::min(1.0, (*frame)->seconds / length), base::say("progress.following"));
    }
    return all;
}

}  // namespace

base::Result<void> CropTrackOptions::validate() const {
    const auto refuse = [](const base::Text& what, const base::Text& allowed) {
        return base::fail(
            base::ErrorCode::OutOfRange, say("cropTrack.cannotFollowCrop"), what, allowed);
    };
    if (!shapeOf(shape))
        return refuse(say("cropTrack.shape", {{"shape", shape}}), say("cropTrack.shapeAllowed"));
    if (!(everySeconds >= 0.05 && everySeconds <= 5.0))
        return refuse(say("cropTrack.step", {{"seconds", base::Number{everySeconds, 2}}}),
                      say("cropTrack.stepAllowed"));
    if (!(smoothSeconds >= 0.0 && smoothSeconds <= 10.0))
        return refuse(say("cropTrack.smooth", {{"seconds", base::Number{smoothSeconds, 2}}}),
                      say("cropTrack.smoothAllowed"));
    if (person < 0)
        return refuse(say("cropTrack.person", {{"person", base::whole(person)}}),
                      say("cropTrack.personAllowed"));
    return {};
}

base::Result<CropTrack> cropTrack(const std::filesystem::path& file,
                                  const CropTrackOptions& options,
                                  const base::Progress& progress) {
    if (auto valid = options.validate(); !valid) return tl::unexpected(valid.error());
    auto reader = media::MediaReader::open(file);
    if (!reader) return tl::unexpected(reader.error());
    const auto refuse = [&](const base::Text& why, const base::Text& remedy) {
        return base::fail(
            base::ErrorCode::Unmeasurable,
            say("cropTrack.cannotFollowAnybody", {{"filename", file.filename().string()}}),
            why,
            remedy);
    };
    if (reader->info().isStill) return refuse(say("cropTrack.still"), say("cropTrack.chooseClip"));
    auto finder = face::FaceFinder::create();
    if (!finder) return tl::unexpected(finder.error());
    Follower follower(std::move(*finder), options.person);
    const auto seen = watched(*reader, follower, options.everySeconds, progress);
    if (!seen) return tl::unexpected(seen.error());
    const auto found = std::count_if(
        seen->begin(), seen->end(), [](const Seen& one) { return one.eyes.has_value(); });
    if (found == 0) return refuse(say("cropTrack.neverFound"), say("cropTrack.choosePerson"));
    const Shape shape = *shapeOf(options.shape);
    CropTrack track;
    track.shape = options.shape;
    const double width = reader->info().width, height = reader->info().height;
    const double across = std::min(width, height * shape.across / shape.down);
    // Even numbers: encoders ask for them.
    const auto even = [](double px) { return 2 * static_cast<int>(std::floor(px / 2.0)); };
    track.width = even(across);
    track.height = even(std::min(height, across * shape.down / shape.across));
    track.seenShare = static_cast<double>(found) / static_cast<double>(seen->size());
    const auto calm = smoothed(*seen, filled(*seen), options.smoothSeconds);
    // A window that is lower than the picture keeps the eyes where the picture had them.
    const double share = calm.empty() ? 0.0 : calm.front().y / height;
    for (std::size_t i = 0; i < seen->size(); ++i) {
        CropMoment moment;
        moment.seconds = (*seen)[i].seconds;
        moment.isSeen = (*seen)[i].eyes.has_value();
        moment.left = std::clamp(calm[i].x - 0.5 * track.width, 0.0, width - track.width);
        moment.top = std::clamp(calm[i].y - share * track.height, 0.0, height - track.height);
        if (moment.isSeen)
            track.farthestPx = std::max(
                track.farthestPx, std::abs((*seen)[i].eyes->x - moment.left - 0.5 * track.width));
        track.moments.push_back(moment);
    }
    return track;
}

}  // namespace rigmatch::jobs
