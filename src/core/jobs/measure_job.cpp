// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/measure_job.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;

constexpr std::array<std::string_view, 15> kSuffixes{".mov",
                                                     ".mp4",
                                                     ".m4v",
                                                     ".mkv",
                                                     ".mxf",
                                                     ".avi",
                                                     ".webm",
                                                     ".png",
                                                     ".jpg",
                                                     ".jpeg",
                                                     ".tif",
                                                     ".tiff",
                                                     ".dpx",
                                                     ".exr",
                                                     ".ts"};

std::string lowered(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) {
        return static_cast<char>(std::tolower(c));
    });
    return text;
}

/// True where `letter` stands alone in the file's stem, between separators, digits or the ends, or
/// after "cam".
bool namesLetter(const fs::path& file, char letter) {
    const std::string stem = lowered(file.stem().string());
    for (std::size_t i = 0; i < stem.size(); ++i) {
        if (stem[i] != letter) continue;
        const bool isFree = i == 0 || std::isalpha(static_cast<unsigned char>(stem[i - 1])) == 0 ||
                            (i >= 3 && stem.compare(i - 3, 3, "cam") == 0) ||
                            (i >= 6 && stem.compare(i - 6, 6, "camera") == 0);
        const bool isEnd =
            i + 1 == stem.size() || std::isalpha(static_cast<unsigned char>(stem[i + 1])) == 0;
        if (isFree && isEnd) return true;
    }
    return false;
}

}  // namespace

MeasuredShot measureShot(const rig::Shot& shot, const base::Progress& progress) {
    measure::MeasureOptions options;
    options.corners = shot.manualCorners;
    if (shot.manualCorners && shot.reading && shot.reading->hasChart) {
        options.atSeconds = 0.5 * (shot.reading->spanStartSeconds + shot.reading->spanEndSeconds);
    }
    if (shot.rangeOverride == "full") options.range = image::Range::Full;
    if (shot.rangeOverride == "limited") options.range = image::Range::Limited;
    auto measured = measure::measureMedia(shot.media, options, progress);
    MeasuredShot result{shot, {}, false};
    result.shot.failure.clear();
    if (measured) {
        result.shot.reading = std::move(measured->reading);
        result.recorded = std::move(measured->recorded);
        result.shot.isIsoRecorded = shot.isIsoRecorded || result.recorded.isoValue.has_value();
        result.shot.isKelvinRecorded =
            shot.isKelvinRecorded || result.recorded.whiteBalanceKelvin.has_value();
        return result;
    }
    result.isCancelled = measured.error().code == base::ErrorCode::Cancelled;
    result.shot.reading.reset();
    result.shot.failure = base::fullText(measured.error());
    return result;
}

std::vector<fs::path> mediaInFolder(const fs::path& folder) {
    std::vector<fs::path> files;
    std::error_code code;
    for (fs::directory_iterator it(folder, code), end; !code && it != end; it.increment(code)) {
        const std::string suffix = lowered(it->path().extension().string());
        const bool isHidden = it->path().filename().string().front() == '.';
        std::error_code ignored;
        if (isHidden || !it->is_regular_file(ignored)) continue;
        if (std::find(kSuffixes.begin(), kSuffixes.end(), suffix) != kSuffixes.end())
            files.push_back(it->path());
    }
    std::sort(files.begin(), files.end());
    return files;
}

std::vector<int> assignFiles(const rig::Rig& rig, const std::vector<fs::path>& files) {
    std::vector<int> assigned(rig.cameras.size(), -1);
    std::vector<bool> isTaken(files.size(), false);
    for (std::size_t camera = 0; camera < rig.cameras.size(); ++camera) {
        if (rig.cameras[camera].letter.empty()) continue;
        const char letter = static_cast<char>(
            std::tolower(static_cast<unsigned char>(rig.cameras[camera].letter.front())));
        for (std::size_t file = 0; file < files.size() && assigned[camera] < 0; ++file) {
            if (isTaken[file] || !namesLetter(files[file], letter)) continue;
            assigned[camera] = static_cast<int>(file);
            isTaken[file] = true;
        }
    }
    for (std::size_t camera = 0; camera < assigned.size(); ++camera) {
        for (std::size_t file = 0; file < files.size() && assigned[camera] < 0; ++file) {
            if (isTaken[file]) continue;
            assigned[camera] = static_cast<int>(file);
            isTaken[file] = true;
        }
    }
    return assigned;
}

}  // namespace rigmatch::jobs
