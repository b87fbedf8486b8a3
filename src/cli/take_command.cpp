// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <chrono>
#include <ctime>
#include <filesystem>
#include <ostream>

#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/lamp_job.h"
#include "jobs/match_job.h"
#include "jobs/take_job.h"
#include "output/json_output.h"
#include "rig/rig_store.h"
#include "words/english.h"
#include "words/lamp_text.h"
#include "words/match_text.h"

namespace rigmatch::cli {
namespace {

std::string localTime() {
    const std::time_t now = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    std::tm local{};
    localtime_r(&now, &local);
    char text[32];
    const std::size_t size = std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%S", &local);
    return {text, size};
}

/// The purposes by their names, for --help.
std::vector<std::string> purposeNames() {
    std::vector<std::string> names;
    names.reserve(rig::kPurposes.size());
    for (const rig::Purpose purpose : rig::kPurposes) names.emplace_back(rig::nameOf(purpose));
    return names;
}

class TakeCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "take", "Measure files and add them to a rig as a take; makes the rig where it is new");
        app->add_option("rig", m_rigFile, "Rig file")->required();
        app->add_option("--camera", m_cameras, "Camera and its file: A=FILE (once per camera)")
            ->required();
        app->add_option("--set",
                        m_settings,
                        "A setting of this take: B.iso=800, B.kelvin=5600, B.shutter=1/50, "
                        "B.shutter=180deg, B.tint=unknown (as often as needed)");
        app->add_option("--reference", m_reference, "Letter of the reference camera");
        app->add_option("--purpose", m_purposes, "What the take is for (as often as needed)")
            ->check(CLI::IsMember(purposeNames()));
        app->add_option("--chart", m_chart, "Chart on the set (see measure --help)");
        app->add_flag(
            "--whole",
            m_isWhole,
            "Watch clips over three minutes from end to end, not only around chart and faces");
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer(
            "Example: rigmatch-cli take set.rigmatch --camera A=a.mov --camera B=b.mov "
            "--set B.iso=800 --set B.kelvin=5600");
        return app;
    }

    int run(const Streams& streams) override {
        jobs::TakeRequest request;
        request.isWholeWanted = m_isWhole;
        if (!read(request, streams)) return kUsage;
        auto opened = openedOrNew(m_rigFile);
        if (!opened) return failed(streams, opened.error());
        rig::Rig rig = std::move(*opened);
        if (!m_chart.empty()) rig.chart = m_chart;
        const auto added = jobs::addTake(request, rig, {});
        if (!added) {
            streams.err << words::inEnglish(added.error()) << "\n";
            return added.error().code == base::ErrorCode::OutOfRange ? kUsage : kFailed;
        }
        if (const auto saved = rig::saveRig(rig, m_rigFile); !saved)
            return failed(streams, saved.error());
        for (const base::Text& note : added->notes) streams.err << words::inEnglish(note) << "\n";
        const rig::Take& take = std::as_const(rig.takes)[added->index];
        std::vector<output::MeasuredFile> files;
        bool hasFailure = false;
        for (const rig::Shot& shot : take.shots) {
            files.push_back({shot.media.string(), shot});
            if (shot.failure.empty()) continue;
            hasFailure = true;
            streams.err << words::inEnglish(shot.failure) << "\n";
        }
        if (m_isJson) {
            streams.out << output::takeJson(rig, take, files);
        } else {
            streams.out << "Take " << take.number << "\n";
            for (const rig::Shot& shot : take.shots) {
                streams.out << "  " << rig::findCamera(rig, shot.cameraId)->letter << "  "
                            << shot.media.filename().string() << ": "
                            << (!shot.reading            ? "not read"
                                : shot.reading->hasChart ? "chart found"
                                                         : words::inEnglish(shot.reading->reason))
                            << "\n";
            }
        }
        return hasFailure ? kFailed : kDone;
    }

private:
    bool read(jobs::TakeRequest& request, const Streams& streams) const {
        for (const std::string& text : m_cameras) {
            const auto one = namedFile(text);
            if (!one) return said(streams, one.error());
            if (!request.files.emplace(one->letter, one->file).second) {
                streams.err << "Camera " << one->letter
                            << " is given twice. Give each camera once.\n";
                return false;
            }
        }
        for (const std::string& text : m_settings) {
            const auto given = givenSetting(text);
            if (!given) return said(streams, given.error());
            request.settings.push_back(*given);
        }
        if (!m_purposes.empty()) {
            request.purposes.clear();
            for (const rig::Purpose purpose : rig::kPurposes) {
                if (std::find(m_purposes.begin(), m_purposes.end(), rig::nameOf(purpose)) !=
                    m_purposes.end())
                    request.purposes.push_back(purpose);
            }
        }
        request.referenceLetter = m_reference;
        request.startedAt = localTime();
        return true;
    }

    std::string m_rigFile, m_reference, m_chart;
    std::vector<std::string> m_cameras, m_settings, m_purposes;
    bool m_isWhole = false;
    bool m_isJson = false;
};

class DoneCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "done", "Write the open turns of the newest take into the cameras' settings");
        app->add_option("rig", m_rigFile, "Rig file")->required();
        app->add_option("--camera", m_letter, "Letter of one camera (default: all)");
        app->add_flag("--lamps",
                      m_areLampsMeant,
                      "Where the light is to be turned for all cameras: write that into the plan "
                      "instead");
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer("Example: rigmatch-cli done set.rigmatch --camera B");
        return app;
    }

    int run(const Streams& streams) override {
        auto loaded = writable(m_rigFile);
        if (!loaded) return failed(streams, loaded.error());
        rig::Rig rig = std::move(*loaded);
        std::string id;
        if (!m_letter.empty()) {
            for (const rig::Camera& camera : std::as_const(rig).cameras) {
                if (camera.letter == m_letter) id = camera.id;
            }
            if (id.empty()) {
                streams.err << "The rig has no camera \"" << m_letter
                            << "\". Use a letter of the rig.\n";
                return kUsage;
            }
        }
        // The light or the cameras, never both: what one of them takes away the other need not.
        const auto light = m_areLampsMeant ? jobs::carryOutLightTurns(rig) : std::nullopt;
        const std::vector<plan::LampAdvice> lamps = light.value_or(std::vector<plan::LampAdvice>{});
        const std::vector<rig::Turn> done =
            light ? std::vector<rig::Turn>{} : jobs::carryOutTurns(rig, id);
        if (const auto saved = rig::saveRig(rig, m_rigFile); !saved)
            return failed(streams, saved.error());
        if (m_isJson) {
            streams.out << output::turnsJson(rig, done, lamps);
            return kDone;
        }
        for (const rig::Turn& turn : done) {
            streams.out << rig::findCamera(rig, turn.cameraId)->letter << "  "
                        << words::controlTitle(turn) << ": " << words::inEnglish(turn.fromText)
                        << " → " << words::inEnglish(turn.toText) << "\n";
        }
        for (const plan::LampAdvice& lamp : lamps) streams.out << words::lampTurnText(lamp) << "\n";
        if (done.empty() && lamps.empty()) streams.out << "No turn is open.\n";
        return kDone;
    }

private:
    std::string m_rigFile, m_letter;
    bool m_isJson = false, m_areLampsMeant = false;
};

class CameraCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "camera", "Say what a camera of a rig can be set to; makes both where they are new");
        app->add_option("rig", m_rigFile, "Rig file")->required();
        app->add_option("letter", m_letter, "Letter of the camera")->required();
        app->add_option("--body", m_body, "What it is, in your own words");
        app->add_option("--role", m_role, "What it is for: \"wide front\"");
        app->add_option(
            "--steps",
            m_steps,
            "Values of a control: iso=100,125,160 or tint=-9..9:1 (as often as needed)");
        app->add_option("--duv-per-step", m_duvPerStep, "What one step of tint does, Duv")
            ->check(CLI::Range(-0.05, 0.05));
        app->add_option("--per-step",
                        m_perStep,
                        "What one step of a knob does: saturation=0.05, black=0.4 (as often as "
                        "needed)");
        app->add_option("--set", m_settings, "How it stands: iso=800 (as often as needed)");
        app->footer(
            "Example: rigmatch-cli camera set.rigmatch B --body \"compact body\" "
            "--steps iso=100,125,160,200 --steps tint=-9..9:1 --duv-per-step 0.001");
        return app;
    }

    int run(const Streams& streams) override {
        auto opened = openedOrNew(m_rigFile);
        if (!opened) return failed(streams, opened.error());
        rig::Rig rig = std::move(*opened);
        const auto id = jobs::cameraOfLetter(m_letter, rig);
        if (!id) return usage(streams, id.error());
        rig::Camera& camera = *rig::findCamera(rig, *id);
        if (!m_body.empty()) camera.body = m_body;
        if (!m_role.empty()) camera.role = m_role;
        if (m_duvPerStep) camera.sheet.tintDuvPerStep = *m_duvPerStep;
        for (const std::string& text : m_steps) {
            const auto sign = text.find('=');
            const auto put =
                jobs::putSteps(text.substr(0, sign),
                               sign == std::string::npos ? std::string() : text.substr(sign + 1),
                               camera.sheet);
            if (!put) return usage(streams, put.error());
        }
        for (const std::string& text : m_perStep) {
            const auto sign = text.find('=');
            const auto put =
                jobs::putPerStep(text.substr(0, sign),
                                 sign == std::string::npos ? std::string() : text.substr(sign + 1),
                                 camera.sheet);
            if (!put) return usage(streams, put.error());
        }
        for (const std::string& text : m_settings) {
            const auto given = givenSetting(m_letter + "." + text);
            if (!given) return usage(streams, given.error());
            if (const auto put = rig::putSetting(given->key, given->value, camera.settings); !put)
                return usage(streams, put.error());
        }
        if (const auto saved = rig::saveRig(rig, m_rigFile); !saved)
            return failed(streams, saved.error());
        streams.out << "Camera " << m_letter << ": " << camera.body << "\n";
        return kDone;
    }

private:
    static int usage(const Streams& streams, const base::Error& error) {
        (void)said(streams, error);
        return kUsage;
    }

    std::string m_rigFile, m_letter, m_body, m_role;
    std::vector<std::string> m_steps, m_perStep, m_settings;
    std::optional<double> m_duvPerStep;
};

}  // namespace

std::unique_ptr<Command> makeTakeCommand() { return std::make_unique<TakeCommand>(); }
std::unique_ptr<Command> makeDoneCommand() { return std::make_unique<DoneCommand>(); }
std::unique_ptr<Command> makeCameraCommand() { return std::make_unique<CameraCommand>(); }

}  // namespace rigmatch::cli
