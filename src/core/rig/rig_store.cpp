// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/rig_store.h"

#include <map>
#include <system_error>

#include "base/atomic_file.h"
#include "base/file_identity.h"
#include "rig/rig_json.h"

namespace rigmatch::rig {
namespace {

namespace fs = std::filesystem;

constexpr int kMostEntries = 20000;

fs::path absoluteFolder(const fs::path& document) {
    std::error_code code;
    const fs::path absolute = fs::absolute(document, code);
    return code ? document.parent_path() : absolute.parent_path();
}

/// Every file of a shot that has any.
template <class Visit>
void forEachFile(Shot& shot, const Visit& visit) {
    if (!shot.media.empty()) visit(shot.media);
    for (fs::path& part : shot.laterParts) visit(part);
}

/// Every file that a shot's measurements name: what its framing and its sound were laid on.
template <class Visit>
void forEachNamedFile(Shot& shot, const Visit& visit) {
    const Reading* reading = shot.reading.get();
    if (reading == nullptr) return;
    const bool hasSync = reading->sync && !reading->sync->against.empty();
    const bool hasDrift =
        reading->framing && reading->framing->drift && !reading->framing->drift->against.empty();
    if (!hasSync && !hasDrift) return;
    Reading& own = *shot.reading;
    const auto change = [&](std::string& name) {
        fs::path file = name;
        visit(file);
        name = file.generic_string();
    };
    if (hasSync) change(own.sync->against);
    if (hasDrift) change(own.framing->drift->against);
}

bool isThere(const fs::path& path) {
    std::error_code code;
    return fs::exists(path, code);
}

fs::path madeAbsolute(const fs::path& file, const fs::path& folder) {
    return file.is_relative() ? (folder / file).lexically_normal() : file;
}

/// `file` as seen from `folder`; as it is where there is no way from one to the other.
fs::path madeRelative(const fs::path& file, const fs::path& folder) {
    if (file.is_relative()) return file;
    const fs::path relative = file.lexically_relative(folder);
    return relative.empty() ? file : relative;
}

}  // namespace

base::Result<LoadedRig> loadRig(const fs::path& path) {
    const auto text = base::readWhole(path);
    if (!text) return tl::unexpected(text.error());
    auto parsed = parseRig(*text);
    if (!parsed) {
        base::Error error = parsed.error();
        error.what = base::say("file.cannotOpen", {{"path", path.filename().string()}});
        error.detail = base::say("rigFile.notValidBecause", {{"reason", error.detail}});
        return tl::unexpected(error);
    }
    LoadedRig loaded{std::move(parsed->rig), parsed->isNewer(), {}};
    const fs::path folder = absoluteFolder(path);
    if (isChartFile(loaded.rig)) loaded.rig.chart = madeAbsolute(loaded.rig.chart, folder).string();
    for (Camera& camera : loaded.rig.cameras) {
        if (!camera.viewingLut.empty()) camera.viewingLut = madeAbsolute(camera.viewingLut, folder);
        if (camera.savedFraming)
            camera.savedFraming->picture = madeAbsolute(camera.savedFraming->picture, folder);
    }
    for (Take& take : loaded.rig.takes) {
        for (Shot& shot : take.shots) {
            forEachFile(shot, [&](fs::path& file) {
                file = madeAbsolute(file, folder);
                if (!isThere(file)) loaded.missingMedia.push_back(file);
            });
            forEachNamedFile(shot, [&](fs::path& file) { file = madeAbsolute(file, folder); });
        }
    }
    return loaded;
}

base::Result<void> saveRig(const Rig& rig, const fs::path& path) {
    Rig onDisk = rig;
    const fs::path folder = absoluteFolder(path);
    if (isChartFile(onDisk)) onDisk.chart = madeRelative(onDisk.chart, folder).generic_string();
    for (Camera& camera : onDisk.cameras) {
        if (!camera.viewingLut.empty()) camera.viewingLut = madeRelative(camera.viewingLut, folder);
        if (camera.savedFraming)
            camera.savedFraming->picture = madeRelative(camera.savedFraming->picture, folder);
    }
    for (Take& take : onDisk.takes) {
        for (Shot& shot : take.shots) {
            forEachFile(shot, [&](fs::path& file) { file = madeRelative(file, folder); });
            forEachNamedFile(shot, [&](fs::path& file) { file = madeRelative(file, folder); });
        }
    }
    return base::writeAtomically(path, jsonText(onDisk));
}

void moveFiles(const MovedFiles& moved, Rig& rig) {
    for (Take& take : rig.takes) {
        for (Shot& shot : take.shots) {
            const auto move = [&](fs::path& file) {
                const auto to = moved.find(file);
                if (to != moved.end()) file = to->second;
            };
            forEachFile(shot, move);
            forEachNamedFile(shot, move);
        }
    }
}

namespace {

/// The files below a folder, by name and by size.
class FilesBelow {
public:
    explicit FilesBelow(const fs::path& folder) {
        std::error_code code;
        int entries = 0;
        for (fs::recursive_directory_iterator
                 it(folder, fs::directory_options::skip_permission_denied, code),
             end;
             !code && it != end && entries < kMostEntries;
             it.increment(code), ++entries) {
            std::error_code ignored;
            if (!it->is_regular_file(ignored)) continue;
            m_byName.emplace(it->path().filename().string(), it->path());
            m_bySize.emplace(it->file_size(ignored), it->path());
        }
    }
    /// `identity`: of what is looked for; empty: not known.
    [[nodiscard]] std::optional<fs::path> find(const fs::path& file,
                                               const std::string& identity) const {
        const auto [from, to] = m_byName.equal_range(file.filename().string());
        for (auto it = from; it != to; ++it) {
            if (identity.empty() || base::fileIdentity(it->second) == identity) return it->second;
        }
        if (identity.empty()) return std::nullopt;
        const auto [first, last] = m_bySize.equal_range(base::sizeOfIdentity(identity));
        for (auto it = first; it != last; ++it) {
            if (base::fileIdentity(it->second) == identity) return it->second;
        }
        return std::nullopt;
    }

private:
    std::multimap<std::string, fs::path> m_byName;
    std::multimap<std::uintmax_t, fs::path> m_bySize;
};

/// The identity of one of a shot's files, by its number; empty where it is not known.
std::string identityAt(const Shot& shot, std::size_t index) {
    if (!shot.reading) return {};
    const std::string& all = shot.reading->identity;
    std::size_t from = 0;
    for (std::size_t i = 0; i < index && from != std::string::npos; ++i) {
        from = all.find('+', from);
        if (from != std::string::npos) ++from;
    }
    return from == std::string::npos ? std::string() : all.substr(from, all.find('+', from) - from);
}

}  // namespace

Relinked relinkMedia(const Rig& rig, const fs::path& folder) {
    const FilesBelow below(folder);
    std::error_code code;
    Relinked result{rig, {}, 0, 0};
    for (Take& take : result.rig.takes) {
        for (Shot& shot : take.shots) {
            std::size_t index = 0;
            forEachFile(shot, [&](fs::path& file) {
                const std::string identity = identityAt(shot, index++);
                if (isThere(file)) return;
                const auto found = below.find(file, identity);
                if (!found) {
                    ++result.stillMissing;
                    return;
                }
                const fs::path from = file;
                file = fs::absolute(*found, code).lexically_normal();
                result.moved[from] = file;
                ++result.found;
            });
        }
    }
    return result;
}

}  // namespace rigmatch::rig
