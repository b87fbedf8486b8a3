// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/sound_job.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "base/format.h"
#include "jobs/json_tidy.h"
#include "media/sound_reader.h"
#include "sound/sound_meter.h"

namespace rigmatch::jobs {
namespace {

Json orNull(const std::optional<double>& value) {
    return value ? Json(tidy(*value)) : Json(nullptr);
}

std::string level(const std::optional<double>& value, const char* unit = " dBFS") {
    return value ? base::signedFixed(*value, 1) + unit : "unknown";
}

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
            {"text", channel.verdict}};
}

}  // namespace

base::Result<sound::SoundReport> listenTo(const std::filesystem::path& file,
                                          const base::Progress& progress) {
    auto reader = media::SoundReader::open(file);
    if (!reader) return tl::unexpected(reader.error());
    sound::SoundMeter meter;
    const double length = reader->durationSeconds();
    std::optional<double> first;
    while (auto blocks = reader->next()) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        for (media::SoundBlock& block : *blocks) {
            if (!first) first = block.seconds;
            block.seconds -= *first;
            if (length > 0.0) progress.report(std::min(1.0, block.seconds / length), "Listening");
            meter.take(block);
        }
    }
    auto report = meter.finish();
    if (!report) {
        return base::fail(base::ErrorCode::NoSound,
                          "Cannot hear " + file.filename().string(),
                          "Its sound track holds nothing that can be decoded.",
                          "Copy it from the card again, or take another recording.");
    }
    return *report;
}

std::vector<std::string> soundLines(const sound::SoundReport& report, SoundWords words) {
    std::vector<std::string> lines;
    for (std::size_t c = 0; c < report.channels.size(); ++c) {
        const sound::ChannelReport& channel = report.channels[c];
        lines.push_back("channel " + std::to_string(c + 1) + ": " + channel.verdict);
        lines.push_back(
            "  speech " + level(channel.speechDbfs) + ", peak " + level(channel.peakDbfs) +
            ", true peak " + level(channel.truePeakDbtp, " dBTP") + ", noise " +
            level(channel.noiseDbfs) + ", loudness " + level(channel.loudnessLufs, " LUFS"));
    }
    if (report.channels.size() > 1)
        lines.push_back("all together: loudness " + level(report.loudnessLufs, " LUFS"));
    if (words == SoundWords::WithoutFindings) return lines;
    for (const base::Warning& finding : report.findings)
        lines.push_back(finding.text + " " + finding.hint);
    return lines;
}

std::string soundJson(const std::vector<HeardFile>& files) {
    Json results = Json::array();
    for (const HeardFile& file : files) {
        if (!file.report) {
            results.push_back(
                {{"file", file.file}, {"error", base::fullText(file.report.error())}});
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
            findings.push_back(
                {{"code", finding.code}, {"text", finding.text}, {"hint", finding.hint}});
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

}  // namespace rigmatch::jobs
