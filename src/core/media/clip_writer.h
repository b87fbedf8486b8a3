// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <memory>
#include <span>

#include "base/result.h"
#include "image/frame.h"

namespace rigmatch::media {

enum class ClipCodec { H264, Hevc };

struct ClipOptions {
    ClipCodec codec = ClipCodec::H264;
    int width = 1920;   ///< px, even
    int height = 1080;  ///< px, even
    int bitDepth = 8;   ///< 8 (H.264) or 10 (HEVC)
    int frameRateNumerator = 25;
    int frameRateDenominator = 1;
    int quality = 20;  ///< constant rate factor, 0..51, lower is better
    bool isFullRange = false;
    bool isTagged = true;  ///< write range, matrix, primaries and transfer
    image::TransferTag transfer = image::TransferTag::Bt709;
    int soundRate = 0;      ///< Hz of a sound track; 0: none
    int soundChannels = 1;  ///< of it, 1 or 2

    /// Fails with OutOfRange naming field, value and rule.
    [[nodiscard]] base::Result<void> validate() const;
};

/// Writes 4:2:0 test clips (MOV or MP4 by the file's suffix) through FFmpeg. The same input gives
/// the same pictures.
class ClipWriter {
public:
    /// Fails with OutOfRange (options), WriteFailed (folder), UnsupportedFormat (no such encoder
    /// here).
    [[nodiscard]] static base::Result<ClipWriter> create(const std::filesystem::path& path,
                                                         const ClipOptions& options);
    ClipWriter(ClipWriter&&) noexcept;
    ClipWriter& operator=(ClipWriter&&) noexcept;
    /// Closes the file; without finish() it is left unplayable and should be removed.
    ~ClipWriter();

    /// Codes `signal` (BT.709 matrix; the size given in the options) as the next frame.
    [[nodiscard]] base::Result<void> append(const image::Frame& signal);
    /// Sound that goes on where the last ended, channel by channel of each moment, 1 = full scale
    /// (16 bit are written). Only with a sound track.
    [[nodiscard]] base::Result<void> appendSound(std::span<const float> samples);
    /// Flushes the encoder and writes the index.
    [[nodiscard]] base::Result<void> finish();

private:
    class Impl;
    explicit ClipWriter(std::unique_ptr<Impl> impl);
    std::unique_ptr<Impl> m_impl;
};

}  // namespace rigmatch::media
