// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/set/set_controller.h"

#include <QStandardPaths>
#include <algorithm>
#include <cmath>

#include "app/services/texts.h"
#include "plan/shot_size.h"
#include "rig/bodies.h"
#include "rig/plan_fields.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;
using rig::PlanKind;
using rig::PlanObject;

SetController::SetController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context) {
    m_layoutFolder = context.settings.value(u"folders/layouts"_s).toString();
    if (m_layoutFolder.isEmpty()) {
        m_layoutFolder =
            QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + u"/layouts"_s;
    }
    connect(&context.document, &RigDocument::rigChanged, this, &SetController::takeOver);
    takeOver();
}

SetController::~SetController() = default;

void SetController::takeOver() {
    m_analysis.reset();
    m_isDragging = false;
    m_beforeDrag.reset();
    m_shown = m_context.document.rig();
    m_shown.takes.clear();
    const qsizetype before = m_selection.size();
    m_selection.removeIf([this](const QString& id) {
        return !hasPlan() || rig::findObject(plan(), id.toStdString()) == nullptr;
    });
    if (m_selection.size() != before) Q_EMIT selectionChanged();
    Q_EMIT changed();
}

const plan::SetAnalysis& SetController::analysis() const {
    if (!m_analysis) m_analysis = std::make_unique<plan::SetAnalysis>(m_shown);
    return *m_analysis;
}

const PlanObject* SetController::current() const {
    if (!hasPlan() || m_selection.isEmpty()) return nullptr;
    return rig::findObject(plan(), m_selection.front().toStdString());
}

const rig::Camera* SetController::cameraOf(const PlanObject& object) const {
    return object.kind == PlanKind::Camera ? rig::findCamera(m_shown, object.cameraId) : nullptr;
}

void SetController::select(const QString& id) {
    const QStringList next = id.isEmpty() ? QStringList() : QStringList{id};
    if (next == m_selection) return;
    m_selection = next;
    Q_EMIT selectionChanged();
}

void SetController::toggle(const QString& id) {
    if (!m_selection.removeOne(id)) m_selection << id;
    Q_EMIT selectionChanged();
}

void SetController::selectNeighbour(int by) {
    if (!hasPlan() || plan().objects.empty()) return;
    const auto& objects = plan().objects;
    const int count = static_cast<int>(objects.size());
    int index = by > 0 ? -1 : count;
    for (int i = 0; i < count && !m_selection.isEmpty(); ++i) {
        if (plain(objects[static_cast<std::size_t>(i)].id) == m_selection.front()) index = i;
    }
    select(plain(objects[static_cast<std::size_t>((index + by + count) % count)].id));
}

void SetController::commit(const QString& text, const rig::SetPlan& next, int group) {
    rig::Rig rig = m_context.document.rig();
    rig.plan = next;
    m_context.document.change(text, rig, group);
}

base::Result<void> SetController::edit(const QString& text,
                                       const std::function<void(rig::SetPlan&)>& change) {
    if (!hasPlan()) return {};
    rig::SetPlan next = plan();
    change(next);
    if (auto valid = rig::checkPlan(next); !valid) return valid;
    commit(text, next);
    return {};
}

base::Result<void> SetController::editChoices(const QString& text,
                                              const std::function<void(rig::Choices&)>& change) {
    rig::Rig rig = m_context.document.rig();
    change(rig.choices);
    for (const auto& field : rig::choiceFields().numbers) {
        if (auto valid = rig::checkField(field, rig.choices.*field.value); !valid) return valid;
    }
    m_context.document.change(text, rig);
    return {};
}

void SetController::commitChecked(const QString& text,
                                  const std::function<void(rig::SetPlan&)>& change) {
    if (const auto done = edit(text, change); !done) Q_EMIT refused(done.error());
}

void SetController::add(PlanKind kind) {
    if (!hasPlan()) return;
    if (kind == PlanKind::Camera) {
        for (const rig::Camera& camera : m_shown.cameras) {
            if (rig::findPlanCamera(plan(), camera.id) == nullptr)
                return addCamera(plain(camera.id));
        }
        return addCamera(QString());
    }
    const PlanObject made =
        plan::newObject(plan(), kind, 0.5 * plan().widthMetres, 0.5 * plan().depthMetres);
    commitChecked(tr("Add %1").arg(plain(made.name)),
                  [&](rig::SetPlan& next) { next.objects.push_back(made); });
    select(plain(made.id));
}

