// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "rig/choices.h"
#include "rig/rig.h"
#include "rig/set_plan.h"

namespace rigmatch::rig {

/// A number of a plan object, room, circuit or choice: how it is called in files and on screen, its
/// unit, what is allowed and why.
template <class Owner>
struct NumberField {
    const char* key;   ///< in files: "lensHeightMetres"
    base::Text title;  ///< on screen: "Lens height"
    const char* unit;  ///< "m", "°", "lx", ""
    double Owner::*value;
    double lowest;
    double highest;
    base::Text reason;  ///< why beyond is refused: "a lens above the ceiling sees nothing"
    int decimals = 2;
};
template <class Owner>
struct TextField {
    const char* key;
    base::Text title;
    std::string Owner::*value;
    std::vector<std::string> allowed;  ///< empty: any text
};
template <class Owner>
struct TruthField {
    const char* key;
    base::Text title;
    bool Owner::*value;
};

template <class Owner>
struct FieldTable {
    std::vector<NumberField<Owner>> numbers;
    std::vector<TextField<Owner>> texts;
    std::vector<TruthField<Owner>> truths;
};

/// The fields that a kind of object has.
[[nodiscard]] const FieldTable<PlanObject>& planFields(PlanKind kind);
[[nodiscard]] const FieldTable<SetPlan>& roomFields();
[[nodiscard]] const FieldTable<Circuit>& circuitFields();
[[nodiscard]] const FieldTable<Choices>& choiceFields();
[[nodiscard]] const FieldTable<Equipment>& equipmentFields();

/// The object with the fields its kind has; all others at their defaults, as a file would bring it
/// back.
[[nodiscard]] PlanObject withOwnFields(const PlanObject& object);

/// Nothing where `value` lies in the field's range; else OutOfRange with value, range and reason.
template <class Owner>
[[nodiscard]] base::Result<void> checkField(const NumberField<Owner>& field, double value);
extern template base::Result<void> checkField(const NumberField<PlanObject>&, double);
extern template base::Result<void> checkField(const NumberField<SetPlan>&, double);
extern template base::Result<void> checkField(const NumberField<Circuit>&, double);
extern template base::Result<void> checkField(const NumberField<Choices>&, double);
extern template base::Result<void> checkField(const NumberField<Equipment>&, double);

/// The whole plan: every field in its range, every object inside the walls and under the ceiling,
/// not too many of them, no two with one id. The first thing wrong, as OutOfRange.
[[nodiscard]] base::Result<void> checkPlan(const SetPlan& plan);
/// The same for one object in its room.
[[nodiscard]] base::Result<void> checkObject(const SetPlan& plan, const PlanObject& object);

}  // namespace rigmatch::rig
