// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/arrivals.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fstream>
#include <map>
#include <optional>

#include "jobs/media_names.h"
#include "jobs/take_job.h"

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;

/// What one camera's clips looked like so far.
struct Past {
    const rig::Camera* camera = nullptr;
    const rig::Shot* last = nullptr;  ///< the newest with a reading of a picture
    fs::path file;                    ///< the newest clip, measured or not
};

Past pastOf(const rig::Rig& rig, const rig::Camera& camera) {
    Past past{&camera, nullptr, {}};
    for (const rig::Take& take : rig.takes) {
        const rig::Shot* shot = rig::findShot(take, camera.id);
        if (shot == nullptr) continue;
        if (!shot->media.empty()) past.file = shot->media;
        if (shot->reading && shot->reading->hasPicture) past.last = shot;
    }
    return past;
}

/// "C" of "C0012": what stands before the number that counts up.
std::string stemBeforeNumber(const fs::path& file) {
    std::string stem = file.stem().string();
    while (!stem.empty() && std::isdigit(static_cast<unsigned char>(stem.back())) != 0)
        stem.pop_back();
    std::transform(stem.begin(), stem.end(), stem.begin(), [](unsigned char c) {
        return static_cast<char>(std::tolower(c));
    });
    return stem;
}

constexpr double kLetter = 100.0;
constexpr double kStrangerBelow = 0.0;

/// How well a file fits a camera: above 100 by its letter, below 0 where picture or body tell
/// against it.
double likeness(const IntakeCamera& file, const Past& past) {
    double score = 0.0;
    const std::string& letter = past.camera->letter;
    if (!file.letter.empty()) score += file.letter == letter ? kLetter : -5.0;
    if (!file.body.empty() && !past.camera->body.empty() && past.last != nullptr)
        score += file.body == past.camera->body ? 4.0 : 0.0;
    if (!file.words.empty() && file.words == past.camera->role) score += 6.0;
    if (past.last != nullptr) {
        const rig::Reading& before = *past.last->reading;
        const bool isSameSize = before.width == file.width && before.height == file.height;
        const bool isSameRate = std::abs(before.frameRate - file.frameRate) < 0.01;
        score += isSameSize ? 2.0 : -4.0;
        score += isSameRate ? 1.0 : -2.0;
        score += before.bitDepth == file.bitDepth ? 1.0 : -2.0;
        score += before.transfer == file.transfer ? 1.0 : -2.0;
    }
    if (!past.file.empty()) {
        if (past.file.parent_path() == file.file.parent_path()) score += 0.5;
        if (past.file.parent_path().filename() == file.file.parent_path().filename()) score += 1.0;
        if (stemBeforeNumber(past.file) == stemBeforeNumber(file.file)) score += 1.5;
    }
    return score;
}

/// Gives each clip to the camera that it fits best; the surest pairs first.
void guessCameras(const std::vector<Past>& pasts, std::vector<Arrival>& files) {
    struct Pair {
        double score;
        std::size_t file, camera;
    };
    std::vector<Pair> pairs;
    for (std::size_t f = 0; f < files.size(); ++f) {
        if (files[f].isSound) continue;
        for (std::size_t c = 0; c < pasts.size(); ++c)
            pairs.push_back({likeness(files[f].what, pasts[c]), f, c});
    }
    std::stable_sort(
        pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.score > b.score; });
    std::vector<bool> isFilled(pasts.size(), false), isPlaced(files.size(), false);
    for (const Pair& pair : pairs) {
        if (isFilled[pair.camera] || isPlaced[pair.file] || pair.score < kStrangerBelow) continue;
        isFilled[pair.camera] = isPlaced[pair.file] = true;
        Arrival& arrival = files[pair.file];
        arrival.place = pasts[pair.camera].camera->id;
        // Another camera that it fits as well, or another clip that fits here as well: no telling.
        const bool isUnclear = std::any_of(pairs.begin(), pairs.end(), [&](const Pair& other) {
            const bool isRival = (other.file == pair.file) != (other.camera == pair.camera);
            return isRival && other.score > pair.score - 1.0;
        });
        arrival.reason = pair.score >= 0.5 * kLetter ? ArrivalReason::Letter
                         : isUnclear                 ? ArrivalReason::Order
                                                     : ArrivalReason::Alike;
    }
    for (std::size_t f = 0; f < files.size(); ++f) {
        if (files[f].isSound || isPlaced[f]) continue;
        files[f].place = Arrival::kNewCamera;
        files[f].reason = ArrivalReason::New;
    }
}

