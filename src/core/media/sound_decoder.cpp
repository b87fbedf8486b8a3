// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/sound_decoder.h"

#include <cstring>

namespace rigmatch::media {
namespace {

/// One sample of a layout, 1 = full scale; the codec's own integers by their full range.
template <class Integer>
float scaled(const std::uint8_t* at, double fullScale, double middle = 0.0) {
    Integer value{};
    std::memcpy(&value, at, sizeof value);
    return static_cast<float>((static_cast<double>(value) - middle) / fullScale);
}

float sampleAt(const std::uint8_t* at, AVSampleFormat packed) {
    switch (packed) {
        case AV_SAMPLE_FMT_U8:
            return scaled<std::uint8_t>(at, 128.0, 128.0);
        case AV_SAMPLE_FMT_S16:
            return scaled<std::int16_t>(at, 32768.0);
        case AV_SAMPLE_FMT_S32:
            return scaled<std::int32_t>(at, 2147483648.0);
        case AV_SAMPLE_FMT_S64:
            return scaled<std::int64_t>(at, 9223372036854775808.0);
        case AV_SAMPLE_FMT_FLT:
            return scaled<float>(at, 1.0);
        case AV_SAMPLE_FMT_DBL:
            return scaled<double>(at, 1.0);
        default:
            return 0.0F;
    }
}

SoundBlock blockOf(const AVFrame& frame, AVRational unit) {
    SoundBlock block;
    block.sampleRate = frame.sample_rate;
    if (frame.best_effort_timestamp != AV_NOPTS_VALUE)
        block.seconds = static_cast<double>(frame.best_effort_timestamp) * av_q2d(unit);
    const auto format = static_cast<AVSampleFormat>(frame.format);
    const AVSampleFormat packed = av_get_packed_sample_fmt(format);
    const bool isPlanar = av_sample_fmt_is_planar(format) != 0;
    const auto bytes = static_cast<std::size_t>(av_get_bytes_per_sample(format));
    const auto channels = static_cast<std::size_t>(frame.ch_layout.nb_channels);
    const auto samples = static_cast<std::size_t>(frame.nb_samples);
    block.channels.resize(channels);
    for (std::size_t c = 0; c < channels; ++c) {
        block.channels[c].reserve(samples);
        const std::uint8_t* plane = isPlanar ? frame.extended_data[c] : frame.extended_data[0];
        for (std::size_t i = 0; i < samples; ++i) {
            const std::size_t at = isPlanar ? i : i * channels + c;
            block.channels[c].push_back(sampleAt(plane + at * bytes, packed));
        }
    }
    return block;
}

}  // namespace

std::optional<SoundDecoder> SoundDecoder::open(AVFormatContext& container) {
    const int index = av_find_best_stream(&container, AVMEDIA_TYPE_AUDIO, -1, -1, nullptr, 0);
    if (index < 0) return std::nullopt;
    const AVStream* stream = container.streams[index];
    const AVCodec* codec = avcodec_find_decoder(stream->codecpar->codec_id);
    if (codec == nullptr) return std::nullopt;
    SoundDecoder sound;
    sound.m_stream = index;
    sound.m_unit = stream->time_base;
    sound.m_decoder.reset(avcodec_alloc_context3(codec));
    avcodec_parameters_to_context(sound.m_decoder.get(), stream->codecpar);
    sound.m_decoder->pkt_timebase = stream->time_base;
    if (avcodec_open2(sound.m_decoder.get(), codec, nullptr) < 0) return std::nullopt;
    return sound;
}

void SoundDecoder::take(const AVPacket* packet, std::vector<SoundBlock>& blocks) {
    constexpr int kMostChannels = 64;
    if (avcodec_send_packet(m_decoder.get(), packet) < 0) return;
    while (avcodec_receive_frame(m_decoder.get(), m_frame.get()) == 0) {
        const bool isSound = m_frame->sample_rate > 0 && m_frame->ch_layout.nb_channels > 0 &&
                             m_frame->ch_layout.nb_channels <= kMostChannels;
        if (isSound) blocks.push_back(blockOf(*m_frame, m_unit));
    }
}

}  // namespace rigmatch::media
