// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/set/picture_strip.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>

#include "app/screens/set/set_controller.h"
#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "plan/shot_size.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kHead = 30;
constexpr int kQuickWidth = 104;
constexpr int kWholeWidth = 320;

}  // namespace

PredictedPicture::PredictedPicture(const QString& cameraId, QWidget* parent)
    : QWidget(parent), m_cameraId(cameraId) {
    setObjectName(u"predicted-"_s + cameraId);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setMinimumSize(150, 96);
}

void PredictedPicture::setCamera(const QString& letter, const QString& role, const QString& lens) {
    m_letter = letter;
    m_role = role;
    m_lens = lens;
    setAccessibleName(tr("Predicted picture of camera %1, %2, %3").arg(letter, role, lens));
    setToolTip(tr("Enter or click enlarges"));
    update();
}

void PredictedPicture::setPicture(const QImage& picture) {
    m_picture = picture;
    m_failure.clear();
    update();
}

void PredictedPicture::setFailure(const QString& why) {
    m_picture = QImage();
    m_failure = why;
    update();
}

void PredictedPicture::setGuides(std::optional<double> eyeLine, double cutMiddle, bool hasCuts) {
    m_eyeLine = eyeLine;
    m_cutMiddle = cutMiddle;
    m_hasCuts = hasCuts;
    update();
}

void PredictedPicture::setChosen(bool isChosen) {
    if (isChosen == m_isChosen) return;
    m_isChosen = isChosen;
    update();
}

void PredictedPicture::setLarge(bool isLarge) { m_isLarge = isLarge; }

void PredictedPicture::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const QRectF frame = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
    painter.setPen(QPen(hasFocus() ? theme::kFocus : m_isChosen ? theme::kFaint : theme::kLine, 1));
    painter.setBrush(theme::kPanel);
    painter.drawRoundedRect(frame, 4, 4);
    const int size = m_isLarge ? 22 : 18;
    theme::paintBadge(painter, QRectF(8, 0.5 * (kHead - size), size, size), m_letter);
    painter.setFont(theme::font(12));
    painter.setPen(theme::kDim);
    const int lensWidth = painter.fontMetrics().horizontalAdvance(m_lens);
    painter.drawText(QRectF(0, 0, width() - 9, kHead), Qt::AlignRight | Qt::AlignVCenter, m_lens);
    painter.setPen(theme::kText);
    const QRectF room(14 + size, 0, width() - 32 - size - lensWidth, kHead);
    painter.drawText(
        room,
        Qt::AlignLeft | Qt::AlignVCenter,
        painter.fontMetrics().elidedText(m_role, Qt::ElideRight, static_cast<int>(room.width())));
    QRectF area(8, kHead, width() - 16, height() - kHead - 8);
    if (!m_picture.isNull()) {
        const QSizeF fit = QSizeF(m_picture.size()).scaled(area.size(), Qt::KeepAspectRatio);
        QRectF place(QPointF(0, 0), fit);
        place.moveCenter(area.center());
        painter.drawImage(place, m_picture);
        paintGuides(painter, place);
        return;
    }
    painter.setPen(theme::kDim);
    painter.setFont(theme::font(11));
    painter.drawText(
        area, Qt::AlignCenter | Qt::TextWordWrap, m_failure.isEmpty() ? tr("drawing…") : m_failure);
}

void PredictedPicture::paintGuides(QPainter& painter, const QRectF& area) const {
    painter.save();
    painter.setClipRect(area);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(255, 255, 255, 46), 1));
    for (const double third : {1.0 / 3.0, 2.0 / 3.0}) {
        const double x = area.left() + third * area.width();
        const double y = area.top() + third * area.height();
        painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
        painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
    }
    if (m_eyeLine) {
        const double y = area.top() + *m_eyeLine * area.height();
        painter.setPen(QPen(QColor(255, 255, 255, 190), 1));
        painter.drawLine(QPointF(area.left(), y), QPointF(area.left() + 10, y));
        painter.drawLine(QPointF(area.right() - 10, y), QPointF(area.right(), y));
    }
    if (m_hasCuts) {
        const auto cut = [&](double share, Qt::PenStyle style) {
            const double half = 0.5 * share * area.width();
            const double middle = std::clamp(
                area.left() + m_cutMiddle * area.width(), area.left() + half, area.right() - half);
            painter.setPen(QPen(QColor(255, 255, 255, 150), 1, style));
            painter.drawRect(QRectF(middle - half, area.top() + 0.5, 2 * half, area.height() - 1));
        };
        cut(81.0 / 256.0, Qt::DashLine);
        if (m_isLarge) cut(9.0 / 16.0, Qt::DotLine);
    }
    painter.restore();
}

