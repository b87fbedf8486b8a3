// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/reading_warnings.h"

#include <algorithm>

#include "base/format.h"
#include "image/robust.h"

namespace rigmatch::measure {
namespace {

constexpr double kLeastPatchPx = 12.0;  // below, the reading is noisy (sources 5.1 asks for 20)
constexpr double kShining = 0.05;       // of a patch's pixels

}  // namespace

void warnOfPlace(rig::Reading& reading, const chart::FoundChart& chart) {
    if (chart.otherCharts > 0) {
        reading.warnings.push_back({"SeveralCharts",
                                    "There is more than one chart in the picture (" +
                                        std::to_string(chart.otherCharts + 1) +
                                        "); the largest was measured.",
                                    "Take the others out, so that all cameras read the same one."});
    }
    if (chart.pose.isMirrored()) {
        reading.warnings.push_back(
            {"Mirrored",
             "The picture is mirrored. The colours are measured all the same.",
             "Turn off mirroring in the camera or capture chain: places left and right are "
             "exchanged against the other cameras."});
    }
}

namespace {

/// Names of the patches for which `isSo` holds, in one text.
template <class IsSo>
std::string named(const rig::Reading& reading, const IsSo& isSo) {
    std::string names;
    for (const rig::PatchReading& patch : reading.patches) {
        if (isSo(patch)) names += (names.empty() ? "" : ", ") + patch.name;
    }
    return names;
}

/// Levels that tell nothing: at the ends of the codes, or out of order.
void warnOfLevels(rig::Reading& reading) {
    const std::string clipped =
        named(reading, [](const rig::PatchReading& p) { return rig::isClipped(p); });
    if (!clipped.empty()) {
        reading.warnings.push_back({"PatchesClipped",
                                    "Clipped: " + clipped + ". They are left out of the fits.",
                                    "Lower the exposure of this camera until white keeps detail."});
    }
    const std::string crushed = named(reading, rig::isCrushed);
    if (!crushed.empty()) {
        reading.warnings.push_back(
            {"PatchesCrushed",
             "Crushed to black: " + crushed + ". They are left out of the fits.",
             "Raise the exposure or the black level of this camera until black shows noise."});
    }
    std::string falling;
    for (const std::string& name : rig::fallingGreys(reading))
        falling += (falling.empty() ? "" : ", ") + name;
    if (falling.empty()) return;
    reading.warnings.push_back(
        {"GreyRowFalls",
         "Out of order in the grey row: " + falling +
             ". It is brighter than a lighter grey, or darker than a darker one: it shines, is "
             "covered or soiled. It is left out of the fits.",
         "Tilt the chart so that no lamp is mirrored toward this camera, keep fingers off the "
         "greys, and wipe them."});
}

}  // namespace

void warnOfPatches(rig::Reading& reading, const chart::ChartPose& pose) {
    warnOfLevels(reading);
    const std::string shining =
        named(reading, [](const rig::PatchReading& p) { return p.glareShare > kShining; });
    if (!shining.empty()) {
        reading.warnings.push_back(
            {"PatchesShine",
             "A lamp is reflected in: " + shining +
                 ". Small spots are left out of a patch's mean, large ones the patch out of the "
                 "fits.",
             "Tilt the chart a little, so that no lamp is mirrored toward a camera."});
    }
    constexpr double kSteepDegrees = 45.0;
    if (const auto tilt = rig::chartTilt(reading); tilt && tilt->degrees > kSteepDegrees) {
        reading.warnings.push_back(
            {"ChartTurnedAway",
             "This camera sees the chart under " + base::fixed(tilt->degrees, 0) +
                 "°: matte patches begin to shine there, and few rows of pixels are left of them.",
             "Turn the chart toward the middle of all cameras; where one stays beyond 45°, compare "
             "skin as well."});
    }
    if (pose.patchSizePx() < kLeastPatchPx) {
        reading.warnings.push_back(
            {"PatchesSmall",
             "The patches are only " + base::fixed(pose.patchSizePx(), 0) + " px wide.",
             "Bring the chart nearer: 20 px and more make the reading surer."});
    }
}

void judgeMarkedColours(rig::Reading& reading, const chart::ReferenceChart& chart) {
    constexpr double kLeastAgreement = 0.85;  // sound corners reach 0.95 under any light and curve
    constexpr double kUneven = 0.03;          // signal: beyond any noise of a flat patch …
    constexpr double kUnevenTimes = 4.0;      // … and that many times the usual patch's
    if (!chart.isSearchable()) return;
    std::vector<double> noises;
    for (const rig::PatchReading& patch : reading.patches) noises.push_back(patch.noise[1]);
    const double usual = image::median(noises);
    const auto uneven = std::count_if(noises.begin(), noises.end(), [&](double noise) {
        return noise > kUneven && noise > kUnevenTimes * usual;
    });
    const bool hasEdges = uneven * 6 > static_cast<long>(noises.size());
    if (reading.confidence >= kLeastAgreement && !hasEdges) return;
    reading.areColoursDoubtful = true;
    reading.warnings.push_back(
        {"ChartColoursDoNotFit",
         "The colours under the corners set by hand are not the chart's (agreement " +
             base::fixed(100.0 * reading.confidence, 0) + " %, " + std::to_string(uneven) +
             " patches hold edges). No turn is made from this reading.",
         "Put the corners on the four outer corners of the patches, clockwise from dark skin, or "
         "let the program find the chart again."});
}

}  // namespace rigmatch::measure
