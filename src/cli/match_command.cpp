// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <algorithm>
#include <charconv>
#include <map>
#include <ostream>
#include <sstream>

#include "base/format.h"
#include "cli/command_line.h"
#include "cli/words.h"
#include "jobs/chart_job.h"
#include "jobs/lamp_job.h"
#include "jobs/match_job.h"
#include "jobs/measure_job.h"
#include "jobs/target_job.h"
#include "output/json_output.h"
#include "rig/rig_store.h"
#include "words/english.h"
#include "words/lamp_text.h"
#include "words/match_text.h"
#include "words/rest_reasons.h"
#include "words/shooter_words.h"

namespace rigmatch::cli {
namespace {

class MatchCommand : public Command {
public:
    CLI::App* declare(CLI::App& parent) override {
        CLI::App* app = parent.add_subcommand(
            "match", "Compare cameras with the reference and say what to turn");
        app->add_option("--reference",
                        m_reference,
                        "Reference camera and its file: A=FILE; of a rig's take the letter alone");
        app->add_option(
            "--camera", m_cameras, "Another camera and its file: B=FILE (once per camera)");
        app->add_option("--rig",
                        m_rigFile,
                        "Rig file with the cameras' settings and controls; without --camera its "
                        "newest take for matching is reported");
        m_isJudgeGiven =
            app->add_option(
                   "--judge",
                   m_judge,
                   "Compare colours as recorded, linearised by the declared curves, or through the "
                   "rig's viewing LUTs (lut)")
                ->check(CLI::IsMember({"recorded", "linear", "lut"}))
                ->capture_default_str();
        app->add_option("--target",
                        m_target,
                        "What all are matched to: a camera's letter, least (the one that asks the "
                        "least of the others), chart (its published values), take:ID or "
                        "FILE.rigmatch:ID (the reference of an earlier take)");
        app->add_flag("--targets",
                      m_areCostsAsked,
                      "Say what every camera would ask of the others as the reference");
        app->add_flag(
            "--history", m_isHistoryAsked, "Say how the differences moved over the rig's takes");
        app->add_option(
            "--chart", m_chart, "Chart on the set (see measure --help); the rig file's by default");
        app->add_option("--corners",
                        m_corners,
                        "Where a camera's chart lies, for what is not found by itself: "
                        "B=x1,y1,…,x4,y4 (once per camera)");
        app->add_flag(
            "--whole",
            m_isWhole,
            "Watch clips over three minutes from end to end, not only around chart and faces");
        app->add_flag("--json", m_isJson, "Print JSON");
        app->footer(
            "Example: rigmatch-cli match --reference A=a.mov --camera B=b.mov --camera C=c.mov "
            "--rig set.rigmatch\n         rigmatch-cli match --rig set.rigmatch");
        return app;
    }

