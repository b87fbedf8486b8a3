// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "rig/rig.h"

namespace rigmatch::image {
struct CodedFrame;
struct Frame;
}  // namespace rigmatch::image

namespace rigmatch::jobs {

/// How the codes of a file are taken where its tags are not believed: "" believes them.
struct CodeReading {
    std::string range;   ///< as rig::Shot::rangeOverride
    std::string matrix;  ///< as rig::Shot::matrixOverride
};
[[nodiscard]] CodeReading codeReading(const rig::Shot& shot);

/// A frame for the screen: 8-bit R G B as recorded, row by row.
struct Picture {
    int width = 0;
    int height = 0;
    std::vector<unsigned char> rgb;
    double seconds = 0.0;
};

/// 0..1 of each channel as 0..255, R G B pixel by pixel; beyond is cut off.
[[nodiscard]] std::vector<unsigned char> bytesOf(const image::Frame& signal);

/// The decoded frame of `media` at `seconds`. Fails as
/// MediaReader::open does, or with Truncated where the clip ends before.
[[nodiscard]] base::Result<image::CodedFrame> frameAt(const std::filesystem::path& media,
                                                      double seconds,
                                                      const CodeReading& codes);

/// The frame of `media` at `seconds` at full size. Fails as
/// MediaReader::open does.
[[nodiscard]] base::Result<Picture> pictureAt(const std::filesystem::path& media,
                                              double seconds,
                                              const CodeReading& codes);

/// `count` pictures of a clip at even moments, not wider than `width` px. Of a clip over a minute
/// the key frames before them, each decoded alone. Shorter where the clip ends early. Fails as
/// pictureAt(), or with Cancelled.
[[nodiscard]] base::Result<std::vector<Picture>> pictureStrip(const std::filesystem::path& media,
                                                              int count,
                                                              int width,
                                                              const CodeReading& codes,
                                                              const base::Progress& progress = {});

}  // namespace rigmatch::jobs
