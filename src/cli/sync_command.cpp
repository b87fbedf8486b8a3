// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/check_clip.h"
#include "jobs/feed_latency.h"
#include "jobs/sync_job.h"
#include "output/sync_json.h"
#include "words/english.h"
#include "words/sync_text.h"

namespace rigmatch::cli {
namespace {

class SyncCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "sync", "Lay recordings of one take on each other by sound and picture");
        app->add_option("reference", m_reference, "Clip or sound file the others are laid on")
            ->required();
        app->add_option("files", m_files, "Clips or sound files")->required();
        app->add_flag("--feeds",
                      m_areFeeds,
                      "The files are feeds that one device began to record at once: tell how late "
                      "each arrives, and the delay to enter");
        app->add_option("--minutes",
                        m_plannedMinutes,
                        "How long recordings will get: what a clock that drifts makes of that")
            ->check(CLI::Range(1.0, 1440.0));
        app->add_option("--check",
                        m_check,
                        "Write ten seconds of the reference and the first of FILES side by side as "
                        "they lie on each other (.mov), or twenty of their sound (.wav)");
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer(
            "An offset is an event's time in FILE minus its time in REFERENCE, as the sound "
            "arrives at the microphones.\n"
            "Example: rigmatch-cli sync A.mov B.mov recorder.wav --json");
        return app;
    }

    int run(const Streams& streams) override {
        const std::vector<std::filesystem::path> files(m_files.begin(), m_files.end());
        auto report = jobs::syncFiles(m_reference, files);
        if (!report) return failed(streams, report.error());
        for (jobs::SyncResult& result : report->results)
            jobs::foretellDrift(result, m_plannedMinutes);
        bool hasFailure = false;
        if (!m_isJson) {
            streams.out << report->reference << " is the reference.\n";
            for (const base::Warning& finding : report->referenceFindings)
                streams.out << "  " << words::inEnglish(finding.text) << " "
                            << words::inEnglish(finding.hint) << "\n";
        }
        for (const jobs::SyncResult& result : report->results) {
            if (result.failure) {
                hasFailure = true;
                (void)said(streams, *result.failure);
            }
            if (m_isJson) continue;
            streams.out << result.file << ":\n";
            for (const std::string& line : words::syncLines(result))
                streams.out << "  " << line << "\n";
        }
        if (m_isJson) {
            streams.out << output::syncJson(
                *report, m_areFeeds ? output::SyncFeeds::OneDevice : output::SyncFeeds::Apart);
        } else if (m_areFeeds) {
            sayFeeds(streams, *report);
        }
        if (!m_check.empty() && !report->results.empty()) {
            const auto written =
                jobs::isCheckFile(m_check)
                    ? jobs::writeCheck(m_reference,
                                       report->results.front(),
                                       report->referenceHeard ? report->referenceHeard->clapSeconds
                                                              : std::nullopt,
                                       m_check)
                    : base::fail(base::ErrorCode::UnsupportedFormat,
                                 base::say("file.cannotWrite", {{"path", m_check}}),
                                 base::say("checkClip.badEnding"),
                                 base::say("checkClip.nameSo"));
            if (!written) return failed(streams, written.error());
        }
        return hasFailure ? kFailed : kDone;
    }

private:
    static void sayFeeds(const Streams& streams, const jobs::SyncReport& report) {
        streams.out << "As feeds that one device began at once:\n";
        for (const jobs::FeedLatency& feed : jobs::feedLatencies(report)) {
            streams.out << feed.file << ":\n";
            for (const std::string& line : words::feedLines(feed))
                streams.out << "  " << line << "\n";
        }
    }

    std::string m_reference;
    std::vector<std::string> m_files;
    std::string m_check;
    double m_plannedMinutes = 0.0;  ///< 0: not told
    bool m_isJson = false;
    bool m_areFeeds = false;
};

}  // namespace

std::unique_ptr<Command> makeSyncCommand() { return std::make_unique<SyncCommand>(); }

}  // namespace rigmatch::cli
