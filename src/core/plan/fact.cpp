// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/fact.h"

#include <cmath>

#include "base/format.h"

namespace rigmatch::plan {

base::Finding findingOf(const Fact& fact, const std::string& subject) {
    base::Finding finding;
    finding.quantity = fact.key;
    finding.subject = subject;
    finding.value = fact.number;
    finding.uncertainty = fact.uncertainty.value_or(0.0);
    finding.unit = fact.unit;
    finding.verdict = fact.verdict;
    if (fact.verdict == base::Verdict::Unknown) finding.reason = fact.why;
    return finding;
}

base::Finding findingOf(const Note& note) {
    base::Finding finding;
    finding.quantity = "note";
    finding.subject = note.objectId;
    finding.verdict = note.verdict;
    return finding;
}

std::string lengthText(const rig::SetPlan& plan, double metres) {
    constexpr double kMetresPerFoot = 0.3048;
    if (plan.isInFeet) return base::fixed(metres / kMetresPerFoot, 1) + " ft";
    return base::fixed(metres, 2) + " m";
}

std::string stopsText(double stops, int decimals) {
    return base::signedFixed(stops, decimals) + (std::abs(stops) > 1.0 ? " stops" : " stop");
}

std::string luxText(double lux) {
    const int digits = lux >= 100.0 ? 0 : 1;
    const double step = lux >= 1000.0 ? 10.0 : 1.0;
    return base::fixed(digits == 0 ? std::round(lux / step) * step : lux, digits) + " lx";
}

std::string nameOf(const rig::PlanObject& object) {
    return object.name.empty() ? std::string(rig::kindName(object.kind)) : object.name;
}

}  // namespace rigmatch::plan
