// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "cli/command_line.h"
#include "jobs/card_job.h"
#include "words/english.h"

namespace rigmatch::cli {
namespace {

class CardCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app =
            parent.add_subcommand("card", "Write a card as PDF, to be printed and used as a chart");
        app->add_option("--out", m_file, "The PDF file")->required();
        app->add_option("--paper", m_paper, "Size of the sheet")
            ->check(CLI::IsMember({"a4", "letter"}))
            ->capture_default_str();
        app->footer(
            "A home print is good for matching cameras to each other, not for absolute colour.\n"
            "Example: rigmatch-cli card --out card.pdf, then measure --chart printed-card");
        return app;
    }

    int run(const Streams& streams) override {
        const auto written = jobs::writePrintedCard(m_file, m_paper);
        if (!written) {
            streams.err << words::inEnglish(written.error()) << "\n";
            return kFailed;
        }
        streams.err
            << "Print at 100 % on matte paper, without colour \"enhancement\". A home print "
               "is good for matching cameras to each other, not for absolute colour.\n";
        streams.out << m_file << "\n";
        return kDone;
    }

private:
    std::string m_file;
    std::string m_paper = "a4";
};

}  // namespace

std::unique_ptr<Command> makeCardCommand() { return std::make_unique<CardCommand>(); }

}  // namespace rigmatch::cli
