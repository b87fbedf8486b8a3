// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <functional>

#include "app/services/app_context.h"

namespace rigmatch::app {

/// What can be done to the cameras of the rig; every call is one undoable step.
class CamerasController : public QObject {
    Q_OBJECT
public:
    explicit CamerasController(AppContext& context, QObject* parent = nullptr);

    [[nodiscard]] const rig::Rig& rig() const { return m_context.document.rig(); }
    /// The camera being edited, or nullptr.
    [[nodiscard]] const rig::Camera* current() const;
    void select(const QString& cameraId);

    void addCamera();
    void removeCurrent();
    /// -1 up, +1 down.
    void moveCurrent(int by);
    void makeReference();
    /// Changes the current camera with `edit`; `text` names the step.
    void edit(const QString& text, const std::function<void(rig::Camera&)>& edit);

    [[nodiscard]] bool canAdd() const { return rig().cameras.size() < rig::kMostCameras; }
    [[nodiscard]] bool canMove(int by) const;

Q_SIGNALS:
    void changed();

private:
    [[nodiscard]] int currentIndex() const;

    AppContext& m_context;
};

}  // namespace rigmatch::app
