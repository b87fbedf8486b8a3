// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/result.h"
#include "image/frame.h"

namespace rigmatch::jobs {

/// A frame for the screen: 8-bit R G B as recorded, row by row.
struct Picture {
    int width = 0;
    int height = 0;
    std::vector<unsigned char> rgb;
    double seconds = 0.0;
};

/// 0..1 of each channel as 0..255, R G B pixel by pixel; beyond is cut off.
[[nodiscard]] std::vector<unsigned char> bytesOf(const image::Frame& signal);

/// The decoded frame of `media` at `seconds`; `rangeOverride` as rig::Shot. Fails as
/// MediaReader::open does, or with Truncated where the clip ends before.
[[nodiscard]] base::Result<image::CodedFrame> frameAt(const std::filesystem::path& media,
                                                      double seconds,
                                                      const std::string& rangeOverride);

/// The frame of `media` at `seconds` at full size; `rangeOverride` as rig::Shot. Fails as
/// MediaReader::open does.
[[nodiscard]] base::Result<Picture> pictureAt(const std::filesystem::path& media,
                                              double seconds,
                                              const std::string& rangeOverride);

}  // namespace rigmatch::jobs
