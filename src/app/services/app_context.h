// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QMap>
#include <QObject>
#include <QSettings>
#include <memory>
#include <mutex>

#include "app/services/job_runner.h"
#include "app/services/report_cache.h"
#include "app/services/rig_document.h"
#include "app/services/seams.h"
#include "app/services/sound_player.h"
#include "jobs/shoot_job.h"

namespace rigmatch::app {

/// The simulated set, shared by jobs; one shoots at a time.
struct SharedSet {
    std::mutex mutex;
    const std::shared_ptr<sim::SimulatedSet> set = jobs::simulatedSet();
};

/// What screens see of the program besides the document: which take and camera are looked at.
class Selection : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    [[nodiscard]] QString takeId() const { return m_takeId; }
    [[nodiscard]] QString cameraId() const { return m_cameraId; }
    void setTakeId(const QString& id) {
        if (id == m_takeId) return;
        m_takeId = id;
        Q_EMIT changed();
    }
    void setCameraId(const QString& id) {
        if (id == m_cameraId) return;
        m_cameraId = id;
        Q_EMIT changed();
    }

    /// Settings that clips' metadata tell, by camera: offered on the screen Cameras, never forced.
    [[nodiscard]] const QMap<QString, rig::Settings>& offers() const { return m_offers; }
    void offer(const QString& cameraId, const rig::Settings& settings) {
        m_offers[cameraId] = settings;
        Q_EMIT changed();
    }
    void dropOffer(const QString& cameraId) {
        if (m_offers.remove(cameraId) > 0) Q_EMIT changed();
    }

    /// Terms of colour science first, instead of a shooter's words.
    [[nodiscard]] bool isTechnical() const { return m_isTechnical; }
    void setTechnical(bool isTechnical) {
        if (isTechnical == m_isTechnical) return;
        m_isTechnical = isTechnical;
        Q_EMIT changed();
    }

    /// Another rig is open: what was chosen and offered belonged to the one before.
    void clear() {
        m_takeId.clear();
        m_cameraId.clear();
        m_offers.clear();
        Q_EMIT changed();
    }

    /// The user wants the next take: simulated cameras shoot, real ones get an empty take.
    void requestNextTake(rig::Purpose purpose = rig::Purpose::Match) {
        Q_EMIT nextTakeRequested(purpose);
    }
    /// Files that made the rig are all measured: what they tell can be looked at.
    void announceTake() { Q_EMIT takeMeasured(); }

Q_SIGNALS:
    void changed();
    void nextTakeRequested(rigmatch::rig::Purpose purpose);
    void takeMeasured();

private:
    QString m_takeId;
    QString m_cameraId;
    bool m_isTechnical = false;
    QMap<QString, rig::Settings> m_offers;
};

/// Everything that a screen may use, handed to it: no globals.
struct AppContext {
    RigDocument& document;
    Selection& selection;
    JobRunner& jobs;
    FileChooser& files;
    Prompter& prompter;
    QSettings& settings;
    std::shared_ptr<SharedSet> simulatedSet;
    std::shared_ptr<ReportCache> reports = std::make_shared<ReportCache>();
    std::shared_ptr<SoundPlayer> player{};  ///< nothing: no sound is played

    /// The take being looked at: the selected one, else the newest; nullptr where there is none.
    [[nodiscard]] const rig::Take* currentTake() const {
        const auto& takes = document.rig().takes;
        for (const rig::Take& take : takes) {
            if (QString::fromStdString(take.id) == selection.takeId()) return &take;
        }
        return takes.empty() ? nullptr : &takes.back();
    }
    /// The take that is matched: the selected one where it is for matching, else the newest that
    /// is; nullptr where there is none.
    [[nodiscard]] const rig::Take* matchTake() const {
        const rig::Take* current = currentTake();
        return current != nullptr && rig::isFor(*current, rig::Purpose::Match)
                   ? current
                   : rig::newestTake(document.rig(), rig::Purpose::Match);
    }
};

}  // namespace rigmatch::app
