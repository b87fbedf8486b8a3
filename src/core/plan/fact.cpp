// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/fact.h"

#include <cmath>

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

base::Text lengthText(const rig::SetPlan& plan, double metres) {
    constexpr double kMetresPerFoot = 0.3048;
    if (plan.isInFeet)
        return base::say("length.feet", {{"feet", base::Number{metres / kMetresPerFoot, 1}}});
    return base::say("length.metres", {{"metres", base::Number{metres, 2}}});
}

base::Text luxText(double lux) {
    const int digits = lux >= 100.0 ? 0 : 1;
    const double step = lux >= 1000.0 ? 10.0 : 1.0;
    const double shown = digits == 0 ? std::round(lux / step) * step : lux;
    return base::say("light.lux", {{"lux", base::Number{shown, digits}}});
}

base::Text percentText(double share, int decimals) {
    return base::say("common.percent", {{"percent", base::Number{100.0 * share, decimals}}});
}

std::string nameOf(const rig::PlanObject& object) {
    return object.name.empty() ? std::string(rig::kindName(object.kind)) : object.name;
}

}  // namespace rigmatch::plan
