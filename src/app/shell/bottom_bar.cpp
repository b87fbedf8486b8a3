// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/bottom_bar.h"

#include <QHBoxLayout>
#include <QProgressBar>
#include <algorithm>
#include <cmath>

#include "app/services/texts.h"
#include "app/widgets/build.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kShowAfterMs = 400;  // shorter work shows no progress

}  // namespace

BottomBar::BottomBar(AppContext& context, QWidget* parent) : QFrame(parent), m_context(context) {
    setObjectName(u"bottomBar"_s);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 2, 14, 2);
    m_state = makeLabel(QString(), "dim", u"stateLabel"_s, this);
    m_job = makeLabel(QString(), "dim", u"jobLabel"_s, this);
    m_progress = new QProgressBar(this);
    m_progress->setObjectName(u"jobProgress"_s);
    m_progress->setAccessibleName(tr("Progress"));
    m_progress->setFixedSize(160, 14);
    m_progress->setTextVisible(false);
    m_cancel = makeButton(tr("Cancel"),
                          u"cancelJobsButton"_s,
                          tr("Stop the work that goes on; nothing is lost"),
                          this);
    m_cancel->setStyleSheet(u"QPushButton { padding: 1px 8px; }"_s);
    m_saved = makeLabel(QString(), "dim", u"savedLabel"_s, this);
    layout->addWidget(m_state);
    layout->addStretch();
    for (QWidget* widget : std::initializer_list<QWidget*>{m_job, m_progress, m_cancel, m_saved})
        layout->addWidget(widget);
    setFixedHeight(28);
    connect(m_cancel, &QPushButton::clicked, &m_context.jobs, &JobRunner::cancelAll);
    connect(&m_context.jobs, &JobRunner::changed, this, &BottomBar::refreshJobs);
    m_timer.setInterval(200);
    connect(&m_timer, &QTimer::timeout, this, &BottomBar::refreshJobs);
    connect(&m_context.document, &RigDocument::rigChanged, this, &BottomBar::refreshState);
    connect(&m_context.document, &RigDocument::stateChanged, this, &BottomBar::refreshState);
    connect(&m_context.selection, &Selection::changed, this, &BottomBar::refreshState);
    refreshState();
    refreshJobs();
}

void BottomBar::refreshState() {
    const rig::Take* take = m_context.currentTake();
    const auto cameras = static_cast<int>(m_context.document.rig().cameras.size());
    QString text =
        cameras == 0 ? tr("no camera yet") : counted(cameras, tr("1 camera"), tr("%1 cameras"));
    if (take != nullptr && rig::showsChart(*take)) {
        const auto found =
            std::count_if(take->shots.begin(), take->shots.end(), [](const rig::Shot& s) {
                return s.reading && s.reading->hasChart;
            });
        text += tr(" · chart found in %1").arg(found);
    }
    m_state->setText(text);
    const QString saved = m_context.document.savedAt();
    m_saved->setText(m_context.document.isModified()
                         ? tr("changes not saved; kept in the recovery journal")
                     : saved.isEmpty() ? QString()
                                       : tr("saved %1").arg(saved));
}

void BottomBar::refreshJobs() {
    const RunningJob* shown = nullptr;
    for (const RunningJob& job : m_context.jobs.running()) {
        if (job.since.elapsed() >= kShowAfterMs &&
            (shown == nullptr || job.since.elapsed() > shown->since.elapsed()))
            shown = &job;
    }
    if (m_context.jobs.running().isEmpty()) {
        m_timer.stop();
    } else if (!m_timer.isActive()) {
        m_timer.start();
    }
    for (QWidget* widget : std::initializer_list<QWidget*>{m_job, m_progress, m_cancel})
        widget->setVisible(shown != nullptr);
    if (shown == nullptr) return;
    m_progress->setValue(static_cast<int>(shown->fraction * 100.0));
    const double rest = shown->remainingSeconds();
    QString text = rest < 0.0 ? shown->title
                              : tr("%1, about %2 s left").arg(shown->title).arg(std::ceil(rest));
    if (!shown->stage.isEmpty()) text += u" · "_s + shown->stage;
    // The state before it and what is saved behind it keep their place.
    constexpr int kGaps = 72;
    int room = width() - kGaps - m_progress->width();
    for (const QWidget* widget : std::initializer_list<const QWidget*>{m_state, m_cancel, m_saved})
        room -= widget->sizeHint().width();
    m_job->setText(m_job->fontMetrics().elidedText(text, Qt::ElideRight, std::max(room, 120)));
    m_job->setToolTip(text);
    m_progress->setAccessibleDescription(text);
}

}  // namespace rigmatch::app
