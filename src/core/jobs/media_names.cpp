// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/media_names.h"

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

constexpr std::array<std::string_view, 7> kSoundSuffixes{
    ".wav", ".flac", ".mp3", ".m4a", ".aif", ".aiff", ".ogg"};

bool isOneOf(const auto& suffixes, const fs::path& file) {
    return std::find(suffixes.begin(), suffixes.end(), lowered(file.extension().string())) !=
           suffixes.end();
}

}  // namespace

bool isSoundFile(const fs::path& file) { return isOneOf(kSoundSuffixes, file); }

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

std::vector<fs::path> mediaInFolder(const fs::path& folder) {
    std::vector<fs::path> files;
    std::error_code code;
    for (fs::directory_iterator it(folder, code), end; !code && it != end; it.increment(code)) {
        const bool isHidden = it->path().filename().string().front() == '.';
        std::error_code ignored;
        if (isHidden || !it->is_regular_file(ignored)) continue;
        if (isOneOf(kSuffixes, it->path()) || isSoundFile(it->path())) files.push_back(it->path());
    }
    std::sort(files.begin(), files.end());
    return files;
}

Assigned assignFiles(const rig::Rig& rig, const std::vector<fs::path>& files) {
    Assigned assigned;
    std::vector<bool> isTaken(files.size(), false);
    const auto give = [&](const std::string& id, const auto& isMeant) {
        for (std::size_t file = 0; file < files.size() && !assigned.contains(id); ++file) {
            if (isTaken[file] || !isMeant(files[file])) continue;
            assigned[id] = {files[file]};
            isTaken[file] = true;
        }
    };
    for (const rig::Source& source : rig.sources) {
        if (source.kind == rig::SourceKind::SoundRecorder) give(source.id, isSoundFile);
    }
    const auto isClip = [](const fs::path& file) { return !isSoundFile(file); };
    for (const rig::Camera& camera : rig.cameras) {
        if (camera.letter.empty()) continue;
        const char letter =
            static_cast<char>(std::tolower(static_cast<unsigned char>(camera.letter.front())));
        give(camera.id,
             [&](const fs::path& file) { return isClip(file) && namesLetter(file, letter); });
    }
    for (const rig::Camera& camera : rig.cameras) give(camera.id, isClip);
    return assigned;
}

}  // namespace rigmatch::jobs
