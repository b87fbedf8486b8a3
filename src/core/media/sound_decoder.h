// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "media/ffmpeg_handles.h"
#include "media/sound_block.h"

namespace rigmatch::media {

/// Decodes the packets of one sound stream into blocks of samples, whatever the codec's own layout.
class SoundDecoder {
public:
    /// The best sound stream of an open container; nothing where there is none that can be decoded.
    [[nodiscard]] static std::optional<SoundDecoder> open(AVFormatContext& container);

    [[nodiscard]] int streamIndex() const { return m_stream; }
    /// Sends a packet of that stream (nullptr: the end) and appends what comes out. Damaged packets
    /// are left out.
    void take(const AVPacket* packet, std::vector<SoundBlock>& blocks);
    /// After a jump in the file.
    void flush() { avcodec_flush_buffers(m_decoder.get()); }

private:
    int m_stream = -1;
    AVRational m_unit{1, 48000};
    FfmpegPtr<AVCodecContext> m_decoder;
    FfmpegPtr<AVFrame> m_frame{av_frame_alloc()};
};

}  // namespace rigmatch::media
