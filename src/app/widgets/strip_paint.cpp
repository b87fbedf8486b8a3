// SPDX-License-Identifier: GPL-3.0-or-later
// How a StripView draws itself.
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/widgets/strip_view.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

constexpr double kBadge = 20.0;
constexpr double kLoupe = 104.0;
constexpr double kLoupeZoom = 8.0;
constexpr int kSlicesPerCamera = 4;
constexpr int kDifferenceGain = 4;

}  // namespace

void StripView::drawStrip(QPainter& painter,
                          int index,
                          const QRectF& cell,
                          const QRectF& clip) const {
    painter.save();
    painter.setClipRect(clip);
    painter.fillRect(clip, QColor(30, 30, 30));
    const Strip& strip = m_strips[index];
    if (strip.picture.isNull()) {
        painter.setPen(theme::kDim);
        painter.setFont(theme::font(12));
        painter.drawText(
            clip.adjusted(12, 8, -12, -8), Qt::AlignCenter | Qt::TextWordWrap, strip.missing);
    } else {
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.setTransform(strip.toPicture.inverted() * toCell(cell), true);
        painter.drawImage(QPointF(0, 0), strip.picture);
    }
    painter.restore();
}

void StripView::drawDifference(QPainter& painter, const QRectF& cell) const {
    const double ratio = devicePixelRatioF();
    const QSize size = (cell.size() * ratio).toSize();
    if (size.isEmpty()) return;
    const auto drawn = [&](int index) {
        QImage image(size, QImage::Format_RGB32);
        image.fill(Qt::black);
        QPainter inner(&image);
        inner.scale(ratio, ratio);
        inner.translate(-cell.topLeft());
        drawStrip(inner, index, cell, cell);
        inner.end();
        return image;
    };
    QImage first = drawn(m_first);
    const QImage second = drawn(m_second);
    for (int y = 0; y < size.height(); ++y) {
        auto* row = reinterpret_cast<QRgb*>(first.scanLine(y));
        const auto* other = reinterpret_cast<const QRgb*>(second.constScanLine(y));
        for (int x = 0; x < size.width(); ++x) {
            const auto part = [](int a, int b) {
                return std::min(255, kDifferenceGain * std::abs(a - b));
            };
            row[x] = qRgb(part(qRed(row[x]), qRed(other[x])),
                          part(qGreen(row[x]), qGreen(other[x])),
                          part(qBlue(row[x]), qBlue(other[x])));
        }
    }
    painter.drawImage(cell, first);
}

void StripView::drawShared(QPainter& painter, const QRectF& cell) const {
    const auto count = static_cast<int>(m_strips.size());
    const bool hasPair = m_first < count && m_second < count;
    const auto badge = [&](double x, const QString& letter) {
        theme::paintBadge(painter, QRectF(x, cell.top() + 6, kBadge, kBadge), letter);
    };
    if (m_mode == Mode::Slices) {
        QVector<int> seen;
        for (int i = 0; i < count; ++i) {
            if (!m_strips[i].picture.isNull()) seen << i;
        }
        if (seen.isEmpty()) drawStrip(painter, 0, cell, cell);
        const auto slices = kSlicesPerCamera * static_cast<int>(seen.size());
        for (int i = 0; i < slices; ++i) {
            const int camera = seen[i % static_cast<int>(seen.size())];
            const double left = std::round(cell.left() + cell.width() * i / slices);
            const double right = std::round(cell.left() + cell.width() * (i + 1) / slices);
            drawStrip(painter, camera, cell, {left, cell.top(), right - left, cell.height()});
            badge((left + right - kBadge) / 2.0, m_strips[camera].letter);
        }
    } else if (m_mode == Mode::Wipe && hasPair) {
        const double x = cell.left() + m_divider * cell.width();
        drawStrip(painter, m_first, cell, QRectF(cell.topLeft(), QPointF(x, cell.bottom())));
        drawStrip(painter, m_second, cell, QRectF(QPointF(x, cell.top()), cell.bottomRight()));
        painter.setPen(QPen(Qt::black, 3.0));
        painter.drawLine(QPointF(x, cell.top()), QPointF(x, cell.bottom()));
        painter.setPen(QPen(theme::kText, 1.0));
        painter.drawLine(QPointF(x, cell.top()), QPointF(x, cell.bottom()));
        badge(std::max(cell.left() + 4, x - kBadge - 6), m_strips[m_first].letter);
        badge(std::min(cell.right() - kBadge - 4, x + 6), m_strips[m_second].letter);
    } else if (m_mode == Mode::Difference && hasPair) {
        drawDifference(painter, cell);
        badge(cell.left() + 6, m_strips[m_first].letter);
        badge(cell.left() + 10 + kBadge, m_strips[m_second].letter);
        painter.setFont(theme::font(12));
        painter.setPen(theme::kText);
        painter.drawText(QRectF(cell.left() + 18 + 2 * kBadge, cell.top() + 6, 300, kBadge),
                         Qt::AlignVCenter,
                         tr("difference × %1; black is equal").arg(kDifferenceGain));
    }
}

