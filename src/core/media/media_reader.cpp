// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/media_reader.h"

#include <algorithm>
#include <cmath>
#include <system_error>
#include <thread>
#include <utility>

#include "base/format.h"
#include "media/ffmpeg_handles.h"
#include "media/frame_convert.h"
#include "media/metadata.h"
#include "media/open_errors.h"
#include "media/sound_decoder.h"
#include "media/timecode_watch.h"

namespace rigmatch::media {
namespace {

using base::Number;
using base::say;

namespace fs = std::filesystem;
using base::Error;
using base::ErrorCode;
using base::Result;
using base::Warning;

int quarterTurn(const AVStream& stream) {
    const auto* data = av_stream_get_side_data(&stream, AV_PKT_DATA_DISPLAYMATRIX, nullptr);
    if (data == nullptr) return 0;
    const double angle = av_display_rotation_get(reinterpret_cast<const int32_t*>(data));
    if (!std::isfinite(angle)) return 0;
    const long quarters = std::lround(-angle / 90.0);
    return static_cast<int>(((quarters % 4) + 4) % 4) * 90;
}

double secondsOf(std::int64_t stamp, AVRational unit) {
    return stamp == AV_NOPTS_VALUE ? 0.0 : static_cast<double>(stamp) * av_q2d(unit);
}

/// Stands with the picture, with the whole, or in a track of its own.
std::optional<Timecode> timecodeIn(const AVFormatContext& container,
                                   const AVStream& picture,
                                   double frameRate) {
    std::string text = metadataValue(container.metadata, picture.metadata, "timecode");
    for (unsigned i = 0; text.empty() && i < container.nb_streams; ++i)
        text = metadataValue(nullptr, container.streams[i]->metadata, "timecode");
    return timecodeOf(text, frameRate);
}

/// From here on pictures are BT.709 or BT.2020 as a rule (ITU-R BT.709 against BT.601).
constexpr int kHighDefinitionRows = 720;

void warnOfTags(const image::SignalTags& tags,
                int height,
                const ReaderOptions& options,
                std::vector<Warning>& warnings) {
    if (!tags.isRangeTagged && !options.range) {
        warnings.push_back(
            {"RangeTagMissing", say("rangeTagMissing.seen"), say("rangeTagMissing.hint")});
    }
    if (!tags.isMatrixTagged && !options.matrix) {
        warnings.push_back(
            {"MatrixTagMissing",
             say("matrixTagMissing.seen",
                 {{"matrix",
                   tags.matrix == image::Matrix::Bt601 ? say("matrixTagMissing.bt")
                                                       : say("matrixTagMissing.bt2")}}),
             say("matrixTagMissing.hint")});
    } else if (tags.matrix == image::Matrix::Bt601 && height >= kHighDefinitionRows &&
               !options.matrix) {
        warnings.push_back({"MatrixTagUnusual",
                            say("matrixTagUnusual.seen", {{"height", base::whole(height)}}),
                            say("matrixTagUnusual.hint")});
    }
    // Wide recordings say BT.2020 for matrix, primaries, or both; HLG and PQ are wide by BT.2100.
    const bool isWide = tags.matrix == image::Matrix::Bt2020 ||
                        tags.transfer == image::TransferTag::Hlg ||
                        tags.transfer == image::TransferTag::Pq;
    const bool areWidePrimaries = tags.primaries == image::PrimariesTag::Bt2020 ||
                                  tags.primaries == image::PrimariesTag::P3D65;
    if (isWide && !areWidePrimaries) {
        const bool isUnknown = tags.primaries == image::PrimariesTag::Unknown;
        warnings.push_back({"PrimariesDoubted",
                            say("primariesDoubted.seen",
                                {{"says",
                                  isUnknown ? say("primariesDoubted.notSayPrimaries")
                                            : say("primariesDoubted.saysPrimaries",
                                                  {{"primaries", image::nameOf(tags.primaries)}})},
                                 {"taken",
                                  isUnknown ? say("primariesDoubted.bt")
                                            : base::asIs(image::nameOf(tags.primaries))}}),
                            say("primariesDoubted.hint")});
    }
}

}  // namespace

class MediaReader::Impl {
public:
    fs::path path;
    ReaderOptions options;
    MediaInfo info;
    FfmpegPtr<AVFormatContext> container;
    FfmpegPtr<AVCodecContext> decoder;
    FfmpegPtr<AVPacket> packet{av_packet_alloc()};
    FfmpegPtr<AVFrame> frame{av_frame_alloc()};
    int streamIndex = -1;
    double firstSeconds = 0.0;
    double position = 0.0;  // of the frame decoded last, s
    int damaged = 0, patched = 0;
    int delivered = 0;
    bool isDraining = false;
    bool isOffTrack = false;  // the frame decoded last has no decoded neighbours to go on from
    std::optional<SoundDecoder> sound;
    std::vector<SoundBlock> soundBlocks;
    TimecodeWatch timecodes;
    std::optional<image::CodedFrame> waiting;  // the frame that open() or seek() already took

