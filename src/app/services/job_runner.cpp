// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/services/job_runner.h"

#include <QMetaObject>
#include <algorithm>
#include <condition_variable>
#include <exception>
#include <mutex>
#include <new>

#include "app/services/texts.h"

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
    m_quickPool.waitForDone();
}

void JobRunner::startWaited(const QString& title, QObject* context, const Work& work) {
    struct Left {
        std::mutex mutex;
        std::condition_variable isThere;
        Finish finish;
        bool isOver = false;
    };
    const auto left = std::make_shared<Left>();
    const auto take = [left] {
        const std::lock_guard lock(left->mutex);
        return std::exchange(left->finish, {});
    };
    const auto leave = [left](Finish finish) {
        {
            const std::lock_guard lock(left->mutex);
            left->finish = std::move(finish);
            left->isOver = true;
        }
        left->isThere.notify_all();
    };
    const int job = startErased(
        m_quickPool, title, context, [work, take, leave](const base::Progress& progress) -> Finish {
            try {
                leave(work(progress));
            } catch (...) {
                leave({});
                throw;
            }
            // Whoever comes first takes it: who waited, or the event that tells of the end.
            return [take] {
                if (const Finish finish = take()) finish();
            };
        });
    {
        std::unique_lock lock(left->mutex);
        left->isThere.wait_for(lock, m_patience, [&] { return left->isOver; });
    }
    if (const Finish finish = take()) {
        finished(job);
        finish();
    }
}

int JobRunner::startErased(QThreadPool& pool, const QString& title, QObject* context, Work work) {
    const int job = m_nextJob++;
    RunningJob running;
    running.title = title;
    running.since.start();
    running.progress = base::Progress([this, job](double fraction, const base::Text& stage) {
        const QString text = fromCore(stage);
        QMetaObject::invokeMethod(
            this,
            [this, job, fraction, text] { progressed(job, fraction, text); },
            Qt::QueuedConnection);
    });
    m_running.insert(job, running);
    const base::Progress progress = running.progress;
    const QPointer<QObject> receiver(context);
    pool.start([this, job, progress, receiver, work = std::move(work)] {
        Finish finish;
        base::Text reason;
        try {
            finish = work(progress);
        } catch (const std::bad_alloc&) {
            reason = base::say("job.noMemory");
        } catch (const std::exception& failure) {
            reason = base::say("job.itSays", {{"what", failure.what()}});
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
                              base::say("job.failed", {{"job", name.toStdString()}}),
                              reason,
                              base::say("job.tryAgain")});
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
    // Parts that work beside each other report as they come: what is shown never goes back.
    found->fraction = std::max(found->fraction, fraction);
    found->stage = stage;
    Q_EMIT changed();
}

void JobRunner::finished(int job) {
    m_running.remove(job);
    Q_EMIT changed();
}

}  // namespace rigmatch::app
