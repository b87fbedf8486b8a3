// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/picture_job.h"

#include <algorithm>

#include "image/frame.h"
#include "media/media_reader.h"

namespace rigmatch::jobs {

std::vector<unsigned char> bytesOf(const image::Frame& signal) {
    std::vector<unsigned char> rgb(signal.channels[0].size() * 3);
    for (std::size_t c = 0; c < 3; ++c) {
        const std::vector<float>& from = signal.channels[c];
        for (std::size_t i = 0; i < from.size(); ++i) {
            rgb[3 * i + c] =
                static_cast<unsigned char>(std::clamp(from[i] * 255.0F + 0.5F, 0.0F, 255.0F));
        }
    }
    return rgb;
}

CodeReading codeReading(const rig::Shot& shot) { return {shot.rangeOverride, shot.matrixOverride}; }

namespace {

constexpr double kLong = 60.0;  // s, from which only key frames are decoded

media::ReaderOptions optionsOf(const CodeReading& codes) {
    media::ReaderOptions options;
    options.range = image::rangeNamed(codes.range);
    options.matrix = image::matrixNamed(codes.matrix);
    return options;
}

}  // namespace

base::Result<image::CodedFrame> frameAt(const std::filesystem::path& media,
                                        double seconds,
                                        const CodeReading& codes) {
    auto reader = media::MediaReader::open(media, optionsOf(codes));
    if (!reader) return tl::unexpected(reader.error());
    if (seconds > 0.0) {
        if (auto moved = reader->seek(base::Seconds(seconds)); !moved)
            return tl::unexpected(moved.error());
    }
    const auto frame = reader->next();
    if (!frame) return tl::unexpected(frame.error());
    if (!*frame) {
        return base::fail(
            base::ErrorCode::Truncated,
            base::say("pictureJob.noFrameShow", {{"filename", media.filename().string()}}),
            base::say("pictureJob.clipEndsBefore"),
            base::say("pictureJob.measureAgain"));
    }
    return **frame;
}

base::Result<Picture> pictureAt(const std::filesystem::path& media,
                                double seconds,
                                const CodeReading& codes) {
    const auto frame = frameAt(media, seconds, codes);
    if (!frame) return tl::unexpected(frame.error());
    const image::Frame signal = image::signalFrame(*frame);
    return Picture{signal.width, signal.height, bytesOf(signal), frame->seconds};
}

base::Result<std::vector<Picture>> pictureStrip(const std::filesystem::path& media,
                                                int count,
                                                int width,
                                                const CodeReading& codes,
                                                const base::Progress& progress) {
    auto reader = media::MediaReader::open(media, optionsOf(codes));
    if (!reader) return tl::unexpected(reader.error());
    const double length = reader->info().durationSeconds;
    const int step = std::max(1, reader->info().width / std::max(1, width));
    std::vector<Picture> pictures;
    for (int i = 0; i < count; ++i) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        progress.report(static_cast<double>(i) / count, base::say("progress.loadingPictures"));
        const base::Seconds moment(length * (i + 0.5) / count);
        base::Result<std::optional<image::CodedFrame>> frame = std::nullopt;
        if (length > kLong) {
            frame = reader->keyFrameAt(moment);
        } else {
            if (auto moved = reader->seek(moment); !moved) return tl::unexpected(moved.error());
            frame = reader->next();
        }
        if (!frame) return tl::unexpected(frame.error());
        if (!*frame) break;
        const image::Frame small = image::shrunkSignal(**frame, step);
        pictures.push_back({small.width, small.height, bytesOf(small), (*frame)->seconds});
    }
    return pictures;
}

}  // namespace rigmatch::jobs
