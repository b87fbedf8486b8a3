// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <set>

#include "base/format.h"
#include "rig/plan_fields.h"

namespace rigmatch::rig {
namespace {

using base::ErrorCode;

std::string numberText(double value) {
    std::string text = base::fixed(value, 4);
    while (text.back() == '0') text.pop_back();
    if (text.back() == '.') text.pop_back();
    return text;
}

std::string withUnit(double value, const std::string& unit) {
    if (unit.empty()) return numberText(value);
    return numberText(value) + (unit == "°" ? "°" : " " + unit);
}

base::Result<void> refused(const std::string& name, base::Text detail) {
    return base::fail(ErrorCode::OutOfRange,
                      base::say("planChecks.cannotPlace", {{"name", name}}),
                      std::move(detail),
                      base::say("planChecks.keepInsideWalls"));
}

template <class Owner>
base::Result<void> checkAll(const FieldTable<Owner>& table, const Owner& owner) {
    for (const auto& field : table.numbers) {
        if (auto valid = checkField(field, owner.*field.value); !valid) return valid;
    }
    for (const auto& field : table.texts) {
        const std::string& value = owner.*field.value;
        bool isKnown = field.allowed.empty();
        std::string list;
        for (const std::string& allowed : field.allowed) {
            isKnown = isKnown || allowed == value;
            if (!list.empty()) list += ", ";
            list += allowed;
        }
        if (!isKnown) {
            return base::fail(
                ErrorCode::OutOfRange,
                base::say("planChecks.cannotSet", {{"title", field.title}}),
                base::say("planChecks.allowedAre", {{"value", value}, {"list", list}}),
                base::say("planChecks.chooseOneThese"));
        }
    }
    return {};
}

}  // namespace

template <class Owner>
base::Result<void> checkField(const NumberField<Owner>& field, double value) {
    if (std::isfinite(value) && value >= field.lowest - 1e-9 && value <= field.highest + 1e-9) {
        return {};
    }
    const base::Text given =
        std::isfinite(value) ? base::asIs(withUnit(value, field.unit)) : base::say("lens.noNumber");
    return base::fail(ErrorCode::OutOfRange,
                      base::say("planChecks.cannotSet", {{"title", field.title}}),
                      base::say("planChecks.givenAllowed",
                                {{"given", given},
                                 {"lowest", numberText(field.lowest)},
                                 {"highest", withUnit(field.highest, field.unit)},
                                 {"reason", field.reason}}),
                      base::say("planChecks.typeValueRange"));
}
template base::Result<void> checkField(const NumberField<PlanObject>&, double);
template base::Result<void> checkField(const NumberField<SetPlan>&, double);
template base::Result<void> checkField(const NumberField<Circuit>&, double);
template base::Result<void> checkField(const NumberField<Choices>&, double);
template base::Result<void> checkField(const NumberField<Equipment>&, double);

base::Result<void> checkObject(const SetPlan& plan, const PlanObject& object) {
    const std::string name = object.name.empty() ? object.id : object.name;
    if (auto valid = checkAll(planFields(object.kind), object); !valid) {
        valid.error().what =
            base::say("planChecks.whatOf", {{"what", valid.error().what}, {"object", name}});
        return valid;
    }
    if (object.xMetres > plan.widthMetres + 1e-9) {
        return refused(name,
                       base::say("planChecks.standLeftWall",
                                 {{"distance", withUnit(object.xMetres, "m")},
                                  {"width", withUnit(plan.widthMetres, "m")}}));
    }
    if (object.zMetres > plan.depthMetres + 1e-9) {
        return refused(name,
                       base::say("planChecks.standBackWall",
                                 {{"distance", withUnit(object.zMetres, "m")},
                                  {"depth", withUnit(plan.depthMetres, "m")}}));
    }
    const bool hasOwnHeight = object.kind == PlanKind::Person || object.kind == PlanKind::Camera ||
                              object.kind == PlanKind::Light || object.kind == PlanKind::Chart;
    const double top = object.heightMetres + (hasOwnHeight ? 0.0 : object.tallMetres);
    if (top > plan.heightMetres + 1e-9) {
        return refused(
            name,
            base::say("planChecks.reachUpCeiling",
                      {{"top", withUnit(top, "m")}, {"height", withUnit(plan.heightMetres, "m")}}));
    }
    if (object.kind == PlanKind::Camera || object.kind == PlanKind::Light) {
        const double distance = std::hypot(object.aimXMetres - object.xMetres,
                                           object.aimZMetres - object.zMetres,
                                           object.aimHeightMetres - object.heightMetres);
        if (distance < 0.05) {
            return refused(
                name,
                base::say("planChecks.aimAwayLeast", {{"distance", withUnit(distance, "m")}}));
        }
    }
    return {};
}

base::Result<void> checkPlan(const SetPlan& plan) {
    if (auto valid = checkAll(roomFields(), plan); !valid) return valid;
    if (plan.objects.size() > kMostPlanObjects) {
        return base::fail(ErrorCode::OutOfRange,
                          base::say("planChecks.cannotTakePlan"),
                          base::say("planChecks.objectsUpAllowed",
                                    {{"objects", base::whole(plan.objects.size())},
                                     {"most", base::whole(kMostPlanObjects)}}),
                          base::say("planChecks.leaveOutWhat"));
    }
    std::set<std::string> ids;
    for (const PlanObject& object : plan.objects) {
        if (!ids.insert(object.id).second || object.id.empty()) {
            return base::fail(ErrorCode::OutOfRange,
                              base::say("planChecks.cannotTakePlan"),
                              base::say("planChecks.twoObjectsId", {{"id", object.id}}),
                              base::say("planChecks.giveEachOwn"));
        }
        if (auto valid = checkObject(plan, object); !valid) return valid;
    }
    for (const Circuit& circuit : plan.circuits) {
        if (auto valid = checkAll(circuitFields(), circuit); !valid) return valid;
    }
    return {};
}

}  // namespace rigmatch::rig