void StripView::drawMarks(QPainter& painter, const QRectF& cell) const {
    const QTransform transform = toCell(cell);
    painter.save();
    painter.setClipRect(cell);
    if (m_region) {
        const QRectF area = transform.mapRect(*m_region);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, 160), 3.0));
        painter.drawRect(area);
        painter.setPen(QPen(theme::kText, 1.2, Qt::DashLine));
        painter.drawRect(area);
    }
    if (m_mark) {
        const QPointF at = transform.map(*m_mark);
        for (const auto& pen : {QPen(QColor(0, 0, 0, 180), 3.0), QPen(theme::kText, 1.2)}) {
            painter.setPen(pen);
            for (const QPointF& way :
                 {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
                painter.drawLine(at + way * 4.0, at + way * 12.0);
        }
    }
    painter.restore();
}

double StripView::loupeSide(const QRectF& cell) {
    return std::min({kLoupe, 0.45 * cell.width(), 0.6 * cell.height()});
}

QVector<QRectF> StripView::loupes(const QRectF& cell) const {
    if (!m_isLoupe || !m_mark) return {};
    const double side = loupeSide(cell);
    const QPointF place = toCell(cell).map(*m_mark);
    if (m_mode == Mode::SideBySide) {
        // In the corner away from the mark.
        const double left =
            place.x() > cell.center().x() ? cell.left() + 4 : cell.right() - side - 4;
        return {QRectF(left, cell.bottom() - side - 4, side, side)};
    }
    if (m_mode == Mode::Slices) return {};
    // The pair in the corners, below, or above where the mark is below.
    const double top = place.y() > cell.center().y() ? cell.top() + 32 : cell.bottom() - side - 4;
    return {QRectF(cell.left() + 4, top, side, side),
            QRectF(cell.right() - side - 4, top, side, side)};
}

void StripView::drawLoupe(QPainter& painter, int index, const QRectF& area) const {
    if (m_strips[index].picture.isNull()) return;
    const double side = area.width();
    const QPointF at = m_strips[index].toPicture.map(*m_mark);
    const double span = side / kLoupeZoom;
    painter.save();
    painter.setRenderHint(QPainter::SmoothPixmapTransform, false);
    painter.fillRect(area, Qt::black);
    painter.drawImage(area,
                      m_strips[index].picture,
                      QRectF(at.x() - span / 2.0, at.y() - span / 2.0, span, span));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme::kText, 1.0));
    painter.drawRect(area);
    const double pixels = 5.0 * kLoupeZoom;  // what the values are the mean of
    painter.drawRect(QRectF(area.center() - QPointF(pixels, pixels) / 2.0, QSizeF(pixels, pixels)));
    painter.restore();
    if (m_mode != Mode::SideBySide)
        theme::paintBadge(painter,
                          QRectF(area.left() + 4, area.top() + 4, kBadge, kBadge),
                          m_strips[index].letter);
}

void StripView::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.fillRect(rect(), theme::kWindow);
    const QVector<QRectF> areas = cells();
    if (m_mode == Mode::SideBySide) {
        for (int i = 0; i < m_strips.size(); ++i) {
            drawStrip(painter, i, areas[i], areas[i]);
            drawMarks(painter, areas[i]);
            for (const QRectF& loupe : loupes(areas[i])) drawLoupe(painter, i, loupe);
            theme::paintBadge(painter,
                              QRectF(areas[i].left() + 6, areas[i].top() + 6, kBadge, kBadge),
                              m_strips[i].letter);
        }
    } else if (!m_strips.isEmpty()) {
        drawShared(painter, areas.front());
        drawMarks(painter, areas.front());
        const QVector<QRectF> pair = loupes(areas.front());
        const auto count = static_cast<int>(m_strips.size());
        if (pair.size() == 2 && m_first < count && m_second < count) {
            drawLoupe(painter, m_first, pair[0]);
            drawLoupe(painter, m_second, pair[1]);
        }
    }
    if (hasFocus()) {
        painter.setPen(QPen(theme::kFocus, 1.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

}  // namespace rigmatch::app
