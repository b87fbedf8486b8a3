// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/try_out_text.h"
#include "words/english.h"

#include <algorithm>
#include <string>

#include "base/format.h"

namespace rigmatch::words {

std::string tryOutText(const rig::Rig& rig, const jobs::TryOutReport& report) {
    std::string text;
    constexpr std::size_t kMostLines = 10;
    int place = 0;
    for (const jobs::ProfileCombination& one : report.ranked) {
        if (++place > static_cast<int>(kMostLines)) break;
        text += std::to_string(place) + ".";
        for (const std::size_t i : one.chosen)
            text += "  " + rig::letterOf(rig, report.profiles[i].cameraId) + " " +
                    report.profiles[i].profile;
        text += "\n    worst " + base::fixed(one.afterTurns, 1) + " ± " +
                base::fixed(std::max(one.uncertainty, 0.1), 1) + " ΔE2000 after the turns, " +
                base::fixed(one.afterLut, 1) + " with a look-up table";
        const double noise = jobs::noisiest(report, one);
        if (noise > 0.0) text += "; noise at grey up to " + base::fixed(noise, 2) + " % of signal";
        if (one.isAsGoodAsBest && report.ranked.size() > 1 && report.ranked[1].isAsGoodAsBest)
            text += "; as good as the best, as far as can be told";
        text += "\n";
    }
    for (const jobs::TriedProfile& tried : report.profiles) {
        text += rig::letterOf(rig, tried.cameraId) + " " + tried.profile + ": ";
        text += tried.headroomStops
                    ? base::fixed(*tried.headroomStops, 1) + " stops from grey to the top"
                    : std::string("headroom unknown");
        text += tried.isNoiseKnown ? ", noise " + base::fixed(tried.noisePercent, 2) + " %\n"
                                   : ", noise unknown: the chart has to rest\n";
    }
    for (const base::Text& note : report.notes) text += inEnglish(note) + "\n";
    return text;
}

}  // namespace rigmatch::words