    int run(const Streams& streams) override {
        if (m_cameras.empty() && !m_rigFile.empty()) return reportTake(streams);
        if (m_cameras.empty() || m_reference.empty()) {
            streams.err << "Give --reference A=FILE and --camera B=FILE, or --rig FILE for its "
                           "newest take.\n";
            return kUsage;
        }
        rig::Rig rig;
        rig::Take take;
        take.id = "take-1";
        if (!m_rigFile.empty()) {
            auto loaded = rig::loadRig(m_rigFile);
            if (!loaded) {
                streams.err << words::inEnglish(loaded.error()) << "\n";
                return kFailed;
            }
            rig = std::move(loaded->rig);
        }
        if (!m_chart.empty()) rig.chart = m_chart;
        if (const auto chart = jobs::referenceOf(rig.chart); !chart) {
            streams.err << words::inEnglish(chart.error()) << "\n";
            return kFailed;
        }
        if (!readCorners(streams)) return kUsage;
        std::vector<std::string> all{m_reference};
        all.insert(all.end(), m_cameras.begin(), m_cameras.end());
        std::vector<NamedFile> named;
        for (const std::string& text : all) {
            const auto one = namedFile(text);
            if (!one) {
                streams.err << words::inEnglish(one.error()) << "\n";
                return kUsage;
            }
            named.push_back(*one);
        }
        for (const NamedFile& one : named) {
            if (!addCamera(rig, take, one, streams)) return kUsage;
        }
        keepOnly(rig, named);
        bool hasFailure = false;
        for (const rig::Shot& shot : take.shots) {
            if (shot.failure.empty()) continue;
            hasFailure = true;
            streams.err << words::inEnglish(shot.failure) << "\n";
        }
        rig.judge = m_judge;
        rig.takes = {take};
        const int told = tell(streams, rig, take, !m_rigFile.empty());
        return told == kDone && hasFailure ? kFailed : told;
    }

private:
    /// The newest take for matching of a rig, with what was learned before it.
    int reportTake(const Streams& streams) {
        auto loaded = rig::loadRig(m_rigFile);
        if (!loaded) return failed(streams, loaded.error());
        rig::Rig rig = std::move(loaded->rig);
        if (!m_reference.empty()) {
            const auto& cameras = std::as_const(rig).cameras;
            const auto chosen = std::find_if(cameras.begin(), cameras.end(), [&](const auto& c) {
                return c.letter == m_reference;
            });
            if (chosen == cameras.end()) {
                streams.err << "The rig has no camera \"" << m_reference
                            << "\". Use a letter of the rig, as --reference A.\n";
                return kUsage;
            }
            rig.referenceId = chosen->id;
        }
        const rig::Take* take = rig::newestTake(rig, rig::Purpose::Match);
        if (take == nullptr) {
            streams.err << m_rigFile << " has no take for matching. Add one: rigmatch-cli take "
                        << m_rigFile << " --camera A=FILE --camera B=FILE\n";
            return kFailed;
        }
        if (m_isJudgeGiven->count() > 0) rig.judge = m_judge;
        return tell(streams, rig, *take, true);
    }

    /// The match of the take to the target that is asked for.
    int tell(const Streams& streams, const rig::Rig& rig, const rig::Take& take, bool hasControls) {
        match::MatchReport report;
        if (m_target.empty()) {
            report = jobs::matchReport(rig, take, hasControls);
            if (!report.targetProblem.empty())
                streams.err << words::inEnglish(report.targetProblem) << "\n";
        } else {
            const auto target = jobs::targetOf(m_target, rig, take);
            if (!target) {
                streams.err << words::inEnglish(target.error()) << "\n";
                return target.error().code == base::ErrorCode::OutOfRange ? kUsage : kFailed;
            }
            report = jobs::matchReport(rig, take, *target, hasControls);
        }
        std::vector<jobs::TargetCost> costs;
        if (m_areCostsAsked) costs = jobs::targetCosts(rig, take);
        jobs::History history;
        if (m_isHistoryAsked) history = jobs::historyOf(rig, take);
        if (m_isJson) {
            streams.out << output::matchJson(rig, take, report, costs, history);
        } else {
            print(streams.out, rig, take, report);
            printHistory(streams.out, rig, history);
            printCosts(streams.out, rig, costs);
        }
        return kDone;
    }

    static void printHistory(std::ostream& out, const rig::Rig& rig, const jobs::History& history) {
        for (const auto& [cameraId, points] : history) {
            for (std::size_t i = 0; i < match::kQualityCount; ++i) {
                const auto quality = static_cast<match::Quality>(i);
                const std::string text = words::historyText(points, quality);
                if (!text.empty())
                    out << "Camera " << rig::findCamera(rig, cameraId)->letter << ", "
                        << words::qualityTitle(quality) << ": " << text << "\n";
            }
        }
    }

    static void printCosts(std::ostream& out,
                           const rig::Rig& rig,
                           const std::vector<jobs::TargetCost>& costs) {
        for (const jobs::TargetCost& cost : costs) {
            out << "As the reference, camera " << rig::findCamera(rig, cost.cameraId)->letter
                << " asks for " << cost.turns << (cost.turns == 1 ? " turn" : " turns");
            if (cost.worstAfter)
                out << " and leaves " << base::fixed(*cost.worstAfter, 1) << " ΔE2000";
            out << "\n";
        }
        const jobs::Recommendation best = jobs::recommendedReference(costs);
        if (best.cameraId.empty()) return;
        out << "Recommended: camera " << rig::findCamera(rig, best.cameraId)->letter << ": ";
        for (std::size_t i = 0; i < best.reasons.size(); ++i)
            out << (i == 0 ? "" : "; ") << words::inEnglish(best.reasons[i]);
        out << ".\n";
    }

