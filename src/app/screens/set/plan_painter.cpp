// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/set/plan_painter.h"

#include <algorithm>
#include <cmath>

#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "plan/sight.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using plan::Vec;
using rig::PlanKind;
using rig::PlanObject;

const QColor kWallLine(150, 150, 150);
const QColor kGridLine(58, 58, 58);
const QColor kThing(84, 84, 84);
const QColor kThingLine(128, 128, 128);
const QColor kSkin(196, 196, 196);
const QColor kLamp(236, 236, 236);
constexpr double kBadge = 20.0;
constexpr double kLampRadius = 8.0;
constexpr double kConeShare = 1.6;  // of the focus distance

bool hasFacing(PlanKind kind) {
    return kind != PlanKind::Camera && kind != PlanKind::Light && kind != PlanKind::Window &&
           kind != PlanKind::Door;
}

}  // namespace

std::optional<QPointF> planHandle(const PlanObject& object, const PlanScale& scale) {
    if (object.kind == PlanKind::Camera || object.kind == PlanKind::Light) {
        return scale.toWidget(plan::aimOf(object));
    }
    if (scale.side == PlanSide::Side || !hasFacing(object.kind)) return std::nullopt;
    const Vec front =
        plan::placeOf(object) + 34.0 / scale.pxPerMetre * plan::facingVector(object.facingDegrees);
    return scale.toWidget(front);
}

PlanPainter::PlanPainter(QPainter& painter, const plan::SetAnalysis& set, const PlanScale& scale)
    : m_painter(painter), m_set(set), m_scale(scale) {
    m_painter.setRenderHint(QPainter::Antialiasing);
}

void PlanPainter::paintRoom() {
    paintGrid();
    const rig::SetPlan& plan = m_set.plan();
    m_painter.setPen(QPen(kWallLine, 3));
    m_painter.setBrush(Qt::NoBrush);
    m_painter.drawRect(QRectF(m_scale.toWidget({0, plan.heightMetres, 0}),
                              m_scale.toWidget({plan.widthMetres, 0, plan.depthMetres})));
    paintScaleBar();
}

void PlanPainter::paintGrid() {
    const rig::SetPlan& plan = m_set.plan();
    const double step = plan.isInFeet ? 3.0 * 0.3048 : 1.0;
    m_painter.setPen(QPen(kGridLine, 1));
    const bool isAbove = m_scale.side == PlanSide::Above;
    const double across = isAbove ? plan.widthMetres : plan.depthMetres;
    const double down = isAbove ? plan.depthMetres : plan.heightMetres;
    const auto at = [&](double a, double d) {
        return isAbove ? m_scale.toWidget({a, 0, d}) : m_scale.toWidget({0, d, a});
    };
    for (double a = step; a < across; a += step) m_painter.drawLine(at(a, 0), at(a, down));
    for (double d = step; d < down; d += step) m_painter.drawLine(at(0, d), at(across, d));
}

void PlanPainter::paintScaleBar() {
    const bool isInFeet = m_set.plan().isInFeet;
    const double length = (isInFeet ? 3.0 * 0.3048 : 1.0) * m_scale.pxPerMetre;
    const QRectF frame = m_painter.viewport();
    const QPointF start(frame.left() + 14, frame.bottom() - 12);
    m_painter.setPen(QPen(theme::kDim, 1.5));
    m_painter.drawLine(start, start + QPointF(length, 0));
    m_painter.drawLine(start + QPointF(0, -4), start + QPointF(0, 4));
    m_painter.drawLine(start + QPointF(length, -4), start + QPointF(length, 4));
    m_painter.setFont(theme::font(11));
    m_painter.drawText(start + QPointF(length + 8, 4), isInFeet ? u"3 ft"_s : u"1 m"_s);
}

void PlanPainter::paintAxisOfAction() {
    const auto people = plan::objectsOf(m_set.plan(), PlanKind::Person);
    if (people.size() < 2 || m_scale.side == PlanSide::Side) return;
    const Vec from = plan::placeOf(*people[0]);
    const Vec along = (plan::placeOf(*people[1]) - from) * 0.6;
    m_painter.setPen(QPen(theme::kFaint, 1, Qt::DashDotLine));
    m_painter.drawLine(m_scale.toWidget(from - along),
                       m_scale.toWidget(from + along / 0.6 + along));
}

