// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "plan/fact.h"
#include "rig/rig.h"

namespace rigmatch::words {

/// A fact in words.
struct ToldFact {
    std::string key{};
    std::string title{};
    std::string value{};
    base::Verdict verdict = base::Verdict::Good;
    std::string why{};
    std::string change{};
    std::optional<double> number{};
    std::string unit{};
    std::optional<double> uncertainty{};

    bool operator==(const ToldFact&) const = default;
};
[[nodiscard]] ToldFact told(const plan::Fact& fact);
[[nodiscard]] std::vector<ToldFact> told(const std::vector<plan::Fact>& facts);

/// Facts of room, objects and camera sheet, and the notes, for reading. `rig.plan` must be set.
[[nodiscard]] std::string planText(const rig::Rig& rig);

}  // namespace rigmatch::words
