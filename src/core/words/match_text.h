// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "jobs/history_job.h"
#include "match/match_report.h"
#include "rig/rig.h"
#include "rig/turn.h"

namespace rigmatch::words {

/// Number with unit and sign as it stands in a cell: "−0.63", "+3", "×1.02", with its uncertainty
/// "0.02".
struct CellText {
    std::string value;
    std::string uncertainty;
    std::string unit;
};
[[nodiscard]] CellText cellText(match::Quality quality, const match::Difference& difference);
/// Decimals of a difference's text: one more than usual where the usual rounding would move the
/// number across a limit, so that one number never has two verdicts.
[[nodiscard]] int shownDecimals(match::Quality quality, const match::Difference& difference);
/// "Key from the own left, right in the picture." or that the cheeks are lit alike.
[[nodiscard]] std::string keySideText(const match::SkinValues& values);
/// By what colours are judged, in words for the board's head: "as recorded", with what was
/// converted first.
[[nodiscard]] std::string judgeText(const match::MatchReport& report, const rig::Rig& rig);
/// What the light has to do with it where all cameras lie off alike; empty: nothing.
/// "All 3 cameras are 0.40 ± 0.02 stop darker …".
[[nodiscard]] std::string commonLightText(const match::MatchReport& report);
/// "Exposure", "White balance", … and the small line below it.
[[nodiscard]] std::string qualityTitle(match::Quality quality);
[[nodiscard]] std::string qualityHelp(match::Quality quality);
/// "−0.63 → +0.03 stop"
[[nodiscard]] std::string effectText(const rig::Turn& turn);
/// "ISO", "White balance", "Aperture", … or the knob's own name.
[[nodiscard]] std::string controlTitle(const rig::Turn& turn);

/// "take 1 −0.63 → take 2 −0.08 → take 3 +0.02 stop", and where nothing more is to be gained why:
/// below what is seen, or below what can be told. Empty with fewer than two takes that know it.
[[nodiscard]] std::string historyText(const std::vector<jobs::HistoryPoint>& points,
                                      match::Quality quality);

}  // namespace rigmatch::words
