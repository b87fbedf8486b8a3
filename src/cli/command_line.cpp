// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command_line.h"

#include <CLI/CLI.hpp>
#include <ostream>
#include <vector>

namespace rigmatch::cli {

int runCommandLine(int argc, const char* const* argv, const Streams& streams) {
    CLI::App app{
        "Matches several cameras on one set: measures a colour chart in test footage and says what "
        "to turn.",
        "rigmatch-cli"};
    app.set_version_flag("--version", "rigmatch-cli 0.1.0");
    app.require_subcommand(1);
    app.footer(
        "Exit codes: 0 all done; 1 something could not be done; 2 the call's words are wrong.");
    std::vector<std::unique_ptr<Command>> commands;
    std::vector<CLI::App*> declared;
    for (auto make : {makeMeasureCommand,
                      makeMatchCommand,
                      makeTakeCommand,
                      makeDoneCommand,
                      makeCameraCommand,
                      makeLutCommand,
                      makeProbeCommand,
                      makeTryOutCommand,
                      makeFrameCommand,
                      makeSoundCommand,
                      makeSyncCommand,
                      makeSimulateCommand,
                      makePlanCommand,
                      makeFindingsCommand,
                      makeCardCommand}) {
        commands.push_back(make());
        declared.push_back(commands.back()->declare(app));
    }
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        const int code = app.exit(error, streams.out, streams.err);
        return code == 0 ? kDone : kUsage;
    }
    for (std::size_t i = 0; i < commands.size(); ++i) {
        if (declared[i]->parsed()) return commands[i]->run(streams);
    }
    return kUsage;
}

}  // namespace rigmatch::cli
