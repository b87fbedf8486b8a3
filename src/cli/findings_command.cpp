// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "cli/command_line.h"
#include "output/findings_json.h"
#include "rig/rig_store.h"
#include "words/all_findings.h"
#include "words/english.h"

namespace rigmatch::cli {
namespace {

class FindingsCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "findings",
            "Print everything that is off, near or unknown: plan, camera sheets and the newest "
            "takes, the worst first");
        app->add_option("file", m_file, "Rig file")->required();
        app->add_flag("--json", m_isJson, "Print JSON, what is good too");
        app->footer("Example: rigmatch-cli findings set.rigmatch");
        return app;
    }

    int run(const Streams& streams) override {
        const auto loaded = rig::loadRig(m_file);
        if (!loaded) {
            streams.err << words::inEnglish(loaded.error()) << "\n";
            return kFailed;
        }
        const auto findings = words::allFindings(loaded->rig);
        streams.out << (m_isJson ? output::findingsJson(loaded->rig, findings)
                                 : words::findingsText(findings));
        return kDone;
    }

private:
    std::string m_file;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makeFindingsCommand() { return std::make_unique<FindingsCommand>(); }

}  // namespace rigmatch::cli