void guessRecorders(const rig::Rig& rig, std::vector<Arrival>& files) {
    std::vector<std::string> free;
    for (const rig::Source& source : rig.sources) {
        if (source.kind == rig::SourceKind::SoundRecorder) free.push_back(source.id);
    }
    std::size_t next = 0;
    for (Arrival& arrival : files) {
        if (!arrival.isSound) continue;
        arrival.reason = ArrivalReason::Sound;
        arrival.place = next < free.size() ? free[next++] : std::string(Arrival::kNewRecorder);
    }
}

void leaveOutTooMany(const rig::Rig& rig, std::vector<Arrival>& files) {
    std::size_t cameras = rig.cameras.size(), sources = rig.sources.size();
    for (Arrival& arrival : files) {
        const bool isNewCamera = arrival.place == Arrival::kNewCamera;
        const bool isNewRecorder = arrival.place == Arrival::kNewRecorder;
        if (!isNewCamera && !isNewRecorder) continue;
        std::size_t& count = isNewCamera ? cameras : sources;
        if (count < (isNewCamera ? rig::kMostCameras : rig::kMostSources)) {
            ++count;
            continue;
        }
        arrival.place = Arrival::kLeftOut;
        arrival.reason = ArrivalReason::TooMany;
    }
}

const rig::Take* findTake(const rig::Rig& rig, const std::string& id) {
    for (const rig::Take& take : rig.takes) {
        if (take.id == id) return &take;
    }
    return nullptr;
}

void tellTwice(const rig::Take* shown, std::vector<Arrival>& files) {
    for (std::size_t i = 0; i < files.size(); ++i) {
        const fs::path& file = files[i].what.file;
        for (std::size_t j = 0; j < i && files[i].sameAs.empty(); ++j) {
            if (isSameContent(file, files[j].what.file))
                files[i].sameAs = files[j].what.file.filename().string();
        }
        if (shown == nullptr || !files[i].sameAs.empty()) continue;
        for (const rig::Shot& shot : shown->shots) {
            if (shot.cameraId != files[i].place && isSameContent(file, shot.media))
                files[i].sameAs = shot.media.filename().string();
        }
    }
}

Arrival leftOut(const fs::path& file, ArrivalReason reason) {
    Arrival arrival;
    arrival.what.file = file;
    arrival.reason = reason;
    arrival.isSound = isSoundFile(file);
    return arrival;
}

}  // namespace

bool isSameContent(const fs::path& a, const fs::path& b) {
    std::error_code code;
    if (fs::equivalent(a, b, code)) return true;
    const auto size = fs::file_size(a, code);
    if (code || size == 0) return false;
    if (fs::file_size(b, code) != size || code) return false;
    constexpr std::uintmax_t kPiece = 1U << 20U;
    std::ifstream first(a, std::ios::binary), second(b, std::ios::binary);
    std::vector<char> x(kPiece), y(kPiece);
    const std::uintmax_t last = size > kPiece ? size - kPiece : 0;
    for (const std::uintmax_t from : {std::uintmax_t{0}, last / 2, last}) {
        const auto length = static_cast<std::streamsize>(std::min(kPiece, size - from));
        first.seekg(static_cast<std::streamoff>(from));
        second.seekg(static_cast<std::streamoff>(from));
        if (!first.read(x.data(), length) || !second.read(y.data(), length)) return false;
        if (!std::equal(x.begin(), x.begin() + length, y.begin())) return false;
    }
    return true;
}

