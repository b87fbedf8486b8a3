// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <functional>

#include "app/models/camera_sheet_model.h"
#include "app/services/app_context.h"
#include "rig/region.h"
#include "rig/user_files.h"

namespace rigmatch::app {

/// Which cameras an edit reaches.
enum class EditScope { OneCamera, AllCameras };

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
    /// What would go with the chosen camera, in words; empty where nothing would.
    [[nodiscard]] QString goesWithCurrent() const;
    void removeCurrent();
    /// -1 left, +1 right.
    void moveCurrent(int by);
    void makeReference();

    void setScope(EditScope scope) { m_scope = scope; }
    [[nodiscard]] EditScope scope() const { return m_scope; }
    /// Writes a value of the sheet to one camera or to all; those that do not have it take their
    /// nearest. Emits refused() where it is out of range.
    void setValue(const SheetRow& row, const QString& cameraId, const QVariant& value);
    /// Settings of another camera to the current one (or to all others), moved to allowed values.
    void copySettingsFrom(const QString& cameraId);
    void applyTemplate(const rig::BodyKind& kind);
    /// What a control of the current camera can be set to, and what one step of it does (empty: not
    /// known), in the words that jobs::putSteps() reads.
    [[nodiscard]] base::Result<void> setControl(const std::string& control,
                                                const std::string& values,
                                                const std::string& perStep);
    [[nodiscard]] base::Result<void> saveTemplate(const QString& name);
    [[nodiscard]] QString templateFolder() const { return m_templateFolder; }
    /// Mains, rate, voltage and units of a region, as one step.
    void setRegion(const rig::Region& region);
    [[nodiscard]] base::Result<void> setChoice(const QString& step,
                                               const std::function<void(rig::Choices&)>& change);

    /// Settings that a clip's metadata tells and the sheet does not; nothing: none open.
    [[nodiscard]] std::optional<rig::Settings> offerFor(const rig::Camera& camera) const;
    void takeOffer(const QString& cameraId);
    void declineOffer(const QString& cameraId);

    [[nodiscard]] bool canAdd() const { return rig().cameras.size() < rig::kMostCameras; }
    [[nodiscard]] bool canMove(int by) const;

Q_SIGNALS:
    void changed();
    void refused(const rigmatch::base::Error& error);

private:
    [[nodiscard]] int currentIndex() const;

    AppContext& m_context;
    EditScope m_scope = EditScope::OneCamera;
    QString m_templateFolder;
};

}  // namespace rigmatch::app