void SetController::addCamera(const QString& cameraId) {
    rig::Rig rig = m_context.document.rig();
    std::string id = cameraId.toStdString();
    if (id.empty()) {
        if (rig.cameras.size() >= rig::kMostCameras) {
            const auto full = base::fail(base::ErrorCode::OutOfRange,
                                         base::say("rig.noMoreCameras"),
                                         base::say("rig.hasSixteen"),
                                         base::say("rig.removeOneFirst"));
            Q_EMIT refused(full.value());
            return;
        }
        rig::Camera camera;
        camera.id = rig::freshCameraId(rig);
        rig::applyBodyKind(camera, rig::bodyKinds().front());
        id = camera.id;
        rig.cameras.push_back(camera);
        rig::giveLetters(rig);
        rig.cameras.back().role =
            tr("camera %1").arg(plain(rig.cameras.back().letter)).toStdString();
    }
    PlanObject place = plan::newObject(
        *rig.plan, PlanKind::Camera, 0.5 * rig.plan->widthMetres, 0.8 * rig.plan->depthMetres);
    const rig::Camera* camera = rig::findCamera(rig, id);
    place.cameraId = id;
    place.name = camera->role;
    rig.plan->objects.push_back(place);
    m_context.document.change(tr("Add camera %1 to the plan").arg(plain(camera->letter)), rig);
    select(plain(place.id));
}

void SetController::removeSelected() {
    const QStringList ids = m_selection;
    if (ids.isEmpty()) return;
    commitChecked(ids.size() == 1 ? tr("Remove %1").arg(plain(plan::nameOf(*current())))
                                  : tr("Remove %1 objects").arg(ids.size()),
                  [&](rig::SetPlan& next) {
                      for (const QString& id : ids) plan::removeObject(next, id.toStdString());
                  });
}

void SetController::duplicateSelected() {
    std::vector<std::string> copies;
    const QStringList ids = m_selection;
    commitChecked(tr("Duplicate"), [&](rig::SetPlan& next) {
        std::vector<std::string> from;
        for (const QString& id : ids) from.push_back(id.toStdString());
        copies = plan::duplicateObjects(next, from);
    });
    if (copies.empty()) return;
    m_selection.clear();
    for (const std::string& id : copies) m_selection << plain(id);
    Q_EMIT selectionChanged();
}

void SetController::align(plan::Alignment alignment) {
    std::vector<std::string> ids;
    for (const QString& id : m_selection) ids.push_back(id.toStdString());
    commitChecked(alignment == plan::Alignment::Mirror ? tr("Mirror") : tr("Align"),
                  [&](rig::SetPlan& next) { plan::alignObjects(next, ids, alignment); });
}

void SetController::rename(const QString& name) {
    const PlanObject* object = current();
    if (object == nullptr || name.trimmed().isEmpty()) return;
    const std::string id = object->id;
    commitChecked(tr("Rename"), [&](rig::SetPlan& next) {
        rig::findObject(next, id)->name = name.trimmed().toStdString();
    });
}

void SetController::setNumber(const rig::NumberField<PlanObject>& field, double value) {
    const PlanObject* object = current();
    if (object == nullptr) return;
    if (const auto valid = rig::checkField(field, value); !valid) {
        Q_EMIT refused(valid.error());
        return;
    }
    const std::string id = object->id;
    const double x = field.value == &PlanObject::xMetres ? value : object->xMetres;
    const double z = field.value == &PlanObject::zMetres ? value : object->zMetres;
    commitChecked(
        tr("%1: %2").arg(plain(plan::nameOf(*object)), fromCore(field.title)),
        [&](rig::SetPlan& next) {
            PlanObject& changed = *rig::findObject(next, id);
            // Places and heights carry along what follows them; beyond the walls is left to
            // the check, which says why.
            const bool isInside = x <= next.widthMetres && z <= next.depthMetres;
            if (field.value == &PlanObject::xMetres || field.value == &PlanObject::zMetres) {
                if (isInside)
                    plan::moveObject(next, id, x, z);
                else
                    changed.*field.value = value;
            } else if (field.value == &PlanObject::heightMetres && value <= next.heightMetres) {
                plan::raiseObject(next, id, value);
            } else {
                changed.*field.value = value;
            }
        });
}

