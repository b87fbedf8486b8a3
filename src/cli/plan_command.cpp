// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "cli/command_line.h"
#include "jobs/plan_job.h"
#include "output/plan_json.h"
#include "rig/rig_store.h"
#include "words/english.h"
#include "words/plan_text.h"

namespace rigmatch::cli {
namespace {

class PlanCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "plan", "Print all facts and notes of a rig's set plan and camera sheet");
        app->add_option("file", m_file, "Rig with a plan")->required();
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer("Example: rigmatch-cli plan clock-bench.rigmatch --json");
        return app;
    }

    int run(const Streams& streams) override {
        const auto loaded = rig::loadRig(m_file);
        if (!loaded) {
            streams.err << words::inEnglish(loaded.error()) << "\n";
            return kFailed;
        }
        if (!loaded->rig.plan) {
            streams.err << words::inEnglish(jobs::noPlanError(loaded->rig.name)) << "\n";
            return kFailed;
        }
        streams.out << (m_isJson ? output::planJson(loaded->rig) : words::planText(loaded->rig));
        return kDone;
    }

private:
    std::string m_file;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makePlanCommand() { return std::make_unique<PlanCommand>(); }

}  // namespace rigmatch::cli
