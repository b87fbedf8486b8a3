// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <functional>
#include <memory>
#include <optional>

#include "app/services/app_context.h"
#include "plan/analysis.h"
#include "plan/edit.h"
#include "rig/plan_fields.h"
#include "rig/user_files.h"

namespace rigmatch::app {

/// What can be done on the plan of the set. A drag works on a draft and becomes one undoable step
/// when it ends; everything else is a step at once.
class SetController : public QObject {
    Q_OBJECT
public:
    explicit SetController(AppContext& context, QObject* parent = nullptr);
    ~SetController() override;

    [[nodiscard]] bool hasPlan() const { return m_shown.plan.has_value(); }
    /// The rig as it is shown, with what is being dragged. Without takes.
    [[nodiscard]] const rig::Rig& shown() const { return m_shown; }
    [[nodiscard]] const rig::SetPlan& plan() const { return *m_shown.plan; }
    /// Facts of what is shown; only with a plan.
    [[nodiscard]] const plan::SetAnalysis& analysis() const;
    [[nodiscard]] bool isDragging() const { return m_isDragging; }

    /// Ids of the chosen objects, the first chosen first.
    [[nodiscard]] const QStringList& selection() const { return m_selection; }
    [[nodiscard]] const rig::PlanObject* current() const;
    /// The rig's camera of an object, or nullptr.
    [[nodiscard]] const rig::Camera* cameraOf(const rig::PlanObject& object) const;
    void select(const QString& id);
    void toggle(const QString& id);
    /// The next object in the order of the plan, +1 or -1.
    void selectNeighbour(int by);

    void add(rig::PlanKind kind);
    void addCamera(const QString& cameraId);
    void removeSelected();
    void duplicateSelected();
    void align(plan::Alignment alignment);
    void rename(const QString& name);
    void setNumber(const rig::NumberField<rig::PlanObject>& field, double value);
    void setText(const rig::TextField<rig::PlanObject>& field, const QString& value);
    void setTruth(const rig::TruthField<rig::PlanObject>& field, bool value);
    void aimAt(const QString& personId);
    /// Puts the nearest owned lens on the chosen camera and frames its person.
    void frameShot();
    /// Changes the plan as one step; refused with a reason where it does not hold.
    [[nodiscard]] base::Result<void> edit(const QString& text,
                                          const std::function<void(rig::SetPlan&)>& change);
    [[nodiscard]] base::Result<void> editChoices(const QString& text,
                                                 const std::function<void(rig::Choices&)>& change);

    void beginDrag();
    /// Moves the chosen objects from where they were when the drag began; snapped to the grid.
    void dragBy(double dx, double dy, double dz, bool isSnapped);
    void dragAim(double x, double z, bool isSnapped);
    void dragFacing(double degrees);
    void endDrag(const QString& text);
    void cancelDrag();
    /// Arrow keys: one step of `metres`.
    void nudge(double dx, double dy, double dz);

    [[nodiscard]] QString layoutFolder() const { return m_layoutFolder; }
    void startFrom(const rig::Layout& layout);
    [[nodiscard]] base::Result<void> saveLayout(const QString& title);

Q_SIGNALS:
    /// Plan, draft or rig changed.
    void changed();
    void selectionChanged();
    /// A value was refused; shown at the field.
    void refused(const base::Error& error);

private:
    void takeOver();
    void commit(const QString& text, const rig::SetPlan& next, int group = -1);
    void commitChecked(const QString& text, const std::function<void(rig::SetPlan&)>& change);

    AppContext& m_context;
    rig::Rig m_shown;
    mutable std::unique_ptr<plan::SetAnalysis> m_analysis;
    QStringList m_selection;
    bool m_isDragging = false;
    std::optional<rig::SetPlan> m_beforeDrag;
    QString m_layoutFolder;
    int m_nudgeGroup = -1;
    QString m_nudgedId;
};

}  // namespace rigmatch::app
