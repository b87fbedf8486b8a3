// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "base/format.h"
#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/probe_job.h"
#include "output/json_output.h"
#include "rig/rig_store.h"
#include "words/english.h"

namespace rigmatch::cli {
namespace {

class ProbeCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "probe", "Say which short takes teach a control, and what they have taught");
        app->add_option("rig", m_rigFile, "Rig file")->required();
        app->add_option("letter", m_letter, "Letter of the camera")->required();
        app->add_option("control",
                        m_control,
                        "iso, gainDb, fNumber, ndStops, kelvin, tint, or a knob of the profile")
            ->required();
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer(
            "Example: rigmatch-cli probe set.rigmatch B contrast\n"
            "         rigmatch-cli take set.rigmatch --purpose probe --camera A=a1.mov "
            "--camera B=b1.mov --set B.contrast=-2");
        return app;
    }

    int run(const Streams& streams) override {
        const auto loaded = rig::loadRig(m_rigFile);
        if (!loaded) return failed(streams, loaded.error());
        const rig::Rig& rig = loaded->rig;
        std::string id;
        for (const rig::Camera& camera : rig.cameras) {
            if (camera.letter == m_letter) id = camera.id;
        }
        if (id.empty()) {
            streams.err << "The rig has no camera \"" << m_letter
                        << "\". Use a letter of the rig.\n";
            return kUsage;
        }
        const auto probe = jobs::probeOf(rig, id, m_control);
        if (!probe) {
            (void)said(streams, probe.error());
            return kUsage;
        }
        if (m_isJson) {
            streams.out << output::probeJson(rig, *probe);
        } else {
            print(streams.out, *probe);
        }
        return kDone;
    }

private:
    void print(std::ostream& out, const jobs::Probe& probe) const {
        out << "Leave the reference, the light and the chart as they are, and shoot the chart for "
               "two seconds each with "
            << m_control << " of camera " << m_letter << " at:\n";
        for (const jobs::ProbeStep& step : probe.steps)
            out << "  " << words::inEnglish(step.text) << (step.isShot ? "  (shot)" : "") << "\n";
        out << "Add each: rigmatch-cli take " << m_rigFile
            << " --purpose probe --camera A=FILE --camera " << m_letter << "=FILE --set "
            << m_letter << "." << m_control << "=VALUE\n";
        if (!probe.isLearned) {
            out << "Nothing is learned yet.\n";
            return;
        }
        const auto tell = [&](double value, double error, int decimals, const char* unit) {
            if (std::abs(value) < 2.0 * error) return;
            out << "  " << base::signedFixed(value, decimals) << " ± "
                << base::fixed(error, decimals) << unit << "\n";
        };
        const match::Change &by = probe.perUnit, &unsure = probe.uncertainty;
        out << "Learned from " << probe.takes << (probe.takes == 1 ? " turn" : " turns") << ", per "
            << probe.unit << ":\n";
        tell(by.exposureStops, unsure.exposureStops, 3, " stop");
        tell(by.whiteBalanceMired, unsure.whiteBalanceMired, 2, " mired");
        tell(by.tintDuv, unsure.tintDuv, 5, " Duv");
        tell(100.0 * by.contrast, 100.0 * unsure.contrast, 1, " % contrast");
        tell(by.blackPercent, unsure.blackPercent, 2, " % of signal at black");
        tell(100.0 * by.saturation, 100.0 * unsure.saturation, 1, " % saturation");
        tell(by.hueDegrees, unsure.hueDegrees, 2, "° hue");
        tell(100.0 * by.knee, 100.0 * unsure.knee, 1, " % slope of light tones");
        tell(by.overshootPercent, unsure.overshootPercent, 1, " % of overshoot beside edges");
    }

    std::string m_rigFile, m_letter, m_control;
    bool m_isJson = false;
};

}  // namespace

std::unique_ptr<Command> makeProbeCommand() { return std::make_unique<ProbeCommand>(); }

}  // namespace rigmatch::cli
