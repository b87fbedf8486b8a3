// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/match_columns.h"

#include <algorithm>
#include <cmath>

#include "match/compare_parts.h"
#include "match/match_report.h"

namespace rigmatch::match {
namespace {

using base::Number;
using base::say;

constexpr double kOwnFallStops = 0.1;  // of light, beyond what all cameras see
constexpr double kSureFall = 4.0;

/// Primaries of a shot: chosen by hand, else the profile's; empty: as the file says.
std::string namedPrimaries(const rig::Camera& camera, const rig::Shot& shot) {
    if (!shot.primariesOverride.empty()) return shot.primariesOverride;
    const rig::Profile* profile = rig::findProfile(camera.sheet, shot.settings.profile);
    return profile != nullptr ? profile->primaries : std::string();
}

/// The last earlier take in which this camera was set as now and saw the same chart.
const rig::Reading* earlierReading(const rig::Rig& rig, const rig::Take& take, const Column& now) {
    const rig::Reading* found = nullptr;
    for (const rig::Take& earlier : rig.takes) {
        if (earlier.id == take.id) break;
        const rig::Shot* shot = rig::findShot(earlier, now.camera->id);
        const bool isAlike = shot != nullptr && shot->reading && shot->reading->hasChart &&
                             shot->settings == now.shot->settings &&
                             !chartMismatch(*shot->reading, *now.shot->reading);
        if (isAlike) found = &*shot->reading;
    }
    return found;
}

}  // namespace

void fillColumn(const rig::Camera& camera, const rig::Shot* shot, Column& column) {
    column.camera = &camera;
    column.shot = shot;
    Side& side = column.side;
    if (shot == nullptr || (!shot->reading && shot->failure.empty())) {
        side.missing = say("unknown.noClip");
        return;
    }
    if (!shot->reading) {
        side.missing = shot->failure;
        return;
    }
    side.reading = &*shot->reading;
    side.declared = declaredCurve(camera, *shot);
    side.primaries = namedPrimaries(camera, *shot);
    if (!camera.viewingLut.empty()) {
        if (auto lut = colour::ViewingLut::read(camera.viewingLut)) side.lut = std::move(*lut);
    }
    if (!column.hasChart()) return;
    if (const auto fit = fitNeutrals(*side.reading, declaredOf(side)))
        column.fall = lightFall(*side.reading, *fit);
}

std::optional<LightPlane> evenOut(std::deque<Column>& columns) {
    std::vector<LightFall> falls;
    for (const Column& column : columns) {
        if (column.fall) falls.push_back(*column.fall);
    }
    const auto plane = commonLight(falls);
    if (!plane) return std::nullopt;
    for (Column& column : columns) {
        if (!column.hasChart()) continue;
        column.even = evened(*column.side.reading, *plane);
        column.side.reading = &*column.even;
        column.side.isEvened =
            std::max(std::abs(plane->acrossStops), std::abs(plane->downStops)) > kOwnFallStops;
    }
    return plane;
}

void tellOwnFall(const Column& column,
                 const LightPlane& plane,
                 std::size_t cameras,
                 CameraDifferences& result) {
    if (!column.fall || cameras < 2) return;
    const double across = column.fall->acrossStops.value - plane.acrossStops;
    const double down = column.fall->downStops.value - plane.downStops;
    const bool isAcross = std::abs(across) > std::abs(down);
    const Measured& axis = isAcross ? column.fall->acrossStops : column.fall->downStops;
    const double own = isAcross ? across : down;
    if (std::abs(own) < kOwnFallStops || std::abs(own) < kSureFall * axis.uncertainty) return;
    result.notes.push_back(say("column.turnChartToward",
                               {{"own", Number{std::abs(own), 2}},
                                {"uncertainty", Number{std::max(axis.uncertainty, 0.01), 2}},
                                {"side",
                                 isAcross    ? own < 0.0 ? say("column.right") : say("column.left")
                                    : own < 0.0 ? say("column.foot")
                                             : say("column.top")}}));
}

void tellBlackAgainstBefore(const rig::Rig& rig,
                            const rig::Take& take,
                            const Column& column,
                            CameraDifferences& result) {
    constexpr double kNotable = 1.0;  // % of signal
    constexpr double kSureBlack = 3.0;
    const rig::Reading* before = earlierReading(rig, take, column);
    if (before == nullptr) return;
    const Side then{before, column.side.declared, {}};
    const Side now{&*column.shot->reading, column.side.declared, {}};
    const SideView thenView = viewOf(then);
    const SideView nowView = viewOf(now);
    if (!thenView.fit || !nowView.fit) return;
    // Only the neutrals: compare() would find the veil itself, and be less sure of black by it.
    CameraDifferences change;
    compareNeutrals({now, nowView, then, thenView, Judging::Recorded}, change);
    const Difference& black = change.of(Quality::BlackLevel);
    if (!black.value || std::abs(*black.value) < kNotable ||
        std::abs(*black.value) < kSureBlack * black.uncertainty)
        return;
    result.notes.push_back(say("column.tiltChartShade",
                               {{"black", Number{*black.value, 1, true}},
                                {"uncertainty", Number{std::max(black.uncertainty, 0.1), 1}}}));
}

std::optional<ToneCurve> knownShape(const rig::Rig& rig,
                                    const rig::Take& take,
                                    const Column& column) {
    if (column.view.fit) return column.view.fit->curve;
    if (const colour::TransferCurve* declared = declaredOf(column.side)) {
        std::vector<CurvePoint> points;
        for (double stops = -7.0; stops <= 4.0; stops += 0.25)
            points.push_back({stops, declared->encode(0.18 * std::exp2(stops))});
        if (ToneCurve curve(points); curve.isUsable()) return curve;
    }
    std::optional<ToneCurve> found;
    for (const rig::Take& earlier : rig.takes) {
        if (earlier.id == take.id) break;
        const rig::Shot* shot = rig::findShot(earlier, column.camera->id);
        if (shot == nullptr || !shot->reading || !shot->reading->hasChart) continue;
        const rig::Settings& then = shot->settings;
        const rig::Settings& now = column.shot->settings;
        const bool isSame =
            then.profile.isTold() && then.profile == now.profile && then.knobs == now.knobs;
        if (!isSame) continue;
        if (const auto fit = fitNeutrals(*shot->reading); fit && !fit->isCurveAssumed)
            found = fit->curve;
    }
    return found;
}

}  // namespace rigmatch::match