void SetController::setText(const rig::TextField<PlanObject>& field, const QString& value) {
    const PlanObject* object = current();
    if (object == nullptr) return;
    const std::string id = object->id;
    commitChecked(tr("%1: %2").arg(plain(plan::nameOf(*object)), fromCore(field.title)),
                  [&](rig::SetPlan& next) {
                      PlanObject& changed = *rig::findObject(next, id);
                      changed.*field.value = value.toStdString();
                      // Usual losses of glass (sources 3.9); the number stays editable.
                      if (field.value == &PlanObject::glass) {
                          changed.glassStops = value == u"prompter"_s     ? 0.67
                                               : value == u"protective"_s ? 0.12
                                               : value == u"diffusion"_s  ? 0.32
                                                                          : 0.0;
                      }
                  });
}

void SetController::setTruth(const rig::TruthField<PlanObject>& field, bool value) {
    const PlanObject* object = current();
    if (object == nullptr) return;
    const std::string id = object->id;
    commitChecked(tr("%1: %2").arg(plain(plan::nameOf(*object)), fromCore(field.title)),
                  [&](rig::SetPlan& next) {
                      PlanObject& changed = *rig::findObject(next, id);
                      changed.*field.value = value;
                      if (field.value != &PlanObject::isStanding) return;
                      // Who stands up has the eyes about 0.40 m higher (common practice).
                      const double eyes = changed.heightMetres + (value ? 0.40 : -0.40);
                      plan::raiseObject(next, id, std::clamp(eyes, 0.4, 2.6));
                  });
}

void SetController::aimAt(const QString& personId) {
    const PlanObject* object = current();
    if (object == nullptr) return;
    const std::string id = object->id;
    const rig::Camera* camera = cameraOf(*object);
    commitChecked(tr("Aim %1").arg(plain(plan::nameOf(*object))), [&](rig::SetPlan& next) {
        if (personId.isEmpty()) {
            rig::findObject(next, id)->targetId.clear();
        } else {
            plan::aimAtPerson(next, camera, id, personId.toStdString());
        }
    });
}

void SetController::frameShot() {
    const PlanObject* place = current();
    const rig::Camera* camera = place == nullptr ? nullptr : cameraOf(*place);
    if (camera == nullptr) return;
    rig::Rig rig = m_context.document.rig();
    const plan::PlacedCamera* placed = analysis().cameraOf(place->id);
    if (placed == nullptr || !placed->view) return;
    const auto width = plan::wantedWidth(plan(), *place, *placed->view);
    if (!width) return;
    const plan::LensChoice choice = plan::chooseLens(plan(), *placed->view, *width);
    rig::Camera& changed = *rig::findCamera(rig, camera->id);
    if (choice.chosenMm) {
        rig::Lens lens;
        lens.focalLengthMm = *choice.chosenMm;
        lens.largestAperture = choice.largestAperture;
        lens.name = QStringLiteral("%1 mm f/%2")
                        .arg(*choice.chosenMm, 0, 'f', 0)
                        .arg(choice.largestAperture, 0, 'f', 1)
                        .toStdString();
        rig::applyLens(changed, lens);
    }
    if (placed->subject != nullptr && !place->targetId.empty()) {
        plan::aimAtPerson(*rig.plan, &changed, place->id, placed->subject->id);
    }
    m_context.document.change(tr("Frame camera %1").arg(plain(camera->letter)), rig);
}

void SetController::beginDrag() {
    if (!hasPlan() || m_isDragging) return;
    m_isDragging = true;
    m_beforeDrag = plan();
}

