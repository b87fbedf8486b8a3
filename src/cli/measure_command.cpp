// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "base/format.h"
#include "cli/command_line.h"
#include "jobs/chart_job.h"
#include "measure/measure_media.h"
#include "output/json_output.h"
#include "words/english.h"
#include "words/reading_facts.h"

namespace rigmatch::cli {
namespace {

class MeasureCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "measure", "Find the chart in stills and clips and read its patches");
        app->add_option("files", m_files, "Stills or clips")->required();
        std::string ids;
        for (const jobs::ReferenceEntry& entry : jobs::builtinReferences())
            ids += (ids.empty() ? "" : ", ") + entry.id;
        app->add_option(
               "--chart",
               m_chart,
               "Chart on the set: " + ids + ", or the file of your own chart (.json, CGATS, .csv)")
            ->capture_default_str();
        app->add_option("--at", m_atSeconds, "Measure the one frame at this time, s")
            ->check(CLI::NonNegativeNumber);
        app->add_option("--corners",
                        m_corners,
                        "Outer corners of the patches, px, clockwise from the first (classic: dark "
                        "skin, bluish green, black, white): x1,y1,…,x4,y4")
            ->delimiter(',')
            ->expected(8);
        app->add_option("--range", m_range, "Read the codes so, whatever the file says")
            ->check(CLI::IsMember({"limited", "full"}));
        app->add_option(
               "--matrix", m_matrix, "Take the colours by this matrix, whatever the file says")
            ->check(CLI::IsMember({"bt601", "bt709", "bt2020"}));
        app->add_flag(
            "--whole",
            m_isWhole,
            "Watch clips over three minutes from end to end, not only around chart and faces");
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer("Example: rigmatch-cli measure A.mov B.mov --json");
        return app;
    }

    int run(const Streams& streams) override {
        auto made = jobs::measureOptionsFor(m_chart);
        if (!made) {
            streams.err << words::inEnglish(made.error()) << "\n";
            return kFailed;
        }
        measure::MeasureOptions& options = *made;
        options.atSeconds = m_atSeconds;
        options.isEndToEnd = m_isWhole;
        if (!m_corners.empty()) {
            rig::PictureQuad quad;
            for (std::size_t i = 0; i < 4; ++i) quad[i] = {m_corners[2 * i], m_corners[2 * i + 1]};
            options.corners = quad;
        }
        options.range = image::rangeNamed(m_range);
        options.matrix = image::matrixNamed(m_matrix);
        std::vector<output::MeasuredFile> results;
        bool hasFailure = false;
        for (const std::string& file : m_files) {
            rig::Shot shot;
            const auto measured = measure::measureMedia(file, options);
            if (measured) {
                shot.reading = measured->reading;
            } else {
                hasFailure = true;
                shot.failure = base::fullText(measured.error());
                streams.err << words::inEnglish(shot.failure) << "\n";
            }
            results.push_back({file, shot});
            if (!m_isJson && shot.reading) print(streams.out, file, *shot.reading);
        }
        if (m_isJson) streams.out << output::measureJson(results);
        return hasFailure ? kFailed : kDone;
    }

private:
    static void print(std::ostream& out, const std::string& file, const rig::Reading& reading) {
        out << file << ": " << reading.width << " × " << reading.height << ", " << reading.bitDepth
            << " bit, " << reading.range << " range, " << reading.matrix << "\n";
        for (const base::Warning& warning : reading.warnings)
            out << "  " << words::inEnglish(warning.text) << " " << words::inEnglish(warning.hint)
                << "\n";
        for (const rig::FaceReading& face : reading.faces) {
            out << "  face at " << base::fixed(face.left, 0) << ", " << base::fixed(face.top, 0)
                << ", " << base::fixed(face.width, 0) << " px wide";
            if (face.forehead) {
                out << ", forehead";
                for (double signal : face.forehead->signal)
                    out << ' ' << base::fixed(100.0 * signal, 1) << " %";
            }
            out << "\n";
        }
        if (!reading.hasChart) {
            out << "  no chart: " << words::inEnglish(reading.reason) << " "
                << words::inEnglish(reading.hint) << "\n";
            return;
        }
        out << "  chart found, " << reading.framesUsed << " frames from "
            << base::fixed(reading.spanStartSeconds, 2) << " to "
            << base::fixed(reading.spanEndSeconds, 2) << " s\n";
        for (const rig::PatchReading& patch : reading.patches) {
            out << "  " << patch.name
                << std::string(patch.name.size() < 16 ? 16 - patch.name.size() : 1, ' ');
            for (double signal : patch.signal) out << ' ' << base::fixed(100.0 * signal, 1) << " %";
            out << (rig::isClipped(patch) ? "  clipped" : "") << "\n";
        }
        for (const words::FactRow& row : words::readingFacts(reading).rows) {
            const words::FactCell& cell = row.cells.front();
            out << "  " << row.title << ": " << cell.text
                << (cell.value ? (row.unit.empty() ? "" : " ") + row.unit : "")
                << (cell.why.empty() ? "" : " (" + cell.why + ")") << "\n";
        }
    }

    std::vector<std::string> m_files;
    std::string m_chart = "classic-24";
    std::optional<double> m_atSeconds;
    std::vector<double> m_corners;
    std::string m_range;
    std::string m_matrix;
    bool m_isWhole = false;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makeMeasureCommand() { return std::make_unique<MeasureCommand>(); }

}  // namespace rigmatch::cli
