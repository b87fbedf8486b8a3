// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/try_out.h"
#include "output/try_out_json.h"
#include "rig/rig_store.h"
#include "words/try_out_text.h"

namespace rigmatch::cli {
namespace {

class TryOutCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "tryout",
            "Rank the profiles that takes for a try-out show, by what is left after turns");
        app->add_option("rig", m_rigFile, "Rig file")->required();
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer(
            "Example: rigmatch-cli take set.rigmatch --purpose tryout --camera A=a1.mov "
            "--camera B=b1.mov --set A.profile=Standard --set B.profile=Flat\n"
            "         rigmatch-cli tryout set.rigmatch");
        return app;
    }

    int run(const Streams& streams) override {
        const auto loaded = rig::loadRig(m_rigFile);
        if (!loaded) return failed(streams, loaded.error());
        const auto report = jobs::rankProfiles(loaded->rig);
        if (!report) return failed(streams, report.error());
        streams.out << (m_isJson ? output::tryOutJson(loaded->rig, *report)
                                 : words::tryOutText(loaded->rig, *report));
        return kDone;
    }

private:
    std::string m_rigFile;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makeTryOutCommand() { return std::make_unique<TryOutCommand>(); }

}  // namespace rigmatch::cli
