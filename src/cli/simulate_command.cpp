// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <ostream>

#include "base/atomic_file.h"
#include "cli/command_line.h"
#include "jobs/measure_job.h"
#include "jobs/shoot_job.h"
#include "jobs/sync_job.h"
#include "rig/rig_store.h"
#include "words/english.h"

namespace rigmatch::cli {
namespace {

class SimulateCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "simulate", "Let simulated cameras shoot a test take, with the truth beside it");
        app->add_option(
               "--out", m_folder, "Folder for A.mov, B.mov, …, truth.json and the rig file")
            ->required();
        app->add_option(
            "--rig", m_rigFile, "Rig with simulated cameras (default: the clock-bench demo)");
        app->add_option("--seconds", m_options.seconds, "Length of the take, s")
            ->check(CLI::Range(0.2, 60.0))
            ->capture_default_str();
        app->add_flag("--sound",
                      m_options.hasSound,
                      "Clips with sound, begun at unlike moments, and a recorder beside them");
        app->add_flag("--fine", m_options.isFine, "Half shadows without grain: slower");
        app->add_option("--seed", m_options.seed, "Seed of the noise")->capture_default_str();
        app->add_option(
            "--size", m_size, "Frame size, WIDTHxHEIGHT (default: as each camera is set)");
        app->footer("Example: rigmatch-cli simulate --out take1 --seed 7");
        return app;
    }

    int run(const Streams& streams) override {
        rig::Rig rig = jobs::demoRig();
        if (!m_rigFile.empty()) {
            auto loaded = rig::loadRig(m_rigFile);
            if (!loaded) return failed(streams, loaded.error());
            rig = std::move(loaded->rig);
        }
        if (!m_size.empty() && !applySize(rig, streams)) return kUsage;
        if (m_options.hasSound && rig.sources.empty()) {
            rig::Source recorder;
            recorder.id = rig::freshSourceId(rig);
            recorder.name = "mixer under the bench";
            rig.sources.push_back(recorder);
        }
        const auto set = jobs::simulatedSet();
        std::string last;
        const base::Progress progress([&](double fraction, const base::Text& stage) {
            const std::string line = std::to_string(static_cast<int>(fraction * 20.0) * 5) + " % " +
                                     words::inEnglish(stage);
            if (line != last) streams.err << line << "\n";
            last = line;
        });
        const auto files = jobs::shootTake(*set, rig, m_folder, "", m_options, progress);
        if (!files) return failed(streams, files.error());
        const std::filesystem::path folder(m_folder);
        const auto truth =
            base::writeAtomically(folder / "truth.json", jobs::truthText(rig, *files));
        if (!truth) return failed(streams, truth.error());
        rig::Take take;
        take.id = rig::freshTakeId(rig);
        take.number = static_cast<int>(rig.takes.size()) + 1;
        if (m_options.hasSound)
            take.purposes = {rig::Purpose::Match, rig::Purpose::Framing, rig::Purpose::Timing};
        for (const jobs::ShotFile& file : *files) {
            rig::Shot shot;
            shot.cameraId = file.cameraId;
            shot.media = std::filesystem::absolute(file.file);
            shot.settings = file.settings;
            shot.isIsoRecorded = shot.isKelvinRecorded =
                rig::findCamera(rig, file.cameraId) != nullptr;
            take.shots.push_back(
                jobs::measureShot(shot, jobs::lookFor(rig, take, file.cameraId), {}).shot);
            streams.out << file.file.string() << "\n";
        }
        rig.takes.push_back(take);
        if (m_options.hasSound) {
            const auto synced = jobs::syncTake(rig, take);
            if (!synced) return failed(streams, synced.error());
            for (std::size_t i = 0; i < take.shots.size(); ++i) {
                if (auto reading = jobs::withSync(take.shots[i], *synced))
                    rig.takes.back().shots[i].reading = std::move(*reading);
            }
        }
        const auto saved = rig::saveRig(rig, folder / "clock-bench.rigmatch");
        if (!saved) return failed(streams, saved.error());
        streams.out << (folder / "truth.json").string() << "\n"
                    << (folder / "clock-bench.rigmatch").string() << "\n";
        return kDone;
    }

private:
    static int failed(const Streams& streams, const base::Error& error) {
        streams.err << words::inEnglish(error) << "\n";
        return kFailed;
    }

    bool applySize(rig::Rig& rig, const Streams& streams) const {
        int width = 0;
        int height = 0;
        char cross = 0;
        std::istringstream text(m_size);
        text >> width >> cross >> height;
        if (!text || cross != 'x' || width < 64 || height < 64 || width > 8192 || height > 8192) {
            streams.err << "Cannot use the size \"" << m_size
                        << "\". WIDTHxHEIGHT from 64x64 to 8192x8192 is allowed.\n";
            return false;
        }
        for (rig::Camera& camera : rig.cameras) {
            camera.settings.width = width;
            camera.settings.height = height;
        }
        return true;
    }

    std::string m_folder;
    std::string m_rigFile;
    std::string m_size;
    sim::ShootOptions m_options;
};

}  // namespace

std::unique_ptr<Command> makeSimulateCommand() { return std::make_unique<SimulateCommand>(); }

}  // namespace rigmatch::cli
