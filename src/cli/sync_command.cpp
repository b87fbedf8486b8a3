// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/feed_latency.h"
#include "jobs/sync_job.h"

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
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer(
            "An offset is an event's time in FILE minus its time in REFERENCE, as the sound "
            "arrives at the microphones.\n"
            "Example: rigmatch-cli sync A.mov B.mov recorder.wav --json");
        return app;
    }

    int run(const Streams& streams) override {
        const std::vector<std::filesystem::path> files(m_files.begin(), m_files.end());
        const auto report = jobs::syncFiles(m_reference, files);
        if (!report) return failed(streams, report.error());
        bool hasFailure = false;
        if (!m_isJson) {
            streams.out << report->reference << " is the reference.\n";
            for (const base::Warning& finding : report->referenceFindings)
                streams.out << "  " << finding.text << " " << finding.hint << "\n";
        }
        for (const jobs::SyncResult& result : report->results) {
            if (result.failure) {
                hasFailure = true;
                (void)said(streams, *result.failure);
            }
            if (m_isJson) continue;
            streams.out << result.file << ":\n";
            for (const std::string& line : jobs::syncLines(result))
                streams.out << "  " << line << "\n";
        }
        if (m_isJson) {
            streams.out << jobs::syncJson(
                *report, m_areFeeds ? jobs::SyncFeeds::OneDevice : jobs::SyncFeeds::Apart);
        } else if (m_areFeeds) {
            sayFeeds(streams, *report);
        }
        return hasFailure ? kFailed : kDone;
    }

private:
    static void sayFeeds(const Streams& streams, const jobs::SyncReport& report) {
        streams.out << "As feeds that one device began at once:\n";
        for (const jobs::FeedLatency& feed : jobs::feedLatencies(report)) {
            streams.out << feed.file << ":\n";
            for (const std::string& line : jobs::feedLines(feed))
                streams.out << "  " << line << "\n";
        }
    }

    std::string m_reference;
    std::vector<std::string> m_files;
    bool m_isJson = false;
    bool m_areFeeds = false;
};

}  // namespace

std::unique_ptr<Command> makeSyncCommand() { return std::make_unique<SyncCommand>(); }

}  // namespace rigmatch::cli