    /// "B=x1,y1,…,x4,y4" of every --corners; false, and said, where one is no such thing.
    bool readCorners(const Streams& streams) {
        for (const std::string& text : m_corners) {
            const std::size_t sign = text.find('=');
            std::vector<double> numbers;
            std::istringstream list(sign == std::string::npos ? "" : text.substr(sign + 1));
            for (std::string one; std::getline(list, one, ',');) {
                double value = 0.0;
                const auto [end, code] =
                    std::from_chars(one.data(), one.data() + one.size(), value);
                if (code != std::errc() || end != one.data() + one.size()) break;
                numbers.push_back(value);
            }
            if (numbers.size() != 8) {
                streams.err << "--corners \"" << text
                            << "\" is no camera with eight numbers, such as "
                               "B=100,80,400,80,400,260,100,260.\n";
                return false;
            }
            rig::PictureQuad quad;
            for (std::size_t i = 0; i < 4; ++i) quad[i] = {numbers[2 * i], numbers[2 * i + 1]};
            m_quads[text.substr(0, sign)] = quad;
        }
        return true;
    }

    /// Finds (or, without a rig file, makes) the camera and measures its file.
    bool addCamera(rig::Rig& rig, rig::Take& take, const NamedFile& named, const Streams& streams) {
        rig::Camera* camera = nullptr;
        for (rig::Camera& candidate : rig.cameras) {
            if (candidate.letter == named.letter) camera = &candidate;
        }
        if (camera == nullptr && !m_rigFile.empty()) {
            streams.err << "The rig file has no camera " << named.letter
                        << ". Use a letter of the rig.\n";
            return false;
        }
        if (camera == nullptr) {
            rig::Camera made;
            made.id = "camera-" + named.letter;
            made.letter = named.letter;
            rig.cameras.push_back(made);
            camera = &rig.cameras.back();
        }
        for (const rig::Shot& shot : take.shots) {
            if (shot.cameraId != camera->id) continue;
            streams.err << "Camera " << named.letter << " is given twice. Give each camera once.\n";
            return false;
        }
        if (take.shots.empty()) rig.referenceId = camera->id;
        rig::Shot shot;
        shot.cameraId = camera->id;
        shot.media = named.file;
        shot.isWholeWanted = m_isWhole;
        takeKnownSettings(rig, *camera, shot);
        if (const auto quad = m_quads.find(named.letter); quad != m_quads.end())
            shot.manualCorners = quad->second;
        take.shots.push_back(jobs::measureShot(shot, rig.chart, {}).shot);
        return true;
    }

    /// What is known of the moment of the shot, where this file is part of one of the rig's own
    /// takes.
    static void takeKnownSettings(const rig::Rig& rig, const rig::Camera& camera, rig::Shot& made) {
        made.settings = camera.settings;
        std::error_code code;
        for (const rig::Take& take : rig.takes) {
            const rig::Shot* shot = rig::findShot(take, camera.id);
            const bool isSame = shot != nullptr &&
                                std::filesystem::equivalent(shot->media, made.media, code) && !code;
            if (!isSame) continue;
            made.settings = shot->settings;
            made.isIsoRecorded = shot->isIsoRecorded;
            made.isKelvinRecorded = shot->isKelvinRecorded;
        }
    }

    static void keepOnly(rig::Rig& rig, const std::vector<NamedFile>& named) {
        rig.cameras.removeIf([&](const rig::Camera& camera) {
            return std::none_of(named.begin(), named.end(), [&](const NamedFile& one) {
                return one.letter == camera.letter;
            });
        });
    }

    static void printSkin(std::ostream& out, const match::SkinDifference& person) {
        const match::SkinValues& values = person.values;
        out << "  Skin of " << person.person << ": " << base::fixed(values.levelPercent.value, 1)
            << " % at the " << (values.isForehead ? "forehead" : "brighter cheek") << ", hue "
            << base::fixed(values.hueDegrees.value, 1) << "°, saturation "
            << base::fixed(values.saturationPercent.value, 1) << " %";
        if (values.keyFillStops)
            out << ", key : fill " << base::fixed(values.keyFillStops->value, 2) << " ± "
                << base::fixed(values.keyFillStops->uncertainty, 2) << " stop ("
                << words::keySideText(values) << ")";
        out << "\n";
    }

