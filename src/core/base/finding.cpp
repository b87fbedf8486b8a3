// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/finding.h"

#include <algorithm>

namespace rigmatch::base {

std::string nameOf(Verdict verdict) {
    switch (verdict) {
        case Verdict::Good:
            return "good";
        case Verdict::Near:
            return "near";
        case Verdict::Off:
            return "off";
        case Verdict::Unknown:
            break;
    }
    return "unknown";
}

std::string Finding::key() const {
    return quantity + "/" + subject + "/" + other + "/" + std::to_string(person);
}

double Finding::excess() const {
    if (!value) return 0.0;
    const double away = std::max({low - *value, *value - high, 0.0});
    return nearBy > 0.0 ? away / nearBy : away > 0.0 ? 2.0 : 0.0;
}

void judge(Finding& finding) {
    if (!finding.value) {
        finding.verdict = Verdict::Unknown;
        return;
    }
    const double excess = finding.excess();
    finding.verdict = excess <= 0.0 ? Verdict::Good : excess <= 1.0 ? Verdict::Near : Verdict::Off;
}

}  // namespace rigmatch::base
