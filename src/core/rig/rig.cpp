// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/rig.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace rigmatch::rig {
namespace {

template <class List, class Match>
auto* firstWhere(List& list, Match match) {
    const auto found = std::find_if(list.begin(), list.end(), match);
    return found == list.end() ? nullptr : &*found;
}

template <class List>
std::string freshId(const List& list, const std::string& stem) {
    for (std::size_t number = 1;; ++number) {
        std::string id = stem + std::to_string(number);
        const bool isTaken =
            std::any_of(list.begin(), list.end(), [&](const auto& item) { return item.id == id; });
        if (!isTaken) return id;
    }
}

/// More than 2 % apart: no rounding of 1/50 against 0.02.
bool isDifferent(double first, double second) {
    return std::abs(first - second) > 0.02 * std::abs(second);
}

}  // namespace

double largestApertureAt(const Lens& lens, double focalLengthMm) {
    if (!lens.isZoom() || lens.largestApertureLong <= 0.0) return lens.largestAperture;
    const double share = std::clamp(
        (focalLengthMm - lens.shortFocalMm) / (lens.longFocalMm - lens.shortFocalMm), 0.0, 1.0);
    return lens.largestAperture + share * (lens.largestApertureLong - lens.largestAperture);
}

bool isChartFile(const Rig& rig) { return rig.chart.find('.') != std::string::npos; }

const Camera* findCamera(const Rig& rig, const std::string& id) {
    return firstWhere(rig.cameras, [&](const Camera& camera) { return camera.id == id; });
}

std::string letterOf(const Rig& rig, const std::string& cameraId) {
    const Camera* camera = findCamera(rig, cameraId);
    return camera == nullptr ? "?" : camera->letter;
}

Camera* findCamera(Rig& rig, const std::string& id) {
    // Looked for without touching the others, which may be shared with copies of the rig.
    for (std::size_t i = 0; i < rig.cameras.size(); ++i) {
        if (std::as_const(rig.cameras)[i].id == id) return &rig.cameras[i];
    }
    return nullptr;
}

const Source* findSource(const Rig& rig, const std::string& id) {
    return firstWhere(rig.sources, [&](const Source& source) { return source.id == id; });
}

const char* nameOf(Purpose purpose) {
    switch (purpose) {
        case Purpose::Match:
            return "match";
        case Purpose::Framing:
            return "framing";
        case Purpose::Timing:
            return "timing";
        case Purpose::TryOut:
            return "tryout";
        case Purpose::Probe:
            return "probe";
        case Purpose::Programme:
            return "programme";
    }
    return "unknown";
}

std::optional<Purpose> purposeNamed(const std::string& name) {
    for (const Purpose purpose : kPurposes) {
        if (name == nameOf(purpose)) return purpose;
    }
    return std::nullopt;
}

bool isFor(const Take& take, Purpose purpose) {
    return std::find(take.purposes.begin(), take.purposes.end(), purpose) != take.purposes.end();
}

bool showsChart(const Take& take) {
    return isFor(take, Purpose::Match) || isFor(take, Purpose::TryOut) ||
           isFor(take, Purpose::Probe);
}

bool showsPeople(const Take& take) { return showsChart(take) || isFor(take, Purpose::Framing); }

std::string chartFor(const Rig& rig, const Take& take, const std::string& sourceId) {
    const bool isCamera = findSource(rig, sourceId) == nullptr;
    return isCamera && showsChart(take) ? rig.chart : std::string();
}

bool isFramingAsked(const Rig& rig, const Take& take, const std::string& sourceId) {
    return findSource(rig, sourceId) == nullptr &&
           (isFor(take, Purpose::Match) || isFor(take, Purpose::Framing));
}

bool isTimingAsked(const Take& take) { return isFor(take, Purpose::Timing); }

