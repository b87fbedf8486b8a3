// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/neutral_ladder.h"

#include <QPainter>
#include <algorithm>

#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr double kHighest = 110.0;  // %
constexpr double kFoot = 34.0;      // px for name and spread
constexpr double kScale = 34.0;     // px for the percent scale

}  // namespace

NeutralLadder::NeutralLadder(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Signal of the greys, per camera"));
}

double NeutralLadder::spread(int grey) const {
    double low = 1e9;
    double high = -1e9;
    for (const Camera& camera : m_cameras) {
        if (grey >= camera.percent.size()) continue;
        low = std::min(low, camera.percent[grey]);
        high = std::max(high, camera.percent[grey]);
    }
    return std::max(0.0, high - low);
}

void NeutralLadder::setCameras(const QVector<Camera>& cameras, const QStringList& greys) {
    m_cameras = cameras;
    m_greys = greys;
    QStringList parts;
    const qsizetype middle = greys.size() / 2;
    for (const Camera& camera : cameras) {
        if (middle < camera.percent.size())
            parts << tr("%1 at %2 % on %3")
                         .arg(greys[middle])
                         .arg(camera.percent[middle], 0, 'f', 1)
                         .arg(camera.letter);
    }
    setAccessibleDescription(parts.isEmpty() ? tr("Nothing to show.") : parts.join(u", "_s));
    update();
}

void NeutralLadder::paintEvent(QPaintEvent* /*event*/) {
    QPainter painter(this);
    painter.setFont(theme::font(11));
    const QRectF field(kScale, 6.0, width() - kScale - 4.0, height() - kFoot - 8.0);
    const auto yOf = [&](double percent) {
        return field.bottom() - std::clamp(percent, 0.0, kHighest) / kHighest * field.height();
    };
    for (int percent = 0; percent <= 100; percent += 25) {
        painter.setPen(QColor(60, 60, 60));
        painter.drawLine(QPointF(field.left(), yOf(percent)), QPointF(field.right(), yOf(percent)));
        painter.setPen(theme::kDim);
        painter.drawText(QRectF(0, yOf(percent) - 8, kScale - 6, 16),
                         Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(percent));
    }
    if (m_cameras.isEmpty() || m_greys.isEmpty()) return;
    const double step = field.width() / double(m_greys.size());
    for (int grey = 0; grey < m_greys.size(); ++grey) {
        const QRectF rung(field.left() + grey * step + 3, field.top(), step - 6, field.height());
        painter.fillRect(rung, QColor(38, 38, 38));
        const double dash = rung.width() / double(m_cameras.size());
        for (int i = 0; i < m_cameras.size(); ++i) {
            if (grey >= m_cameras[i].percent.size()) continue;
            const double y = yOf(m_cameras[i].percent[grey]);
            painter.fillRect(QRectF(rung.left() + i * dash + 2, y - 1.5, dash - 4, 3),
                             theme::cameraColour(m_cameras[i].letter));
        }
        painter.setPen(theme::kDim);
        const QRectF name(rung.left() - 3, field.bottom() + 3, step, 14);
        QString title = m_greys[grey];
        title.remove(u"neutral "_s).remove(u"grey "_s);
        painter.drawText(
            name,
            Qt::AlignCenter,
            painter.fontMetrics().elidedText(title, Qt::ElideRight, static_cast<int>(step)));
        if (m_cameras.size() > 1) {
            painter.setPen(theme::kText);
            painter.drawText(
                name.translated(0, 15), Qt::AlignCenter, tr("%1 %").arg(spread(grey), 0, 'f', 1));
        }
    }
}

}  // namespace rigmatch::app
