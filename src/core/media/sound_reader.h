// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "base/result.h"
#include "media/sound_decoder.h"
#include "media/timecode.h"

namespace rigmatch::media {

/// Reads the sound of a file that has no picture, or whose picture does not matter: WAV, FLAC, MP3,
/// AAC and others, and the sound track of clips. One thread at a time.
class SoundReader {
public:
    /// Fails with NotFound, Unreadable, Truncated, UnsupportedFormat, or NoSound.
    [[nodiscard]] static base::Result<SoundReader> open(const std::filesystem::path& path);

    /// s, as the container says; 0 where it does not.
    [[nodiscard]] double durationSeconds() const;
    /// Of the first sample; nothing where the file carries none.
    [[nodiscard]] std::optional<Timecode> timecode() const;
    /// The next blocks, or nothing at the end. Damaged packets are left out.
    [[nodiscard]] std::optional<std::vector<SoundBlock>> next();

private:
    SoundReader() = default;
    FfmpegPtr<AVFormatContext> m_container;
    FfmpegPtr<AVPacket> m_packet{av_packet_alloc()};
    std::optional<SoundDecoder> m_decoder;
    bool m_isOver = false;
};

}  // namespace rigmatch::media
