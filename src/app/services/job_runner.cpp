// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/services/job_runner.h"

#include <QMetaObject>
#include <exception>
#include <new>

namespace rigmatch::app {

double RunningJob::remainingSeconds() const {
    constexpr double kSurestFrom = 0.05;
    if (fraction < kSurestFrom) return -1.0;
    const double elapsed = static_cast<double>(since.elapsed()) / 1000.0;
    return elapsed * (1.0 - fraction) / fraction;
}

JobRunner::JobRunner(QObject* parent) : QObject(parent) { m_pool.setMaxThreadCount(2); }

JobRunner::~JobRunner() {
    cancelAll();
    m_pool.waitForDone();
}

int JobRunner::startErased(const QString& title,
                           QObject* context,
                           std::function<Finish(const base::Progress&)> work) {
    const int job = m_nextJob++;
    RunningJob running;
    running.title = title;
    running.since.start();
    running.progress = base::Progress([this, job](double fraction, std::string_view stage) {
        const QString text = QString::fromUtf8(stage.data(), static_cast<qsizetype>(stage.size()));
        QMetaObject::invokeMethod(
            this,
            [this, job, fraction, text] { progressed(job, fraction, text); },
            Qt::QueuedConnection);
    });
    m_running.insert(job, running);
    const base::Progress progress = running.progress;
    const QPointer<QObject> receiver(context);
    m_pool.start([this, job, progress, receiver, work = std::move(work)] {
        Finish finish;
        std::string reason;
        try {
            finish = work(progress);
        } catch (const std::bad_alloc&) {
            reason = "There was not enough memory.";
        } catch (const std::exception& failure) {
            reason = std::string("It says: ") + failure.what() + ".";
        }
        QMetaObject::invokeMethod(
            this,
            [this, job, receiver, finish, reason] {
                const QString name = m_running.value(job).title;
                finished(job);
                if (finish) {
                    if (receiver) finish();
                    return;
                }
                Q_EMIT broke({base::ErrorCode::Unreadable,
                              "\"" + name.toStdString() + "\" failed",
                              reason,
                              "Nothing was changed. Try it again; if it fails again, try it with "
                              "another file, and close what else needs memory."});
            },
            Qt::QueuedConnection);
    });
    Q_EMIT changed();
    return job;
}

void JobRunner::cancel(int job) {
    const auto found = m_running.find(job);
    if (found != m_running.end()) found->progress.cancel();
}

void JobRunner::cancelAll() {
    for (const RunningJob& job : std::as_const(m_running)) job.progress.cancel();
}

void JobRunner::progressed(int job, double fraction, const QString& stage) {
    const auto found = m_running.find(job);
    if (found == m_running.end()) return;
    found->fraction = fraction;
    found->stage = stage;
    Q_EMIT changed();
}

void JobRunner::finished(int job) {
    m_running.remove(job);
    Q_EMIT changed();
}

}  // namespace rigmatch::app