base::Result<Arrivals> arrivalsOf(const rig::Rig& rig,
                                  const std::string& takeId,
                                  const std::string& chosenId,
                                  const std::vector<fs::path>& dropped,
                                  const base::Progress& progress) {
    const auto intake = intakeOf(dropped, progress);
    if (!intake) return tl::unexpected(intake.error());
    Arrivals arrivals;
    for (const IntakeCamera& one : intake->cameras) arrivals.files.push_back({one, {}, {}, {}, {}});
    for (const fs::path& file : intake->sounds) {
        arrivals.files.push_back(leftOut(file, ArrivalReason::Sound));
    }
    std::vector<Past> pasts;
    for (const rig::Camera& camera : rig.cameras) pasts.push_back(pastOf(rig, camera));
    guessCameras(pasts, arrivals.files);
    guessRecorders(rig, arrivals.files);
    bool isAgainstName = false;
    const bool isChosen =
        rig::findCamera(rig, chosenId) != nullptr || rig::findSource(rig, chosenId) != nullptr;
    if (isChosen && arrivals.files.size() == 1) {
        Arrival& only = arrivals.files.front();
        isAgainstName = only.reason == ArrivalReason::Letter && only.place != chosenId;
        only.place = chosenId;
        only.reason = ArrivalReason::Chosen;
    }
    leaveOutTooMany(rig, arrivals.files);
    for (const fs::path& file : intake->leftOut)
        arrivals.files.push_back(leftOut(file, ArrivalReason::Unusable));
    for (const fs::path& file : intake->olderOnCard)
        arrivals.files.push_back(leftOut(file, ArrivalReason::Older));
    const rig::Take* shown = findTake(rig, takeId);
    tellTwice(shown, arrivals.files);
    bool isPlain = !isAgainstName;
    for (const Arrival& arrival : arrivals.files) {
        const bool isNamed = arrival.reason == ArrivalReason::Letter ||
                             arrival.reason == ArrivalReason::Chosen ||
                             arrival.reason == ArrivalReason::Sound;
        if (!isNamed || !arrival.sameAs.empty()) isPlain = false;
        const bool isThere = shown != nullptr && rig::findShot(*shown, arrival.place) != nullptr;
        // One file for the chosen camera takes the place of the one that is there.
        if (isThere && arrival.reason != ArrivalReason::Chosen) arrivals.isNewTake = true;
    }
    arrivals.isSure = isPlain && !arrivals.isNewTake;
    return arrivals;
}

PutArrivals putArrivals(const Arrivals& arrivals,
                        const std::string& takeId,
                        const std::string& startedAt,
                        rig::Rig& rig) {
    PutArrivals put;
    put.takeId = takeId;
    if (arrivals.isNewTake || findTake(rig, takeId) == nullptr) {
        rig::Take made;
        made.id = put.takeId = rig::freshTakeId(rig);
        made.number = rig.takes.empty() ? 1 : std::as_const(rig.takes).back().number + 1;
        made.startedAt = startedAt;
        rig.takes.push_back(made);
    }
    std::map<std::string, std::vector<fs::path>> given;
    for (const Arrival& arrival : arrivals.files) {
        std::string place = arrival.place;
        if (place == Arrival::kLeftOut) continue;
        if (place == Arrival::kNewCamera) place = addCamera(arrival.what, rig);
        if (place == Arrival::kNewRecorder) place = addRecorder(arrival.what.file, rig);
        if (!place.empty()) given[place].push_back(fs::absolute(arrival.what.file));
    }
    for (std::size_t i = 0; i < rig.takes.size(); ++i) {
        if (std::as_const(rig.takes)[i].id != put.takeId) continue;
        rig::Take& take = rig.takes[i];
        for (auto& [id, files] : given) {
            std::sort(files.begin(), files.end(), [](const fs::path& a, const fs::path& b) {
                return isNameBefore(a.filename().string(), b.filename().string());
            });
            const rig::Camera* camera = rig::findCamera(std::as_const(rig), id);
            rig::Shot shot;
            shot.cameraId = id;
            shot.media = files.front();
            shot.laterParts.assign(files.begin() + 1, files.end());
            shot.settings = camera != nullptr ? camera->settings : rig::unknownSettings();
            take.shots.removeIf(
                [&, camera = id](const rig::Shot& old) { return old.cameraId == camera; });
            take.shots.push_back(shot);
            put.sources.push_back(id);
        }
    }
    return put;
}

}  // namespace rigmatch::jobs