void SetController::dragBy(double dx, double dy, double dz, bool isSnapped) {
    if (!m_beforeDrag) return;
    rig::SetPlan next = *m_beforeDrag;
    for (const QString& each : m_selection) {
        const std::string id = each.toStdString();
        const PlanObject* before = rig::findObject(*m_beforeDrag, id);
        if (before == nullptr) continue;
        const auto place = [&](double value) {
            return isSnapped ? plan::snapped(next, value) : value;
        };
        if (dx != 0.0 || dz != 0.0) {
            plan::moveObject(next,
                             id,
                             dx == 0.0 ? before->xMetres : place(before->xMetres + dx),
                             dz == 0.0 ? before->zMetres : place(before->zMetres + dz));
        }
        if (dy != 0.0) plan::raiseObject(next, id, place(before->heightMetres + dy));
    }
    m_shown.plan = next;
    m_analysis.reset();
    Q_EMIT changed();
}

void SetController::dragAim(double x, double z, bool isSnapped) {
    if (!m_beforeDrag || m_selection.isEmpty()) return;
    rig::SetPlan next = *m_beforeDrag;
    plan::aimObject(next,
                    m_selection.front().toStdString(),
                    isSnapped ? plan::snapped(next, x) : x,
                    isSnapped ? plan::snapped(next, z) : z);
    if (!rig::checkPlan(next)) return;
    m_shown.plan = next;
    m_analysis.reset();
    Q_EMIT changed();
}

void SetController::dragFacing(double degrees) {
    if (!m_beforeDrag || m_selection.isEmpty()) return;
    rig::SetPlan next = *m_beforeDrag;
    if (PlanObject* object = rig::findObject(next, m_selection.front().toStdString())) {
        object->facingDegrees = std::round(degrees);
    }
    m_shown.plan = next;
    m_analysis.reset();
    Q_EMIT changed();
}

void SetController::endDrag(const QString& text) {
    if (!m_isDragging) return;
    const rig::SetPlan next = plan();
    m_isDragging = false;
    const rig::SetPlan before = *m_beforeDrag;
    m_beforeDrag.reset();
    if (const auto valid = rig::checkPlan(next); !valid) {
        m_shown.plan = before;
        m_analysis.reset();
        Q_EMIT refused(valid.error());
        Q_EMIT changed();
        return;
    }
    if (next == before) {
        Q_EMIT changed();
        return;
    }
    commit(text, next);
}

void SetController::cancelDrag() {
    if (!m_isDragging) return;
    m_shown.plan = *m_beforeDrag;
    m_isDragging = false;
    m_beforeDrag.reset();
    m_analysis.reset();
    Q_EMIT changed();
}

void SetController::nudge(double dx, double dy, double dz) {
    if (!hasPlan() || m_selection.isEmpty()) return;
    // A row of arrow presses on the same things is one step.
    const QString ids = m_selection.join(u' ');
    if (m_nudgedId != ids) m_nudgeGroup = m_context.document.newGroup();
    m_nudgedId = ids;
    rig::SetPlan next = plan();
    for (const QString& each : m_selection) {
        const std::string id = each.toStdString();
        const PlanObject* object = rig::findObject(next, id);
        if (object == nullptr) continue;
        if (dx != 0.0 || dz != 0.0)
            plan::moveObject(next, id, object->xMetres + dx, object->zMetres + dz);
        if (dy != 0.0) plan::raiseObject(next, id, object->heightMetres + dy);
    }
    if (const auto valid = rig::checkPlan(next); !valid) {
        Q_EMIT refused(valid.error());
        return;
    }
    commit(tr("Move"), next, m_nudgeGroup);
}

void SetController::startFrom(const rig::Layout& layout) {
    m_context.document.change(tr("Start from \"%1\"").arg(plain(layout.title)),
                              rig::withLayout(m_context.document.rig(), layout));
    select(QString());
}

base::Result<void> SetController::saveLayout(const QString& title) {
    if (!hasPlan()) return {};
    rig::Layout layout;
    layout.title = title.trimmed().toStdString();
    layout.description = tr("Saved from %1").arg(plain(m_shown.name)).toStdString();
    layout.plan = plan();
    layout.cameras = m_shown.cameras;
    const auto saved = rig::saveLayout(layout, m_layoutFolder.toStdString());
    if (!saved) return tl::unexpected(saved.error());
    return {};
}

}  // namespace rigmatch::app