    Result<void> openContainer();
    Result<void> openDecoder();
    Result<void> describe();
    Result<std::optional<image::CodedFrame>> next();
    Result<std::optional<image::CodedFrame>> decodeNext();
    Result<void> seekTo(double seconds);
    Result<std::optional<image::CodedFrame>> keyFrameAt(double seconds);

private:
    bool feed();
    Result<std::optional<image::CodedFrame>> taken();
    Result<void> goBack(std::int64_t stamp, double seconds);
    [[nodiscard]] std::int64_t stampOf(double seconds) const;
    [[nodiscard]] bool isCloserOnForward(double target, std::int64_t stamp) const;
    [[nodiscard]] bool isStillFormat() const {
        const std::string format = container->iformat->name;
        return format.find("_pipe") != std::string::npos || format == "image2";
    }
    image::CodedFrame converted();
    tl::unexpected<Error> tooLarge(const std::string& size) const;
};

Result<void> MediaReader::Impl::openContainer() {
    av_log_set_level(AV_LOG_QUIET);
    AVFormatContext* raw = nullptr;
    const int opened = avformat_open_input(&raw, path.c_str(), nullptr, nullptr);
    if (opened < 0) return demuxError(path, opened);
    container.reset(raw);
    const std::string format = container->iformat->name;
    if (format == "tty" || format == "subviewer" || format == "lrc") {
        return openError(path,
                         ErrorCode::UnsupportedFormat,
                         say("media.textFile"),
                         say("media.chooseCamerasFile"));
    }
    const int probed = avformat_find_stream_info(container.get(), nullptr);
    if (probed < 0) return demuxError(path, probed);
    streamIndex = av_find_best_stream(container.get(), AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
    const bool isCover = streamIndex >= 0 && (container->streams[streamIndex]->disposition &
                                              AV_DISPOSITION_ATTACHED_PIC) != 0;
    if (streamIndex < 0 || isCover) {
        return openError(
            path, ErrorCode::NoPicture, say("media.noVideoStream"), say("media.chooseCamerasClip"));
    }
    return {};
}

tl::unexpected<Error> MediaReader::Impl::tooLarge(const std::string& size) const {
    return openError(path,
                     ErrorCode::TooLarge,
                     say("media.tooManyPixels",
                         {{"size", size}, {"most", base::whole(options.maxPixels / 1'000'000)}}),
                     say("media.exportSmallerStill"));
}

Result<void> MediaReader::Impl::openDecoder() {
    const AVStream* stream = container->streams[streamIndex];
    const AVCodecParameters* parameters = stream->codecpar;
    const auto pixels = static_cast<long long>(parameters->width) * parameters->height;
    if (pixels > options.maxPixels) {
        return tooLarge(std::to_string(parameters->width) + " × " +
                        std::to_string(parameters->height));
    }
    if (options.mayDecode && !options.mayDecode(pixels, !isStillFormat()))
        return tl::unexpected(base::cancelledError());
    options.mayDecode = nullptr;  // who asked may be gone later
    const AVCodec* codec = avcodec_find_decoder(parameters->codec_id);
    if (codec == nullptr) {
        return openError(
            path,
            ErrorCode::UnsupportedFormat,
            say("media.thereNoDecoder", {{"codec", avcodec_get_name(parameters->codec_id)}}),
            say("media.recordKnownCodec"));
    }
    decoder.reset(avcodec_alloc_context3(codec));
    avcodec_parameters_to_context(decoder.get(), parameters);
    // Every thread of the decoder holds frames of its own: large ones get few.
    constexpr int kLargePixels = 4'000'000;
    constexpr int kThreadsForLarge = 4;
    decoder->thread_count = options.threads;
    if (options.threads == 0 && pixels > kLargePixels)
        decoder->thread_count = std::clamp(
            static_cast<int>(std::thread::hardware_concurrency()) + 1, 1, kThreadsForLarge);
    decoder->pkt_timebase = stream->time_base;
    decoder->max_pixels = options.maxPixels;
    if (options.hasSound && !isStillFormat()) sound = SoundDecoder::open(*container);
    const int opened = avcodec_open2(decoder.get(), codec, nullptr);
    if (opened < 0) {
        return openError(path,
                         ErrorCode::UnsupportedFormat,
                         say("media.decoderNotOpen", {{"reason", ffmpegReason(opened)}}),
                         say("media.recordConvertAnother"));
    }
    return {};
}

/// Sends packets until the decoder takes no more; false when there is nothing left to send.
bool MediaReader::Impl::feed() {
    if (isDraining) return false;
    while (true) {
        const int got = av_read_frame(container.get(), packet.get());
        if (got < 0) {
            isDraining = true;
            avcodec_send_packet(decoder.get(), nullptr);
            if (sound) sound->take(nullptr, soundBlocks);
            return true;
        }
        if (packet->stream_index != streamIndex) {
            if (sound && packet->stream_index == sound->streamIndex())
                sound->take(packet.get(), soundBlocks);
            timecodes.takePacket(*container->streams[packet->stream_index], *packet, firstSeconds);
            av_packet_unref(packet.get());
            continue;
        }
        const int sent = avcodec_send_packet(decoder.get(), packet.get());
        av_packet_unref(packet.get());
        if (sent < 0 && sent != AVERROR(EAGAIN)) ++damaged;
        return true;
    }
}

image::CodedFrame MediaReader::Impl::converted() {
    image::SignalTags tags = tagsOf(*frame, info.isStill);
    if (options.range) tags.range = *options.range;
    if (options.matrix && tags.matrix != image::Matrix::None) tags.matrix = *options.matrix;
    auto coded = codedFrameOf(*frame, tags);
    if (!coded) return {};
    coded->seconds =
        secondsOf(frame->best_effort_timestamp, container->streams[streamIndex]->time_base) -
        firstSeconds;
    return turned(*coded, info.rotationDegrees);
}

/// The frame that the decoder gave just now.
Result<std::optional<image::CodedFrame>> MediaReader::Impl::taken() {
    if (static_cast<long long>(frame->width) * frame->height > options.maxPixels) {
        return openError(path,
                         ErrorCode::TooLarge,
                         say("media.frameLargerThan"),
                         say("media.exportSmallerFile"));
    }
    if ((frame->flags & AV_FRAME_FLAG_CORRUPT) != 0) ++damaged;
    constexpr int kMadeUp = FF_DECODE_ERROR_INVALID_BITSTREAM | FF_DECODE_ERROR_CONCEALMENT_ACTIVE;
    if ((frame->decode_error_flags & kMadeUp) != 0) ++patched;
    image::CodedFrame coded = converted();
    if (coded.width == 0) {
        return openError(path,
                         ErrorCode::UnsupportedFormat,
                         say("media.sampleLayoutCannot"),
                         say("media.convertLayout"));
    }
    ++delivered;
    position = coded.seconds;
    if (!info.isStill)
        timecodes.takeFrame(*frame, position + firstSeconds, firstSeconds, info.frameRate);
    return std::optional(coded);
}

Result<std::optional<image::CodedFrame>> MediaReader::Impl::decodeNext() {
    while (true) {
        const int got = avcodec_receive_frame(decoder.get(), frame.get());
        if (got == 0) return taken();
        if (got == AVERROR(EAGAIN)) {
            feed();
            continue;
        }
        if (got != AVERROR_EOF) {
            ++damaged;
            if (feed()) continue;
        }
        if (delivered == 0) {
            return openError(
                path, ErrorCode::Truncated, say("media.notOneFrame"), say("media.fileDamagedCopy"));
        }
        return std::optional<image::CodedFrame>();
    }
}

Result<void> MediaReader::Impl::describe() {
    const AVStream* stream = container->streams[streamIndex];
    info.isStill = isStillFormat();
    info.codec = avcodec_get_name(stream->codecpar->codec_id);
    info.recorded = clipMetadata(container->metadata, stream->metadata);
    info.rotationDegrees = quarterTurn(*stream);
    if (info.isStill) {
        StillMetadata still = stillMetadata(path);
        if (still.pixels > options.maxPixels) return tooLarge(still.size);
        info.recorded = std::move(still.recorded);
        info.rotationDegrees = still.rotationDegrees;
    } else {
        const AVRational rate =
            stream->avg_frame_rate.num > 0 ? stream->avg_frame_rate : stream->r_frame_rate;
        info.frameRate = rate.den > 0 ? av_q2d(rate) : 0.0;
        info.timecode = timecodeIn(*container, *stream, info.frameRate);
        if (stream->duration != AV_NOPTS_VALUE && stream->duration > 0) {
            info.durationSeconds = secondsOf(stream->duration, stream->time_base);
        } else if (container->duration > 0) {
            info.durationSeconds = static_cast<double>(container->duration) / AV_TIME_BASE;
        }
    }
    auto first = decodeNext();
    if (!first) return tl::unexpected(first.error());
    if (!*first) {
        return openError(
            path, ErrorCode::Truncated, say("media.holdsNoFrame"), say("media.copyAgain"));
    }
    firstSeconds = (*first)->seconds;
    (*first)->seconds = position = 0.0;
    waiting = std::move(*first);
    info.width = waiting->width;
    info.height = waiting->height;
    info.bitDepth = waiting->bitDepth;
    info.tags = waiting->tags;
    info.pixelFormat = av_get_pix_fmt_name(static_cast<AVPixelFormat>(frame->format));
    warnOfTags(info.tags, info.height, options, info.warnings);
    if (frame->interlaced_frame != 0 && !info.isStill) {
        info.warnings.push_back({"Interlaced", say("interlaced.seen"), say("interlaced.hint")});
    }
    return {};
}

/// True where no key frame lies between the frame decoded last and the target: going back to the
/// key frame before both would decode the same frames again.
bool MediaReader::Impl::isCloserOnForward(double target, std::int64_t stamp) const {
    const double oneFrame = info.frameRate > 0.0 ? 1.0 / info.frameRate : 0.04;
    if (isOffTrack || target <= position + oneFrame) return false;
    AVStream* stream = container->streams[streamIndex];
    const int at = av_index_search_timestamp(stream, stamp, AVSEEK_FLAG_BACKWARD);
    const AVIndexEntry* key = at < 0 ? nullptr : avformat_index_get_entry(stream, at);
    return key != nullptr &&
           secondsOf(key->timestamp, stream->time_base) - firstSeconds <= position;
}

std::int64_t MediaReader::Impl::stampOf(double seconds) const {
    const double unit = av_q2d(container->streams[streamIndex]->time_base);
    return static_cast<std::int64_t>(std::floor((seconds + firstSeconds) / unit));
}

/// To the key frame at or before a stamp, with nothing left of what was decoded before.
Result<void> MediaReader::Impl::goBack(std::int64_t stamp, double seconds) {
    if (av_seek_frame(container.get(), streamIndex, stamp, AVSEEK_FLAG_BACKWARD) < 0) {
        return openError(path,
                         ErrorCode::Truncated,
                         say("media.noFrameAt", {{"seconds", Number{seconds, 2}}}),
                         say("media.chooseTimeWithin"));
    }
    avcodec_flush_buffers(decoder.get());
    if (sound) sound->flush();
    isDraining = isOffTrack = false;
    timecodes.forget();
    soundBlocks.clear();
    waiting.reset();
    return {};
}

Result<std::optional<image::CodedFrame>> MediaReader::Impl::keyFrameAt(double seconds) {
    if (info.isStill) return next();
    const double target = std::max(seconds, 0.0);
    if (auto back = goBack(stampOf(target), target); !back) return tl::unexpected(back.error());
    isOffTrack = true;
    while (av_read_frame(container.get(), packet.get()) >= 0) {
        const bool isPicture = packet->stream_index == streamIndex;
        if (isPicture) avcodec_send_packet(decoder.get(), packet.get());
        av_packet_unref(packet.get());
        if (!isPicture) continue;
        // Drained at once: a decoder of many threads would ask for the packets after it first.
        avcodec_send_packet(decoder.get(), nullptr);
        const int got = avcodec_receive_frame(decoder.get(), frame.get());
        avcodec_flush_buffers(decoder.get());
        if (got == 0) return taken();
    }
    return std::optional<image::CodedFrame>();
}

Result<std::optional<image::CodedFrame>> MediaReader::Impl::next() {
    if (isOffTrack) {
        if (auto moved = seekTo(position); !moved) return tl::unexpected(moved.error());
    }
    if (!waiting) return decodeNext();
    return std::exchange(waiting, std::nullopt);
}

Result<void> MediaReader::Impl::seekTo(double seconds) {
    const double target = std::max(seconds, 0.0);
    const std::int64_t stamp = stampOf(target);
    if (info.isStill) return {};
    if (!isCloserOnForward(target, stamp)) {
        if (auto back = goBack(stamp, seconds); !back) return back;
    }
    soundBlocks.clear();
    waiting.reset();
    std::optional<image::CodedFrame> last;
    const double halfFrame = info.frameRate > 0.0 ? 0.5 / info.frameRate : 0.02;
    while (true) {
        auto candidate = decodeNext();
        if (!candidate) return tl::unexpected(candidate.error());
        if (!*candidate) break;
        const bool isPast = (*candidate)->seconds > target + halfFrame;
        if (!isPast || !last) last = std::move(*candidate);
        if (isPast || last->seconds >= target - halfFrame) break;
    }
    waiting = std::move(last);
    return {};
}

MediaReader::MediaReader(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
MediaReader::MediaReader(MediaReader&&) noexcept = default;
MediaReader& MediaReader::operator=(MediaReader&&) noexcept = default;
MediaReader::~MediaReader() = default;

Result<MediaReader> MediaReader::open(const fs::path& path, const ReaderOptions& options) {
    if (auto checked = checkFile(path); !checked) return tl::unexpected(checked.error());
    auto impl = std::make_unique<Impl>();
    impl->path = path;
    impl->options = options;
    for (auto step : {&Impl::openContainer, &Impl::openDecoder, &Impl::describe}) {
        if (auto done = ((*impl).*step)(); !done) return tl::unexpected(done.error());
    }
    return MediaReader(std::move(impl));
}

const MediaInfo& MediaReader::info() const { return m_impl->info; }

Result<std::optional<image::CodedFrame>> MediaReader::next() { return m_impl->next(); }

Result<void> MediaReader::seek(base::Seconds time) { return m_impl->seekTo(time.value()); }

Result<std::optional<image::CodedFrame>> MediaReader::keyFrameAt(base::Seconds time) {
    return m_impl->keyFrameAt(time.value());
}

std::vector<SoundBlock> MediaReader::takeSound() {
    std::vector<SoundBlock> blocks = std::exchange(m_impl->soundBlocks, {});
    for (SoundBlock& block : blocks) block.seconds -= m_impl->firstSeconds;
    return blocks;
}

const std::vector<TimecodeJump>& MediaReader::timecodeJumps() const {
    return m_impl->timecodes.jumps();
}

int MediaReader::damagedFrames() const { return m_impl->damaged; }
int MediaReader::patchedFrames() const { return m_impl->patched; }

}  // namespace rigmatch::media
