// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/patch_stripes.h"

#include <QHelpEvent>
#include <QPainter>
#include <QToolTip>

#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

constexpr int kColumns = 6;
constexpr int kRows = 4;
constexpr double kNumberHeight = 15.0;

}  // namespace

PatchStripes::PatchStripes(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Patch colours side by side"));
}

void PatchStripes::setPatches(const QVector<Patch>& patches,
                              const QString& referenceLetter,
                              const QString& cameraLetter) {
    m_patches = patches;
    m_referenceLetter = referenceLetter;
    m_cameraLetter = cameraLetter;
    QString worst;
    double largest = -1.0;
    for (const Patch& patch : patches) {
        if (patch.deltaE <= largest) continue;
        largest = patch.deltaE;
        worst = patch.name;
    }
    setAccessibleDescription(
        worst.isEmpty() ? tr("No patches.")
                        : tr("Largest difference %1 at %2").arg(largest, 0, 'f', 1).arg(worst));
    update();
}

QRectF PatchStripes::cell(int index) const {
    const double w = width() / double(kColumns);
    const double h = height() / double(kRows);
    return QRectF(index % kColumns * w, index / kColumns * h, w, h).adjusted(2, 2, -2, -2);
}

void PatchStripes::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setFont(theme::font(11));
    for (int i = 0; i < m_patches.size(); ++i) {
        QRectF area = cell(i);
        const QRectF number(
            area.left(), area.bottom() - kNumberHeight, area.width(), kNumberHeight);
        area.setBottom(number.top());
        painter.fillRect(QRectF(area.topLeft(), QSizeF(area.width() / 2.0, area.height())),
                         m_patches[i].reference);
        painter.fillRect(
            QRectF(area.left() + area.width() / 2.0, area.top(), area.width() / 2.0, area.height()),
            m_patches[i].camera);
        painter.setPen(theme::kDim);
        painter.drawText(number,
                         Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(m_patches[i].deltaE, 'f', 1));
    }
}

bool PatchStripes::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        for (int i = 0; i < m_patches.size(); ++i) {
            if (!cell(i).contains(help->pos())) continue;
            QToolTip::showText(help->globalPos(),
                               tr("%1: left %2, right %3, ΔE2000 %4")
                                   .arg(m_patches[i].name, m_referenceLetter, m_cameraLetter)
                                   .arg(m_patches[i].deltaE, 0, 'f', 1));
            return true;
        }
        QToolTip::hideText();
        return true;
    }
    return QWidget::event(event);
}

}  // namespace rigmatch::app
