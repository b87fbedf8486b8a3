// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QMap>
#include <QObject>
#include <QPointer>
#include <QString>
#include <QThreadPool>
#include <functional>

#include "base/progress.h"
#include "base/result.h"

namespace rigmatch::app {

/// What the interface shows of work that goes on.
struct RunningJob {
    QString title;
    double fraction = 0.0;
    QString stage;
    QElapsedTimer since;
    base::Progress progress;

    /// Estimate from the time so far; negative while nothing can be said.
    [[nodiscard]] double remainingSeconds() const;
};

/// Runs long work off the interface thread. Results come back on the interface thread; where the
/// receiver has died in the meantime they are dropped.
class JobRunner : public QObject {
    Q_OBJECT
public:
    explicit JobRunner(QObject* parent = nullptr);
    /// Cancels everything and waits for it.
    ~JobRunner() override;

    /// Starts `work`; `done` gets its value on the interface thread while `context` lives. Gives
    /// the job's number.
    template <class Value>
    int start(const QString& title,
              QObject* context,
              std::function<Value(const base::Progress&)> work,
              std::function<void(Value)> done) {
        return startErased(
            title, context, [work, done](const base::Progress& progress) -> std::function<void()> {
                auto value = std::make_shared<Value>(work(progress));
                return [value, done] { done(std::move(*value)); };
            });
    }

    void cancel(int job);
    void cancelAll();
    [[nodiscard]] const QMap<int, RunningJob>& running() const { return m_running; }

Q_SIGNALS:
    /// A job began, moved on or ended.
    void changed();
    /// A job ended by an exception: its result is lost, the program is not.
    void broke(const rigmatch::base::Error& error);

private:
    using Finish = std::function<void()>;
    int startErased(const QString& title,
                    QObject* context,
                    std::function<Finish(const base::Progress&)> work);
    void progressed(int job, double fraction, const QString& stage);
    void finished(int job);

    QThreadPool m_pool;
    QMap<int, RunningJob> m_running;
    int m_nextJob = 1;
};

}  // namespace rigmatch::app
