// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/compare_controller.h"

#include <algorithm>
#include <cmath>

#include "app/services/texts.h"
#include "base/format.h"
#include "jobs/curve_job.h"
#include "jobs/match_job.h"
#include "jobs/people_job.h"
#include "match/curve_identity.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr double kChartMargin = 0.09;  // of the part shown, around the field of patches
constexpr double kChartAspect = 1.44;
constexpr double kFaceAspect = 0.8;
constexpr double kFaceSpan = 2.3;  // heights of the detector's box that are shown
constexpr double kEyesAt = 0.42;   // of the height shown
constexpr int kReadReach = 2;      // px to each side

/// Unit square to the given corners.
std::optional<QTransform> toQuad(const QPolygonF& from, const QPolygonF& corners) {
    QTransform transform;
    if (!QTransform::quadToQuad(from, corners, transform)) return std::nullopt;
    return transform;
}

QTransform toRect(const QRectF& rect) {
    QTransform transform;
    transform.translate(rect.left(), rect.top());
    transform.scale(rect.width(), rect.height());
    return transform;
}

}  // namespace

CompareController::CompareController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
    connect(&context.document, &RigDocument::rigChanged, this, &CompareController::update);
    connect(context.reports.get(), &ReportCache::ready, this, &CompareController::update);
    connect(&context.selection, &Selection::changed, this, &CompareController::update);
}

int CompareController::referenceIndex() const {
    for (int i = 0; i < m_cameras.size(); ++i) {
        if (m_cameras[i].cameraId == plain(rig().referenceId)) return i;
    }
    return 0;
}

double CompareController::aspect() const {
    if (m_subject.kind == Subject::Kind::Chart) return kChartAspect;
    if (m_subject.kind == Subject::Kind::Person) return kFaceAspect;
    for (const ComparedCamera& camera : m_cameras) {
        if (camera.reading != nullptr && camera.reading->height > 0)
            return camera.reading->width / double(camera.reading->height);
    }
    return 16.0 / 9.0;
}

void CompareController::setActive(bool isActive) {
    if (isActive == m_isActive) return;
    m_isActive = isActive;
    if (isActive) update();
}

void CompareController::setStage(jobs::Stage stage) {
    if (stage == m_stage) return;
    m_stage = stage;
    update();
}

void CompareController::setSubject(const Subject& subject) {
    if (subject == m_subject) return;
    m_subject = subject;
    // A place in the chart means nothing on a face.
    m_mark.reset();
    m_region.reset();
    update();
    Q_EMIT markChanged();
}

void CompareController::setMark(const QPointF& mark) {
    m_mark = mark;
    Q_EMIT markChanged();
}

void CompareController::setRegion(const QRectF& region) {
    m_region = region;
    Q_EMIT changed();
}

void CompareController::setLut(const QString& cameraId, const QString& path) {
    rig::Rig next = rig();
    rig::Camera* camera = rig::findCamera(next, cameraId.toStdString());
    if (camera == nullptr) return;
    camera->viewingLut = path.toStdString();
    m_context.document.change(path.isEmpty() ? tr("Remove viewing LUT") : tr("Set viewing LUT"),
                              next);
}

const rig::Shot* CompareController::shotOf(const QString& cameraId) const {
    const rig::Take* take = m_context.matchTake();
    return take == nullptr ? nullptr : rig::findShot(*take, cameraId.toStdString());
}

std::optional<colour::TransferCurve> CompareController::declaredCurve(
    const QString& cameraId) const {
    const rig::Camera* camera = rig::findCamera(rig(), cameraId.toStdString());
    const rig::Shot* shot = shotOf(cameraId);
    if (camera == nullptr || shot == nullptr) return std::nullopt;
    return jobs::declaredFor(*camera, shot->settings.profile);
}

