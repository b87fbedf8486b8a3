// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <QTimer>
#include <filesystem>
#include <map>
#include <set>

#include "app/services/app_context.h"
#include "jobs/arrivals.h"
#include "jobs/measure_job.h"

namespace rigmatch::app {

/// What can be done with test takes: dropping clips, letting simulated cameras shoot, correcting
/// corners. Measuring runs in the background; its results join the step that asked for them.
class TakeController : public QObject {
    Q_OBJECT
public:
    explicit TakeController(AppContext& context, QObject* parent = nullptr);

    [[nodiscard]] const rig::Rig& rig() const { return m_context.document.rig(); }
    [[nodiscard]] const rig::Take* take() const { return m_context.currentTake(); }
    [[nodiscard]] const rig::Camera* camera() const;
    /// The chosen source beside the cameras, or nullptr.
    [[nodiscard]] const rig::Source* source() const;
    /// Id of the chosen camera or source; the first camera's where nothing is chosen.
    [[nodiscard]] std::string selectedId() const;
    /// The chosen camera's or source's shot in the current take, or nullptr.
    [[nodiscard]] const rig::Shot* shot() const;
    void select(const QString& cameraId) { m_context.selection.setCameraId(cameraId); }
    /// True while the shot of that camera in the take that is shown is measured.
    [[nodiscard]] bool isMeasuring(const QString& cameraId) const;
    [[nodiscard]] double measuredShare(const QString& cameraId) const;
    [[nodiscard]] bool isShooting() const;
    [[nodiscard]] bool canShoot() const;

    void addSource(rig::SourceKind kind);
    /// The chosen one, with what it gave to all takes.
    void removeSource();
    void renameSource(const QString& sourceId, const QString& name);
    /// What the take is for. Its last purpose stays; what is looked for in its clips follows.
    void setPurpose(rig::Purpose purpose, bool isOn);

    void newTake(rig::Purpose purpose = rig::Purpose::Match);
    /// Shoots where the cameras can, else makes an empty take.
    void nextTake(rig::Purpose purpose);
    /// Gives files to one camera or source, as parts of one recording in the order of their names.
    void assign(const QStringList& files, const QString& sourceId);
    /// Files and folders dropped anywhere. A rig without cameras gets them from the files, and
    /// measuring starts. Else it is guessed where they belong: put there where nothing is in doubt,
    /// told by arrivalsGuessed() where something is. `chosenId`: the camera or source chosen by
    /// hand, or empty.
    void takeIn(const QStringList& dropped, const QString& chosenId = QString());
    /// Puts files where the guess, as it was corrected, says, and measures them.
    void putArrivals(const jobs::Arrivals& arrivals);
    /// True while files are looked at before the cameras are made.
    [[nodiscard]] bool isTakingIn() const;
    void removeShot();
    void measureAgain();
    /// Corners by hand: measured once they rest.
    void setCorners(const rig::PictureQuad& corners, bool isSettled);
    void findAgain();
    void setRange(const QString& range);
    void setMatrix(const QString& matrix);
    /// Has a long clip watched from end to end, not only around its chart and faces.
    void lookAtAll();
    /// Takes the colours by other primaries; the signals stay, so that nothing is measured again.
    void setPrimaries(const QString& primaries);
    /// Makes a built-in reference or the user's file the rig's; the take is measured anew. A file
    /// that cannot be read is told, and nothing changes.
    void setReference(const QString& idOrPath);
    /// Spots of skin by hand, marked on the frame that is shown.
    void setSkinMarks(const std::vector<rig::SkinMark>& marks);
    /// The frame that is shown: corners and marks set now hold there.
    void setShownSeconds(double seconds) { m_shownSeconds = seconds; }
    /// Writes the card to be printed; told in words.
    void writeCard(const QString& file);
    void shoot(rig::Purpose purpose = rig::Purpose::Match);
    void cancel();
    /// Looks for missing clips by name in `folder`; relinked() tells what came of it.
    void relink(const QString& folder);
    /// Clips of the rig that are not where they were, as far as was looked.
    [[nodiscard]] int missingMedia() const { return static_cast<int>(m_missing.size()); }
    /// True where a file of the shot is not where it was, as far as was looked.
    [[nodiscard]] bool isMissing(const rig::Shot& shot) const;
    /// Another file has its name now.
    [[nodiscard]] bool hasOtherContent(const rig::Shot& shot) const {
        return m_otherContent.contains(shot.media);
    }

Q_SIGNALS:
    void changed();
    void failed(const rigmatch::base::Error& error);
    void cardWritten(const QString& file);
    void relinked(int found, int stillMissing);
    /// What was not as a user may expect when files were taken in; in words.
    void takenIn(const QString& note);
    /// Where files may belong, to be looked at and corrected before anything is measured.
    void arrivalsGuessed(const rigmatch::jobs::Arrivals& arrivals);
    /// Readings of these cameras are in.
    void measured(const QString& cameraId);

private:
    [[nodiscard]] rig::Take& takeOf(rig::Rig& rig, const std::string& takeId) const;
    void takeReference(const std::string& id, bool isSameGrid);
    void editShot(const QString& text, const std::function<void(rig::Shot&)>& edit, int group = -1);
    enum class MeasureCare {
        Anew,     ///< whatever is known: the file may have changed
        Arrived,  ///< the same, but what its content told elsewhere is taken over
        Whole,  ///< the clip is watched from its start, where it was not measured like that before
        Corners,  ///< the same, but faces and what was told of the clip are kept and only the
                  ///< frames about the corners set by hand are read
    };
    void measure(const std::string& takeId, const std::string& cameraId, MeasureCare care);
    void takeReading(const std::string& takeId,
                     const std::string& asked,
                     const jobs::MeasuredShot& measured);
    [[nodiscard]] const RunningJob* measuringJob(const QString& cameraId) const;
    void lookForMedia();
    void takeFiles(const std::vector<jobs::ShotFile>& files, rig::Purpose purpose);
    [[nodiscard]] QString shootFolder(int number) const;

    AppContext& m_context;
    /// Take and camera: two takes can be measured at once.
    using ShotKey = std::pair<std::string, std::string>;
    std::map<ShotKey, int> m_measuring;  ///< to the job
    void makeCameras(const jobs::Intake& intake);
    template <class Found>
    void startIntake(const std::function<base::Result<Found>(const base::Progress&)>& look,
                     const std::function<void(const Found&)>& done);
    void announceWhenMeasured();

    int m_shootJob = 0;
    int m_intakeJob = 0;
    std::string m_takenIn;  ///< the take that made the rig, until it is measured
    std::set<std::filesystem::path> m_missing;  ///< files of all takes
    std::set<std::filesystem::path>
        m_otherContent;  ///< of the take, that are not what was measured
    std::string m_lookedForTake;
    int m_looks = 0;  ///< for clips, so far
    base::SharedList<rig::Take> m_lookedFor;
    double m_shownSeconds = 0.0;
    int m_cornerGroup = -1;
    QTimer m_cornerTimer;
};

}  // namespace rigmatch::app
