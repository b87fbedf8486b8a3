// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "match/match_report.h"
#include "rig/rig.h"

namespace rigmatch::words {

/// One measured quantity of one camera, ready to be shown.
struct FactCell {
    std::optional<double> value;  ///< in the row's unit; nothing: unknown, or words alone
    double uncertainty = 0.0;     ///< one standard deviation
    std::string text;             ///< the number as it is shown, or the words
    match::Verdict verdict = match::Verdict::Good;  ///< against the reference where that matters
    std::string why;                                ///< what it rests on, or why it is unknown
};

/// One quantity of all cameras.
struct FactRow {
    std::string key;    ///< stable name for files: "noiseGreyPercent"
    std::string group;  ///< "Tone", "White balance", "Colour", "Noise", …
    std::string title;
    std::string unit;
    std::string help;  ///< what is measured, and with what limits
    std::vector<FactCell> cells;
};

/// All that the readings of a take tell beyond the match board.
struct FactTable {
    std::vector<std::string> cameraIds;  ///< in the order of the rig
    std::vector<FactRow> rows;
};

/// Definitions in docs/measurement.md. Never fails: what cannot be told is said in its cell.
[[nodiscard]] FactTable readingFacts(const rig::Rig& rig,
                                     const rig::Take& take,
                                     const match::MatchReport& report);

/// The same of one reading by itself, without a reference.
[[nodiscard]] FactTable readingFacts(const rig::Reading& reading);

}  // namespace rigmatch::words
