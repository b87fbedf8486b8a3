// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QMap>
#include <QObject>
#include <QSet>
#include <vector>

#include "app/services/app_context.h"
#include "jobs/framing_job.h"
#include "words/framing_text.h"

namespace rigmatch::app {

/// How the take's cameras frame their people: pictures, findings, turns at the tripods, the saved
/// framing and what has moved since.
class FramingController : public QObject {
    Q_OBJECT
public:
    explicit FramingController(AppContext& context, QObject* parent = nullptr);

    struct Row {
        QString cameraId, letter, role;
        QImage picture;  ///< null while it is loading
        QImage saved;    ///< the saved framing, null where there is none
        const rig::FramingReading* reading = nullptr;
        int widthPx = 0, heightPx = 0;
        QString missing;  ///< why there is nothing to show
        QString status;   ///< the worst of its findings in a few words
        base::Verdict verdict = base::Verdict::Unknown;
        QString savedAt;
        QString drift;  ///< against the saved framing, in words
        bool isClip = false;
        /// Of the earlier take that is laid over instead of the saved framing; nullptr otherwise.
        const rig::FramingReading* ghost = nullptr;
    };
    [[nodiscard]] const std::vector<Row>& rows() const { return m_rows; }
    [[nodiscard]] const std::vector<base::Finding>& findings() const { return m_findings; }
    /// Those that ask for a turn, worst first.
    [[nodiscard]] const std::vector<base::Finding>& turns() const { return m_turns; }
    [[nodiscard]] words::FramingWords words(const base::Finding& finding) const;
    [[nodiscard]] QString letterOf(const base::Finding& finding) const;
    [[nodiscard]] bool isDone(const base::Finding& finding) const;
    [[nodiscard]] int openTurns() const;
    void setDone(const base::Finding& finding, bool isDone);
    [[nodiscard]] const rig::Rig& rig() const { return m_context.document.rig(); }
    [[nodiscard]] const rig::Take* take() const { return m_context.currentTake(); }
    [[nodiscard]] bool isReadOnly() const { return m_context.document.isReadOnly(); }

    /// Chooses a school of the rig's goals.
    void setChoice(const QString& key, const QString& value);
    [[nodiscard]] bool canSave() const;
    /// Keeps how every camera of the take stands: a picture each, beside the rig file.
    void saveFraming();
    /// Other takes whose frames can be laid over: who sits where somebody sat is to fit into them.
    [[nodiscard]] QVector<QPair<QString, QString>> ghostTakes() const;
    /// By id; empty: the saved framing.
    void setGhostTake(const QString& takeId);
    [[nodiscard]] QString ghostTake() const { return m_ghostTake; }
    /// Follows the lone or first person of a camera through its clip, and writes where a window of
    /// that shape stands.
    void exportTrack(const QString& cameraId, const QString& shape, const QString& file);
    [[nodiscard]] bool isTracking() const { return m_isTracking; }
    /// Pictures are loaded, and what has moved is measured, only while the screen shows.
    void setActive(bool isActive);

Q_SIGNALS:
    void changed();
    void failed(const rigmatch::base::Error& error);
    void framingSaved(int cameras);
    /// A track was written; what it is, in words.
    void trackMade(const QString& told);

private:
    void refresh();
    void loadPictures();
    void measureDrifts();
    void keepDrift(const std::string& takeId,
                   const std::string& cameraId,
                   const std::string& against,
                   const base::Result<rig::FrameDrift>& drift);
    [[nodiscard]] QString framingFolder() const;
    void putGhost(Row& row, const rig::Camera& camera) const;
    [[nodiscard]] const rig::Shot* ghostShot(const std::string& cameraId) const;
    void putPictures(Row& row, const rig::Camera& camera, const rig::Shot* shot);

    AppContext& m_context;
    std::vector<Row> m_rows;
    std::vector<base::Finding> m_findings, m_turns;
    QMap<QString, QImage> m_pictures;  ///< by file and moment
    QSet<QString> m_loading, m_drifting;
    bool m_isActive = false;
    bool m_isTracking = false;
    QString m_ghostTake;
};

}  // namespace rigmatch::app
