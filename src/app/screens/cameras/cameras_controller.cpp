// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/cameras_controller.h"

#include <QStandardPaths>

#include "app/services/texts.h"
#include "jobs/take_job.h"
#include "rig/bodies.h"
#include "rig/plan_fields.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

CamerasController::CamerasController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
    m_templateFolder = context.settings.value(u"folders/templates"_s).toString();
    if (m_templateFolder.isEmpty()) {
        m_templateFolder =
            QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + u"/templates"_s;
    }
    connect(&context.document, &RigDocument::rigChanged, this, &CamerasController::changed);
    connect(&context.selection, &Selection::changed, this, &CamerasController::changed);
}

const rig::Camera* CamerasController::current() const {
    const int index = currentIndex();
    return index < 0 ? nullptr : &rig().cameras[static_cast<std::size_t>(index)];
}

int CamerasController::currentIndex() const {
    const std::string id = m_context.selection.cameraId().toStdString();
    for (std::size_t i = 0; i < rig().cameras.size(); ++i) {
        if (rig().cameras[i].id == id) return static_cast<int>(i);
    }
    return rig().cameras.empty() ? -1 : 0;
}

void CamerasController::select(const QString& cameraId) {
    m_context.selection.setCameraId(cameraId);
}

void CamerasController::addCamera() {
    if (!canAdd()) return;
    rig::Rig next = rig();
    rig::Camera camera;
    camera.id = rig::freshCameraId(next);
    rig::applyBodyKind(camera, rig::bodyKinds().front());
    if (const rig::Camera* reference = rig::findCamera(next, next.referenceId)) {
        // A new camera starts as the reference is set, so that nothing differs by accident.
        camera.settings = reference->settings;
        rig::snapSettings(camera);
    }
    next.cameras.push_back(camera);
    rig::giveLetters(next);
    const std::string letter = next.cameras.back().letter;
    next.cameras.back().role = tr("camera %1").arg(plain(letter)).toStdString();
    m_context.document.change(tr("Add camera %1").arg(plain(letter)), next);
    select(plain(camera.id));
}

QString CamerasController::goesWithCurrent() const {
    const rig::Camera* camera = current();
    if (camera == nullptr) return {};
    QStringList goes;
    const auto takes = std::count_if(rig().takes.begin(), rig().takes.end(), [&](const auto& take) {
        return rig::findShot(take, camera->id) != nullptr;
    });
    if (takes > 0)
        goes << counted(static_cast<int>(takes),
                        tr("its clip in one take, with what was measured and learned from it"),
                        tr("its clips in %1 takes, with what was measured and learned from them"));
    if (camera->savedFraming) goes << tr("its saved framing");
    const bool isPlaced =
        rig().plan && std::any_of(rig().plan->objects.begin(),
                                  rig().plan->objects.end(),
                                  [&](const rig::PlanObject& object) {
                                      return object.kind == rig::PlanKind::Camera &&
                                             object.cameraId == camera->id;
                                  });
    if (isPlaced) goes << tr("its place in the plan");
    QStringList lines;
    if (!goes.isEmpty()) lines << tr("With it go %1.").arg(goes.join(tr(" and ")));
    for (const rig::Camera& other : rig().cameras) {
        if (camera->id != rig().referenceId || other.id == camera->id) continue;
        lines << tr("It is the reference: camera %1 will be.").arg(plain(other.letter));
        break;
    }
    if (lines.isEmpty()) return {};
    lines << tr("Files stay where they are, and the other cameras keep their letters.");
    return lines.join(u'\n');
}

void CamerasController::removeCurrent() {
    const int index = currentIndex();
    if (index < 0) return;
    rig::Rig next = rig();
    const rig::Camera gone = next.cameras[static_cast<std::size_t>(index)];
    next.cameras.erase(next.cameras.begin() + index);
    for (rig::Take& take : next.takes) {
        take.shots.removeIf([&](const rig::Shot& shot) { return shot.cameraId == gone.id; });
    }
    if (next.plan) {
        std::erase_if(next.plan->objects, [&](const rig::PlanObject& object) {
            return object.kind == rig::PlanKind::Camera && object.cameraId == gone.id;
        });
    }
    rig::giveLetters(next);
    m_context.document.change(tr("Remove camera %1").arg(plain(gone.letter)), next);
    const auto& left = rig().cameras;
    if (!left.empty())
        select(plain(left[std::min(static_cast<std::size_t>(index), left.size() - 1)].id));
}

bool CamerasController::canMove(int by) const {
    const int target = currentIndex() + by;
    return currentIndex() >= 0 && target >= 0 && target < static_cast<int>(rig().cameras.size());
}

void CamerasController::moveCurrent(int by) {
    if (!canMove(by)) return;
    rig::Rig next = rig();
    const auto index = static_cast<std::size_t>(currentIndex());
    const QString id = plain(next.cameras[index].id);
    std::swap(next.cameras[index], next.cameras[index + static_cast<std::size_t>(by)]);
    rig::giveLetters(next);
    m_context.document.change(tr("Reorder cameras"), next);
    select(id);
}

