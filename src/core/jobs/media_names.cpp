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

bool isNameBefore(const std::string& a, const std::string& b) {
    std::size_t i = 0, j = 0;
    const auto isDigit = [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; };
    while (i < a.size() && j < b.size()) {
        if (isDigit(a[i]) && isDigit(b[j])) {
            std::size_t from = i, to = j;
            while (from < a.size() && a[from] == '0') ++from;
            while (to < b.size() && b[to] == '0') ++to;
            i = from;
            j = to;
            while (i < a.size() && isDigit(a[i])) ++i;
            while (j < b.size() && isDigit(b[j])) ++j;
            const std::string x = a.substr(from, i - from), y = b.substr(to, j - to);
            if (x.size() != y.size()) return x.size() < y.size();
            if (x != y) return x < y;
            continue;
        }
        const int x = std::tolower(static_cast<unsigned char>(a[i])),
                  y = std::tolower(static_cast<unsigned char>(b[j]));
        if (x != y) return x < y;
        ++i;
        ++j;
    }
    return a.size() - i < b.size() - j;
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

}  // namespace rigmatch::jobs