std::string askedOf(const Rig& rig, const Take& take, const std::string& sourceId) {
    std::string asked = chartFor(rig, take, sourceId);
    // Where a chart is looked for in a take to be matched, people are too.
    if (asked.empty() && isFramingAsked(rig, take, sourceId)) asked = "framing";
    if (isTimingAsked(take)) asked += " timing";
    return asked;
}

const Take* newestTake(const Rig& rig, Purpose purpose) {
    for (std::size_t i = rig.takes.size(); i-- > 0;) {
        if (isFor(rig.takes[i], purpose)) return &rig.takes[i];
    }
    return nullptr;
}

const Shot* findShot(const Take& take, const std::string& cameraId) {
    return firstWhere(take.shots, [&](const Shot& shot) { return shot.cameraId == cameraId; });
}

Shot* findShot(Take& take, const std::string& cameraId) {
    // Looked for without touching the others, which may be shared with copies of the take.
    for (std::size_t i = 0; i < take.shots.size(); ++i) {
        if (std::as_const(take.shots)[i].cameraId == cameraId) return &take.shots[i];
    }
    return nullptr;
}

void giveLetters(Rig& rig) {
    std::array<bool, kMostCameras> isTaken{};
    std::vector<std::size_t> without;
    for (std::size_t i = 0; i < rig.cameras.size(); ++i) {
        const std::string& letter = std::as_const(rig.cameras)[i].letter;
        const auto place =
            letter.size() == 1 ? static_cast<std::size_t>(letter[0] - 'A') : kMostCameras;
        if (place >= kMostCameras || isTaken[place])
            without.push_back(i);
        else
            isTaken[place] = true;
    }
    for (const std::size_t i : without) {
        const auto free = std::find(isTaken.begin(), isTaken.end(), false);
        if (free == isTaken.end()) break;  // more cameras than a rig may have
        *free = true;
        rig.cameras[i].letter = std::string(1, static_cast<char>('A' + (free - isTaken.begin())));
    }
    if (findCamera(rig, rig.referenceId) == nullptr) {
        rig.referenceId =
            rig.cameras.empty() ? std::string() : std::as_const(rig.cameras).front().id;
    }
}

std::string freshCameraId(const Rig& rig) { return freshId(rig.cameras, "camera-"); }
std::string freshSourceId(const Rig& rig) { return freshId(rig.sources, "source-"); }
std::string freshTakeId(const Rig& rig) { return freshId(rig.takes, "take-"); }

std::vector<CameraFlag> cameraFlags(const Rig& rig, const Camera& camera) {
    using base::say;

    std::vector<CameraFlag> flags;
    if (camera.settings.isAutoExposure) flags.push_back({"autoExposure", say("flag.autoExposure")});
    if (camera.settings.isAutoWhiteBalance)
        flags.push_back({"autoWhiteBalance", say("flag.autoWhiteBalance")});
    const Camera* reference = findCamera(rig, rig.referenceId);
    if (reference == nullptr || reference->id == camera.id) return flags;
    const Settings& mine = camera.settings;
    const Settings& theirs = reference->settings;
    const bool areRatesTold = mine.frameRate.isTold() && theirs.frameRate.isTold();
    if (areRatesTold && std::abs(mine.frameRate - theirs.frameRate) > 0.0005) {
        flags.push_back({"frameRate",
                         say("flag.frameRate",
                             {{"own", base::Number{mine.frameRate, 3}},
                              {"reference", base::Number{theirs.frameRate, 3}}})});
    }
    const bool areShuttersTold = mine.shutterSeconds.isTold() && theirs.shutterSeconds.isTold();
    if (areShuttersTold && isDifferent(mine.shutterSeconds, theirs.shutterSeconds)) {
        flags.push_back({"shutter",
                         say("flag.shutter",
                             {{"own", optics::shutterText(mine.shutterSeconds)},
                              {"reference", optics::shutterText(theirs.shutterSeconds)}})});
    }
    return flags;
}

}  // namespace rigmatch::rig
