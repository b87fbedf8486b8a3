// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

#include "app/screens/match/what_if.h"
#include "app/services/app_context.h"
#include "jobs/history_job.h"
#include "jobs/lamp_job.h"
#include "jobs/match_job.h"
#include "words/learned_text.h"
#include "words/rest_reasons.h"

namespace rigmatch::app {

/// Keeps the match of the current take up to date and carries out ticks of the turn list.
class MatchController : public QObject {
    Q_OBJECT
public:
    explicit MatchController(AppContext& context, QObject* parent = nullptr);

    [[nodiscard]] const rig::Rig& rig() const { return m_context.document.rig(); }
    /// True while the report is being computed: what is shown is empty, or of a moment before.
    [[nodiscard]] bool isPending() const { return m_context.reports->isPending(); }
    [[nodiscard]] const rig::Take* take() const { return m_context.matchTake(); }
    /// The measured match; while settings are tried by hand, as it is predicted with those.
    [[nodiscard]] const match::MatchReport& report() const { return m_report; }
    [[nodiscard]] WhatIf& whatIf() { return *m_whatIf; }

    /// Earlier takes can be read, not ticked.
    [[nodiscard]] bool isNewestTake() const;
    /// The rig with the settings that the take was shot with; for the newest take as it is now.
    [[nodiscard]] rig::Rig rigAtTake() const;
    /// With those of the take after it, which tell what was carried out; for the newest as it is
    /// now.
    [[nodiscard]] rig::Rig rigAfterTake() const;

    /// Writes the turn's new setting to its camera, or the old one back. Does nothing on an earlier
    /// take.
    void tick(const rig::Turn& turn, bool isDone);
    /// All turns that are not amounts, as one step.
    void tickAll();
    /// Turns of planned lamps and windows that serve all cameras; of the newest take alone.
    [[nodiscard]] const std::vector<jobs::SetLightTurn>& lightTurns() const { return m_light; }
    /// Carries one of them out in the plan, or takes it back.
    void tickLight(std::size_t index, bool isDone);
    /// Ticked at this take and not asked for any more.
    [[nodiscard]] const std::vector<plan::LampAdvice>& formerLightTurns() const {
        return m_formerLight;
    }
    void untickFormerLight(std::size_t index);
    void setJudge(const QString& judge);
    /// What all are matched to: a camera, which then is the reference, or words that
    /// jobs::targetOf() reads.
    void setTarget(const std::string& words, const std::string& referenceId);
    /// "the reference A", or what else all are matched to.
    /// What a quality is called, in the words that the user chose.
    [[nodiscard]] std::string titleOf(match::Quality quality) const;
    [[nodiscard]] QString targetText() const;
    /// How the camera's differences moved from take to take; empty until it is worked out.
    [[nodiscard]] const std::vector<jobs::HistoryPoint>& historyOf(
        const std::string& cameraId) const;
    /// Writes what was learned of a camera's controls into its sheet.
    void keepLearned(const std::string& cameraId);
    /// Takes so far teach nothing more about that camera's controls.
    void forgetLearned(const std::string& cameraId);

    /// "Why" of a cell in words.
    /// Why nothing turns what is near or off, of all cameras; what would help.
    [[nodiscard]] const std::vector<words::RestReason>& rest() const { return m_rest; }
    [[nodiscard]] QString explanation(const match::CameraMatch& camera,
                                      match::Quality quality) const;

Q_SIGNALS:
    void changed();

private:
    /// The people's skin that the skin rows rest on.
    [[nodiscard]] QString skinExplanation(const match::CameraMatch& camera) const;
    /// What a number rests on.
    [[nodiscard]] QString measuredBy(const match::CameraMatch& camera,
                                     match::Quality quality) const;
    [[nodiscard]] QString exposureExplanation(const match::CameraMatch& camera,
                                              const QString& basis) const;
    void update();
    void startHistory();
    void updateLight();
    [[nodiscard]] rig::Rig rigOf(const rig::Take* of) const;
    /// Writes a turn's target to the camera.
    void carryOut(const rig::Turn& turn, rig::Camera& camera) const;

    AppContext& m_context;
    match::MatchReport m_report;
    std::vector<words::RestReason> m_rest;
    WhatIf* m_whatIf;
    ReportCache::Report m_measured;
    ReportCache::Report m_shown;  ///< what m_report is a copy of
    jobs::History m_history;
    std::vector<jobs::SetLightTurn> m_light;
    std::vector<plan::LampAdvice> m_formerLight;
    base::Shared<rig::SetPlan> m_lightPlan;  ///< that they were worked out for
    ReportCache::Report m_lightReport;
};

}  // namespace rigmatch::app
