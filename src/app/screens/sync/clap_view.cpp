// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/sync/clap_view.h"

#include <QPainter>
#include <algorithm>

#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kLeastHeight = 90, kWords = 20, kGap = 10;

}  // namespace

ClapView::ClapView(SyncController& controller, QWidget* parent)
    : QWidget(parent), m_controller(controller) {
    setObjectName(u"clapView"_s);
    setAccessibleName(tr("Frames of the clap through each other, before and after"));
    setMinimumHeight(kLeastHeight);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    hide();
}

void ClapView::setRow(int row) {
    // Nothing is loaded for a screen that does not show.
    m_pictures = parentWidget()->isVisible() ? m_controller.clapPictures(row)
                                             : SyncController::ClapPictures{};
    setVisible(!m_pictures.reference.isNull() && !m_pictures.laidOn.isNull());
    update();
}

void ClapView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const double width = 0.5 * (rect().width() - kGap);
    const auto draw = [&](int index, const QImage& over, const QString& words) {
        const QRectF half(index * (width + kGap), 0, width, height() - kWords);
        const QSizeF size =
            QSizeF(m_pictures.reference.size()).scaled(half.size(), Qt::KeepAspectRatio);
        const QRectF at(half.left(), half.top(), size.width(), size.height());
        painter.drawImage(at, m_pictures.reference);
        if (!over.isNull()) {
            painter.setOpacity(0.5);
            painter.drawImage(at, over);
            painter.setOpacity(1.0);
        }
        painter.setPen(theme::kDim);
        painter.setFont(theme::font(11));
        painter.drawText(QRectF(half.left(), at.bottom(), width, kWords),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         words);
    };
    const bool isClap = m_controller.clapSeconds().has_value();
    draw(0, m_pictures.asRecorded, tr("before: by both clocks"));
    draw(1, m_pictures.laidOn, isClap ? tr("after: the clap on the clap") : tr("after"));
}

}  // namespace rigmatch::app
