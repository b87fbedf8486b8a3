// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/clip_writer.h"

#include <algorithm>
#include <cmath>

#include "media/ffmpeg_handles.h"

namespace rigmatch::media {
namespace {

namespace fs = std::filesystem;
using base::ErrorCode;
using base::Result;

tl::unexpected<base::Error> writeError(const fs::path& path, const base::Text& reason) {
    return base::fail(ErrorCode::WriteFailed,
                      base::say("clip.cannotWrite", {{"path", path.string()}}),
                      base::say("clip.encoderSays", {{"reason", reason}}),
                      base::say("clip.checkFolderExists"));
}

AVColorTransferCharacteristic transferOf(image::TransferTag tag) {
    switch (tag) {
        case image::TransferTag::Hlg:
            return AVCOL_TRC_ARIB_STD_B67;
        case image::TransferTag::Srgb:
            return AVCOL_TRC_IEC61966_2_1;
        case image::TransferTag::Bt709:
            return AVCOL_TRC_BT709;
        default:
            return AVCOL_TRC_UNSPECIFIED;
    }
}

struct Muxer {
    AVFormatContext* context = nullptr;
    ~Muxer() {
        if (context == nullptr) return;
        if (context->pb != nullptr) avio_closep(&context->pb);
        avformat_free_context(context);
    }
};

/// Luma and chroma code scales of the target.
struct CodeScale {
    float lumaOffset, lumaSpan, chromaOffset, chromaSpan, top;
};

CodeScale codeScale(const ClipOptions& options) {
    const auto unit = static_cast<float>(std::exp2(options.bitDepth - 8));
    const auto top = static_cast<float>(std::exp2(options.bitDepth) - 1.0);
    if (options.isFullRange) return {0.0F, top, 128.0F * unit, top, top};
    return {16.0F * unit, 219.0F * unit, 128.0F * unit, 224.0F * unit, top};
}

template <class Sample>
void fillPlanes(const image::Frame& signal, const CodeScale& scale, AVFrame& out) {
    const image::LumaWeights k = image::lumaWeights(image::Matrix::Bt709);
    const auto kr = static_cast<float>(k.red);
    const auto kg = static_cast<float>(k.green);
    const auto kb = static_cast<float>(k.blue);
    const int width = signal.width;
    std::vector<float> luma(static_cast<std::size_t>(width) * 2);
    const float blueSpan = 0.25F / (2.0F * (1.0F - kb));
    const float redSpan = 0.25F / (2.0F * (1.0F - kr));
    const auto code = [top = scale.top](float value, float offset, float span) {
        return static_cast<Sample>(std::clamp(value * span + offset + 0.5F, 0.0F, top));
    };
    for (int pair = 0; pair < signal.height / 2; ++pair) {
        const auto at = static_cast<std::size_t>(pair) * 2 * static_cast<std::size_t>(width);
        const float* red = signal.channels[0].data() + at;
        const float* green = signal.channels[1].data() + at;
        const float* blue = signal.channels[2].data() + at;
        for (std::size_t i = 0; i < luma.size(); ++i) {
            luma[i] = kr * red[i] + kg * green[i] + kb * blue[i];
        }
        for (int row = 0; row < 2; ++row) {
            auto* y = reinterpret_cast<Sample*>(out.data[0] +
                                                std::ptrdiff_t{out.linesize[0]} * (pair * 2 + row));
            const float* from =
                luma.data() + static_cast<std::size_t>(row) * static_cast<std::size_t>(width);
            for (int x = 0; x < width; ++x) {
                y[x] = code(from[x], scale.lumaOffset, scale.lumaSpan);
            }
        }
        auto* cb = reinterpret_cast<Sample*>(out.data[1] + std::ptrdiff_t{out.linesize[1]} * pair);
        auto* cr = reinterpret_cast<Sample*>(out.data[2] + std::ptrdiff_t{out.linesize[2]} * pair);
        const auto w = static_cast<std::size_t>(width);
        for (std::size_t x = 0; x < w / 2; ++x) {
            const std::size_t i = 2 * x;
            const float y = luma[i] + luma[i + 1] + luma[i + w] + luma[i + w + 1];
            const float b = blue[i] + blue[i + 1] + blue[i + w] + blue[i + w + 1];
            const float r = red[i] + red[i + 1] + red[i + w] + red[i + w + 1];
            cb[x] = code((b - y) * blueSpan, scale.chromaOffset, scale.chromaSpan);
            cr[x] = code((r - y) * redSpan, scale.chromaOffset, scale.chromaSpan);
        }
    }
}

}  // namespace

Result<void> ClipOptions::validate() const {
    const auto refuse = [](const char* field, int value, const char* rule) {
        return base::fail(
            ErrorCode::OutOfRange,
            base::say("clip.cannotWriteClip", {{"field", base::say(field)}}),
            base::say("clip.given", {{"value", base::whole(value)}, {"rule", base::say(rule)}}),
            base::say("clip.changeValue"));
    };
    if (width < 16 || width > 8192 || width % 2 != 0)
        return refuse("clip.width", width, "clip.evenNumber");
    if (height < 16 || height > 8192 || height % 2 != 0)
        return refuse("clip.height", height, "clip.evenNumber");
    if (bitDepth != 8 && bitDepth != 10)
        return refuse("clip.bitDepth", bitDepth, "clip.eightOrTen");
    if (frameRateNumerator < 1 || frameRateDenominator < 1)
        return refuse("clip.frameRate", frameRateNumerator, "clip.positiveRate");
    if (quality < 0 || quality > 51) return refuse("clip.quality", quality, "clip.qualityRange");
    if (soundChannels < 1 || soundChannels > 2)
        return refuse("number of channels", soundChannels, "1 or 2 is allowed");
    return {};
}

class ClipWriter::Impl {
public:
    fs::path path;
    ClipOptions options;
    Muxer muxer;
    FfmpegPtr<AVCodecContext> encoder;
    FfmpegPtr<AVFrame> frame{av_frame_alloc()};
    FfmpegPtr<AVPacket> packet{av_packet_alloc()};
    AVStream* stream = nullptr;
    AVStream* soundStream = nullptr;
    std::int64_t count = 0;
    std::int64_t soundCount = 0;  ///< samples written

