// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QThreadPool>
#include <chrono>
#include <memory>
#include <optional>

#include "base/result.h"
#include "jobs/match_job.h"

namespace rigmatch::app {

/// The match of the take that is looked at, computed once for all who show it, beside the
/// interface. One that is quick is waited for, so that nothing flickers; of a longer one ready()
/// tells when it is there.
class ReportCache : public QObject {
    Q_OBJECT
public:
    using Report = std::shared_ptr<const match::MatchReport>;

    explicit ReportCache(QObject* parent = nullptr);
    /// Waits for what is being computed.
    ~ReportCache() override;

    /// The match of `take`, or, while that is computed, the last one of the same take and cameras;
    /// an empty report where there is none. Never null.
    [[nodiscard]] Report of(const rig::Rig& rig, const rig::Take& take);
    /// True while what of() was last asked for is being computed.
    [[nodiscard]] bool isPending() const { return m_wanted.has_value(); }
    /// How long of() may wait; half a frame of the screen where nothing else is set.
    void setPatience(std::chrono::milliseconds patience) { m_patience = patience; }

Q_SIGNALS:
    /// What was last asked for is there.
    void ready();
    /// It could not be computed.
    void broke(const rigmatch::base::Error& error);

private:
    struct Work;
    void start();
    bool collect();
    void finished();

    std::chrono::milliseconds m_patience{8};
    std::optional<rig::Rig> m_wanted;  ///< the essence of what is not there yet
    rig::Rig m_wantedRig;
    std::string m_wantedTake;
    std::shared_ptr<Work> m_running;
    rig::Rig m_essence;  ///< of what is there
    std::string m_take;
    Report m_report;
    QThreadPool m_pool;
};

}  // namespace rigmatch::app
