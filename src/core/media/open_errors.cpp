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
                                base::Text detail,
                                base::Text hint) {
    return base::fail(code,
                      base::say("media.cannotRead", {{"filename", path.filename().string()}}),
                      std::move(detail),
                      std::move(hint));
}

Result<void> checkFile(const fs::path& path) {
    std::error_code code;
    const fs::file_status status = fs::status(path, code);
    if (!fs::exists(status)) {
        return openError(path,
                         ErrorCode::NotFound,
                         base::say("media.thereNoSuch", {{"path", path.string()}}),
                         base::say("media.chooseFileAgain"));
    }
    if (!fs::is_regular_file(status)) {
        return openError(path,
                         ErrorCode::Unreadable,
                         base::say("media.notFile"),
                         base::say("media.chooseClipOrStill"));
    }
    if (fs::file_size(path, code) == 0 && !code) {
        return openError(path,
                         ErrorCode::Truncated,
                         base::say("media.fileBytesLong"),
                         base::say("media.cameraDidNot"));
    }
    return {};
}

tl::unexpected<Error> demuxError(const fs::path& path, int number) {
    if (number == AVERROR(EACCES)) {
        return openError(path,
                         ErrorCode::Unreadable,
                         base::say("media.readingNotPermitted"),
                         base::say("media.checkRightsFile"));
    }
    const std::string suffix = path.extension().string();
    const bool isContainer = suffix == ".mov" || suffix == ".mp4" || suffix == ".MOV" ||
                             suffix == ".MP4" || suffix == ".m4v";
    if (number == AVERROR_INVALIDDATA && isContainer) {
        return openError(path,
                         ErrorCode::Truncated,
                         base::say("media.noClipOrCut", {{"reason", ffmpegReason(number)}}),
                         base::say("media.copyOrRepair"));
    }
    return openError(path,
                     ErrorCode::UnsupportedFormat,
                     base::say("media.contentNotFormat", {{"reason", ffmpegReason(number)}}),
                     base::say("media.useKnownFormat"));
}

}  // namespace rigmatch::media