    Result<void> openEncoder();
    Result<void> openFile();
    Result<void> drain();
};

Result<void> ClipWriter::Impl::openEncoder() {
    const bool isHevc = options.codec == ClipCodec::Hevc;
    const AVCodec* codec = avcodec_find_encoder_by_name(isHevc ? "libx265" : "libx264");
    if (codec == nullptr) {
        return base::fail(
            ErrorCode::UnsupportedFormat,
            base::say("clip.cannotWrite", {{"path", path.string()}}),
            base::say("clip.noEncoder",
                      {{"codec", isHevc ? base::say("clip.hevc") : base::say("clip.h264")}}),
            base::say("clip.installFullFFmpeg"));
    }
    encoder.reset(avcodec_alloc_context3(codec));
    encoder->width = options.width;
    encoder->height = options.height;
    encoder->time_base = {options.frameRateDenominator, options.frameRateNumerator};
    encoder->framerate = {options.frameRateNumerator, options.frameRateDenominator};
    encoder->pix_fmt = options.bitDepth == 8 ? AV_PIX_FMT_YUV420P : AV_PIX_FMT_YUV420P10LE;
    encoder->gop_size = 25;
    if (options.isTagged) {
        encoder->color_range = options.isFullRange ? AVCOL_RANGE_JPEG : AVCOL_RANGE_MPEG;
        encoder->colorspace = AVCOL_SPC_BT709;
        encoder->color_primaries = AVCOL_PRI_BT709;
        encoder->color_trc = transferOf(options.transfer);
    }
    if ((muxer.context->oformat->flags & AVFMT_GLOBALHEADER) != 0) {
        encoder->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
    }
    av_opt_set_int(encoder->priv_data, "crf", options.quality, 0);
    av_opt_set(encoder->priv_data, "preset", isHevc ? "ultrafast" : "veryfast", 0);
    // Colour is what these clips are made to be measured by: chroma gets a finer quantiser than the
    // presets give.
    av_opt_set_int(encoder->priv_data, "chromaoffset", -6, 0);
    if (isHevc) {
        av_opt_set(
            encoder->priv_data, "x265-params", "log-level=none:info=0:cbqpoffs=-6:crqpoffs=-6", 0);
        encoder->codec_tag = MKTAG('h', 'v', 'c', '1');
    }
    const int opened = avcodec_open2(encoder.get(), codec, nullptr);
    if (opened < 0) return writeError(path, base::asIs(ffmpegReason(opened)));
    return {};
}

Result<void> ClipWriter::Impl::openFile() {
    stream = avformat_new_stream(muxer.context, nullptr);
    stream->time_base = encoder->time_base;
    stream->avg_frame_rate = encoder->framerate;
    avcodec_parameters_from_context(stream->codecpar, encoder.get());
    if (options.soundRate > 0) {
        soundStream = avformat_new_stream(muxer.context, nullptr);
        AVCodecParameters* sound = soundStream->codecpar;
        sound->codec_type = AVMEDIA_TYPE_AUDIO;
        sound->codec_id = AV_CODEC_ID_PCM_S16LE;
        sound->format = AV_SAMPLE_FMT_S16;
        sound->sample_rate = options.soundRate;
        sound->bits_per_coded_sample = 16;
        sound->block_align = 2 * options.soundChannels;
        sound->bit_rate = std::int64_t{16} * options.soundRate * options.soundChannels;
        av_channel_layout_default(&sound->ch_layout, options.soundChannels);
        soundStream->time_base = {1, options.soundRate};
    }
    int code = avio_open(&muxer.context->pb, path.c_str(), AVIO_FLAG_WRITE);
    if (code < 0) return writeError(path, base::asIs(ffmpegReason(code)));
    muxer.context->flags |= AVFMT_FLAG_BITEXACT;
    AVDictionary* options_ = nullptr;
    av_dict_set(&options_, "movflags", "+write_colr", 0);
    code = avformat_write_header(muxer.context, &options_);
    av_dict_free(&options_);
    if (code < 0) return writeError(path, base::asIs(ffmpegReason(code)));
    frame->format = encoder->pix_fmt;
    frame->width = options.width;
    frame->height = options.height;
    code = av_frame_get_buffer(frame.get(), 0);
    if (code < 0) return writeError(path, base::asIs(ffmpegReason(code)));
    return {};
}

Result<void> ClipWriter::Impl::drain() {
    while (true) {
        const int got = avcodec_receive_packet(encoder.get(), packet.get());
        if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return {};
        if (got < 0) return writeError(path, base::asIs(ffmpegReason(got)));
        av_packet_rescale_ts(packet.get(), encoder->time_base, stream->time_base);
        packet->stream_index = stream->index;
        packet->duration = av_rescale_q(1, encoder->time_base, stream->time_base);
        const int written = av_interleaved_write_frame(muxer.context, packet.get());
        if (written < 0) return writeError(path, base::asIs(ffmpegReason(written)));
    }
}

ClipWriter::ClipWriter(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
ClipWriter::ClipWriter(ClipWriter&&) noexcept = default;
ClipWriter& ClipWriter::operator=(ClipWriter&&) noexcept = default;
ClipWriter::~ClipWriter() = default;

Result<ClipWriter> ClipWriter::create(const fs::path& path, const ClipOptions& options) {
    if (auto valid = options.validate(); !valid) return tl::unexpected(valid.error());
    av_log_set_level(AV_LOG_QUIET);
    auto impl = std::make_unique<Impl>();
    impl->path = path;
    impl->options = options;
    const int made =
        avformat_alloc_output_context2(&impl->muxer.context, nullptr, nullptr, path.c_str());
    if (made < 0) return writeError(path, base::asIs(ffmpegReason(made)));
    for (auto step : {&Impl::openEncoder, &Impl::openFile}) {
        if (auto done = ((*impl).*step)(); !done) return tl::unexpected(done.error());
    }
    return ClipWriter(std::move(impl));
}

Result<void> ClipWriter::append(const image::Frame& signal) {
    Impl& impl = *m_impl;
    if (signal.width != impl.options.width || signal.height != impl.options.height) {
        return writeError(impl.path, base::say("clip.frameAnotherSize"));
    }
    const int writable = av_frame_make_writable(impl.frame.get());
    if (writable < 0) return writeError(impl.path, base::asIs(ffmpegReason(writable)));
    const CodeScale scale = codeScale(impl.options);
    if (impl.options.bitDepth == 8) {
        fillPlanes<std::uint8_t>(signal, scale, *impl.frame);
    } else {
        fillPlanes<std::uint16_t>(signal, scale, *impl.frame);
    }
    impl.frame->pts = impl.count++;
    const int sent = avcodec_send_frame(impl.encoder.get(), impl.frame.get());
    if (sent < 0) return writeError(impl.path, base::asIs(ffmpegReason(sent)));
    return impl.drain();
}

Result<void> ClipWriter::appendSound(std::span<const float> samples) {
    Impl& writer = *m_impl;
    if (writer.soundStream == nullptr || samples.empty()) return {};
    FfmpegPtr<AVPacket> packet{av_packet_alloc()};
    const int made = av_new_packet(packet.get(), static_cast<int>(2 * samples.size()));
    if (made < 0) return writeError(writer.path, base::asIs(ffmpegReason(made)));
    for (std::size_t i = 0; i < samples.size(); ++i) {
        const long code = std::lround(32767.0F * std::clamp(samples[i], -1.0F, 1.0F));
        packet->data[2 * i] = static_cast<std::uint8_t>(code & 0xFF);
        packet->data[2 * i + 1] = static_cast<std::uint8_t>((code >> 8) & 0xFF);
    }
    packet->stream_index = writer.soundStream->index;
    packet->pts = packet->dts = writer.soundCount;
    packet->duration = static_cast<std::int64_t>(samples.size()) / writer.options.soundChannels;
    writer.soundCount += packet->duration;
    av_packet_rescale_ts(
        packet.get(), {1, writer.options.soundRate}, writer.soundStream->time_base);
    const int written = av_interleaved_write_frame(writer.muxer.context, packet.get());
    if (written < 0) return writeError(writer.path, base::asIs(ffmpegReason(written)));
    return {};
}

Result<void> ClipWriter::finish() {
    Impl& impl = *m_impl;
    avcodec_send_frame(impl.encoder.get(), nullptr);
    if (auto drained = impl.drain(); !drained) return drained;
    const int closed = av_write_trailer(impl.muxer.context);
    if (closed < 0) return writeError(impl.path, base::asIs(ffmpegReason(closed)));
    return {};
}

}  // namespace rigmatch::media
