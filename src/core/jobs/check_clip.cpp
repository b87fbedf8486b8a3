// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/check_clip.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <system_error>

#include "jobs/check_sound.h"
#include "media/clip_writer.h"
#include "media/media_reader.h"

namespace rigmatch::jobs {
namespace {

constexpr double kClipSeconds = 10.0;
constexpr int kHalfWidth = 640, kHalfHeight = 360;
constexpr double kFastestRate = 60.0, kSlowestRate = 10.0;

/// One of the two, read in order; shows the last frame that has begun.
class Side {
public:
    static base::Result<Side> open(const std::string& file, double fromSeconds) {
        auto reader = media::MediaReader::open(file);
        if (!reader) return tl::unexpected(reader.error());
        if (fromSeconds > 0.0) {
            if (auto moved = reader->seek(base::Seconds(fromSeconds)); !moved)
                return tl::unexpected(moved.error());
        }
        return Side(std::move(*reader));
    }

    /// Nothing before its first frame; the last one stays after its end.
    base::Result<const image::Frame*> at(double seconds) {
        while (!m_next || m_next->seconds <= seconds) {
            if (m_next) m_shown = shrunk(*m_next);
            m_next.reset();
            if (m_isOver) break;
            auto frame = m_reader.next();
            if (!frame) return tl::unexpected(frame.error());
            m_isOver = !frame->has_value();
            m_next = std::move(*frame);
            if (m_isOver) break;
        }
        return m_shown ? &*m_shown : nullptr;
    }

private:
    explicit Side(media::MediaReader reader) : m_reader(std::move(reader)) {}

    static image::Frame shrunk(const image::CodedFrame& frame) {
        const int step = std::max({1,
                                   (frame.width + kHalfWidth - 1) / kHalfWidth,
                                   (frame.height + kHalfHeight - 1) / kHalfHeight});
        return image::shrunkSignal(frame, step);
    }

    media::MediaReader m_reader;
    std::optional<image::CodedFrame> m_next;
    std::optional<image::Frame> m_shown;
    bool m_isOver = false;
};

void paste(const image::Frame& picture, int left, image::Frame& canvas) {
    const int x0 = left + (kHalfWidth - picture.width) / 2, y0 = (kHalfHeight - picture.height) / 2;
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = 0; y < picture.height; ++y) {
            const auto* row =
                picture.channels[c].data() + std::ptrdiff_t{picture.width} * std::ptrdiff_t{y};
            std::copy(row,
                      row + picture.width,
                      canvas.channels[c].data() +
                          std::ptrdiff_t{canvas.width} * std::ptrdiff_t{y0 + y} + x0);
        }
    }
}

media::ClipOptions optionsFor(double rate, bool hasSound) {
    media::ClipOptions options;
    options.width = 2 * kHalfWidth;
    options.height = kHalfHeight;
    // Whole rates, or those by 1000/1001; anything else to the thousandth.
    const double whole = std::round(rate);
    const bool isNtsc = std::abs(rate - whole / 1.001) < 0.0003 * rate;
    options.frameRateNumerator =
        static_cast<int>(std::lround(isNtsc ? 1000.0 * whole : 1000.0 * rate));
    options.frameRateDenominator = isNtsc ? 1001 : 1000;
    const int divisor = std::gcd(options.frameRateNumerator, options.frameRateDenominator);
    options.frameRateNumerator /= divisor;
    options.frameRateDenominator /= divisor;
    options.quality = 22;
    options.soundRate = hasSound ? kCheckRate : 0;
    options.soundChannels = 2;
    return options;
}

/// Where the stretch begins on the reference's clock, and how long it is, without sound to go by.
std::pair<double, double> stretchOf(const SyncResult& result,
                                    double offset,
                                    double referenceSeconds,
                                    std::optional<double> clapSeconds) {
    const double from = std::max(0.0, -offset);
    const double to = std::min(referenceSeconds, result.durationSeconds - offset);
    const double middle = clapSeconds.value_or(0.5 * (from + to));
    const double start = std::max(from, std::min(middle - 0.5 * kClipSeconds, to - kClipSeconds));
    return {start, std::clamp(to - start, 0.0, kClipSeconds)};
}

std::string endingOf(const std::filesystem::path& file) {
    std::string ending = file.extension().string();
    for (char& letter : ending)
        if (letter >= 'A' && letter <= 'Z') letter = static_cast<char>(letter - 'A' + 'a');
    return ending;
}

