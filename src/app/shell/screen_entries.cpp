// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCoreApplication>
#include <algorithm>

#include "app/screens/cameras/cameras_screen.h"
#include "app/screens/compare/compare_screen.h"
#include "app/screens/framing/framing_screen.h"
#include "app/screens/match/match_screen.h"
#include "app/screens/set/set_screen.h"
#include "app/screens/sync/sync_screen.h"
#include "app/screens/test_take/take_controller.h"
#include "app/screens/test_take/test_take_screen.h"
#include "app/shell/main_window.h"
#include "jobs/framing_job.h"
#include "jobs/match_job.h"
#include "jobs/sync_job.h"
#include "plan/analysis.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

std::pair<int, bool> setAttention(const AppContext& context) {
    const rig::Rig& rig = context.document.rig();
    if (!rig.plan) return {0, false};
    const std::vector<plan::Note> notes = plan::SetAnalysis(rig).notes();
    const auto off = std::count_if(notes.begin(), notes.end(), [](const plan::Note& note) {
        return note.verdict == base::Verdict::Off;
    });
    return {static_cast<int>(off), true};
}

std::pair<int, bool> camerasAttention(const AppContext& context) {
    const rig::Rig& rig = context.document.rig();
    const auto count =
        std::count_if(rig.cameras.begin(), rig.cameras.end(), [&](const rig::Camera& c) {
            return !rig::cameraFlags(rig, c).empty();
        });
    return {static_cast<int>(count), rig.cameras.size() > 1};
}

std::pair<int, bool> takeAttention(const AppContext& context) {
    const rig::Take* take = context.currentTake();
    if (take == nullptr) return {0, false};
    const rig::Rig& rig = context.document.rig();
    int count = 0;
    std::size_t cameras = 0;
    for (const rig::Shot& s : take->shots) {
        const bool isCamera = rig::findCamera(rig, s.cameraId) != nullptr;
        const bool isWithoutChart =
            isCamera && rig::showsChart(*take) && s.reading && !s.reading->hasChart;
        cameras += isCamera ? 1 : 0;
        if (!s.failure.empty() || isWithoutChart || (s.reading && !s.reading->warnings.empty()))
            ++count;
    }
    return {count, cameras > 0 && cameras == rig.cameras.size()};
}

std::pair<int, bool> matchAttention(const AppContext& context) {
    const rig::Take* take = context.matchTake();
    const bool isMeasured =
        take != nullptr && std::any_of(take->shots.begin(),
                                       take->shots.end(),
                                       [](const rig::Shot& s) { return s.reading.has_value(); });
    if (!isMeasured) return {0, false};
    const int open =
        static_cast<int>(context.reports->of(context.document.rig(), *take)->turns().size());
    // Nothing to turn is only good news where something could be compared.
    const auto seen = std::count_if(take->shots.begin(), take->shots.end(), [](const rig::Shot& s) {
        return s.reading && (s.reading->hasChart || !s.reading->faces.empty());
    });
    const bool isKnown = !context.reports->isPending();
    return {open, isKnown && open == 0 && seen >= 2};
}

std::pair<int, bool> framingAttention(const AppContext& context) {
    const rig::Take* take = context.currentTake();
    if (take == nullptr) return {0, false};
    const auto findings = jobs::framingFindings(context.document.rig(), *take);
    const auto open =
        std::count_if(findings.begin(), findings.end(), [&](const base::Finding& finding) {
            const auto& done = take->doneAtTripods;
            return !finding.advice.code.empty() &&
                   std::find(done.begin(), done.end(), finding.key()) == done.end();
        });
    const bool isJudged = std::any_of(
        findings.begin(), findings.end(), [](const auto& finding) { return finding.person >= 0; });
    return {static_cast<int>(open), isJudged && open == 0};
}

std::pair<int, bool> syncAttention(const AppContext& context) {
    const rig::Take* take = context.currentTake();
    const auto report =
        take == nullptr ? std::nullopt : jobs::keptSync(context.document.rig(), *take);
    if (!report) return {0, false};
    auto count = report->referenceFindings.size();
    for (const jobs::SyncResult& result : report->results)
        count += result.findings.size() + (result.offsetSeconds() ? 0 : 1);
    return {static_cast<int>(count), count == 0};
}

}  // namespace

QList<ScreenEntry> screenEntries() {
    const auto words = [](const char* text) {
        return QCoreApplication::translate("Screens", text);
    };
    return {
        {u"set"_s,
         words("Set"),
         [](AppContext& c, QWidget* parent) -> QWidget* { return new SetScreen(c, parent); },
         setAttention},
        {u"cameras"_s,
         words("Cameras"),
         [](AppContext& c, QWidget* parent) -> QWidget* { return new CamerasScreen(c, parent); },
         camerasAttention},
        {u"testTake"_s,
         words("Test take"),
         [](AppContext& c, QWidget* parent) -> QWidget* { return new TestTakeScreen(c, parent); },
         takeAttention},
        {u"match"_s,
         words("Match"),
         [](AppContext& c, QWidget* parent) -> QWidget* { return new MatchScreen(c, parent); },
         matchAttention},
        {u"compare"_s,
         words("Compare"),
         [](AppContext& c, QWidget* parent) -> QWidget* { return new CompareScreen(c, parent); },
         [](const AppContext&) { return std::pair(0, false); }},
        {u"framing"_s,
         words("Framing"),
         [](AppContext& c, QWidget* parent) -> QWidget* { return new FramingScreen(c, parent); },
         framingAttention},
        {u"sync"_s,
         words("Sync"),
         [](AppContext& c, QWidget* parent) -> QWidget* { return new SyncScreen(c, parent); },
         syncAttention},
    };
}

}  // namespace rigmatch::app
