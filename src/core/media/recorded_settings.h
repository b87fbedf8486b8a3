// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

namespace rigmatch::media {

/// What a file's metadata says of the camera's settings. Absent: the file does not say.
struct RecordedSettings {
    std::optional<double> isoValue;
    std::optional<double> shutterSeconds;
    std::optional<double> fNumber;
    std::optional<double> focalLengthMm;
    std::optional<double> whiteBalanceKelvin;
    std::optional<std::string> bodyName;
    std::optional<std::string> lensName;
    std::optional<std::string> createdAt;

    bool operator==(const RecordedSettings&) const = default;
};

}  // namespace rigmatch::media
