// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/sound_text.h"
#include "words/english.h"

#include <cstddef>
#include <optional>

#include "base/format.h"

namespace rigmatch::words {
namespace {

std::string level(const std::optional<double>& value, const char* unit = " dBFS") {
    return value ? base::signedFixed(*value, 1) + unit : "unknown";
}

}  // namespace

std::vector<std::string> soundLines(const sound::SoundReport& report, SoundWords words) {
    std::vector<std::string> lines;
    for (std::size_t c = 0; c < report.channels.size(); ++c) {
        const sound::ChannelReport& channel = report.channels[c];
        lines.push_back("channel " + std::to_string(c + 1) + ": " + inEnglish(channel.verdict));
        lines.push_back(
            "  speech " + level(channel.speechDbfs) + ", peak " + level(channel.peakDbfs) +
            ", true peak " + level(channel.truePeakDbtp, " dBTP") + ", noise " +
            level(channel.noiseDbfs) + ", loudness " + level(channel.loudnessLufs, " LUFS"));
    }
    if (report.channels.size() > 1)
        lines.push_back("all together: loudness " + level(report.loudnessLufs, " LUFS"));
    if (words == SoundWords::WithoutFindings) return lines;
    for (const base::Warning& finding : report.findings)
        lines.push_back(inEnglish(finding.text) + " " + inEnglish(finding.hint));
    return lines;
}

}  // namespace rigmatch::words
