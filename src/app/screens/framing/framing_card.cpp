// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/framing/framing_card.h"

#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>

#include "app/screens/framing/framed_view.h"
#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "base/format.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr double kWidth = 1000.0, kHeight = 707.0;  // of the page, in its own units

QString shareText(const QString& name, const rig::Doubted& share) {
    return FramedView::tr("%1 %2 ± %3 %")
        .arg(name,
             plain(base::fixed(100.0 * share.value, 1)),
             plain(base::fixed(std::max(0.1, 100.0 * share.uncertainty), 1)));
}

QStringList linesOf(const FramingController& controller, const FramingController::Row& row) {
    QStringList lines;
    const rig::Rig& rig = controller.rig();
    const rig::Camera* camera = rig::findCamera(rig, row.cameraId.toStdString());
    if (camera != nullptr && camera->isLensTold)
        lines << FramedView::tr("%1 at %2 mm")
                     .arg(fromCore(camera->lens.name))
                     .arg(camera->lens.focalLengthMm, 0, 'f', 0);
    if (rig.plan) {
        for (const rig::PlanObject& place : rig.plan->objects) {
            if (place.kind != rig::PlanKind::Camera || camera == nullptr ||
                place.cameraId != camera->id)
                continue;
            lines << FramedView::tr("by the plan: lens %1 m above the floor")
                         .arg(place.heightMetres, 0, 'f', 2);
        }
    }
    for (const jobs::DistanceNote& note : jobs::plannedDistances(rig, row.cameraId.toStdString()))
        lines << FramedView::tr("by the plan: %1 m to %2")
                     .arg(note.metres, 0, 'f', 2)
                     .arg(fromCore(note.what));
    if (row.reading == nullptr) return lines;
    for (const rig::FramedPerson& person : row.reading->people) {
        lines << FramedView::tr("Person at %1 % of the width:")
                     .arg(plain(base::fixed(100.0 * person.across.value, 0)));
        lines << shareText(FramedView::tr("   headroom"), person.headroom);
        lines << shareText(FramedView::tr("   eyes at"), person.eyeLine);
        lines << shareText(FramedView::tr("   head"), person.headHeight);
    }
    if (row.reading->roll)
        lines << FramedView::tr("roll %1 ± %2°")
                     .arg(plain(base::signedFixed(row.reading->roll->degrees, 2)),
                          plain(base::fixed(row.reading->roll->uncertaintyDegrees, 2)));
    return lines;
}

void paintPage(QPainter& painter, FramingController& controller, int index) {
    const auto& row = controller.rows()[static_cast<std::size_t>(index)];
    painter.fillRect(QRectF(0, 0, kWidth, kHeight), Qt::white);
    theme::paintBadge(painter, QRectF(24, 22, 34, 34), row.letter);
    painter.setPen(Qt::black);
    painter.setFont(theme::font(22, QFont::DemiBold));
    painter.drawText(QRectF(72, 20, 560, 40), Qt::AlignVCenter, row.role);
    painter.setFont(theme::font(13));
    const rig::Take* take = controller.take();
    painter.drawText(
        QRectF(600, 20, 376, 40),
        Qt::AlignVCenter | Qt::AlignRight,
        FramedView::tr("%1 · take %2 · %3")
            .arg(plain(controller.rig().name))
            .arg(take == nullptr ? 0 : take->number)
            .arg(take == nullptr ? QString()
                                 : plain(take->startedAt).replace(u'T', u' ').left(16)));
    FramedView view(controller, index, nullptr);
    view.paintPicture(painter, QRectF(24, 72, 660, 400));
    painter.setPen(Qt::black);
    painter.setFont(theme::font(13));
    double y = 84;
    for (const QString& line : linesOf(controller, row)) {
        painter.drawText(QRectF(704, y, 280, 40), Qt::TextWordWrap, line);
        y += 24;
    }
    // What a tape tells is written by hand at the set.
    painter.setFont(theme::font(13, QFont::DemiBold));
    painter.drawText(QRectF(24, 496, 400, 24), Qt::AlignVCenter, FramedView::tr("By tape"));
    painter.setFont(theme::font(13));
    const QStringList blanks{FramedView::tr("lens to eyes"),
                             FramedView::tr("lens above the floor"),
                             FramedView::tr("tripod's feet to the marks"),
                             FramedView::tr("zoom and focus rings at")};
    for (int i = 0; i < blanks.size(); ++i) {
        const double top = 526 + 36 * i;
        painter.drawText(QRectF(24, top, 220, 24), Qt::AlignVCenter, blanks[i]);
        painter.drawLine(QPointF(250, top + 22), QPointF(684, top + 22));
    }
}

}  // namespace

bool writeFramingCard(FramingController& controller, const QString& file) {
    QPdfWriter writer(file);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setPageOrientation(QPageLayout::Landscape);
    writer.setPageMargins(QMarginsF(0, 0, 0, 0));
    writer.setTitle(FramedView::tr("Framing"));
    QPainter painter;
    if (!painter.begin(&writer)) return false;
    painter.scale(writer.width() / kWidth, writer.width() / kWidth);
    bool isFirst = true;
    for (int i = 0; i < static_cast<int>(controller.rows().size()); ++i) {
        if (controller.rows()[static_cast<std::size_t>(i)].reading == nullptr) continue;
        if (!isFirst) writer.newPage();
        isFirst = false;
        paintPage(painter, controller, i);
    }
    return painter.end();
}

}  // namespace rigmatch::app
