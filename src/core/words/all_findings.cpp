// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/all_findings.h"

#include <algorithm>
#include <array>
#include <utility>

#include "base/warning.h"
#include "jobs/framing_job.h"
#include "jobs/match_job.h"
#include "match/findings.h"
#include "plan/analysis.h"
#include "plan/camera_sheet.h"
#include "words/english.h"
#include "words/framing_text.h"
#include "words/match_text.h"
#include "words/plan_text.h"
#include "words/reading_facts.h"

namespace rigmatch::words {
namespace {

using base::Finding;
using base::Verdict;

class FindingList {
public:
    explicit FindingList(const rig::Rig& rig) : m_rig(rig) {}

    void addMatch(const rig::Take& take) {
        const match::MatchReport report = jobs::matchReport(m_rig, take);
        for (const Finding& finding : match::findingsOf(report)) {
            const match::CameraMatch& camera = *report.find(finding.subject);
            const auto quality = qualityOf(finding);
            const CellText cell = cellText(quality, camera.differences.judged(quality));
            std::string line = qualityTitle(quality) + " " + cell.value;
            if (finding.value)
                line += " ± " + cell.uncertainty + (cell.unit.empty() ? "" : " ") + cell.unit;
            std::string turns;
            for (const rig::Turn& turn : camera.plan.turns) {
                if (turn.effect != finding.quantity) continue;
                const std::string title = controlTitle(turn);
                const std::string from = inEnglish(turn.fromText);
                turns += (turns.empty() ? "" : ", ") +
                         (from.starts_with(title) ? "" : title + " ") + from + " → " +
                         inEnglish(turn.toText);
            }
            add(FindingArea::Match, finding, line, inEnglish(finding.reason), turns);
        }
        const FactTable table = readingFacts(m_rig, take, report);
        for (const FactRow& row : table.rows) {
            for (std::size_t i = 0; i < std::min(row.cells.size(), table.cameraIds.size()); ++i)
                addNumber(row, row.cells[i], table.cameraIds[i]);
        }
    }
    void addFraming(const rig::Take& take) {
        for (const Finding& finding : jobs::framingFindings(m_rig, take)) {
            const FramingWords words = framingWords(finding, m_rig, take);
            add(FindingArea::Framing, finding, words.headline, words.numbers, words.turn);
        }
    }
    void addTiming(const rig::Take& take) {
        for (const rig::Shot& shot : take.shots) {
            if (!shot.reading) continue;
            if (shot.reading->sync)
                addWarnings(FindingArea::Timing, shot.cameraId, shot.reading->sync->findings);
            if (shot.reading->heard)
                addWarnings(FindingArea::Sound, shot.cameraId, shot.reading->heard->findings);
        }
    }
    void addFiles(const rig::Take& take) {
        for (const rig::Shot& shot : take.shots) {
            if (shot.reading) addWarnings(FindingArea::File, shot.cameraId, shot.reading->warnings);
        }
    }
    void addPlan() {
        for (const rig::Camera& camera : m_rig.cameras) {
            for (const plan::Fact& fact : plan::sheetFacts(m_rig, camera)) {
                const ToldFact words = told(fact);
                add(FindingArea::Sheet,
                    plan::findingOf(fact, camera.id),
                    words.title + ": " + words.value,
                    words.why,
                    words.change);
            }
        }
        if (!m_rig.plan) return;
        for (const plan::Note& note : plan::SetAnalysis(m_rig).notes())
            add(FindingArea::Plan,
                plan::findingOf(note),
                inEnglish(note.text),
                {},
                inEnglish(note.change));
    }

