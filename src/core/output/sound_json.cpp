// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/sound_json.h"

#include <cmath>
#include <nlohmann/json.hpp>
#include <utility>

#include "output/json_parts.h"
#include "output/json_tidy.h"
#include "words/english.h"

namespace rigmatch::output {
namespace {

Json channelJson(const sound::ChannelReport& channel) {
    Json gaps = Json::array();
    for (const sound::SoundGap& gap : channel.gaps)
        gaps.push_back(
            {{"startSeconds", tidy(gap.startSeconds)}, {"lengthSeconds", tidy(gap.lengthSeconds)}});
    return {{"speechDbfs", orNull(channel.speechDbfs)},
            {"peakDbfs", tidy(channel.peakDbfs)},
            {"truePeakDbtp", tidy(channel.truePeakDbtp)},
            {"loudnessLufs", orNull(channel.loudnessLufs)},
            {"noiseDbfs", orNull(channel.noiseDbfs)},
            {"humDbfs", orNull(channel.humDbfs)},
            {"humHz", channel.humDbfs ? Json(channel.humHz) : Json(nullptr)},
            {"rumbleDbfs", orNull(channel.rumbleDbfs)},
            {"clippedRuns", channel.clippedRuns},
            {"gaps", gaps},
            {"offsetPercent", tidy(channel.offsetPercent)},
            {"bandwidthHz", orNull(channel.bandwidthHz)},
            {"decaySeconds", orNull(channel.decaySeconds)},
            {"levelRisePerSecond", orNull(channel.levelRisePerSecond)},
            {"verdict", channel.code},
            {"text", words::inEnglish(channel.verdict)}};
}

}  // namespace

std::string soundJson(const std::vector<jobs::HeardFile>& files) {
    Json results = Json::array();
    for (const jobs::HeardFile& file : files) {
        if (!file.report) {
            results.push_back(
                {{"file", file.file}, {"error", words::inEnglish(file.report.error())}});
            continue;
        }
        const sound::SoundReport& report = *file.report;
        Json channels = Json::array();
        for (std::size_t c = 0; c < report.channels.size(); ++c) {
            Json one = {{"channel", c + 1}};
            one.update(channelJson(report.channels[c]));
            channels.push_back(std::move(one));
        }
        Json findings = Json::array();
        for (const base::Warning& finding : report.findings)
            findings.push_back({{"code", finding.code},
                                {"text", words::inEnglish(finding.text)},
                                {"hint", words::inEnglish(finding.hint)}});
        results.push_back({{"file", file.file},
                           {"sampleRate", report.sampleRate},
                           {"durationSeconds", tidy(report.durationSeconds)},
                           {"loudnessLufs", orNull(report.loudnessLufs)},
                           {"loudnessRangeLu", orNull(report.loudnessRangeLu)},
                           {"truePeakDbtp", orNull(report.truePeakDbtp)},
                           {"channels", channels},
                           {"findings", findings}});
    }
    return Json({{"version", 1}, {"results", results}}).dump(2) + "\n";
}

}  // namespace rigmatch::output
