// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "cli/command_line.h"
#include "jobs/sound_job.h"
#include "output/sound_json.h"
#include "words/english.h"
#include "words/sound_text.h"

namespace rigmatch::cli {
namespace {

class SoundCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "sound",
            "Listen to recordings: levels, loudness, noise, hum, clipping and gaps per channel");
        app->add_option("files", m_files, "Clips or sound files")->required();
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer("Example: rigmatch-cli sound A.mov recorder.wav --json");
        return app;
    }

    int run(const Streams& streams) override {
        std::vector<jobs::HeardFile> heard;
        bool hasFailure = false;
        for (const std::string& file : m_files) {
            heard.push_back({file, jobs::listenTo(file)});
            if (!heard.back().report) {
                hasFailure = true;
                streams.err << words::inEnglish(heard.back().report.error()) << "\n";
            } else if (!m_isJson) {
                streams.out << file << ":\n";
                for (const std::string& line : words::soundLines(*heard.back().report))
                    streams.out << "  " << line << "\n";
            }
        }
        if (m_isJson) streams.out << output::soundJson(heard);
        return hasFailure ? kFailed : kDone;
    }

private:
    std::vector<std::string> m_files;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makeSoundCommand() { return std::make_unique<SoundCommand>(); }

}  // namespace rigmatch::cli