QString CompareController::curveWords(const QString& cameraId) const {
    const rig::Shot* shot = shotOf(cameraId);
    if (shot == nullptr || !shot->reading || !shot->reading->hasChart)
        return tr("No chart was measured on this camera.");
    const QString profile = tr("Profile “%1”.").arg(plain(shot->settings.profile));
    const auto curve = declaredCurve(cameraId);
    if (!curve)
        return profile + u' ' +
               tr("None declared: stops are told through the grey row's own curve.");
    const auto error = match::curveAgreement(*shot->reading, *curve);
    if (!error) return profile + u' ' + tr("Too few greys to check it.");
    constexpr double kAgrees = 1.0;  // % of signal
    return profile + u' ' +
           (*error <= kAgrees
                ? tr("The grey row follows it within %1 %.").arg(*error, 0, 'f', 1)
                : tr("△ The grey row departs from it by %1 %: it is another curve, or the light on "
                     "the chart is uneven.")
                      .arg(*error, 0, 'f', 1));
}

QString CompareController::declaredPrimaries(const QString& cameraId) const {
    const rig::Camera* camera = rig::findCamera(rig(), cameraId.toStdString());
    const rig::Shot* shot = shotOf(cameraId);
    if (camera == nullptr || shot == nullptr) return {};
    return plain(jobs::primariesFor(*camera, shot->settings.profile));
}

void CompareController::declarePrimaries(const QString& cameraId, const QString& primaries) {
    const rig::Shot* shot = shotOf(cameraId);
    if (shot == nullptr || declaredPrimaries(cameraId) == primaries) return;
    m_context.document.change(
        tr("Declare primaries"),
        jobs::withDeclaredPrimaries(
            rig(), cameraId.toStdString(), shot->settings.profile, primaries.toStdString()));
}

void CompareController::declareCurve(const QString& cameraId,
                                     const std::optional<colour::TransferCurve>& curve) {
    const rig::Shot* shot = shotOf(cameraId);
    if (shot == nullptr) return;
    m_context.document.change(
        curve ? tr("Declare curve") : tr("Declare no curve"),
        jobs::withDeclaredCurve(rig(), cameraId.toStdString(), shot->settings.profile, curve));
}

void CompareController::declareFromTable(const QString& cameraId, QWidget* parent) {
    m_context.files.openLut(parent, [this, cameraId, parent](const QString& path) {
        if (path.isEmpty()) return;
        using Curve = base::Result<colour::TransferCurve>;
        m_context.jobs.startQuick<Curve>(
            tr("Reading a curve"),
            this,
            [file = path.toStdString()](const base::Progress&) {
                return jobs::curveFromTable(file);
            },
            [this, cameraId, parent](const Curve& curve) {
                if (curve)
                    declareCurve(cameraId, *curve);
                else
                    m_context.prompter.showError(parent, curve.error());
            });
    });
}

void CompareController::declareFromTakes(const QString& cameraId, QWidget* parent) {
    const rig::Shot* shot = shotOf(cameraId);
    if (shot == nullptr) return;
    const auto curve = jobs::curveFromTakes(rig(), cameraId.toStdString(), shot->settings.profile);
    if (!curve) {
        m_context.prompter.showError(parent, curve.error());
        return;
    }
    declareCurve(cameraId, curve->curve);
    m_context.prompter.showText(parent,
                                tr("Curve measured"),
                                tr("From %1 levels, %2 to %3 stops around mid-grey. The takes "
                                   "agree with their stated steps "
                                   "within %4 stop.")
                                    .arg(curve->points)
                                    .arg(fromCore(base::signedFixed(curve->fromStops, 1)),
                                         fromCore(base::signedFixed(curve->toStops, 1)))
                                    .arg(curve->stepErrorStops, 0, 'f', 2));
}

void CompareController::update() {
    if (!m_isActive) return;
    const rig::Take* take = m_context.matchTake();
    if (take != nullptr)
        m_report = *m_context.reports->of(rig(), *take);
    else
        m_report = match::MatchReport{};
    m_people = take == nullptr ? match::People{} : jobs::peopleOf(rig(), *take);
    refreshCameras();
    load();
    Q_EMIT changed();
}