void CamerasController::makeReference() {
    const rig::Camera* camera = current();
    if (camera == nullptr) return;
    rig::Rig next = rig();
    next.referenceId = camera->id;
    m_context.document.change(tr("Make camera %1 the reference").arg(plain(camera->letter)), next);
}

void CamerasController::setValue(const SheetRow& row,
                                 const QString& cameraId,
                                 const QVariant& value) {
    rig::Rig next = rig();
    std::string letter;
    for (rig::Camera& camera : next.cameras) {
        if (m_scope == EditScope::OneCamera && plain(camera.id) != cameraId) continue;
        // A name belongs to one camera.
        if (m_scope == EditScope::AllCameras && row.key == u"role"_s &&
            plain(camera.id) != cameraId)
            continue;
        if (const auto done = row.apply(camera, value); !done) {
            Q_EMIT refused(done.error());
            return;
        }
        letter = camera.letter;
    }
    m_context.document.change(m_scope == EditScope::AllCameras
                                  ? tr("All cameras: %1").arg(row.step)
                                  : tr("Camera %1: %2").arg(plain(letter), row.step),
                              next);
}

void CamerasController::copySettingsFrom(const QString& cameraId) {
    rig::Rig next = rig();
    const rig::Camera* from = rig::findCamera(next, cameraId.toStdString());
    const rig::Camera* to = current();
    if (from == nullptr || to == nullptr) return;
    const rig::Settings settings = from->settings;
    for (rig::Camera& camera : next.cameras) {
        const bool isMeant = m_scope == EditScope::AllCameras || camera.id == to->id;
        if (!isMeant || camera.id == from->id) continue;
        const std::string unknown = camera.settings.unknownFields;
        camera.settings = settings;
        camera.settings.unknownFields = unknown;
        rig::snapSettings(camera);
    }
    m_context.document.change(tr("Copy settings from camera %1").arg(plain(from->letter)), next);
}

base::Result<void> CamerasController::setControl(const std::string& control,
                                                 const std::string& values,
                                                 const std::string& perStep) {
    const rig::Camera* before = current();
    if (before == nullptr) return {};
    rig::Rig next = rig();
    rig::Camera& camera = *rig::findCamera(next, before->id);
    if (auto put = jobs::putSteps(control, values, camera.sheet); !put) return put;
    if (!perStep.empty()) {
        if (auto put = jobs::putPerStep(control, perStep, camera.sheet); !put) return put;
    }
    m_context.document.change(
        tr("Controls of camera %1: %2").arg(plain(camera.letter), plain(control)), next);
    return {};
}

void CamerasController::applyTemplate(const rig::BodyKind& kind) {
    const rig::Camera* camera = current();
    if (camera == nullptr) return;
    rig::Rig next = rig();
    rig::applyBodyKind(*rig::findCamera(next, camera->id), kind);
    m_context.document.change(tr("Camera %1: body").arg(plain(camera->letter)), next);
}

base::Result<void> CamerasController::saveTemplate(const QString& name) {
    const rig::Camera* camera = current();
    if (camera == nullptr) return {};
    const auto saved = rig::saveTemplate(rig::templateOf(*camera, name.trimmed().toStdString()),
                                         m_templateFolder.toStdString());
    if (!saved) return tl::unexpected(saved.error());
    return {};
}

base::Result<void> CamerasController::setChoice(const QString& step,
                                                const std::function<void(rig::Choices&)>& change) {
    rig::Rig next = rig();
    change(next.choices);
    for (const auto& field : rig::choiceFields().numbers) {
        if (auto valid = rig::checkField(field, next.choices.*field.value); !valid) return valid;
    }
    m_context.document.change(step, next);
    return {};
}

void CamerasController::setRegion(const rig::Region& region) {
    rig::Rig next = rig();
    rig::applyRegion(next, region);
    m_context.document.change(tr("Region"), next);
}

std::optional<rig::Settings> CamerasController::offerFor(const rig::Camera& camera) const {
    const auto offer = m_context.selection.offers().constFind(plain(camera.id));
    if (offer == m_context.selection.offers().constEnd() || *offer == camera.settings)
        return std::nullopt;
    return *offer;
}

void CamerasController::takeOffer(const QString& cameraId) {
    rig::Rig next = rig();
    rig::Camera* camera = rig::findCamera(next, cameraId.toStdString());
    if (camera == nullptr || !offerFor(*camera)) return;
    camera->settings = *offerFor(*camera);
    m_context.document.change(tr("Camera %1: settings from its clip").arg(plain(camera->letter)),
                              next);
    m_context.selection.dropOffer(cameraId);
}

void CamerasController::declineOffer(const QString& cameraId) {
    m_context.selection.dropOffer(cameraId);
}

}  // namespace rigmatch::app
