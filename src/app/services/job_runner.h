// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QMap>
#include <QObject>
#include <QPointer>
#include <QString>
#include <QThreadPool>
#include <chrono>
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
        return startErased(m_pool, title, context, erased<Value>(work, done));
    }

    /// The same for what is mostly over in a moment, as reading a small file is: it does not queue
    /// behind longer work, and is waited for a little, so that nothing flickers.
    template <class Value>
    void startQuick(const QString& title,
                    QObject* context,
                    std::function<Value(const base::Progress&)> work,
                    std::function<void(Value)> done) {
        startWaited(title, context, erased<Value>(work, done));
    }
    /// How long startQuick() waits; half a frame of the screen where nothing else is set.
    void setPatience(std::chrono::milliseconds patience) { m_patience = patience; }

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
    using Work = std::function<Finish(const base::Progress&)>;
    template <class Value>
    static Work erased(std::function<Value(const base::Progress&)> work,
                       std::function<void(Value)> done) {
        return [work, done](const base::Progress& progress) -> Finish {
            auto value = std::make_shared<Value>(work(progress));
            return [value, done] { done(std::move(*value)); };
        };
    }
    int startErased(QThreadPool& pool, const QString& title, QObject* context, Work work);
    void startWaited(const QString& title, QObject* context, const Work& work);
    void progressed(int job, double fraction, const QString& stage);
    void finished(int job);

    std::chrono::milliseconds m_patience{8};
    QThreadPool m_pool;
    QThreadPool m_quickPool;
    QMap<int, RunningJob> m_running;
    int m_nextJob = 1;
};

}  // namespace rigmatch::app