void PlanPainter::paintObjects(const QStringList& selection) {
    const auto& objects = m_set.plan().objects;
    const auto isSelected = [&](const PlanObject& object) {
        return selection.contains(plain(object.id));
    };
    for (const plan::PlacedCamera& camera : m_set.cameras()) {
        if (!isSelected(*camera.place)) paintCone(camera, false);
    }
    for (const plan::PlacedCamera& camera : m_set.cameras()) {
        if (isSelected(*camera.place)) paintCone(camera, true);
    }
    for (const PlanObject& object : objects) {
        const bool isPoint = object.kind == PlanKind::Person || object.kind == PlanKind::Camera ||
                             object.kind == PlanKind::Light;
        if (!isPoint) paintSurface(object, isSelected(object));
    }
    paintAxisOfAction();
    for (const PlanObject& object : objects) {
        if (object.kind == PlanKind::Light) paintLight(object, isSelected(object));
    }
    for (const PlanObject& object : objects) {
        if (object.kind == PlanKind::Person) paintPerson(object, isSelected(object));
    }
    for (const plan::PlacedCamera& camera : m_set.cameras())
        paintCamera(camera, isSelected(*camera.place));
    paintNames();
    if (selection.isEmpty()) return;
    if (const PlanObject* first = rig::findObject(m_set.plan(), selection.front().toStdString())) {
        paintHandle(*first);
    }
}

void PlanPainter::paintCone(const plan::PlacedCamera& camera, bool isSelected) {
    if (!camera.view) return;
    const plan::CameraView& view = *camera.view;
    const bool isAbove = m_scale.side == PlanSide::Above;
    // The outline of what the frame takes in: its corners, out to the wall or past the subject.
    QPolygonF cone;
    const QPointF tip = m_scale.toWidget(view.position());
    cone << tip;
    const double reach = kConeShare * view.focusMetres();
    for (int i = 0; i <= 12; ++i) {
        const double share = i / 12.0;
        const Vec direction = isAbove ? view.direction({share, 0.5}) : view.direction({0.5, share});
        const double wall = plan::roomHit(m_set.plan(), view.position(), direction).distance;
        cone << m_scale.toWidget(view.position() + std::min(reach, wall) * direction);
    }
    const bool isDown = std::abs(view.forward().y()) > 0.7;
    if (isAbove && isDown) {
        cone.clear();
        for (const auto& corner : {plan::PicturePoint{0, 0}, {1, 0}, {1, 1}, {0, 1}}) {
            cone << m_scale.toWidget(view.position() + view.focusMetres() * view.direction(corner));
        }
    }
    QColor colour = theme::cameraColour(plain(camera.camera->letter));
    m_painter.setPen(QPen(colour, isSelected ? 1.5 : 0.7, isDown ? Qt::DashLine : Qt::SolidLine));
    colour.setAlpha(isSelected ? 56 : 22);
    m_painter.setBrush(isAbove && isDown && !isSelected ? QBrush(Qt::NoBrush) : QBrush(colour));
    m_painter.drawPolygon(cone);
}

QPolygonF PlanPainter::outlineOf(const PlanObject& object) const {
    if (object.kind == PlanKind::Chart && m_scale.side == PlanSide::Side) {
        const Vec middle = plan::placeOf(object);
        return QPolygonF(QRectF(m_scale.toWidget(middle) - QPointF(3, 10), QSizeF(6, 20)));
    }
    const double depth = std::max({object.depthMetres, 5.0 / m_scale.pxPerMetre});
    const Vec across = 0.5 * object.widthMetres * plan::facingVector(object.facingDegrees + 90.0);
    const Vec along = 0.5 * depth * plan::facingVector(object.facingDegrees);
    const Vec middle = plan::placeOf(object);
    if (m_scale.side == PlanSide::Above) {
        return {m_scale.toWidget(middle - across - along),
                m_scale.toWidget(middle + across - along),
                m_scale.toWidget(middle + across + along),
                m_scale.toWidget(middle - across + along)};
    }
    const double half =
        std::max(std::abs(across.z()) + std::abs(along.z()), 2.5 / m_scale.pxPerMetre);
    return {m_scale.toWidget({0, object.heightMetres, object.zMetres - half}),
            m_scale.toWidget({0, object.heightMetres, object.zMetres + half}),
            m_scale.toWidget({0, object.heightMetres + object.tallMetres, object.zMetres + half}),
            m_scale.toWidget({0, object.heightMetres + object.tallMetres, object.zMetres - half})};
}