void PredictedPicture::mouseReleaseEvent(QMouseEvent*) { Q_EMIT clicked(); }

void PredictedPicture::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter ||
        event->key() == Qt::Key_Space) {
        Q_EMIT clicked();
        return;
    }
    QWidget::keyPressEvent(event);
}

PictureStrip::PictureStrip(SetController& controller, QWidget* parent)
    : QScrollArea(parent), m_controller(controller), m_pictures(new PredictedPictures(this)) {
    setObjectName(u"pictureStrip"_s);
    setAccessibleName(tr("Predicted pictures"));
    setFrameShape(QFrame::NoFrame);
    setWidgetResizable(true);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    auto* page = new QWidget(this);
    m_row = new QHBoxLayout(page);
    m_row->setContentsMargins(0, 0, 0, 0);
    m_row->setSpacing(10);
    setWidget(page);
    setStyleSheet(u"QScrollArea { background: transparent; border: none; }"_s);
    connect(m_pictures, &PredictedPictures::pictureReady, this, &PictureStrip::showPicture);
    // Rough at once; whole as soon as nothing moves.
    connect(m_pictures, &PredictedPictures::settled, this, &PictureStrip::drawWhole);
    connect(m_pictures,
            &PredictedPictures::failed,
            this,
            [this](const QString& id, const QString& why) {
                if (m_views.contains(id)) m_views[id]->setFailure(why);
            });
}

void PictureStrip::showPicture(const QString& cameraId, const QImage& picture) {
    if (m_views.contains(cameraId)) m_views[cameraId]->setPicture(picture);
}

void PictureStrip::rebuild() {
    qDeleteAll(m_views);
    m_views.clear();
    while (QLayoutItem* item = m_row->takeAt(0)) delete item;
    for (const plan::PlacedCamera& camera : m_controller.analysis().cameras()) {
        const QString id = plain(camera.camera->id);
        auto* view = new PredictedPicture(id, widget());
        connect(view, &PredictedPicture::clicked, this, [this, id] { Q_EMIT enlarged(id); });
        m_views[id] = view;
        m_row->addWidget(view, 1);
    }
}

void PictureStrip::refresh() {
    if (!m_controller.hasPlan()) return;
    QStringList placed;
    for (const auto& camera : m_controller.analysis().cameras()) placed << plain(camera.camera->id);
    QStringList shown = m_views.keys();
    shown.sort();
    QStringList wanted = placed;
    wanted.sort();
    if (shown != wanted) rebuild();
    for (const plan::PlacedCamera& camera : m_controller.analysis().cameras()) {
        PredictedPicture* view = m_views[plain(camera.camera->id)];
        view->setCamera(plain(camera.camera->letter),
                        plain(camera.camera->role),
                        tr("%1 mm").arg(camera.camera->lens.focalLengthMm, 0, 'f', 0));
        view->setChosen(m_controller.current() == camera.place);
        std::optional<double> eyes;
        double middle = 0.5;
        if (camera.view && camera.subject != nullptr) {
            if (const auto box = plan::headBox(*camera.view, *camera.subject)) {
                eyes = box->eyes.y;
                const bool isSingle = plan::shotSizeOf(camera.place->shot).headShare > 0.0;
                if (isSingle) middle = box->eyes.x;
            }
        }
        view->setGuides(eyes, middle, m_controller.shown().choices.isUprightWanted);
    }
    m_hasWhole = false;
    m_isStale = true;
    draw();
}

void PictureStrip::draw() {
    // What nobody sees is not drawn: other screens keep the processor.
    if (!m_isStale || !isVisible()) return;
    m_isStale = false;
    m_pictures->request(m_controller.shown(), jobs::PictureCare::Quick, kQuickWidth);
}

void PictureStrip::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    draw();
    drawWhole();
}

void PictureStrip::drawWhole() {
    if (m_hasWhole || m_isStale || !isVisible() || m_controller.isDragging() ||
        !m_controller.hasPlan())
        return;
    m_hasWhole = true;
    m_pictures->request(m_controller.shown(), jobs::PictureCare::Whole, kWholeWidth);
}

}  // namespace rigmatch::app
