// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/evidence_panel.h"

#include <QScrollArea>
#include <QStackedWidget>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/curve_plot.h"
#include "app/widgets/patch_quilt.h"
#include "words/match_text.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;
using match::Quality;

EvidencePanel::EvidencePanel(MatchController& controller, QWidget* parent)
    : QFrame(parent), m_controller(controller) {
    setObjectName(u"evidencePanel"_s);
    setProperty("card", true);
    auto* layout = new QVBoxLayout(this);
    auto* head = new QHBoxLayout;
    m_title = makeLabel(QString(), "heading", u"evidenceTitle"_s, this);
    m_number = makeLabel(QString(), "dim", u"evidenceNumber"_s, this);
    head->addWidget(m_title);
    head->addWidget(m_number);
    head->addStretch();
    layout->addLayout(head);
    m_pages = new QStackedWidget(this);
    m_plot = new CurvePlot(m_pages);
    m_plot->setObjectName(u"curvePlot"_s);
    m_stripes = new PatchQuilt(m_pages);
    m_stripes->setObjectName(u"patchStripes"_s);
    m_pages->addWidget(m_plot);
    m_pages->addWidget(m_stripes);
    layout->addWidget(m_pages, 1);
    // Scrolls where it is long: the board above keeps its room.
    auto* area = new QScrollArea(this);
    area->setObjectName(u"evidenceArea"_s);
    area->setAccessibleName(tr("What the number rests on"));
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setStyleSheet(u"QScrollArea { border: none; }"_s);
    m_words = makeLabel(QString(), "dim", u"evidenceWords"_s, area);
    m_words->setWordWrap(true);
    m_words->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    area->setWidget(m_words);
    area->setFixedHeight(56);
    layout->addWidget(area);
    setMinimumWidth(360);
}

void EvidencePanel::show(const match::CameraMatch* camera, Quality quality) {
    const rig::Rig& rig = m_controller.rig();
    const match::CameraMatch* reference =
        m_controller.report().find(m_controller.report().referenceId);
    const rig::Camera* body = camera == nullptr ? nullptr : rig::findCamera(rig, camera->cameraId);
    const rig::Camera* referenceBody =
        reference == nullptr ? nullptr : rig::findCamera(rig, reference->cameraId);
    if (body == nullptr || camera->isReference) {
        m_title->setText(tr("Why"));
        m_number->clear();
        m_words->setText(tr("Choose a cell of the board to see what its number rests on."));
        m_plot->clear();
        m_stripes->setPatches({}, {});
        return;
    }
    const words::CellText text = words::cellText(quality, camera->differences.judged(quality));
    m_title->setText(
        tr("Why: %1 %2").arg(plain(body->letter), fromCore(m_controller.titleOf(quality))));
    m_number->setText(
        text.uncertainty.empty()
            ? plain(text.value)
            : tr("%1 ± %2 %3").arg(plain(text.value), plain(text.uncertainty), plain(text.unit)));
    const QString history =
        fromCore(words::historyText(m_controller.historyOf(camera->cameraId), quality));
    m_words->setText(history.isEmpty() ? m_controller.explanation(*camera, quality)
                                       : tr("So far: %1.").arg(history) + u' ' +
                                             m_controller.explanation(*camera, quality));
    if (referenceBody == nullptr) {
        // Matched to a picture from outside this take: there is no second curve to draw.
        m_plot->clear();
        m_stripes->setPatches({}, {});
        return;
    }
    const bool isColour =
        quality == Quality::Saturation || quality == Quality::Hue || quality == Quality::DeltaE;
    m_pages->setCurrentIndex(isColour ? 1 : 0);
    m_plot->show(jobs::curveEvidence(*reference, *reference),
                 plain(referenceBody->letter),
                 jobs::curveEvidence(*camera, *reference),
                 plain(body->letter),
                 quality == Quality::Exposure);
    QVector<PatchQuilt::Patch> patches;
    // As they were compared: uneven light taken out, in one set of primaries.
    const auto mine = camera->compared, theirs = reference->compared;
    if (mine && theirs) {
        const auto left = jobs::screenColours(match::signalsOf(*theirs));
        const auto right = jobs::screenColours(match::signalsOf(*mine));
        const auto& deltaE = camera->differences.colour.perPatch;
        for (std::size_t i = 0; i < std::min({left.size(), right.size(), deltaE.size()}); ++i) {
            patches << PatchQuilt::Patch{fromCore(mine->patches[i].name),
                                         {QColor(left[i][0], left[i][1], left[i][2]),
                                          QColor(right[i][0], right[i][1], right[i][2])},
                                         deltaE[i]};
        }
    }
    m_stripes->setPatches(
        patches, {plain(referenceBody->letter), plain(body->letter)}, mine ? mine->columns : 6);
}

}  // namespace rigmatch::app