void CompareController::refreshCameras() {
    const rig::Take* take = m_context.matchTake();
    QVector<ComparedCamera> next;
    for (const rig::Camera& body : rig().cameras) {
        ComparedCamera camera;
        camera.cameraId = plain(body.id);
        camera.letter = plain(body.letter);
        camera.role = plain(body.role);
        const rig::Shot* shot = take == nullptr ? nullptr : rig::findShot(*take, body.id);
        if (shot != nullptr && shot->reading) camera.reading = &*shot->reading;
        if (shot == nullptr)
            camera.missing = tr("No clip in this take.");
        else if (!shot->failure.empty())
            camera.missing = tr("This file cannot be shown.");
        else if (camera.reading == nullptr)
            camera.missing = tr("Not measured yet.");
        const match::CameraMatch* match = m_report.find(body.id);
        if (m_stage == jobs::Stage::AfterTurns && match != nullptr)
            camera.stage = jobs::StageMap::afterTurns(*match);
        if (m_stage == jobs::Stage::ThroughLut && !body.viewingLut.empty()) {
            const auto lut = jobs::StageMap::throughLut(body.viewingLut);
            if (lut)
                camera.stage = *lut;
            else
                camera.missing = fromCore(base::fullText(lut.error()));
        }
        placeSubject(camera);
        // What was loaded, or is on its way, for another moment or stage is of no use any more.
        if (m_shown.value(camera.cameraId) != keyOf(camera)) m_shown.remove(camera.cameraId);
        for (const ComparedCamera& old : m_cameras) {
            if (old.cameraId != camera.cameraId || !m_shown.contains(camera.cameraId)) continue;
            camera.frame = old.frame;
            camera.picture = old.picture;
        }
        next << camera;
    }
    m_cameras = next;
}

void CompareController::placeSubject(ComparedCamera& camera) const {
    if (camera.reading == nullptr) return;
    const rig::Reading& reading = *camera.reading;
    if (m_subject.kind == Subject::Kind::Whole) {
        camera.toPicture = toRect(QRectF(0, 0, reading.width, reading.height));
    } else if (m_subject.kind == Subject::Kind::Chart) {
        if (!reading.hasChart) {
            camera.missing = tr("No chart was found here.");
            return;
        }
        const double m = kChartMargin;
        const double n = m * kChartAspect;
        QPolygonF corners;
        for (const rig::PicturePoint& corner : reading.corners)
            corners << QPointF(corner.x + 0.5, corner.y + 0.5);
        camera.toPicture =
            toQuad(QPolygonF({{m, n}, {1 - m, n}, {1 - m, 1 - n}, {m, 1 - n}}), corners);
    } else {
        const auto isHere = [&](const match::Person& person) {
            return person.faces.contains(camera.cameraId.toStdString());
        };
        if (m_subject.person >= m_people.size() || !isHere(m_people[m_subject.person])) {
            camera.missing = tr("This face was not found here.");
            return;
        }
        const rig::FaceReading& face =
            reading.faces[m_people[m_subject.person].faces.at(camera.cameraId.toStdString())];
        const double height = kFaceSpan * face.height;
        const QPointF eyes(0.5 * (face.leftEye.x + face.rightEye.x) + 0.5,
                           0.5 * (face.leftEye.y + face.rightEye.y) + 0.5);
        camera.toPicture = toRect(QRectF(eyes.x() - 0.5 * kFaceAspect * height,
                                         eyes.y() - kEyesAt * height,
                                         kFaceAspect * height,
                                         height));
    }
}

