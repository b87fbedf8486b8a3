// SPDX-License-Identifier: GPL-3.0-or-later
#include <unistd.h>

#include <algorithm>
#include <cstdint>
#include <fstream>
#include <sstream>
#include <system_error>

#include "base/atomic_file.h"
#include "rig/rig_changes.h"
#include "rig/rig_json.h"
#include "rig/rig_store.h"

namespace rigmatch::rig {
namespace {

namespace fs = std::filesystem;

constexpr const char* kSuffix = ".journal";
constexpr const char* kNote = ".open";

/// What the system tells of a process: empty where it is gone.
struct ProcessState {
    std::string program;
    char state = 'X';
    std::string startedAt;  ///< in the system's own ticks: numbers of processes are used again
};

ProcessState stateOf(const std::string& process) {
    std::ifstream stream("/proc/" + process + "/stat");
    std::string line;
    std::getline(stream, line);
    // "PID (name) state …": the name may hold anything, so what follows is counted from its end.
    const auto open = line.find('(');
    const auto close = line.rfind(')');
    if (open == std::string::npos || close == std::string::npos || close < open) return {};
    ProcessState state;
    state.program = line.substr(open + 1, close - open - 1);
    std::istringstream rest(line.substr(close + 1));
    rest >> state.state;
    constexpr int kFieldsToStart = 19;  // from the state on: proc(5), field 22
    for (int i = 0; i < kFieldsToStart; ++i) rest >> state.startedAt;
    return state;
}

constexpr std::string_view kHead = "rigmatch-journal ";

/// Who writes it: the first line begins with it.
std::string ownHead() {
    return std::string(kHead) + std::to_string(::getpid()) + " " + stateOf("self").startedAt + " ";
}

/// First line of a journal.
struct HeadLine {
    long process = 0;
    std::string startedAt;
    std::optional<std::size_t> documentBytes;  ///< none: the document is all that follows
};
std::optional<HeadLine> headOf(const std::string& line) {
    if (!line.starts_with(kHead)) return std::nullopt;
    std::istringstream words(line.substr(kHead.size()));
    HeadLine head;
    words >> head.process >> head.startedAt;
    std::size_t bytes = 0;
    if (words >> bytes) head.documentBytes = bytes;
    return head;
}

/// A journal begins anew once its changes outgrow the document they follow.
constexpr std::uintmax_t kLargestChanges = 8U << 20U;

/// True where this process may go on with the journal at `path`.
bool isToBeContinued(const fs::path& path) {
    std::ifstream stream(path, std::ios::binary);
    std::string line;
    if (!std::getline(stream, line) || !line.starts_with(ownHead())) return false;
    const auto head = headOf(line);
    std::error_code code;
    const std::uintmax_t size = fs::file_size(path, code);
    return head && head->documentBytes && !code &&
           size <= 2 * *head->documentBytes + kLargestChanges;
}

/// A process of this program, other than this one, that still works: one that has ended and only
/// waits to be cleared away (state Z) does not, nor does another that has got the same number.
bool isRunning(long process, const std::string& startedAt) {
    if (process <= 0 || process == ::getpid()) return false;
    const ProcessState state = stateOf(std::to_string(process));
    if (state.state == 'Z' || state.state == 'X' || state.state == 'x') return false;
    if (!startedAt.empty() && startedAt != state.startedAt) return false;
    return state.program == stateOf("self").program;
}

std::optional<Rig> readJournal(const fs::path& journal) {
    const auto text = base::readWhole(journal);
    if (!text) return std::nullopt;
    const auto line = text->find('\n');
    if (line == std::string::npos) return std::nullopt;
    const auto head = headOf(text->substr(0, line));
    if (!head || isRunning(head->process, head->startedAt)) return std::nullopt;
    const std::string_view rest = std::string_view(*text).substr(line + 1);
    auto parsed = parseChanged(rest, head->documentBytes.value_or(rest.size()));
    if (!parsed) return std::nullopt;
    return std::move(parsed->rig);
}

std::optional<std::chrono::system_clock::time_point> changedAt(const fs::path& file) {
    std::error_code code;
    const auto time = fs::last_write_time(file, code);
    if (code) return std::nullopt;
    return std::chrono::time_point_cast<std::chrono::system_clock::duration>(
        std::chrono::file_clock::to_sys(time));
}

}  // namespace

fs::path Journal::pathFor(const fs::path& document) const {
    if (document.empty()) return m_folder / ("unsaved-" + std::to_string(::getpid()) + kSuffix);
    return document.parent_path() / ("." + document.filename().string() + kSuffix);
}

fs::path Journal::noteFor(const fs::path& document) const {
    // FNV-1a: the same name on every machine and in every build.
    std::uint64_t hash = 14695981039346656037U;
    for (const char c : document.string()) {
        hash ^= static_cast<unsigned char>(c);
        hash *= 1099511628211U;
    }
    return m_folder / (std::to_string(hash) + kNote);
}

base::Result<void> Journal::write(const Rig& rig, const fs::path& document) const {
    std::error_code ignored;
    fs::create_directories(m_folder, ignored);
    const std::string text = jsonText(rig);
    auto written = base::writeAtomically(pathFor(document),
                                         ownHead() + std::to_string(text.size()) + "\n" + text);
    if (!written || document.empty() || fs::exists(noteFor(document), ignored)) return written;
    return base::writeAtomically(noteFor(document), document.string());
}

base::Result<void> Journal::append(const Rig& before,
                                   const Rig& after,
                                   const fs::path& document) const {
    const fs::path path = pathFor(document);
    if (!isToBeContinued(path)) return write(after, document);
    const std::string changes = changesText(before, after);
    if (changes.empty()) return {};
    return base::appendDurably(path, changes + "\n");
}

void Journal::remove(const fs::path& document) const {
    std::error_code ignored;
    fs::remove(pathFor(document), ignored);
    if (!document.empty()) fs::remove(noteFor(document), ignored);
}

void Journal::discard(const Recovery& recovery) const {
    std::error_code ignored;
    fs::remove(recovery.journal, ignored);
    if (!recovery.document.empty()) fs::remove(noteFor(recovery.document), ignored);
}

std::optional<Recovery> Journal::find(const fs::path& document) const {
    const fs::path path = pathFor(document);
    auto rig = readJournal(path);
    if (!rig) return std::nullopt;
    const auto saved = loadRig(document);
    if (saved && saved->rig == *rig) return std::nullopt;
    return Recovery{std::move(*rig),
                    document,
                    path,
                    changedAt(path).value_or(std::chrono::system_clock::time_point{}),
                    changedAt(document)};
}

std::vector<Recovery> Journal::findAll() const {
    std::vector<Recovery> all;
    std::error_code code;
    for (fs::directory_iterator it(m_folder, code), end; !code && it != end; it.increment(code)) {
        const fs::path path = it->path();
        if (path.extension() == kSuffix) {
            auto rig = readJournal(path);
            if (!rig) continue;
            all.push_back({std::move(*rig),
                           {},
                           path,
                           changedAt(path).value_or(std::chrono::system_clock::time_point{}),
                           std::nullopt});
        } else if (path.extension() == kNote) {
            const auto document = base::readWhole(path);
            if (!document) continue;
            if (auto found = find(*document)) all.push_back(std::move(*found));
        }
    }
    std::sort(all.begin(), all.end(), [](const Recovery& a, const Recovery& b) {
        return a.changedAt > b.changedAt;
    });
    return all;
}

}  // namespace rigmatch::rig
