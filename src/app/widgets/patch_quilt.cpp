// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/patch_quilt.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr double kCaptionHeight = 16.0;
constexpr double kNameWidth = 70.0;  // cells at least that wide and high show the patch's name
constexpr double kNameHeight = 70.0;
constexpr double kOneLineWidth = 130.0;  // narrower ones have it on a line of its own

}  // namespace

PatchQuilt::PatchQuilt(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Patch colours side by side"));
    setFocusPolicy(Qt::StrongFocus);
}

void PatchQuilt::setPatches(const QVector<Patch>& patches,
                            const QStringList& letters,
                            int columns) {
    m_columns = std::max(1, columns);
    m_patches = patches;
    m_letters = letters;
    if (m_current >= patches.size()) m_current = -1;
    updateDescription();
    update();
}

void PatchQuilt::updateDescription() {
    const auto worst =
        std::max_element(m_patches.begin(), m_patches.end(), [](const Patch& a, const Patch& b) {
            return a.largestDeltaE < b.largestDeltaE;
        });
    if (worst == m_patches.end()) {
        setAccessibleDescription(tr("No patches."));
        return;
    }
    QString text =
        tr("Largest difference %1 at %2").arg(worst->largestDeltaE, 0, 'f', 1).arg(worst->name);
    if (m_current >= 0) {
        const Patch& patch = m_patches[m_current];
        text += u". "_s + tr("Chosen: %1, %2").arg(patch.name).arg(patch.largestDeltaE, 0, 'f', 1);
    }
    setAccessibleDescription(text);
}

QRectF PatchQuilt::cell(int index) const {
    const auto count = static_cast<int>(m_patches.size());
    const int rows = std::max(1, (count + m_columns - 1) / m_columns);
    const double w = width() / double(m_columns);
    const double h = height() / double(rows);
    const int column = index % m_columns, row = index / m_columns;
    return QRectF(column * w, row * h, w, h).adjusted(3, 3, -3, -2);
}

int PatchQuilt::patchAt(const QPointF& position) const {
    for (int i = 0; i < m_patches.size(); ++i) {
        if (cell(i).contains(position)) return i;
    }
    return -1;
}

void PatchQuilt::choose(int patch) {
    if (patch < 0 || patch >= m_patches.size() || patch == m_current) return;
    m_current = patch;
    updateDescription();
    update();
    Q_EMIT chosen(patch);
}

void PatchQuilt::mousePressEvent(QMouseEvent* event) { choose(patchAt(event->position())); }

void PatchQuilt::keyPressEvent(QKeyEvent* event) {
    const int from = m_current;
    switch (event->key()) {
        case Qt::Key_Left:
            return choose(from < 0 ? 0 : from - 1);
        case Qt::Key_Right:
            return choose(from < 0 ? 0 : from + 1);
        case Qt::Key_Up:
            return choose(from < 0 ? 0 : from - m_columns);
        case Qt::Key_Down:
            return choose(from < 0 ? 0 : from + m_columns);
        default:
            QWidget::keyPressEvent(event);
    }
}

void PatchQuilt::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setFont(theme::font(11));
    for (int i = 0; i < m_patches.size(); ++i) {
        const Patch& patch = m_patches[i];
        QRectF area = cell(i);
        const bool hasName = area.width() >= kNameWidth && area.height() >= kNameHeight;
        const bool hasTwoLines = hasName && area.width() < kOneLineWidth;
        const QRectF caption(
            area.left(), area.bottom() - kCaptionHeight, area.width(), kCaptionHeight);
        const QRectF nameLine = hasTwoLines ? caption.translated(0, -kCaptionHeight + 1) : caption;
        area.setBottom(nameLine.top() - 1);
        const double width = area.width() / std::max<double>(1.0, double(patch.colours.size()));
        for (int stripe = 0; stripe < patch.colours.size(); ++stripe) {
            // Edges on whole pixels: no seam may be taken for a stripe.
            const double left = std::round(area.left() + stripe * width);
            const double right = std::round(area.left() + (stripe + 1) * width);
            painter.fillRect(QRectF(left, area.top(), right - left, area.height()),
                             patch.colours[stripe]);
        }
        const QString number = (patch.isOff    ? u"▲ "_s
                                : patch.isNear ? u"△ "_s
                                               : QString()) +
                               QString::number(patch.largestDeltaE, 'f', 1);
        const double numberWidth = painter.fontMetrics().horizontalAdvance(number);
        painter.setPen(patch.isOff ? theme::kOff : patch.isNear ? theme::kNear : theme::kDim);
        painter.drawText(caption, Qt::AlignRight | Qt::AlignVCenter, number);
        if (hasName) {
            painter.setPen(theme::kDim);
            const double room = nameLine.width() - (hasTwoLines ? 0.0 : numberWidth + 6.0);
            painter.drawText(
                nameLine,
                Qt::AlignLeft | Qt::AlignVCenter,
                painter.fontMetrics().elidedText(patch.name, Qt::ElideRight, int(room)));
        }
        if (i == m_current) {
            painter.setPen(QPen(hasFocus() ? theme::kFocus : theme::kDim, 2.0));
            painter.drawRect(area.adjusted(-1, -1, 1, 1));
        }
    }
    if (hasFocus() && m_current < 0) {
        painter.setPen(QPen(theme::kFocus, 1.0));
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

bool PatchQuilt::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const int patch = patchAt(help->pos());
        if (patch >= 0) {
            QToolTip::showText(help->globalPos(),
                               tr("%1: from left to right %2; largest ΔE2000 against the "
                                  "reference %3")
                                   .arg(m_patches[patch].name, m_letters.join(u", "_s))
                                   .arg(m_patches[patch].largestDeltaE, 0, 'f', 1));
        } else {
            QToolTip::hideText();
        }
        return true;
    }
    return QWidget::event(event);
}

}  // namespace rigmatch::app
