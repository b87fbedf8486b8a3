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

base::Result<void> refused(const std::string& name, std::string detail) {
    return base::fail(
        ErrorCode::OutOfRange,
        "Cannot place " + name,
        std::move(detail),
        "Keep it inside the walls and under the ceiling, or make the room larger first.");
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
            std::string why = "\"" + value;
            why += "\" was given; allowed are: ";
            why += list;
            why += ".";
            return base::fail(ErrorCode::OutOfRange,
                              std::string("Cannot set \"") + field.title + "\"",
                              why,
                              "Choose one of these.");
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
    const std::string given = std::isfinite(value) ? withUnit(value, field.unit) : "no number";
    return base::fail(ErrorCode::OutOfRange,
                      std::string("Cannot set \"") + field.title + "\"",
                      given + " was given; allowed is " + numberText(field.lowest) + " to " +
                          withUnit(field.highest, field.unit) + " (" + field.reason + ").",
                      "Type a value in this range.");
}
template base::Result<void> checkField(const NumberField<PlanObject>&, double);
template base::Result<void> checkField(const NumberField<SetPlan>&, double);
template base::Result<void> checkField(const NumberField<Circuit>&, double);
template base::Result<void> checkField(const NumberField<Choices>&, double);
template base::Result<void> checkField(const NumberField<Equipment>&, double);

base::Result<void> checkObject(const SetPlan& plan, const PlanObject& object) {
    const std::string name = object.name.empty() ? object.id : object.name;
    if (auto valid = checkAll(planFields(object.kind), object); !valid) {
        valid.error().what += " of " + name;
        return valid;
    }
    if (object.xMetres > plan.widthMetres + 1e-9) {
        return refused(name,
                       "It would stand " + withUnit(object.xMetres, "m") +
                           " from the left wall; the room is " + withUnit(plan.widthMetres, "m") +
                           " wide.");
    }
    if (object.zMetres > plan.depthMetres + 1e-9) {
        return refused(name,
                       "It would stand " + withUnit(object.zMetres, "m") +
                           " from the back wall; the room is " + withUnit(plan.depthMetres, "m") +
                           " deep.");
    }
    const bool hasOwnHeight = object.kind == PlanKind::Person || object.kind == PlanKind::Camera ||
                              object.kind == PlanKind::Light || object.kind == PlanKind::Chart;
    const double top = object.heightMetres + (hasOwnHeight ? 0.0 : object.tallMetres);
    if (top > plan.heightMetres + 1e-9) {
        return refused(name,
                       "It would reach " + withUnit(top, "m") + " up; the ceiling is at " +
                           withUnit(plan.heightMetres, "m") + ".");
    }
    if (object.kind == PlanKind::Camera || object.kind == PlanKind::Light) {
        const double distance = std::hypot(object.aimXMetres - object.xMetres,
                                           object.aimZMetres - object.zMetres,
                                           object.aimHeightMetres - object.heightMetres);
        if (distance < 0.05) {
            return refused(name,
                           "Its aim is " + withUnit(distance, "m") +
                               " away from it; at least 0.05 m is needed to have a direction.");
        }
    }
    return {};
}

base::Result<void> checkPlan(const SetPlan& plan) {
    if (auto valid = checkAll(roomFields(), plan); !valid) return valid;
    if (plan.objects.size() > kMostPlanObjects) {
        return base::fail(ErrorCode::OutOfRange,
                          "Cannot take this plan",
                          std::to_string(plan.objects.size()) + " objects are on it; up to " +
                              std::to_string(kMostPlanObjects) + " are allowed.",
                          "Leave out what neither gives light, nor stands in it, nor is seen.");
    }
    std::set<std::string> ids;
    for (const PlanObject& object : plan.objects) {
        if (!ids.insert(object.id).second || object.id.empty()) {
            return base::fail(ErrorCode::OutOfRange,
                              "Cannot take this plan",
                              "Two objects have the id \"" + object.id + "\".",
                              "Give each its own id.");
        }
        if (auto valid = checkObject(plan, object); !valid) return valid;
    }
    for (const Circuit& circuit : plan.circuits) {
        if (auto valid = checkAll(circuitFields(), circuit); !valid) return valid;
    }
    return {};
}

}  // namespace rigmatch::rig
