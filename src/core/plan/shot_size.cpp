// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/shot_size.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::plan {
namespace {

using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

// Room left and right of the outer heads of a group, m (common practice: elbows inside).
constexpr double kElbowRoom = 0.55;
constexpr double kTopDownMargin = 1.15;

double widthForGroup(const SetPlan& plan, const CameraView& view, bool isWide) {
    const double aspect = view.widthAt(1.0) / view.heightAt(1.0);
    double left = 1e9;
    double right = -1e9;
    for (const PlanObject* person : objectsOf(plan, PlanKind::Person)) {
        const auto at = view.project(headOf(*person).centre);
        if (!at) continue;
        left = std::min(left, at->x);
        right = std::max(right, at->x);
    }
    const double span = std::max(0.0, right - left) * view.widthAt(view.focusMetres());
    // Heads at the thirds: the frame is three times as wide as they sit apart.
    if (!isWide && span > 0.3) return 3.0 * span;
    return std::max(span + 2.0 * kElbowRoom, 1.2 * aspect) * (isWide ? 1.25 : 1.0);
}

}  // namespace

const std::vector<ShotSize>& shotSizes() {
    static const std::vector<ShotSize> kSizes{{"wide two-shot", 0.0},
                                              {"two-shot", 0.0},
                                              {"wide", 0.12},
                                              {"medium", 0.20},
                                              {"medium close", 0.30},
                                              {"close", 0.42},
                                              {"top-down", 0.0}};
    return kSizes;
}

const ShotSize& shotSizeOf(const std::string& name) {
    for (const ShotSize& size : shotSizes()) {
        if (size.name == name) return size;
    }
    return shotSizes()[4];
}

std::optional<double> wantedWidth(const SetPlan& plan,
                                  const PlanObject& camera,
                                  const CameraView& view) {
    const ShotSize& size = shotSizeOf(camera.shot);
    const double aspect = view.widthAt(1.0) / view.heightAt(1.0);
    if (size.headShare > 0.0) {
        const PlanObject* subject = subjectOf(plan, camera);
        if (subject == nullptr) return std::nullopt;
        return subject->headMetres / size.headShare * aspect;
    }
    if (size.name == "top-down") {
        const PlanObject* below = nullptr;
        for (const PlanObject& object : plan.objects) {
            if (object.kind != PlanKind::Table && object.kind != PlanKind::Prop) continue;
            const Vec way =
                Vec(camera.aimXMetres - object.xMetres, 0, camera.aimZMetres - object.zMetres);
            if (way.norm() > 0.6) continue;
            if (below == nullptr || object.widthMetres > below->widthMetres) below = &object;
        }
        if (below == nullptr) return std::nullopt;
        return std::min(below->widthMetres, 1.0) * kTopDownMargin;
    }
    if (objectsOf(plan, PlanKind::Person).empty()) return std::nullopt;
    return widthForGroup(plan, view, size.name == "wide two-shot");
}

LensChoice chooseLens(const SetPlan& plan, const CameraView& view, double wantedWidthMetres) {
    LensChoice choice;
    const double distance = view.lens().distanceMm;
    const double sensor = view.lens().area.widthMm;
    choice.wantedMm = optics::focalLengthForWidth(sensor, wantedWidthMetres * 1000.0, distance);
    double nearest = 1e9;
    for (const rig::OwnedLens& lens : plan.lenses) {
        const double focal = std::clamp(
            choice.wantedMm, lens.shortFocalMm, std::max(lens.shortFocalMm, lens.longFocalMm));
        const double away = std::abs(std::log2(focal / choice.wantedMm));
        // Of two that frame alike the faster one.
        const bool isBetter =
            away < nearest - 0.01 ||
            (away < nearest + 0.01 && lens.largestAperture < choice.largestAperture);
        if (!isBetter) continue;
        nearest = std::min(nearest, away);
        choice.chosenMm = lens.longFocalMm > lens.shortFocalMm ? std::round(focal) : focal;
        choice.largestAperture = lens.largestAperture;
    }
    if (choice.chosenMm) {
        choice.tooWideShare = optics::frameExtentMm(sensor, *choice.chosenMm, distance) /
                                  (wantedWidthMetres * 1000.0) -
                              1.0;
    }
    return choice;
}

}  // namespace rigmatch::plan
