// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/cameras_controller.h"

#include "app/services/texts.h"
#include "rig/bodies.h"

namespace rigmatch::app {

CamerasController::CamerasController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
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
    rig::renumber(next);
    const std::string letter = next.cameras.back().letter;
    next.cameras.back().role = tr("camera %1").arg(plain(letter)).toStdString();
    m_context.document.change(tr("Add camera %1").arg(plain(letter)), next);
    select(plain(camera.id));
}

void CamerasController::removeCurrent() {
    const int index = currentIndex();
    if (index < 0) return;
    rig::Rig next = rig();
    const rig::Camera gone = next.cameras[static_cast<std::size_t>(index)];
    next.cameras.erase(next.cameras.begin() + index);
    for (rig::Take& take : next.takes) {
        std::erase_if(take.shots, [&](const rig::Shot& shot) { return shot.cameraId == gone.id; });
    }
    rig::renumber(next);
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
    rig::renumber(next);
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

void CamerasController::edit(const QString& text, const std::function<void(rig::Camera&)>& edit) {
    const rig::Camera* camera = current();
    if (camera == nullptr) return;
    rig::Rig next = rig();
    edit(*rig::findCamera(next, camera->id));
    m_context.document.change(tr("Camera %1: %2").arg(plain(camera->letter), text), next);
}

}  // namespace rigmatch::app
