// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/tone_page.h"

#include <QHBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/screens/compare/curve_row.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "jobs/match_job.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

TonePage::TonePage(CompareController& controller, QWidget* parent)
    : ComparePage(controller, parent) {
    setObjectName(u"tonePage"_s);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(12);
    QFrame* left = makeCard(u"toneCard"_s, this);
    auto* column = new QVBoxLayout(left);
    m_title = makeLabel(QString(), "heading", u"toneTitle"_s, left);
    column->addWidget(m_title);
    m_plot = new CurvePlot(left);
    m_plot->setObjectName(u"tonePlot"_s);
    column->addWidget(m_plot, 1);
    m_words = makeLabel(QString(), "dim", u"toneWords"_s, left);
    m_words->setWordWrap(true);
    m_words->setTextFormat(Qt::RichText);
    column->addWidget(m_words);
    m_curves = new CurveRow(m_controller, left);
    column->addWidget(m_curves);
    layout->addWidget(left, 3);
    QFrame* right = makeCard(u"toneLadderCard"_s, this);
    auto* side = new QVBoxLayout(right);
    side->addWidget(makeLabel(tr("Neutral ladder"), "heading", QString(), right));
    m_ladder = new NeutralLadder(right);
    m_ladder->setObjectName(u"toneLadder"_s);
    side->addWidget(m_ladder, 1);
    layout->addWidget(right, 2);
}

namespace {

/// The grey row as it looks at a stage.
jobs::CurveEvidence staged(const match::CameraMatch& camera,
                           const match::CameraMatch& reference,
                           const jobs::StageMap& stage) {
    jobs::CurveEvidence evidence = jobs::curveEvidence(camera, reference);
    // What a stage does to the curve it does to its error, by the slope of the stage there.
    for (std::size_t i = 0; i < evidence.curveErrorPercent.size(); ++i) {
        const auto stagedPercent = [&stage](double percent) {
            const double signal = 0.01 * percent;
            return 100.0 * stage.apply(std::array{signal, signal, signal})[1];
        };
        const double error = evidence.curveErrorPercent[i];
        const double percent = evidence.curvePercent[i];
        evidence.curveErrorPercent[i] =
            0.5 * std::abs(stagedPercent(percent + error) - stagedPercent(percent - error));
    }
    for (auto* percents : {&evidence.patchPercent, &evidence.curvePercent}) {
        for (double& percent : *percents) {
            const double signal = 0.01 * percent;
            percent = 100.0 * stage.apply(std::array{signal, signal, signal})[1];
        }
    }
    return evidence;
}

}  // namespace

void TonePage::refresh() {
    switch (m_controller.stage()) {
        case jobs::Stage::AsShot:
            m_title->setText(tr("Tone curves through the grey row, as shot"));
            break;
        case jobs::Stage::AfterTurns:
            m_title->setText(tr("Tone curves through the grey row, after the turns (predicted)"));
            break;
        case jobs::Stage::ThroughLut:
            m_title->setText(tr("Tone curves through the grey row, through the viewing LUTs"));
            break;
    }
    m_quilt = quiltData(m_controller);
    m_greys = ladderOf(m_quilt);
    m_ladder->setCameras(m_greys, greyNames(m_quilt));
    const match::MatchReport& report = m_controller.report();
    const match::CameraMatch* reference = report.find(m_controller.rig().referenceId);
    QVector<CurvePlot::Curve> curves;
    QString words;
    for (const ComparedCamera& camera : m_controller.cameras()) {
        const match::CameraMatch* match = report.find(camera.cameraId.toStdString());
        if (match == nullptr || reference == nullptr || !match->differences.fit) continue;
        curves << CurvePlot::Curve{camera.letter, staged(*match, *reference, camera.stage)};
        const jobs::CurveEvidence shot = jobs::curveEvidence(*match, *reference);
        words += u"<span style='color:%1'><b>%2</b></span> %3&nbsp;&nbsp;&nbsp; "_s.arg(
            theme::cameraColour(camera.letter).name(),
            camera.letter,
            tr("grey %1 ± %2 %, slope %3 ± %4 % per stop")
                .arg(shot.greyPercent, 0, 'f', 1)
                .arg(std::max(shot.greyErrorPercent, 0.1), 0, 'f', 1)
                .arg(shot.slopePercent, 0, 'f', 1)
                .arg(std::max(shot.slopeErrorPercent, 0.1), 0, 'f', 1));
    }
    m_plot->showAll(curves);
    m_words->setText(words);
    m_curves->refresh();
}

QString TonePage::numbers() const {
    QStringList head{tr("camera")};
    for (const QString& name : greyNames(m_quilt)) head << name + u" %"_s;
    QStringList lines{head.join(u'\t')};
    for (const NeutralLadder::Camera& camera : m_greys) {
        QStringList line{camera.letter};
        for (const double percent : camera.percent) line << QString::number(percent, 'f', 2);
        lines << line.join(u'\t');
    }
    return lines.join(u'\n') + u'\n';
}

}  // namespace rigmatch::app
