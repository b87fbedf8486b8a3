// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/set/plan_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QWheelEvent>
#include <cmath>
#include <numbers>

#include "app/screens/set/plan_painter.h"
#include "app/screens/set/set_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "plan/sight.h"
#include "words/english.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using plan::Vec;
using rig::PlanKind;
using rig::PlanObject;

constexpr double kReachPx = 14.0;
constexpr double kDragStartPx = 4.0;
constexpr double kFine = 0.01;    // m, arrow with Ctrl
constexpr double kUsual = 0.05;   // arrow
constexpr double kCoarse = 0.50;  // arrow with Shift
constexpr double kZoomStep = 1.25, kPanStepPx = 60.0;
constexpr double kInsidePx = 40.0;  // that what is chosen by key keeps from the edge

bool isPoint(PlanKind kind) {
    return kind == PlanKind::Person || kind == PlanKind::Camera || kind == PlanKind::Light ||
           kind == PlanKind::Chart;
}

}  // namespace

PlanView::PlanView(SetController& controller, QWidget* parent)
    : QWidget(parent), m_controller(controller) {
    setObjectName(u"planView"_s);
    setAccessibleName(tr("Plan of the set"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(false);
    setToolTip(
        tr("Click chooses, Shift+click adds. Drag moves on the grid, with Alt off it.\n"
           "Arrow keys move 5 cm, with Shift 50 cm, with Ctrl 1 cm; Page up and Page down "
           "change the height.\n"
           "Space goes to the next object, Delete removes it.\n"
           "Wheel, + and \u2212 zoom, 0 shows the whole room; a drag on free floor or Alt with an "
           "arrow key moves what is seen."));
    connect(&controller, &SetController::changed, this, [this] { update(); });
    connect(&controller, &SetController::selectionChanged, this, &PlanView::updateDescription);
    makeZoomButtons();
    updateDescription();
}

void PlanView::makeZoomButtons() {
    m_zoomOut =
        makeButton(u"\u2212"_s, u"planZoomOut"_s, tr("See more of the room (\u2212)"), this);
    m_whole = makeButton(QString(), u"planWhole"_s, tr("Show the whole room (0)"), this);
    m_zoomIn = makeButton(u"+"_s, u"planZoomIn"_s, tr("Look closer (+)"), this);
    m_zoomOut->setAccessibleName(tr("See more of the room"));
    m_zoomIn->setAccessibleName(tr("Look closer"));
    for (QPushButton* button : {m_zoomOut, m_whole, m_zoomIn}) button->setProperty("tab", true);
    connect(m_zoomOut, &QPushButton::clicked, this, [this] {
        zoomBy(1.0 / kZoomStep, free().center());
    });
    connect(m_zoomIn, &QPushButton::clicked, this, [this] { zoomBy(kZoomStep, free().center()); });
    connect(m_whole, &QPushButton::clicked, this, &PlanView::showWhole);
    afterZoom();
}

void PlanView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    int right = width() - 6;
    for (QPushButton* button : {m_zoomIn, m_whole, m_zoomOut}) {
        button->adjustSize();
        button->move(right - button->width(), height() - button->height() - 4);
        right = button->x() - 2;
    }
}

void PlanView::setSide(PlanSide side) {
    if (side == m_side) return;
    m_side = side;
    showWhole();
}

QRectF PlanView::free() const { return QRectF(rect()).adjusted(26, 22, -26, -30); }

PlanScale PlanView::fitted() const {
    return PlanScale::fitting(m_controller.plan(), m_side, free());
}

PlanScale PlanView::scale() const { return m_zoom.applied(fitted(), free().center()); }

void PlanView::zoomBy(double factor, const QPointF& at) {
    if (!m_controller.hasPlan()) return;
    m_zoom.zoomBy(factor, at, free().center());
    afterZoom();
}

void PlanView::panBy(const QPointF& by) {
    m_zoom.panBy(by);
    afterZoom();
}

/// What lies to the right comes into view with the arrow to the right.
void PlanView::panByKey(int key) {
    const double right = key == Qt::Key_Right ? 1.0 : key == Qt::Key_Left ? -1.0 : 0.0;
    const double down = key == Qt::Key_Down ? 1.0 : key == Qt::Key_Up ? -1.0 : 0.0;
    panBy({-kPanStepPx * right, -kPanStepPx * down});
}

void PlanView::showWhole() {
    m_zoom.reset();
    afterZoom();
}

/// What was chosen by key may lie beside what is seen.
void PlanView::bringIntoView(const QString& id) {
    if (m_zoom.isWhole() || id.isEmpty()) return;
    const QRectF inside = QRectF(rect()).adjusted(kInsidePx, kInsidePx, -kInsidePx, -kInsidePx);
    const QPointF place = placeOf(id);
    panBy({std::clamp(place.x(), inside.left(), inside.right()) - place.x(),
           std::clamp(place.y(), inside.top(), inside.bottom()) - place.y()});
}

void PlanView::afterZoom() {
    if (m_controller.hasPlan()) {
        const rig::SetPlan& plan = m_controller.plan();
        const PlanScale whole = fitted();
        m_zoom.keepWithin(QRectF(whole.toWidget({0, plan.heightMetres, 0}),
                                 whole.toWidget({plan.widthMetres, 0, plan.depthMetres}))
                              .normalized(),
                          free().center());
    }
    const QString times = u"%1 %"_s.arg(qRound(100.0 * m_zoom.times()));
    m_whole->setText(times);
    m_whole->setAccessibleName(tr("Show the whole room, now %1").arg(times));
    m_whole->setEnabled(!m_zoom.isWhole());
    m_zoomOut->setEnabled(!m_zoom.isWhole());
    m_zoomIn->setEnabled(m_zoom.times() < PlanZoom::kMost);
    update();
}

void PlanView::wheelEvent(QWheelEvent* event) {
    constexpr double kNotch = 120.0;
    const double notches = event->angleDelta().y() / kNotch;
    if (notches == 0.0) return;
    zoomBy(std::pow(kZoomStep, notches), event->position());
    event->accept();
}

QPointF PlanView::placeOf(const QString& id) const {
    const PlanObject* object = rig::findObject(m_controller.plan(), id.toStdString());
    if (object == nullptr) return {};
    Vec place = plan::placeOf(*object);
    if (!isPoint(object->kind)) place.y() += 0.5 * object->tallMetres;
    return scale().toWidget(place);
}

std::optional<QPointF> PlanView::handleOf(const QString& id) const {
    const PlanObject* object = rig::findObject(m_controller.plan(), id.toStdString());
    if (object == nullptr) return std::nullopt;
    return planHandle(*object, scale());
}

QString PlanView::objectAt(const QPointF& position) const {
    QString best;
    double nearest = kReachPx;
    // Points first: they stand on and before the things.
    for (const PlanObject& object : m_controller.plan().objects) {
        if (!isPoint(object.kind)) continue;
        const QPointF from = placeOf(plain(object.id)) - position;
        const double distance = std::hypot(from.x(), from.y());
        if (distance >= nearest) continue;
        nearest = distance;
        best = plain(object.id);
    }
    if (!best.isEmpty()) return best;
    double smallest = 1e9;
    const PlanScale at = scale();
    for (const PlanObject& object : m_controller.plan().objects) {
        if (isPoint(object.kind)) continue;
        const double depth = std::max(object.depthMetres, 0.04);
        QPointF from = position - placeOf(plain(object.id));
        double halfAcross = 0.5 * object.widthMetres * at.pxPerMetre;
        double halfDown = 0.5 * depth * at.pxPerMetre;
        if (m_side == PlanSide::Above) {
            const double turn = object.facingDegrees * std::numbers::pi / 180.0;
            from = {from.x() * std::cos(turn) - from.y() * std::sin(turn),
                    from.x() * std::sin(turn) + from.y() * std::cos(turn)};
        } else {
            const Vec across = plan::facingVector(object.facingDegrees + 90.0);
            halfAcross = 0.5 * at.pxPerMetre *
                         (std::abs(across.z()) * object.widthMetres + std::abs(across.x()) * depth);
            halfDown = 0.5 * object.tallMetres * at.pxPerMetre;
        }
        if (std::abs(from.x()) > halfAcross + 5 || std::abs(from.y()) > halfDown + 5) continue;
        const double area = halfAcross * halfDown;
        if (area >= smallest) continue;
        smallest = area;
        best = plain(object.id);
    }
    return best;
}

void PlanView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme::kPanel);
    if (!m_controller.hasPlan()) return;
    PlanPainter plan(painter, m_controller.analysis(), scale());
    plan.paintRoom();
    plan.paintObjects(m_controller.selection());
    if (hasFocus()) {
        painter.setPen(QPen(theme::kFocus, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

void PlanView::mousePressEvent(QMouseEvent* event) {
    if (!m_controller.hasPlan() || event->button() != Qt::LeftButton) return;
    m_pressedAt = event->position();
    m_hasMoved = false;
    m_grip = Grip::None;
    const auto& selection = m_controller.selection();
    if (!selection.isEmpty()) {
        const auto handle = handleOf(selection.front());
        const QPointF away = handle ? *handle - m_pressedAt : QPointF(1e6, 0);
        if (std::hypot(away.x(), away.y()) < 10.0) {
            m_grip = Grip::Handle;
            return;
        }
    }
    const QString id = objectAt(m_pressedAt);
    if (event->modifiers() & Qt::ShiftModifier) {
        if (!id.isEmpty()) m_controller.toggle(id);
        return;
    }
    if (!selection.contains(id)) m_controller.select(id);
    m_grip = id.isEmpty() ? Grip::Floor : Grip::Body;
}

void PlanView::mouseMoveEvent(QMouseEvent* event) {
    if (m_grip == Grip::None) return;
    const QPointF by = event->position() - m_pressedAt;
    if (m_grip == Grip::Floor) {
        panBy(by);
        m_pressedAt = event->position();
        return;
    }
    if (!m_hasMoved && std::hypot(by.x(), by.y()) < kDragStartPx) return;
    if (!m_hasMoved) m_controller.beginDrag();
    m_hasMoved = true;
    const bool isSnapped = !(event->modifiers() & Qt::AltModifier);
    if (m_grip == Grip::Body) {
        const Vec moved = scale().movement(by);
        m_controller.dragBy(moved.x(), moved.y(), moved.z(), isSnapped);
        return;
    }
    const PlanObject* object = m_controller.current();
    if (object == nullptr || m_side == PlanSide::Side) return;
    const PlanScale at = scale();
    const QPointF place = (event->position() - at.origin) / at.pxPerMetre;
    if (object->kind == PlanKind::Camera || object->kind == PlanKind::Light) {
        m_controller.dragAim(place.x(), place.y(), isSnapped);
    } else {
        m_controller.dragFacing(
            plan::facingOf(Vec(place.x() - object->xMetres, 0.0, place.y() - object->zMetres)));
    }
}

void PlanView::mouseReleaseEvent(QMouseEvent*) {
    const bool wasHandle = m_grip == Grip::Handle;
    m_grip = Grip::None;
    if (!m_hasMoved) return;
    m_hasMoved = false;
    const PlanObject* object = m_controller.current();
    const QString name = object == nullptr ? QString() : plain(plan::nameOf(*object));
    m_controller.endDrag(wasHandle ? tr("Turn %1").arg(name) : tr("Move %1").arg(name));
}

void PlanView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Left:
        case Qt::Key_Right:
        case Qt::Key_Up:
        case Qt::Key_Down:
        case Qt::Key_PageUp:
        case Qt::Key_PageDown:
            if (event->modifiers() & Qt::AltModifier)
                panByKey(event->key());
            else
                nudge(event->key(), event->modifiers());
            break;
        case Qt::Key_Plus:
        case Qt::Key_Equal:
            zoomBy(kZoomStep, free().center());
            break;
        case Qt::Key_Minus:
            zoomBy(1.0 / kZoomStep, free().center());
            break;
        case Qt::Key_0:
            showWhole();
            break;
        case Qt::Key_Space:
            m_controller.selectNeighbour(event->modifiers() & Qt::ShiftModifier ? -1 : 1);
            if (!m_controller.selection().isEmpty())
                bringIntoView(m_controller.selection().front());
            break;
        case Qt::Key_Delete:
        case Qt::Key_Backspace:
            m_controller.removeSelected();
            break;
        case Qt::Key_Escape:
            m_grip = Grip::None;
            m_hasMoved = false;
            if (m_controller.isDragging()) {
                m_controller.cancelDrag();
            } else {
                m_controller.select(QString());
            }
            break;
        default:
            QWidget::keyPressEvent(event);
    }
}

void PlanView::nudge(int key, Qt::KeyboardModifiers modifiers) {
    const double step = modifiers & Qt::ShiftModifier     ? kCoarse
                        : modifiers & Qt::ControlModifier ? kFine
                                                          : kUsual;
    const double right = key == Qt::Key_Right ? step : key == Qt::Key_Left ? -step : 0.0;
    const double down = key == Qt::Key_Down ? step : key == Qt::Key_Up ? -step : 0.0;
    const double up = key == Qt::Key_PageUp ? step : key == Qt::Key_PageDown ? -step : 0.0;
    if (m_side == PlanSide::Above) {
        m_controller.nudge(right, up, down);
    } else {
        m_controller.nudge(0.0, up - down, right);
    }
}

bool PlanView::event(QEvent* event) {
    // Ctrl+arrows belong to the plan while it has the focus, not to a menu.
    if (event->type() == QEvent::ShortcutOverride) {
        const auto* key = dynamic_cast<QKeyEvent*>(event);
        if (key != nullptr && key->key() >= Qt::Key_Left && key->key() <= Qt::Key_Down) {
            event->accept();
            return true;
        }
    }
    return QWidget::event(event);
}

void PlanView::updateDescription() {
    const PlanObject* object = m_controller.hasPlan() ? m_controller.current() : nullptr;
    setAccessibleDescription(object == nullptr
                                 ? tr("Nothing chosen. Space goes through the objects.")
                                 : tr("%1, %2 from the left wall, %3 from the back wall")
                                       .arg(plain(plan::nameOf(*object)),
                                            plain(words::inEnglish(plan::lengthText(
                                                m_controller.plan(), object->xMetres))),
                                            plain(words::inEnglish(plan::lengthText(
                                                m_controller.plan(), object->zMetres)))));
    update();
}

}  // namespace rigmatch::app
