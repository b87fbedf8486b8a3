// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "media/media_info.h"

struct AVDictionary;

namespace rigmatch::media {

/// Exif settings of a still and its orientation. Nothing found: empty values and 0 degrees; never
/// fails.
struct StillMetadata {
    RecordedSettings recorded;
    int rotationDegrees = 0;  ///< clockwise turn that makes it upright
    long long pixels = 0;     ///< width x height as the header claims; 0 where it does not tell
    std::string size;         ///< "20000 × 20000"
};
[[nodiscard]] StillMetadata stillMetadata(const std::filesystem::path& path);

/// The value of a key in the first of the dictionaries that has it; empty where none has.
[[nodiscard]] std::string metadataValue(const AVDictionary* container,
                                        const AVDictionary* stream,
                                        const char* key);

/// Settings that a container's key-value pairs tell, by the common names of such keys.
[[nodiscard]] RecordedSettings clipMetadata(const AVDictionary* container,
                                            const AVDictionary* stream);

}  // namespace rigmatch::media