void PlanPainter::paintSurface(const PlanObject& object, bool isSelected) {
    const QPolygonF outline = outlineOf(object);
    QColor fill = kThing;
    QPen pen(isSelected ? theme::kFocus : kThingLine, isSelected ? 2 : 1);
    if (object.kind == PlanKind::Window) {
        fill = object.isBlackedOut ? QColor(40, 40, 40) : QColor(214, 214, 214);
    } else if (object.kind == PlanKind::Door) {
        fill = QColor(96, 96, 96);
    } else if (object.kind == PlanKind::Flag) {
        fill = QColor(14, 14, 14);
    } else if (object.kind == PlanKind::Bounce) {
        fill = QColor(240, 240, 240);
    } else if (object.kind == PlanKind::Riser) {
        fill = QColor(60, 60, 60);
    } else if (object.kind == PlanKind::Prop) {
        fill = QColor(100, 100, 100);
    }
    fill.setAlpha(object.kind == PlanKind::Table || object.kind == PlanKind::Riser ? 150 : 230);
    m_painter.setPen(pen);
    m_painter.setBrush(fill);
    m_painter.drawPolygon(outline);
    if (object.kind == PlanKind::Chart) m_bodies.append(outline.boundingRect());
    const bool isLarge = object.kind != PlanKind::Table || object.widthMetres >= 0.8;
    const bool isNamed =
        isSelected || (isLarge && object.kind != PlanKind::Prop && object.kind != PlanKind::Door);
    if (isNamed) {
        const QRectF box = outline.boundingRect();
        const double below = object.kind == PlanKind::Table   ? box.bottom() - 19
                             : object.kind == PlanKind::Chart ? box.top() - 19
                                                              : box.bottom();
        addName({box.center().x(), below}, plain(plan::nameOf(object)), isSelected);
    }
}

void PlanPainter::paintPerson(const PlanObject& person, bool isSelected) {
    const QPointF at = m_scale.toWidget(plan::placeOf(person));
    const double radius = std::max(9.0, 0.14 * m_scale.pxPerMetre);
    m_painter.setPen(QPen(isSelected ? theme::kFocus : QColor(30, 30, 30), isSelected ? 2.5 : 1));
    m_painter.setBrush(kSkin);
    if (m_scale.side == PlanSide::Above) {
        const Vec forward = plan::facingVector(person.facingDegrees);
        const QPointF front = QPointF(forward.x(), forward.z());
        const QPointF side(-front.y(), front.x());
        m_painter.drawPolygon(QPolygonF{at + 1.75 * radius * front,
                                        at + 0.6 * radius * front + 0.75 * radius * side,
                                        at + 0.6 * radius * front - 0.75 * radius * side});
    } else {
        const QPointF floor = m_scale.toWidget({0, 0, person.zMetres});
        m_painter.save();
        m_painter.setPen(QPen(kThingLine, 3));
        m_painter.drawLine(at, floor);
        m_painter.restore();
    }
    m_painter.drawEllipse(at, radius, radius);
    m_bodies.append(QRectF(at - QPointF(radius, radius), QSizeF(2 * radius, 2 * radius)));
    const bool isAbove = m_scale.side == PlanSide::Above;
    addName(at - QPointF(0, radius + (isAbove ? 20 : 18)),
            plain(plan::nameOf(person)),
            isSelected,
            NameRank::Person);
}

void PlanPainter::paintLight(const PlanObject& light, bool isSelected) {
    const QPointF at = m_scale.toWidget(plan::placeOf(light));
    const QPointF aim = m_scale.toWidget(plan::aimOf(light));
    const bool isShining = light.isOn && light.dimPercent > 0.0;
    QColor line = isShining ? kLamp : theme::kFaint;
    if (isSelected || isShining) {
        line.setAlpha(isSelected ? 230 : 90);
        m_painter.setPen(QPen(line, isSelected ? 1.5 : 1, Qt::DashLine));
        if (light.lightType != "practical lamp") m_painter.drawLine(at, aim);
    }
    m_painter.setPen(QPen(isSelected ? theme::kFocus : isShining ? kLamp : theme::kFaint, 2));
    m_painter.setBrush(QColor(52, 52, 52));
    m_painter.drawEllipse(at, kLampRadius, kLampRadius);
    m_bodies.append(
        QRectF(at, QSizeF()).adjusted(-kLampRadius, -kLampRadius, kLampRadius, kLampRadius));
    if (isShining) {
        m_painter.setBrush(kLamp);
        m_painter.setPen(Qt::NoPen);
        m_painter.drawEllipse(at, 3.0, 3.0);
    }
    if (m_scale.side == PlanSide::Side && light.mount == "stand") {
        m_painter.setPen(QPen(kThingLine, 1));
        m_painter.drawLine(at + QPointF(0, kLampRadius), m_scale.toWidget({0, 0, light.zMetres}));
    }
    QString name = plain(plan::nameOf(light));
    if (!light.isOn) name = QCoreApplication::translate("PlanPainter", "%1, off").arg(name);
    addName(at + QPointF(0, kLampRadius + 2), name, isSelected);
}

