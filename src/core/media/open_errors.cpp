// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/open_errors.h"

#include <system_error>

#include "media/ffmpeg_handles.h"

namespace rigmatch::media {

namespace fs = std::filesystem;
using base::Error;
using base::ErrorCode;
using base::Result;

tl::unexpected<Error> openError(const fs::path& path,
                                ErrorCode code,
                                std::string detail,
                                std::string hint) {
    return base::fail(
        code, "Cannot read " + path.filename().string(), std::move(detail), std::move(hint));
}

Result<void> checkFile(const fs::path& path) {
    std::error_code code;
    const fs::file_status status = fs::status(path, code);
    if (!fs::exists(status)) {
        return openError(path,
                         ErrorCode::NotFound,
                         "There is no such file: " + path.string() + ".",
                         "Choose the file again, or find its folder.");
    }
    if (!fs::is_regular_file(status)) {
        return openError(
            path, ErrorCode::Unreadable, "It is not a file.", "Choose a clip or still.");
    }
    if (fs::file_size(path, code) == 0 && !code) {
        return openError(
            path,
            ErrorCode::Truncated,
            "The file is 0 bytes long.",
            "The camera did not finish writing it, or the copy failed: copy it again.");
    }
    return {};
}

tl::unexpected<Error> demuxError(const fs::path& path, int number) {
    if (number == AVERROR(EACCES)) {
        return openError(path,
                         ErrorCode::Unreadable,
                         "Reading it is not permitted.",
                         "Check the rights of the file and its folder.");
    }
    const std::string suffix = path.extension().string();
    const bool isContainer = suffix == ".mov" || suffix == ".mp4" || suffix == ".MOV" ||
                             suffix == ".MP4" || suffix == ".m4v";
    if (number == AVERROR_INVALIDDATA && isContainer) {
        return openError(
            path,
            ErrorCode::Truncated,
            "It is no clip, or it is cut off before its index (" + ffmpegReason(number) + ").",
            "Copy it from the card again; if the camera lost power, let the camera "
            "repair the clip first.");
    }
    return openError(path,
                     ErrorCode::UnsupportedFormat,
                     "Its content is not a format that can be read (" + ffmpegReason(number) + ").",
                     "Use MOV, MP4, MKV, MXF, PNG, JPEG, TIFF, DPX or EXR.");
}

}  // namespace rigmatch::media
