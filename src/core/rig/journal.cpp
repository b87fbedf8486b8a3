// SPDX-License-Identifier: GPL-3.0-or-later
#include <signal.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <fstream>
#include <system_error>

#include "base/atomic_file.h"
#include "rig/rig_json.h"
#include "rig/rig_store.h"

namespace rigmatch::rig {
namespace {

namespace fs = std::filesystem;

constexpr const char* kSuffix = ".journal";

/// First line: who writes it. The rest is the document.
std::string headLine() { return "rigmatch-journal " + std::to_string(::getpid()) + "\n"; }

std::string programOf(const std::string& process) {
    std::ifstream stream("/proc/" + process + "/comm");
    std::string name;
    std::getline(stream, name);
    return name;
}

/// A process of this program, other than this one: numbers are used again by others after a crash.
bool isRunning(long process) {
    if (process <= 0 || process == ::getpid()) return false;
    if (::kill(static_cast<pid_t>(process), 0) != 0 && errno != EPERM) return false;
    return programOf(std::to_string(process)) == programOf("self");
}

std::optional<Rig> readJournal(const fs::path& journal) {
    const auto text = base::readWhole(journal);
    if (!text) return std::nullopt;
    const auto line = text->find('\n');
    constexpr std::string_view kHead = "rigmatch-journal ";
    if (line == std::string::npos || text->compare(0, kHead.size(), kHead) != 0)
        return std::nullopt;
    if (isRunning(std::strtol(text->c_str() + kHead.size(), nullptr, 10))) return std::nullopt;
    auto parsed = parseRig(std::string_view(*text).substr(line + 1));
    if (!parsed) return std::nullopt;
    return std::move(parsed->rig);
}

}  // namespace

fs::path Journal::pathFor(const fs::path& document) const {
    if (document.empty()) return m_folder / ("unsaved-" + std::to_string(::getpid()) + kSuffix);
    return document.parent_path() / ("." + document.filename().string() + kSuffix);
}

base::Result<void> Journal::write(const Rig& rig, const fs::path& document) const {
    std::error_code ignored;
    if (document.empty()) fs::create_directories(m_folder, ignored);
    return base::writeAtomically(pathFor(document), headLine() + jsonText(rig));
}

void Journal::remove(const fs::path& document) const {
    std::error_code ignored;
    fs::remove(pathFor(document), ignored);
}

std::optional<Recovery> Journal::find(const fs::path& document) const {
    const fs::path path = pathFor(document);
    auto rig = readJournal(path);
    if (!rig) return std::nullopt;
    const auto saved = loadRig(document);
    if (saved && saved->rig == *rig) return std::nullopt;
    return Recovery{std::move(*rig), document, path};
}

std::optional<Recovery> Journal::findUnsaved() const {
    std::error_code code;
    std::vector<fs::path> candidates;
    for (fs::directory_iterator it(m_folder, code), end; !code && it != end; it.increment(code)) {
        if (it->path().extension() == kSuffix) candidates.push_back(it->path());
    }
    std::sort(candidates.begin(), candidates.end());
    for (const fs::path& path : candidates) {
        if (auto rig = readJournal(path)) return Recovery{std::move(*rig), {}, path};
    }
    return std::nullopt;
}

}  // namespace rigmatch::rig
