// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <iosfwd>
#include <memory>

namespace CLI {
class App;
}

namespace rigmatch::cli {

/// Where a command writes: results to `out`, progress and messages to `err`.
struct Streams {
    std::ostream& out;
    std::ostream& err;
};

inline constexpr int kDone = 0;
inline constexpr int kFailed = 1;  ///< something could not be done; the rest was
inline constexpr int kUsage = 2;   ///< the call's words are wrong

/// One command: declares its words once, then runs.
class Command {
public:
    virtual ~Command() = default;
    /// Adds the subcommand with its options and an example.
    virtual CLI::App* declare(CLI::App& parent) = 0;
    /// Runs after parsing; gives the exit code.
    virtual int run(const Streams& streams) = 0;
};

[[nodiscard]] std::unique_ptr<Command> makeMeasureCommand();
[[nodiscard]] std::unique_ptr<Command> makeMatchCommand();
[[nodiscard]] std::unique_ptr<Command> makeTakeCommand();
[[nodiscard]] std::unique_ptr<Command> makeDoneCommand();
[[nodiscard]] std::unique_ptr<Command> makeCameraCommand();
[[nodiscard]] std::unique_ptr<Command> makeLutCommand();
[[nodiscard]] std::unique_ptr<Command> makeProbeCommand();
[[nodiscard]] std::unique_ptr<Command> makeTryOutCommand();
[[nodiscard]] std::unique_ptr<Command> makeFrameCommand();
[[nodiscard]] std::unique_ptr<Command> makeSoundCommand();
[[nodiscard]] std::unique_ptr<Command> makeSyncCommand();
[[nodiscard]] std::unique_ptr<Command> makeSimulateCommand();
[[nodiscard]] std::unique_ptr<Command> makePlanCommand();
[[nodiscard]] std::unique_ptr<Command> makeFindingsCommand();
[[nodiscard]] std::unique_ptr<Command> makeCardCommand();

/// The whole program, for main() and for tests in process.
[[nodiscard]] int runCommandLine(int argc, const char* const* argv, const Streams& streams);

}  // namespace rigmatch::cli
