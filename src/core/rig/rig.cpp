// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/rig.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

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

std::optional<std::size_t> greyPatch(const Reading& reading) {
    constexpr double kGrey = 0.18;
    std::optional<std::size_t> best;
    const auto away = [&](std::size_t i) {
        return std::abs(std::log2(std::max(reading.patches[i].nominalLinear[1], 1e-4) / kGrey));
    };
    for (std::size_t i = 0; i < reading.patches.size(); ++i) {
        if (reading.patches[i].isNeutral && (!best || away(i) < away(*best))) best = i;
    }
    return best;
}

std::optional<std::size_t> blackPatch(const Reading& reading) {
    constexpr double kBlackUnder = 0.06;
    std::optional<std::size_t> best;
    for (std::size_t i = 0; i < reading.patches.size(); ++i) {
        const double light = reading.patches[i].nominalLinear[1];
        if (!reading.patches[i].isNeutral || light > kBlackUnder) continue;
        if (!best || light < reading.patches[*best].nominalLinear[1]) best = i;
    }
    return best;
}

bool isCrushed(const PatchReading& patch) {
    constexpr double kFloor = 0.003;   // signal
    constexpr double kQuiet = 0.0007;  // standard deviation: any light has more noise
    return *std::max_element(patch.signal.begin(), patch.signal.end()) < kFloor &&
           *std::max_element(patch.noise.begin(), patch.noise.end()) < kQuiet;
}

bool isGlared(const PatchReading& patch) {
    constexpr double kTrimmed = 0.15;  // what the trimmed mean leaves out by itself
    return patch.glareShare > kTrimmed;
}

std::optional<double> chartTilt(const Reading& reading) {
    if (!reading.hasChart || reading.columns < 2 || reading.rows < 2) return std::nullopt;
    const auto& c = reading.corners;
    const double across = reading.columns - 1.0 + reading.patchShare;
    const double down = reading.rows - 1.0 + reading.patchShare;
    // One step across and one down at the middle of the field: the means of opposite sides.
    const double ax = (c[1].x - c[0].x + c[2].x - c[3].x) / (2.0 * across);
    const double ay = (c[1].y - c[0].y + c[2].y - c[3].y) / (2.0 * across);
    const double bx = (c[3].x - c[0].x + c[2].x - c[1].x) / (2.0 * down);
    const double by = (c[3].y - c[0].y + c[2].y - c[1].y) / (2.0 * down);
    // Singular values of that 2 x 2 map: their ratio is the cosine of the tilt.
    const double sum = ax * ax + ay * ay + bx * bx + by * by;
    const double area = std::abs(ax * by - ay * bx);
    const double root = std::sqrt(std::max(0.0, 0.25 * sum * sum - area * area));
    const double largest = std::sqrt(0.5 * sum + root);
    const double smallest = std::sqrt(std::max(0.0, 0.5 * sum - root));
    if (!(largest > 0.0)) return std::nullopt;
    constexpr double kDegrees = 57.29577951308232;
    return std::acos(std::clamp(smallest / largest, 0.0, 1.0)) * kDegrees;
}

bool isOutsideGamut(const PatchReading& patch) {
    return *std::min_element(patch.nominalLinear.begin(), patch.nominalLinear.end()) < 0.0;
}

const Camera* findCamera(const Rig& rig, const std::string& id) {
    return firstWhere(rig.cameras, [&](const Camera& camera) { return camera.id == id; });
}

Camera* findCamera(Rig& rig, const std::string& id) {
    return firstWhere(rig.cameras, [&](const Camera& camera) { return camera.id == id; });
}

const Shot* findShot(const Take& take, const std::string& cameraId) {
    return firstWhere(take.shots, [&](const Shot& shot) { return shot.cameraId == cameraId; });
}

Shot* findShot(Take& take, const std::string& cameraId) {
    return firstWhere(take.shots, [&](const Shot& shot) { return shot.cameraId == cameraId; });
}

void renumber(Rig& rig) {
    for (std::size_t i = 0; i < rig.cameras.size(); ++i) {
        rig.cameras[i].letter = std::string(1, static_cast<char>('A' + i));
    }
    if (findCamera(rig, rig.referenceId) == nullptr) {
        rig.referenceId = rig.cameras.empty() ? std::string() : rig.cameras.front().id;
    }
}

std::string freshCameraId(const Rig& rig) { return freshId(rig.cameras, "camera-"); }
std::string freshTakeId(const Rig& rig) { return freshId(rig.takes, "take-"); }

std::vector<CameraFlag> cameraFlags(const Rig& rig, const Camera& camera) {
    std::vector<CameraFlag> flags;
    if (camera.settings.isAutoExposure) {
        flags.push_back({"autoExposure",
                         "exposure on automatic",
                         "Automatic exposure is on: lock it, or this camera will drift."});
    }
    if (camera.settings.isAutoWhiteBalance) {
        flags.push_back({"autoWhiteBalance",
                         "white balance on automatic",
                         "Automatic white balance is on: lock it, or this camera will drift."});
    }
    const Camera* reference = findCamera(rig, rig.referenceId);
    if (reference == nullptr || reference->id == camera.id) return flags;
    const Settings& mine = camera.settings;
    const Settings& theirs = reference->settings;
    if (std::abs(mine.frameRate - theirs.frameRate) > 0.0005) {
        flags.push_back({"frameRate",
                         "frame rate differs",
                         "Frame rate " + base::fixed(mine.frameRate, 3) + " fps; reference " +
                             base::fixed(theirs.frameRate, 3) + " fps: motion will not cut."});
    }
    if (isDifferent(mine.shutterSeconds, theirs.shutterSeconds)) {
        flags.push_back({"shutter",
                         "shutter differs",
                         "Shutter " + optics::shutterText(mine.shutterSeconds) + "; reference " +
                             optics::shutterText(theirs.shutterSeconds) +
                             ": motion blur differs."});
    }
    return flags;
}

}  // namespace rigmatch::rig
