// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "base/format.h"
#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/check_picture.h"
#include "jobs/lut_job.h"
#include "output/json_output.h"
#include "rig/rig_store.h"
#include "words/english.h"

namespace rigmatch::cli {
namespace {

class LutCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "lut",
            "Write a look-up table or a CDL per camera for what turns leave: its signal to the "
            "reference's");
        app->add_option("rig", m_rigFile, "Rig file; its newest take for matching is used")
            ->required();
        app->add_option("--out", m_folder, "Folder for the tables")->required();
        app->add_option("--size", m_options.size, "Points to a side")
            ->check(CLI::IsMember({17, 33, 65}))
            ->capture_default_str();
        app->add_option("--format", m_format, "Kind of table")
            ->check(CLI::IsMember({"cube", "clf", "cc", "ccc", "cdl"}))
            ->capture_default_str();
        app->add_option("--strength", m_percent, "How far to go, %")
            ->check(CLI::Range(0.0, 100.0))
            ->capture_default_str();
        app->add_option("--for",
                        m_use,
                        "Where it will be used: an editor, a monitor or LUT box that takes the "
                        "whole code range, or a camera's monitor path")
            ->check(CLI::IsMember({"editor", "monitor", "camera"}))
            ->capture_default_str();
        app->add_option("--to",
                        m_to,
                        "What it ends in: what the reference records, or a finished picture, log "
                        "and HLG converted to BT.709 (a table for the reference too)")
            ->check(CLI::IsMember({"recorded", "finished"}))
            ->capture_default_str();
        app->add_option(
            "--check", m_check, "Also write a picture (.png) of chart and faces, before and after");
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer("Example: rigmatch-cli lut set.rigmatch --out luts --size 33");
        return app;
    }

    int run(const Streams& streams) override {
        const auto loaded = rig::loadRig(m_rigFile);
        if (!loaded) return failed(streams, loaded.error());
        const rig::Rig& rig = loaded->rig;
        const rig::Take* take = rig::newestTake(rig, rig::Purpose::Match);
        if (take == nullptr) {
            streams.err << m_rigFile << " has no take for matching. Add one: rigmatch-cli take "
                        << m_rigFile << " --camera A=FILE --camera B=FILE\n";
            return kFailed;
        }
        m_options.strength = m_percent / 100.0;
        using colour::GradeFormat;
        m_options.format = m_format == "clf"   ? GradeFormat::Clf
                           : m_format == "cc"  ? GradeFormat::Cc
                           : m_format == "ccc" ? GradeFormat::Ccc
                           : m_format == "cdl" ? GradeFormat::CdlList
                                               : GradeFormat::Cube;
        m_options.use = m_use == "monitor"  ? jobs::LutUse::Monitor
                        : m_use == "camera" ? jobs::LutUse::Camera
                                            : jobs::LutUse::Editor;
        m_options.result =
            m_to == "finished" ? jobs::LutResult::Finished : jobs::LutResult::Recorded;
        const auto written = jobs::writeLuts(rig, *take, m_folder, m_options);
        if (!written) return failed(streams, written.error());
        if (!m_check.empty()) {
            const auto drawn = jobs::writeCheckPicture(rig, *take, *written, m_options, m_check);
            if (!drawn) return failed(streams, drawn.error());
        }
        bool hasFailure = false;
        for (const jobs::WrittenLut& lut : *written) {
            if (lut.failure.empty()) continue;
            hasFailure = true;
            streams.err << words::inEnglish(lut.failure) << "\n";
        }
        if (m_isJson) {
            streams.out << output::lutJson(rig, *take, *written, m_options);
        } else {
            for (const jobs::WrittenLut& lut : *written) {
                if (!lut.failure.empty()) continue;
                if (lut.isReference) {
                    streams.out << lut.file.string() << ": the reference, converted\n";
                    continue;
                }
                streams.out << lut.file.string() << ": mean ΔE2000 of the patches "
                            << base::fixed(lut.before.mean, 1) << " before, "
                            << base::fixed(lut.after.mean, 1) << " after";
                if (lut.skinAfter)
                    streams.out << "; skin " << base::fixed(*lut.skinBefore, 1) << " before, "
                                << base::fixed(*lut.skinAfter, 1) << " after";
                streams.out << "; " << base::fixed(100.0 * lut.beyondShare, 0)
                            << (lut.cdl ? " % of the patches are cut at black or white\n"
                                        : " % of its points lie outside 0 to 1\n");
            }
        }
        return hasFailure ? kFailed : kDone;
    }

private:
    std::string m_check;
    std::string m_rigFile, m_folder, m_format = "cube", m_use = "editor", m_to = "recorded";
    double m_percent = 100.0;
    jobs::LutOptions m_options;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makeLutCommand() { return std::make_unique<LutCommand>(); }

}  // namespace rigmatch::cli