void PlanPainter::paintCamera(const plan::PlacedCamera& camera, bool isSelected) {
    const QPointF at = m_scale.toWidget(plan::placeOf(*camera.place));
    const QRectF badge(at - QPointF(0.5 * kBadge, 0.5 * kBadge), QSizeF(kBadge, kBadge));
    if (isSelected) {
        m_painter.setPen(QPen(theme::kFocus, 2));
        m_painter.setBrush(Qt::NoBrush);
        m_painter.drawRoundedRect(badge.adjusted(-4, -4, 4, 4), 5, 5);
    }
    if (m_scale.side == PlanSide::Side) {
        m_painter.setPen(QPen(kThingLine, 1));
        // Over a table it hangs, elsewhere it stands.
        const Vec axis = plan::aimOf(*camera.place) - plan::placeOf(*camera.place);
        const bool hangs = axis.y() < -0.7 * axis.norm();
        const double end = hangs ? m_set.plan().heightMetres : 0.0;
        m_painter.drawLine(at, m_scale.toWidget({0, end, camera.place->zMetres}));
    }
    theme::paintBadge(m_painter, badge, plain(camera.camera->letter));
    m_bodies.append(badge);
}

void PlanPainter::paintHandle(const PlanObject& object) {
    const auto handle = planHandle(object, m_scale);
    if (!handle) return;
    m_painter.setPen(QPen(theme::kFocus, 1, Qt::DotLine));
    m_painter.drawLine(m_scale.toWidget(plan::placeOf(object)), *handle);
    m_painter.setPen(QPen(theme::kFocus, 2));
    m_painter.setBrush(QColor(48, 48, 48));
    m_painter.drawEllipse(*handle, 6, 6);
}

void PlanPainter::addName(const QPointF& below,
                          const QString& name,
                          bool isSelected,
                          NameRank rank) {
    m_names.append({below, name, isSelected, rank});
}

/// The place nearest to the wanted one where no other name lies and least is covered.
QRectF PlanPainter::placeFor(const QRectF& wanted) const {
    const QRectF frame = QRectF(m_painter.viewport()).adjusted(2, 2, -2, -2);
    const auto covered = [](const QRectF& box, const QVector<QRectF>& others) {
        double area = 0.0;
        for (const QRectF& other : others) {
            const QRectF both = box.intersected(other);
            area += both.width() * both.height();
        }
        return area;
    };
    QRectF best = wanted;
    double least = 1e18;
    for (const double down : {0.0, 1.0, -1.0, 2.0, -2.0, 3.0, -3.0}) {
        for (const double aside : {0.0, 0.25, -0.25, 0.5, -0.5, 1.0, -1.0}) {
            QRectF box =
                wanted.translated(aside * (wanted.width() + 8.0), down * (wanted.height() + 2.0));
            box.moveLeft(std::clamp(
                box.left(), frame.left(), std::max(frame.left(), frame.right() - box.width())));
            box.moveTop(std::clamp(
                box.top(), frame.top(), std::max(frame.top(), frame.bottom() - box.height())));
            const double far = std::hypot(box.center().x() - wanted.center().x(),
                                          box.center().y() - wanted.center().y());
            const double cost =
                100.0 * covered(box, m_nameBoxes) + 2.0 * covered(box, m_bodies) + 3.0 * far;
            if (cost < least) {
                least = cost;
                best = box;
            }
        }
    }
    return best;
}

/// Over all else; what is chosen first, then people, so that they stand where they are looked for.
void PlanPainter::paintNames() {
    std::stable_sort(m_names.begin(), m_names.end(), [](const Name& a, const Name& b) {
        if (a.isSelected != b.isSelected) return a.isSelected;
        return a.rank < b.rank;
    });
    for (const Name& name : m_names) {
        m_painter.setFont(theme::font(11, name.isSelected ? QFont::DemiBold : QFont::Normal));
        const QFontMetrics metrics = m_painter.fontMetrics();
        const QString text = metrics.elidedText(name.text, Qt::ElideRight, 130);
        const QSizeF size(metrics.horizontalAdvance(text) + 8.0, 15.0);
        const QRectF wanted(QPointF(name.below.x() - 0.5 * size.width(), name.below.y() + 1.0),
                            size);
        const QRectF box = placeFor(wanted);
        m_nameBoxes.append(box);
        // A dark ground keeps it readable over cones.
        m_painter.setPen(Qt::NoPen);
        m_painter.setBrush(QColor(44, 44, 44, 190));
        m_painter.drawRoundedRect(box, 3, 3);
        m_painter.setPen(name.isSelected ? theme::kText : theme::kDim);
        m_painter.drawText(box, Qt::AlignCenter, text);
    }
}

}  // namespace rigmatch::app