    static void printRest(std::ostream& out,
                          const rig::Rig& rig,
                          const rig::Take& take,
                          const match::MatchReport& report) {
        const auto reasons = words::restReasons(rig, take, report);
        const bool hasTurns = !report.turns().empty();
        out << (hasTurns ? "  " : "  none. ") << words::restHeadline(reasons, hasTurns) << "\n";
        for (const words::RestReason& rest : reasons)
            out << "  " << rig::findCamera(rig, rest.cameraId)->letter << "  "
                << words::shooterTitle(rest.quality) << ": " << rest.text << "\n";
    }

    static void print(std::ostream& out,
                      const rig::Rig& rig,
                      const rig::Take& take,
                      const match::MatchReport& report) {
        if (const std::string light = words::commonLightText(report); !light.empty())
            out << light << "\n";
        for (const jobs::SetLightTurn& one : jobs::lightTurns(rig, take, report)) {
            out << "  light  " << words::lampTurnText(one.advice) << "  ("
                << words::lampEffectText(one.advice) << (one.isDone ? "; done" : "") << ")\n";
        }
        for (const match::CameraMatch& match : report.cameras) {
            if (match.isReference) continue;
            const rig::Camera* reference = rig::findCamera(rig, report.referenceId);
            out << "Camera " << rig::findCamera(rig, match.cameraId)->letter << " against "
                << (reference != nullptr ? "the reference " + reference->letter
                                         : report.targetWords)
                << "\n";
            for (std::size_t i = 0; i < match::kQualityCount; ++i) {
                const auto quality = static_cast<match::Quality>(i);
                const match::Difference& difference = match.differences.judged(quality);
                const words::CellText text = words::cellText(quality, difference);
                const std::string words = words::shooterWords(
                    quality, difference, words::dialWords(rig, take, match.cameraId));
                out << "  " << words::qualityTitle(quality) << ": "
                    << (words.empty() ? "" : words + ", ") << text.value;
                if (difference.value)
                    out << " ± " << text.uncertainty << (text.unit.empty() ? "" : " ") << text.unit;
                out << " (" << match::nameOf(difference.verdict) << ")"
                    << (difference.value ? "" : " " + words::inEnglish(difference.reason)) << "\n";
            }
            for (const match::SkinDifference& person : match.skin) printSkin(out, person);
            for (const base::Text& note : match.differences.notes)
                out << "  Note: " << words::inEnglish(note) << "\n";
            for (const match::LeftOver& rest : match.plan.leftOver)
                out << "  Left over: " << words::inEnglish(rest.text) << "\n";
        }
        out << "Colours are judged " << words::judgeText(report, rig) << ".\n";
        out << "Turns, in order:\n";
        for (const rig::Turn& turn : report.turns()) {
            out << "  " << rig::findCamera(rig, turn.cameraId)->letter << "  "
                << words::controlTitle(turn) << ": " << words::inEnglish(turn.fromText)
                << (turn.fromText.empty() ? "" : " → ") << words::inEnglish(turn.toText) << "  ("
                << words::effectText(turn) << "; " << words::inEnglish(turn.reason)
                << (turn.isFine ? "; good already, may be left" : "") << ")\n";
        }
        const auto turns = report.turns();
        if (std::all_of(turns.begin(), turns.end(), [](const auto& turn) { return turn.isFine; }))
            printRest(out, rig, take, report);
        if (report.worstNow && report.worstAfter) {
            out << "Worst pair of cameras: mean ΔE2000 " << base::fixed(report.worstNow->deltaE, 1)
                << " ± " << base::fixed(report.worstNow->uncertainty, 1) << " now, "
                << base::fixed(report.worstAfter->deltaE, 1) << " ± "
                << base::fixed(report.worstAfter->uncertainty, 1)
                << " after the turns (predicted)\n";
        }
    }

    std::string m_chart;
    std::vector<std::string> m_corners;
    std::map<std::string, rig::PictureQuad> m_quads;
    std::string m_reference;
    std::vector<std::string> m_cameras;
    std::string m_rigFile;
    std::string m_judge = "recorded";
    std::string m_target;
    bool m_isWhole = false;
    bool m_isJson = false, m_areCostsAsked = false, m_isHistoryAsked = false;
    CLI::Option* m_isJudgeGiven = nullptr;
};

}  // namespace

std::unique_ptr<Command> makeMatchCommand() { return std::make_unique<MatchCommand>(); }

}  // namespace rigmatch::cli
