// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/sound_reader.h"

#include "media/metadata.h"
#include "media/open_errors.h"

namespace rigmatch::media {

base::Result<SoundReader> SoundReader::open(const std::filesystem::path& path) {
    if (auto checked = checkFile(path); !checked) return tl::unexpected(checked.error());
    av_log_set_level(AV_LOG_QUIET);
    SoundReader reader;
    AVFormatContext* raw = nullptr;
    const int opened = avformat_open_input(&raw, path.c_str(), nullptr, nullptr);
    if (opened < 0) return demuxError(path, opened);
    reader.m_container.reset(raw);
    const int probed = avformat_find_stream_info(raw, nullptr);
    if (probed < 0) return demuxError(path, probed);
    reader.m_decoder = SoundDecoder::open(*raw);
    if (!reader.m_decoder) {
        return openError(path,
                         base::ErrorCode::NoSound,
                         base::say("media.noSoundCan"),
                         base::say("media.chooseRecordingSound"));
    }
    return reader;
}

double SoundReader::durationSeconds() const {
    return m_container->duration == AV_NOPTS_VALUE
               ? 0.0
               : static_cast<double>(m_container->duration) / AV_TIME_BASE;
}

std::optional<Timecode> SoundReader::timecode() const {
    const AVStream& stream = *m_container->streams[m_decoder->streamIndex()];
    return timecodeOfSamples(
        metadataValue(m_container->metadata, stream.metadata, "time_reference"),
        stream.codecpar->sample_rate);
}

std::optional<std::vector<SoundBlock>> SoundReader::next() {
    std::vector<SoundBlock> blocks;
    while (blocks.empty() && !m_isOver) {
        if (av_read_frame(m_container.get(), m_packet.get()) < 0) {
            m_isOver = true;
            m_decoder->take(nullptr, blocks);
            break;
        }
        if (m_packet->stream_index == m_decoder->streamIndex())
            m_decoder->take(m_packet.get(), blocks);
        av_packet_unref(m_packet.get());
    }
    if (blocks.empty()) return std::nullopt;
    return blocks;
}

}  // namespace rigmatch::media
