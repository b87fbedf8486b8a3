// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QMap>
#include <QObject>
#include <QRectF>
#include <QTransform>
#include <optional>

#include "app/services/app_context.h"
#include "jobs/compare_job.h"

namespace rigmatch::app {

/// What part of the pictures is laid over each other.
struct Subject {
    enum class Kind { Whole, Chart, Person } kind = Kind::Chart;
    std::size_t person = 0;

    bool operator==(const Subject&) const = default;
};

/// One camera as Compare shows it.
struct ComparedCamera {
    QString cameraId;
    QString letter;
    QString role;
    const rig::Reading* reading = nullptr;  ///< of the present take; null: none
    QString missing;                        ///< why there is no picture; empty while it loads
    jobs::StageMap stage;
    std::optional<jobs::ComparedFrame> frame;
    QImage picture;
    std::optional<QTransform> toPicture;  ///< of the subject; nothing where it is not seen
};

/// What Compare shows: which part, at which stage, which place is read. Loads the pictures it needs
/// in the background, and only while the screen is looked at.
class CompareController : public QObject {
    Q_OBJECT
public:
    explicit CompareController(AppContext& context, QObject* parent = nullptr);

    [[nodiscard]] const rig::Rig& rig() const { return m_context.document.rig(); }
    [[nodiscard]] const match::MatchReport& report() const { return m_report; }
    [[nodiscard]] const match::People& people() const { return m_people; }
    [[nodiscard]] const QVector<ComparedCamera>& cameras() const { return m_cameras; }
    [[nodiscard]] int referenceIndex() const;
    [[nodiscard]] jobs::Stage stage() const { return m_stage; }
    [[nodiscard]] Subject subject() const { return m_subject; }
    /// Width over height of the part shown.
    [[nodiscard]] double aspect() const;
    [[nodiscard]] std::optional<QPointF> mark() const { return m_mark; }
    [[nodiscard]] std::optional<QRectF> region() const { return m_region; }
    [[nodiscard]] bool isLoading() const { return m_running > 0; }
    /// Signal of a camera at the mark, mean of 5 × 5 px; nothing where it is not seen.
    [[nodiscard]] std::optional<jobs::SpotSignal> signalAtMark(int camera) const;
    /// A region of the subject in px of a camera's picture.
    [[nodiscard]] std::optional<image::PixelRect> areaOf(int camera, const QRectF& region) const;

    void setActive(bool isActive);
    void setStage(jobs::Stage stage);
    void setSubject(const Subject& subject);
    void setMark(const QPointF& mark);
    void setRegion(const QRectF& region);
    /// Sets a camera's viewing LUT; an empty path takes it away. One undoable step.
    void setLut(const QString& cameraId, const QString& path);

    /// The curve declared for the profile that the camera used in this take.
    [[nodiscard]] std::optional<colour::TransferCurve> declaredCurve(const QString& cameraId) const;
    /// What the grey row says of it, in words.
    [[nodiscard]] QString curveWords(const QString& cameraId) const;
    /// Declares a curve, or none; one undoable step.
    /// Primaries that the profile of this camera's shot is declared to record in; empty: as the
    /// file says.
    [[nodiscard]] QString declaredPrimaries(const QString& cameraId) const;
    void declarePrimaries(const QString& cameraId, const QString& primaries);
    void declareCurve(const QString& cameraId, const std::optional<colour::TransferCurve>& curve);
    /// Asks for a table and declares it; failures are shown over `parent`.
    void declareFromTable(const QString& cameraId, QWidget* parent);
    /// Measures the curve from all takes of the camera with this profile and declares it; says how
    /// well the takes agree.
    void declareFromTakes(const QString& cameraId, QWidget* parent);

Q_SIGNALS:
    /// Anything but the mark changed.
    void changed();
    void markChanged();

private:
    [[nodiscard]] const rig::Shot* shotOf(const QString& cameraId) const;
    void update();
    void refreshCameras();
    void placeSubject(ComparedCamera& camera) const;
    void load();
    void loadCamera(int index, const QString& key);
    [[nodiscard]] QString keyOf(const ComparedCamera& camera) const;

    AppContext& m_context;
    match::MatchReport m_report;
    match::People m_people;
    QVector<ComparedCamera> m_cameras;
    QMap<QString, QString> m_shown;  ///< by camera: key of its picture
    jobs::Stage m_stage = jobs::Stage::AsShot;
    Subject m_subject;
    std::optional<QPointF> m_mark;
    std::optional<QRectF> m_region;
    bool m_isActive = false;
    int m_running = 0;
};

}  // namespace rigmatch::app
