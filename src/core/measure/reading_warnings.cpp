// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/reading_warnings.h"

#include <algorithm>

#include "image/robust.h"

namespace rigmatch::measure {
namespace {

using base::Number;
using base::say;

constexpr double kLeastPatchPx = 12.0;  // below, the reading is noisy (sources 5.1 asks for 20)
constexpr double kShining = 0.05;       // of a patch's pixels

}  // namespace

void warnOfPlace(rig::Reading& reading, const chart::FoundChart& chart) {
    if (chart.otherCharts > 0) {
        reading.warnings.push_back(
            {"SeveralCharts",
             say("severalCharts.seen", {{"otherCharts", base::whole(chart.otherCharts + 1)}}),
             say("severalCharts.hint")});
    }
    if (chart.pose.isMirrored()) {
        reading.warnings.push_back({"Mirrored", say("mirrored.seen"), say("mirrored.hint")});
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
                                    say("patchesClipped.seen", {{"clipped", clipped}}),
                                    say("patchesClipped.hint")});
    }
    const std::string crushed = named(reading, rig::isCrushed);
    if (!crushed.empty()) {
        reading.warnings.push_back({"PatchesCrushed",
                                    say("patchesCrushed.seen", {{"crushed", crushed}}),
                                    say("patchesCrushed.hint")});
    }
    std::string falling;
    for (const std::string& name : rig::fallingGreys(reading))
        falling += (falling.empty() ? "" : ", ") + name;
    if (falling.empty()) return;
    reading.warnings.push_back({"GreyRowFalls",
                                say("greyRowFalls.seen", {{"falling", falling}}),
                                say("greyRowFalls.hint")});
}

}  // namespace

void warnOfPatches(rig::Reading& reading, const chart::ChartPose& pose) {
    warnOfLevels(reading);
    const std::string shining =
        named(reading, [](const rig::PatchReading& p) { return p.glareShare > kShining; });
    if (!shining.empty()) {
        reading.warnings.push_back({"PatchesShine",
                                    say("patchesShine.seen", {{"shining", shining}}),
                                    say("patchesShine.hint")});
    }
    constexpr double kSteepDegrees = 45.0;
    if (const auto tilt = rig::chartTilt(reading); tilt && tilt->degrees > kSteepDegrees) {
        reading.warnings.push_back(
            {"ChartTurnedAway",
             say("chartTurnedAway.seen", {{"degrees", Number{tilt->degrees}}}),
             say("chartTurnedAway.hint")});
    }
    if (pose.patchSizePx() < kLeastPatchPx) {
        reading.warnings.push_back(
            {"PatchesSmall",
             say("patchesSmall.seen", {{"patchSizePx", Number{pose.patchSizePx()}}}),
             say("patchesSmall.hint")});
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
         say("chartColoursDoNotFit.seen",
             {{"percent", Number{100.0 * reading.confidence}}, {"uneven", base::whole(uneven)}}),
         say("chartColoursDoNotFit.hint")});
}

}  // namespace rigmatch::measure