    [[nodiscard]] std::vector<ToldFinding> sorted() && {
        constexpr std::array kOrder{Verdict::Off, Verdict::Near, Verdict::Unknown, Verdict::Good};
        const auto place = [&](const ToldFinding& one) {
            return std::pair(std::find(kOrder.begin(), kOrder.end(), one.finding.verdict),
                             one.area);
        };
        std::stable_sort(m_all.begin(), m_all.end(), [&](const auto& a, const auto& b) {
            return place(a) < place(b);
        });
        return std::move(m_all);
    }

private:
    [[nodiscard]] static match::Quality qualityOf(const Finding& finding) {
        std::size_t i = 0;
        while (i + 1 < match::kQualityCount &&
               match::keyOf(static_cast<match::Quality>(i)) != finding.quantity)
            ++i;
        return static_cast<match::Quality>(i);
    }
    void addNumber(const FactRow& row, const FactCell& cell, const std::string& cameraId) {
        Finding finding;
        finding.quantity = row.key;
        finding.subject = cameraId;
        finding.other = m_rig.referenceId;
        finding.value = cell.value;
        finding.uncertainty = cell.uncertainty;
        finding.unit = row.unit;
        finding.verdict = cell.verdict;
        if (cell.verdict == Verdict::Unknown) finding.reason = base::asIs(cell.why);
        // What a chart or a clip never tells is no finding about a camera.
        if (cell.verdict == Verdict::Unknown) return;
        add(FindingArea::Numbers,
            finding,
            row.title + " " + cell.text + (cell.value && !row.unit.empty() ? " " + row.unit : ""),
            cell.why,
            {});
    }
    void addWarnings(FindingArea area,
                     const std::string& subject,
                     const std::vector<base::Warning>& warnings) {
        for (const base::Warning& warning : warnings) {
            Finding finding;
            finding.quantity = warning.code;
            finding.subject = subject;
            finding.verdict = Verdict::Near;
            add(area, finding, inEnglish(warning.text), {}, inEnglish(warning.hint));
        }
    }
    void add(FindingArea area,
             const Finding& finding,
             const std::string& headline,
             std::string why,
             std::string change) {
        const rig::Camera* camera = rig::findCamera(m_rig, finding.subject);
        const rig::Source* source = rig::findSource(m_rig, finding.subject);
        const std::string who = camera != nullptr   ? camera->letter + ": "
                                : source != nullptr ? source->name + ": "
                                                    : std::string();
        m_all.push_back({area, finding, who + headline, std::move(why), std::move(change)});
    }

    const rig::Rig& m_rig;
    std::vector<ToldFinding> m_all;
};

}  // namespace

const char* nameOf(FindingArea area) {
    switch (area) {
        case FindingArea::Match:
            return "match";
        case FindingArea::Numbers:
            return "numbers";
        case FindingArea::Framing:
            return "framing";
        case FindingArea::Timing:
            return "timing";
        case FindingArea::Sound:
            return "sound";
        case FindingArea::File:
            return "file";
        case FindingArea::Sheet:
            return "sheet";
        case FindingArea::Plan:
            break;
    }
    return "plan";
}

std::vector<ToldFinding> allFindings(const rig::Rig& rig) {
    FindingList list(rig);
    const rig::Take* matched = rig::newestTake(rig, rig::Purpose::Match);
    const rig::Take* framed = rig::newestTake(rig, rig::Purpose::Framing);
    const rig::Take* timed = rig::newestTake(rig, rig::Purpose::Timing);
    if (matched != nullptr) list.addMatch(*matched);
    if (framed != nullptr) list.addFraming(*framed);
    if (timed != nullptr) list.addTiming(*timed);
    std::vector<const rig::Take*> takes;
    for (const rig::Take* take : {matched, framed, timed}) {
        if (take == nullptr || std::find(takes.begin(), takes.end(), take) != takes.end()) continue;
        takes.push_back(take);
        list.addFiles(*take);
    }
    list.addPlan();
    return std::move(list).sorted();
}

std::string findingsText(const std::vector<ToldFinding>& findings) {
    std::string text;
    int numbers = 0;
    for (const ToldFinding& one : findings) {
        if (one.finding.verdict == Verdict::Good) continue;
        // Most of them say in single numbers what the board sums up.
        if (one.area == FindingArea::Numbers) {
            ++numbers;
            continue;
        }
        text += one.finding.verdict == Verdict::Off    ? "▼ "
                : one.finding.verdict == Verdict::Near ? "△ "
                                                       : "? ";
        text += std::string(nameOf(one.area)) + ", " + one.headline + "\n";
        if (!one.why.empty()) text += "    " + one.why + "\n";
        if (!one.change.empty()) text += "    → " + one.change + "\n";
    }
    if (numbers > 0)
        text += "… and " + std::to_string(numbers) + (numbers == 1 ? " number" : " numbers") +
                " (Compare, Numbers).\n";
    return text.empty() ? "Nothing is off, near or unknown.\n" : text;
}

}  // namespace rigmatch::words
