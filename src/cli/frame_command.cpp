// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "base/atomic_file.h"
#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/crop_track.h"
#include "jobs/frame_job.h"
#include "output/crop_track_csv.h"
#include "output/frame_json.h"
#include "rig/rig_store.h"
#include "words/english.h"
#include "words/frame_text.h"
#include "words/framing_text.h"

namespace rigmatch::cli {
namespace {

class FrameCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "frame", "Measure how pictures frame their people, and whether a camera has moved");
        app->add_option("files", m_files, "Stills or clips")->required();
        app->add_option("--against", m_reference, "An earlier still or clip of the same camera");
        app->add_option("--rig", m_rigFile, "Rig file that tells lenses and sensors, for degrees");
        app->add_option("--at", m_atSeconds, "Look at the one frame at this time, s")
            ->check(CLI::NonNegativeNumber);
        app->add_option("--track",
                        m_track.shape,
                        "Follow a person through one clip with a window of this shape, as 9:16; "
                        "prints CSV, or writes it to --out");
        app->add_option("--person", m_person, "Whom to follow, from the left")
            ->check(CLI::Range(1, 20));
        app->add_option("--out", m_out, "File for the track (.csv)");
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer("Example: rigmatch-cli frame b.mov --against b-last-week.png --json");
        return app;
    }

    int run(const Streams& streams) override {
        if (!m_track.shape.empty()) return follow(streams);
        if (!m_out.empty() || m_person != 1) {
            streams.err << "--out and --person belong to --track.\n";
            return kUsage;
        }
        std::vector<jobs::FrameResult> results;
        bool hasFailure = false;
        std::optional<std::filesystem::path> reference;
        if (!m_reference.empty()) reference = m_reference;
        jobs::FrameOptions options;
        options.atSeconds = m_atSeconds;
        base::Result<rig::LoadedRig> loaded;
        if (!m_rigFile.empty()) {
            loaded = rig::loadRig(m_rigFile);
            if (!loaded) return failed(streams, loaded.error());
            options.rig = &loaded->rig;
        }
        for (const std::string& file : m_files) {
            results.push_back({file, jobs::frameOf(file, options, reference)});
            const auto& framed = results.back().framed;
            if (!framed) {
                hasFailure = true;
                streams.err << words::inEnglish(framed.error()) << "\n";
            } else if (!m_isJson) {
                streams.out << file << ":\n";
                for (const std::string& line : words::frameLines(*framed))
                    streams.out << "  " << line << "\n";
            }
        }
        if (m_isJson) streams.out << output::frameJson(results);
        return hasFailure ? kFailed : kDone;
    }

private:
    int follow(const Streams& streams) {
        if (m_files.size() != 1) {
            streams.err << "--track follows one clip; " << m_files.size() << " are given.\n";
            return kUsage;
        }
        m_track.person = m_person - 1;
        const auto track = jobs::cropTrack(m_files.front(), m_track);
        if (!track) return failed(streams, track.error());
        const std::string csv = output::cropTrackCsv(*track);
        if (m_out.empty()) {
            streams.out << csv;
            return kDone;
        }
        if (const auto written = base::writeAtomically(m_out, csv); !written)
            return failed(streams, written.error());
        streams.out << words::cropTrackText(*track) << "\n";
        return kDone;
    }

    std::vector<std::string> m_files;
    std::string m_reference, m_rigFile, m_out;
    jobs::CropTrackOptions m_track{""};
    int m_person = 1;
    std::optional<double> m_atSeconds;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makeFrameCommand() { return std::make_unique<FrameCommand>(); }

}  // namespace rigmatch::cli
