// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/intake_job.h"

#include <algorithm>
#include <cctype>
#include <map>
#include <optional>

#include "jobs/media_names.h"
#include "jobs/take_job.h"
#include "media/media_reader.h"
#include "media/open_errors.h"

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;

constexpr int kDeepest = 6;               // folders of a card below each other
constexpr std::size_t kMostFiles = 4000;  // that a folder is searched for
constexpr std::size_t kLongestRole = 40;

/// A file with what it was found under.
struct Piece {
    fs::path file;
    std::string group;  ///< name of the folder that stands for one camera; empty: the file itself
};

std::optional<char> letterOf(const fs::path& name) {
    for (char letter = 'a'; letter < static_cast<char>('a' + rig::kMostCameras); ++letter) {
        if (namesLetter(name, letter)) return letter;
    }
    return std::nullopt;
}

/// Media below a folder, at any depth.
std::vector<fs::path> mediaBelow(const fs::path& folder, int depth = 0) {
    std::vector<fs::path> all = mediaInFolder(folder);
    if (depth >= kDeepest) return all;
    std::vector<fs::path> folders;
    std::error_code code;
    for (fs::directory_iterator it(folder, code), end; !code && it != end; it.increment(code)) {
        std::error_code ignored;
        const std::string name = it->path().filename().string();
        if (it->is_directory(ignored) && !it->is_symlink(ignored) && name.front() != '.')
            folders.push_back(it->path());
    }
    std::sort(folders.begin(), folders.end());
    for (const fs::path& inner : folders) {
        const auto more = mediaBelow(inner, depth + 1);
        all.insert(all.end(), more.begin(), more.end());
        if (all.size() > kMostFiles) break;
    }
    return all;
}

std::vector<fs::path> foldersWithMedia(const fs::path& folder) {
    std::vector<fs::path> found;
    std::error_code code;
    for (fs::directory_iterator it(folder, code), end; !code && it != end; it.increment(code)) {
        std::error_code ignored;
        if (it->is_directory(ignored) && it->path().filename().string().front() != '.' &&
            !mediaBelow(it->path()).empty())
            found.push_back(it->path());
    }
    std::sort(found.begin(), found.end());
    return found;
}

/// A folder that was dropped: of one camera where others stand beside it, else what is in it.
void openFolder(const fs::path& folder, bool isOneOfMany, std::vector<Piece>& pieces) {
    const auto add = [&](const fs::path& from, const std::string& group) {
        for (const fs::path& file : mediaBelow(from)) pieces.push_back({file, group});
    };
    if (isOneOfMany) {
        add(folder, folder.filename().string());
        return;
    }
    const auto inner = foldersWithMedia(folder);
    if (inner.size() >= 2) {
        for (const fs::path& one : inner) add(one, one.filename().string());
        for (const fs::path& file : mediaInFolder(folder)) pieces.push_back({file, {}});
        return;
    }
    // One folder alone: a camera per file, wherever they lie in it.
    for (const fs::path& file : mediaBelow(folder)) pieces.push_back({file, {}});
}

/// Words of a name without letter, numbers and separators; empty where none of three letters is
/// left.
std::string wordsOf(const std::string& name) {
    std::string words, word;
    const auto keep = [&] {
        const bool isCamera = word == "cam" || word == "camera" || word == "clip" ||
                              word == "img" || word == "mvi" || word == "dsc";
        if (word.size() >= 3 && !isCamera) words += (words.empty() ? "" : " ") + word;
        word.clear();
    };
    for (const char c : name) {
        const auto byte = static_cast<unsigned char>(c);
        if (std::isalpha(byte) != 0 || byte >= 0x80) {
            word += static_cast<char>(std::tolower(byte));
        } else {
            keep();
        }
    }
    keep();
    return words.substr(0, kLongestRole);
}

std::string roleOf(const Piece& piece, const std::string& body) {
    std::string words = wordsOf(piece.group.empty() ? piece.file.stem().string() : piece.group);
    if (!words.empty()) return words;
    return body.substr(0, kLongestRole);
}

/// By what it is told from others: its folder, or else its file.
std::string nameOf(const Piece& piece) {
    return piece.group.empty() ? piece.file.filename().string() : piece.group;
}

bool isNewer(const fs::path& file, const fs::path& than) {
    std::error_code ignored;
    const auto before = fs::last_write_time(than, ignored),
               now = fs::last_write_time(file, ignored);
    return now != before ? now > before
                         : isNameBefore(than.filename().string(), file.filename().string());
}

/// What the files and folders hold, in the order of letters and names: of each folder the newest
/// clip; the older ones are told, as is what is sound alone.
std::vector<Piece> piecesOf(const std::vector<fs::path>& dropped, Intake& intake) {
    std::vector<Piece> pieces;
    std::error_code ignored;
    const auto folders = std::count_if(dropped.begin(), dropped.end(), [&](const fs::path& path) {
        return fs::is_directory(path, ignored);
    });
    for (const fs::path& path : dropped) {
        if (fs::is_directory(path, ignored))
            openFolder(path, folders > 1, pieces);
        else
            pieces.push_back({path, {}});
    }
    std::map<std::string, Piece> newest;
    std::vector<Piece> chosen;
    for (const Piece& piece : pieces) {
        if (isSoundFile(piece.file)) {
            intake.sounds.push_back(piece.file);
            continue;
        }
        if (piece.group.empty()) {
            chosen.push_back(piece);
            continue;
        }
        const auto [held, isFirst] = newest.emplace(piece.group, piece);
        if (isFirst) continue;
        const bool isReplaced = isNewer(piece.file, held->second.file);
        intake.olderOnCard.push_back(isReplaced ? held->second.file : piece.file);
        if (isReplaced) held->second = piece;
    }
    for (const auto& [group, piece] : newest) chosen.push_back(piece);
    std::stable_sort(chosen.begin(), chosen.end(), [&](const Piece& a, const Piece& b) {
        const auto x = letterOf(fs::path(nameOf(a))), y = letterOf(fs::path(nameOf(b)));
        if (x != y) return x && (!y || *x < *y);
        return isNameBefore(nameOf(a), nameOf(b));
    });
    return chosen;
}