base::Result<void> writePictures(Side& left,
                                 Side& right,
                                 double start,
                                 double offset,
                                 const CheckStretch& sound,
                                 double seconds,
                                 media::ClipWriter& writer,
                                 double rate,
                                 const base::Progress& progress) {
    const auto frames = static_cast<int>(std::floor(seconds * rate));
    std::size_t heard = 0;
    for (int f = 0; f < frames; ++f) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        progress.report(static_cast<double>(f) / frames, base::say("progress.writingTheCheckClip"));
        image::Frame canvas = image::blankFrame(2 * kHalfWidth, kHalfHeight);
        // Half a step on, so that rounded stamps fall on the frame meant.
        const double now = start + (f + 0.5) / rate;
        const auto first = left.at(now);
        if (!first) return tl::unexpected(first.error());
        if (*first != nullptr) paste(**first, 0, canvas);
        const auto second = right.at(now + offset);
        if (!second) return tl::unexpected(second.error());
        if (*second != nullptr) paste(**second, kHalfWidth, canvas);
        if (auto done = writer.append(canvas); !done) return done;
        const auto until =
            std::min(sound.left.size(), static_cast<std::size_t>((f + 1) / rate * kCheckRate));
        std::vector<float> block;
        for (; heard < until; ++heard) {
            block.push_back(sound.left[heard]);
            block.push_back(sound.right[heard]);
        }
        if (auto done = writer.appendSound(block); !done) return done;
    }
    return writer.finish();
}

}  // namespace

base::Result<void> writeCheckClip(const std::string& reference,
                                  const SyncResult& result,
                                  std::optional<double> clapSeconds,
                                  const std::filesystem::path& file,
                                  const base::Progress& progress) {
    const auto offset = result.offsetSeconds();
    const auto info = media::MediaReader::open(reference);
    if (!info) return tl::unexpected(info.error());
    if (!offset || !result.frames) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("checkClip.noCheckClip"),
                          !offset ? base::say("checkClip.twoNoOffset", {{"reason", result.reason}})
                                  : base::say("checkClip.noPictures", {{"file", result.file}}),
                          base::say("checkClip.chooseCamerasClip"));
    }
    CheckStretch sound;
    auto [start, seconds] = stretchOf(result, *offset, info->info().durationSeconds, clapSeconds);
    if (result.heard) {
        auto both =
            checkStretch(reference, result, clapSeconds, kClipSeconds, progress.part(0.0, 0.4));
        if (both) {
            sound = std::move(*both);
            start = sound.startSeconds;
            seconds = static_cast<double>(sound.left.size()) / kCheckRate;
        } else if (both.error().code == base::ErrorCode::Cancelled) {
            return tl::unexpected(both.error());
        }
    }
    const double here = result.offsetAt(start + 0.5 * seconds).value_or(*offset);
    auto left = Side::open(reference, start);
    if (!left) return tl::unexpected(left.error());
    auto right = Side::open(result.file, std::max(0.0, start + here));
    if (!right) return tl::unexpected(right.error());
    const double rate = std::clamp(info->info().frameRate, kSlowestRate, kFastestRate);
    auto writer = media::ClipWriter::create(file, optionsFor(rate, !sound.left.empty()));
    if (!writer) return tl::unexpected(writer.error());
    auto done = writePictures(
        *left, *right, start, here, sound, seconds, *writer, rate, progress.part(0.4, 1.0));
    if (!done) {
        std::error_code ignored;
        std::filesystem::remove(file, ignored);
    }
    return done;
}

base::Result<void> writeCheck(const std::string& reference,
                              const SyncResult& result,
                              std::optional<double> clapSeconds,
                              const std::filesystem::path& file,
                              const base::Progress& progress) {
    for (const std::string& source : {reference, result.file}) {
        std::error_code ignored;
        if (!std::filesystem::equivalent(source, file, ignored)) continue;
        return base::fail(
            base::ErrorCode::WriteFailed,
            base::say("checkClip.cannotWrite", {{"filename", file.filename().string()}}),
            base::say("checkClip.oneRecordingsChecked"),
            base::say("checkClip.chooseAnotherName"));
    }
    if (endingOf(file) == ".wav")
        return writeCheckSound(reference, result, clapSeconds, file, progress);
    return writeCheckClip(reference, result, clapSeconds, file, progress);
}

bool isCheckFile(const std::filesystem::path& file) {
    const std::string ending = endingOf(file);
    return ending == ".wav" || ending == ".mov" || ending == ".mp4";
}

}  // namespace rigmatch::jobs
