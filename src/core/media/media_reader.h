// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <optional>

#include "base/result.h"
#include "base/units.h"
#include "image/frame.h"
#include "media/media_info.h"
#include "media/sound_block.h"

namespace rigmatch::media {

struct ReaderOptions {
    std::optional<image::Range> range;    ///< take the codes so, whatever the tags say
    std::optional<image::Matrix> matrix;  ///< take Y'CbCr so; pictures of R'G'B' stay as they are
    int threads = 0;                      ///< decoder threads; 0: one per core
    bool hasSound = false;                ///< decode the sound beside the frames: takeSound()
    long long maxPixels = 150'000'000;    ///< larger pictures are refused before they are decoded
    /// Asked with the number of pixels, and whether it is a clip, before the decoder is opened and
    /// holds frames; it may wait. False gives up, with Cancelled. Empty: never asked.
    std::function<bool(long long pixels, bool isClip)> mayDecode;
};

/// Reads stills (PNG, JPEG, TIFF, DPX, EXR) and clips (MOV, MP4, MKV, MXF, …) with the FFmpeg
/// libraries. Frames come in presentation order, upright, with the planes the decoder gave (not
/// copied) wherever they are planar; packed layouts are unpacked without changing a code value. One
/// thread at a time.
class MediaReader {
public:
    /// Opens and looks at the first frame. Fails with NotFound, Unreadable, Truncated (empty, or
    /// cut before its index), UnsupportedFormat, NoPicture or TooLarge; every text names the file.
    [[nodiscard]] static base::Result<MediaReader> open(const std::filesystem::path& path,
                                                        const ReaderOptions& options = {});
    MediaReader(MediaReader&&) noexcept;
    MediaReader& operator=(MediaReader&&) noexcept;
    ~MediaReader();

    [[nodiscard]] const MediaInfo& info() const;

    /// The next frame, or nothing at the end. Damaged frames are skipped and counted.
    /// Fails with Truncated when not one frame could be decoded.
    [[nodiscard]] base::Result<std::optional<image::CodedFrame>> next();

    /// Goes to the last frame that starts at or before `time`; next() then gives it.
    [[nodiscard]] base::Result<void> seek(base::Seconds time);

    /// The key frame at or before `time`, decoded alone and so within a frame's time however long
    /// the clip is; nothing where there is none. next() then gives it again, and goes on from it.
    [[nodiscard]] base::Result<std::optional<image::CodedFrame>> keyFrameAt(base::Seconds time);

    /// The sound that stood in the file up to the last frame taken, since it was last asked for.
    /// Empty without ReaderOptions::hasSound, or without sound. After the end: what was left.
    [[nodiscard]] std::vector<SoundBlock> takeSound();

    /// Where the timecode jumps in what was taken in order so far.
    [[nodiscard]] const std::vector<TimecodeJump>& timecodeJumps() const;

    /// Frames that could not be decoded so far.
    [[nodiscard]] int damagedFrames() const;
    /// Frames so far of which the decoder made up a part, their data being broken. What a seek left
    /// without its references counts too.
    [[nodiscard]] int patchedFrames() const;

private:
    class Impl;
    explicit MediaReader(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

}  // namespace rigmatch::media