IntakeCamera cameraOf(const Piece& piece, const media::MediaInfo& info) {
    IntakeCamera camera;
    camera.body = info.recorded.bodyName.value_or("");
    camera.role = roleOf(piece, camera.body);
    camera.file = piece.file;
    const std::string name = nameOf(piece);
    if (const auto letter = letterOf(fs::path(name)))
        camera.letter = std::string(1, static_cast<char>(std::toupper(*letter)));
    camera.words = wordsOf(fs::path(name).stem().string());
    camera.width = info.width;
    camera.height = info.height;
    camera.bitDepth = info.bitDepth;
    camera.frameRate = info.frameRate;
    camera.transfer = image::nameOf(info.tags.transfer);
    return camera;
}

base::Error nothingToRead(const std::vector<fs::path>& dropped) {
    base::Text why = base::say("intake.nothingGiven");
    if (dropped.size() == 1)
        why = base::say("intake.noMedia", {{"file", dropped.front().string()}});
    else if (dropped.size() > 1)
        why = base::say(
            "intake.noneIsMedia",
            {{"file", dropped.front().string()}, {"more", base::whole(dropped.size() - 1)}});
    return {base::ErrorCode::NotFound,
            base::say("intake.noneReadable"),
            why,
            base::say("intake.dropClips")};
}

}  // namespace

base::Result<Intake> intakeOf(const std::vector<fs::path>& dropped,
                              const base::Progress& progress) {
    Intake intake;
    const std::vector<Piece> pieces = piecesOf(dropped, intake);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        progress.report(static_cast<double>(i) / static_cast<double>(pieces.size()),
                        base::say("progress.lookingAtTheFiles"));
        const auto reader = intake.cameras.size() < rig::kMostCameras
                                ? media::MediaReader::open(pieces[i].file)
                                : tl::unexpected(nothingToRead(dropped));
        if (reader)
            intake.cameras.push_back(cameraOf(pieces[i], reader->info()));
        else
            intake.leftOut.push_back(pieces[i].file);
    }
    while (intake.sounds.size() > rig::kMostSources) {
        intake.leftOut.push_back(intake.sounds.back());
        intake.sounds.pop_back();
    }
    if (intake.cameras.empty() && intake.sounds.empty())
        return tl::unexpected(nothingToRead(dropped));
    return intake;
}

std::string addCamera(const IntakeCamera& from, rig::Rig& rig) {
    std::string free;
    for (char letter = 'A'; letter < static_cast<char>('A' + rig::kMostCameras); ++letter) {
        const bool isTaken = std::any_of(
            std::as_const(rig.cameras).begin(),
            std::as_const(rig.cameras).end(),
            [&](const rig::Camera& camera) { return camera.letter == std::string(1, letter); });
        if (isTaken) continue;
        if (free.empty()) free = letter;
        if (from.letter == std::string(1, letter)) free = letter;
    }
    if (free.empty()) return {};
    std::string id = makeCamera(free, rig);
    rig::Camera& camera = *rig::findCamera(rig, id);
    if (!from.role.empty()) camera.role = from.role;
    if (!from.body.empty()) camera.body = from.body;
    return id;
}

std::string addRecorder(const fs::path& file, rig::Rig& rig) {
    if (rig.sources.size() >= rig::kMostSources) return {};
    rig::Source source;
    source.id = rig::freshSourceId(rig);
    source.kind = rig::SourceKind::SoundRecorder;
    const std::string words = wordsOf(file.stem().string());
    source.name = words.empty() ? "sound recorder" : words;
    rig.sources.push_back(source);
    return source.id;
}

rig::Rig rigFrom(const rig::Rig& rig, const Intake& intake, const std::string& startedAt) {
    rig::Rig made = rig;
    rig::Take take;
    take.id = rig::freshTakeId(made);
    take.number = made.takes.empty() ? 1 : made.takes.back().number + 1;
    take.startedAt = startedAt;
    const auto put = [&](const std::string& id, const fs::path& file) {
        rig::Shot shot;
        shot.cameraId = id;
        shot.media = fs::absolute(file);
        shot.settings = rig::unknownSettings();
        take.shots.push_back(shot);
    };
    for (const IntakeCamera& one : intake.cameras) {
        const std::string id = addCamera(one, made);
        if (!id.empty()) put(id, one.file);
    }
    for (const fs::path& file : intake.sounds) {
        const std::string id = addRecorder(file, made);
        if (!id.empty()) put(id, file);
    }
    made.takes.push_back(take);
    return made;
}

}  // namespace rigmatch::jobs
