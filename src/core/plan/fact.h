// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/text.h"
#include "rig/set_plan.h"

namespace rigmatch::plan {

/// One computed thing about an object of the plan: what, how much, why, and what to change.
struct Fact {
    std::string key{};   ///< stable, for files: "depthOfField"
    base::Text title{};  ///< "Sharp from – to at f/2.8"
    base::Text value{};  ///< "2.29–2.43 m"
    base::Verdict verdict = base::Verdict::Good;
    base::Text why{};     ///< how it comes about
    base::Text change{};  ///< what to do; empty where nothing needs to be done
    std::optional<double> number{};
    std::string unit{};
    std::optional<double> uncertainty{};  ///< in the same unit

    bool operator==(const Fact&) const = default;
};

struct ObjectFacts {
    std::string objectId;
    std::vector<Fact> facts;
};

/// Something to improve, with the object it is about.
struct Note {
    base::Verdict verdict = base::Verdict::Near;
    int weight = 0;  ///< the heavier, the earlier
    base::Text text{};
    base::Text change{};
    std::string objectId{};
    std::string key{};  ///< of the fact it comes from; empty: of none

    bool operator==(const Note&) const = default;
};

/// Their part that is no words: quantity, subject, value, verdict.
[[nodiscard]] base::Finding findingOf(const Fact& fact, const std::string& subject);
[[nodiscard]] base::Finding findingOf(const Note& note);

/// "2.31 m" or "7.6 ft", as the plan is shown.
[[nodiscard]] base::Text lengthText(const rig::SetPlan& plan, double metres);
/// "1250 lx".
[[nodiscard]] base::Text luxText(double lux);
/// "12 %" of a share of one.
[[nodiscard]] base::Text percentText(double share, int decimals = 0);
/// "close" shortened names: the object's name, or what it is.
[[nodiscard]] std::string nameOf(const rig::PlanObject& object);

}  // namespace rigmatch::plan