QString CompareController::keyOf(const ComparedCamera& camera) const {
    const rig::Take* take = m_context.matchTake();
    const rig::Shot* shot =
        take == nullptr ? nullptr : rig::findShot(*take, camera.cameraId.toStdString());
    if (shot == nullptr || !shot->reading) return {};
    const auto moment =
        m_subject.kind == Subject::Kind::Person ? jobs::Moment::Faces : jobs::Moment::Chart;
    const rig::Camera* body = rig::findCamera(rig(), shot->cameraId);
    QString stage;
    if (m_stage == jobs::Stage::AfterTurns) {
        const match::CameraMatch* match = m_report.find(shot->cameraId);
        if (match != nullptr)
            stage = u"turns %1 %2 %3"_s.arg(match->plan.total.exposureStops)
                        .arg(match->plan.total.whiteBalanceMired)
                        .arg(match->plan.total.tintDuv);
    } else if (m_stage == jobs::Stage::ThroughLut && body != nullptr) {
        stage = u"lut "_s + plain(body->viewingLut.string());
    }
    return plain(shot->media.string()) + u"|%1|"_s.arg(jobs::secondsOf(*shot->reading, moment)) +
           plain(shot->rangeOverride) + u"|"_s + plain(shot->matrixOverride) + u"|"_s + stage;
}

void CompareController::load() {
    for (int i = 0; i < m_cameras.size(); ++i) {
        const QString key = keyOf(m_cameras[i]);
        if (key.isEmpty() || !m_cameras[i].missing.isEmpty() ||
            m_shown.value(m_cameras[i].cameraId) == key)
            continue;
        loadCamera(i, key);
    }
}

void CompareController::loadCamera(int index, const QString& key) {
    struct Loaded {
        base::Result<jobs::ComparedFrame> frame;
        QImage picture;
    };
    const ComparedCamera& camera = m_cameras[index];
    const rig::Shot* shot = rig::findShot(*m_context.matchTake(), camera.cameraId.toStdString());
    const auto moment =
        m_subject.kind == Subject::Kind::Person ? jobs::Moment::Faces : jobs::Moment::Chart;
    m_shown[camera.cameraId] = key;
    ++m_running;
    m_context.jobs.start<Loaded>(
        tr("Loading the picture of camera %1").arg(camera.letter),
        this,
        [media = shot->media,
         seconds = jobs::secondsOf(*shot->reading, moment),
         codes = jobs::codeReading(*shot),
         stage = camera.stage](const base::Progress&) {
            Loaded loaded{jobs::ComparedFrame::load(media, seconds, codes), {}};
            if (!loaded.frame) return loaded;
            const jobs::Picture picture = loaded.frame->picture(stage);
            loaded.picture = QImage(picture.rgb.data(),
                                    picture.width,
                                    picture.height,
                                    qsizetype{3} * picture.width,
                                    QImage::Format_RGB888)
                                 .convertToFormat(QImage::Format_RGB32);
            return loaded;
        },
        [this, id = camera.cameraId, key](const Loaded& loaded) {
            --m_running;
            for (ComparedCamera& now : m_cameras) {
                // A later wish may have overtaken this one.
                if (now.cameraId != id || m_shown.value(id) != key) continue;
                if (loaded.frame) {
                    now.frame = *loaded.frame;
                    now.picture = loaded.picture;
                } else {
                    now.missing = fromCore(base::fullText(loaded.frame.error()));
                }
            }
            Q_EMIT changed();
            Q_EMIT markChanged();
        });
}

std::optional<jobs::SpotSignal> CompareController::signalAtMark(int index) const {
    const ComparedCamera& camera = m_cameras[index];
    if (!m_mark || !camera.frame || !camera.toPicture) return std::nullopt;
    const QPointF at = camera.toPicture->map(*m_mark);
    return camera.frame->signalAt(at.x() - 0.5, at.y() - 0.5, kReadReach, camera.stage);
}

std::optional<image::PixelRect> CompareController::areaOf(int index, const QRectF& region) const {
    const ComparedCamera& camera = m_cameras[index];
    if (!camera.frame || !camera.toPicture) return std::nullopt;
    const QRect all(0, 0, camera.frame->width(), camera.frame->height());
    const QRect area = camera.toPicture->mapRect(region).toAlignedRect() & all;
    if (area.isEmpty()) return std::nullopt;
    return image::PixelRect{area.x(), area.y(), area.width(), area.height()};
}

}  // namespace rigmatch::app
