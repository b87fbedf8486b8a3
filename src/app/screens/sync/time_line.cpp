// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/sync/time_line.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "base/format.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kRow = 50, kScale = 26, kBar = 40;
constexpr int kSoundOverPictures = 190;  // of 255
constexpr double kPicturesDim = 0.5;     // so that the sound stands out before them
constexpr int kNames = 210, kOffsets = 250, kRowGap = 14;

}  // namespace

QString offsetText(const SyncController::Row& row) {
    if (row.isReference) return TimeLine::tr("reference");
    if (row.result == nullptr) return TimeLine::tr("not synced yet");
    if (row.result->failure) return TimeLine::tr("cannot be read");
    const bool isSound = row.result->sound.has_value();
    const auto offset = row.result->offsetSeconds();
    if (!offset) return TimeLine::tr("nothing in common");
    const double doubt =
        isSound ? row.result->sound->uncertaintySeconds : row.result->picture->uncertaintySeconds;
    const int places = isSound ? 1 : 0;
    return TimeLine::tr("%1 ± %2 ms by %3")
        .arg(plain(base::signedFixed(1e3 * *offset, places)),
             plain(base::fixed(std::max(1e3 * doubt, isSound ? 0.1 : 1.0), places)),
             isSound ? TimeLine::tr("sound") : TimeLine::tr("picture"));
}

TimeLine::TimeLine(SyncController& controller, QWidget* parent)
    : QWidget(parent), m_controller(controller) {
    setObjectName(u"syncTimeLine"_s);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Sources on one clock"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize TimeLine::sizeHint() const {
    return {700, kScale + kRow * static_cast<int>(m_controller.rows().size()) + 4};
}

void TimeLine::refresh() {
    const int last = static_cast<int>(m_controller.rows().size()) - 1;
    m_current = std::clamp(m_current, 0, std::max(last, 0));
    setFixedHeight(sizeHint().height());
    QStringList words;
    for (const SyncController::Row& row : m_controller.rows())
        words << (row.letter.isEmpty() ? row.name : row.letter) + u": "_s + offsetText(row);
    setAccessibleDescription(words.join(u"; "_s));
    update();
}

void TimeLine::setCurrent(int row) {
    const int last = static_cast<int>(m_controller.rows().size()) - 1;
    const int next = std::clamp(row, 0, std::max(last, 0));
    if (next == m_current) return;
    m_current = next;
    update();
    Q_EMIT currentChanged(next);
}

double TimeLine::lastSeconds() const {
    double last = 1.0;
    for (const SyncController::Row& row : m_controller.rows())
        last = std::max(last, row.startSeconds + row.lengthSeconds);
    return last;
}

void TimeLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double left = kNames, right = width() - kOffsets;
    const double seconds = lastSeconds();
    const double perSecond = (right - left) / seconds;
    if (m_controller.hasReport()) paintScale(painter, left, perSecond, seconds);
    paintClap(painter, left, perSecond);
    for (int i = 0; i < static_cast<int>(m_controller.rows().size()); ++i)
        paintRow(painter, i, QRectF(0, kScale + i * kRow, width(), kRow), perSecond);
}

/// Where all hear the clap.
void TimeLine::paintClap(QPainter& painter, double left, double perSecond) const {
    const auto clap = m_controller.clapSeconds();
    if (!clap || m_controller.rows().empty()) return;
    const double x = left + (m_controller.rows().front().startSeconds + *clap) * perSecond;
    painter.setPen(QPen(theme::kText, 1.0, Qt::DashLine));
    painter.drawLine(QPointF(x, kScale - 4), QPointF(x, height()));
    painter.setFont(theme::font(11));
    painter.drawText(QRectF(x - 40, 0, 80, kScale - 8), Qt::AlignCenter, tr("clap"));
}

/// Pictures of the clip from its start to its end, each where it was taken from.
void TimeLine::paintPictures(QPainter& painter,
                             const SyncController::Row& row,
                             const QRectF& bar) const {
    const QVector<QImage> pictures = m_controller.strip(row.file);
    if (pictures.isEmpty()) return;
    // As many as have room at their own shape.
    const QSize size = pictures.front().size();
    const double across = bar.height() * size.width() / std::max(1, size.height());
    const int shown =
        std::clamp(qRound(bar.width() / across), 1, static_cast<int>(pictures.size()));
    const double cell = bar.width() / shown;
    painter.save();
    QPainterPath edge;
    edge.addRoundedRect(bar, 3, 3);
    painter.setClipPath(edge);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.setOpacity(kPicturesDim);
    for (int i = 0; i < shown; ++i) {
        const auto index =
            static_cast<qsizetype>((i + 0.5) / shown * static_cast<double>(pictures.size()));
        const QImage& picture = pictures[std::min(index, pictures.size() - 1)];
        const QRectF at(bar.left() + i * cell, bar.top(), cell, bar.height());
        // The middle of the picture in the cell's shape.
        QSizeF part(picture.width(), picture.width() * at.height() / at.width());
        if (part.height() > picture.height())
            part = {picture.height() * at.width() / at.height(), qreal(picture.height())};
        QRectF from(QPointF(), part);
        from.moveCenter(QRectF(picture.rect()).center());
        painter.drawImage(at, picture, from);
    }
    painter.restore();
}

/// Levels from −60 dBFS up, mirrored about the bar's middle.
void TimeLine::paintSound(QPainter& painter,
                          const SyncController::Row& row,
                          const QRectF& bar) const {
    if (row.heard == nullptr || row.heard->envelopeDbfs.size() < 2) return;
    const auto& levels = row.heard->envelopeDbfs;
    const double width = bar.width() * row.heard->durationSeconds /
                         std::max(row.lengthSeconds, row.heard->durationSeconds);
    QPolygonF above, below;
    for (std::size_t i = 0; i < levels.size(); ++i) {
        const double x = bar.left() + width * (static_cast<double>(i) + 0.5) /
                                          static_cast<double>(levels.size());
        const double half = 0.48 * kBar * std::clamp((levels[i] + 60.0) / 60.0, 0.015, 1.0);
        above << QPointF(x, bar.center().y() - half);
        below.prepend(QPointF(x, bar.center().y() + half));
    }
    painter.setPen(Qt::NoPen);
    QColor colour =
        row.letter.isEmpty() ? QColor(190, 190, 190) : theme::cameraColour(row.letter).lighter(105);
    // What moves behind it stays to be seen.
    if (!m_controller.strip(row.file).isEmpty()) colour.setAlpha(kSoundOverPictures);
    painter.setBrush(colour);
    painter.drawPolygon(above + below);
}

void TimeLine::paintScale(QPainter& painter, double left, double perSecond, double seconds) const {
    painter.setFont(theme::font(11));
    // Whole steps that leave room for their numbers.
    constexpr std::array<double, 12> kSteps{0.5, 1, 2, 5, 10, 30, 60, 120, 300, 600, 1800, 3600};
    double step = kSteps.back();
    for (const double one : kSteps) {
        if (one * perSecond >= 60.0) {
            step = one;
            break;
        }
    }
    for (double t = 0.0; t <= seconds + 1e-9; t += step) {
        const double x = left + t * perSecond;
        painter.setPen(theme::kLine);
        painter.drawLine(QPointF(x, kScale - 6), QPointF(x, height()));
        const auto clap = m_controller.clapSeconds();
        const double at =
            clap ? left + (m_controller.rows().front().startSeconds + *clap) * perSecond : -1e9;
        if (std::abs(at - x) < 34.0) continue;  // the clap's word stands there
        painter.setPen(theme::kFaint);
        const QString text = step < 1.0 ? tr("%1 s").arg(t, 0, 'f', 1)
                             : seconds < 120.0
                                 ? tr("%1 s").arg(t, 0, 'f', 0)
                                 : u"%1:%2"_s.arg(static_cast<int>(t) / 60)
                                       .arg(static_cast<int>(t) % 60, 2, 10, QLatin1Char('0'));
        painter.drawText(QRectF(x - 40, 0, 80, kScale - 8), Qt::AlignCenter, text);
    }
}

void TimeLine::paintRow(QPainter& painter, int index, const QRectF& area, double perSecond) const {
    const SyncController::Row& row = m_controller.rows()[static_cast<std::size_t>(index)];
    if (index == m_current) {
        painter.fillRect(area.adjusted(0, 2, 0, -2), QColor(58, 58, 58));
        if (hasFocus()) {
            painter.setPen(theme::kFocus);
            painter.setBrush(Qt::NoBrush);
            painter.drawRect(area.adjusted(0.5, 2.5, -0.5, -2.5));
        }
    }
    double x = 10.0;
    if (!row.letter.isEmpty()) {
        theme::paintBadge(painter, QRectF(x, area.center().y() - 10, 20, 20), row.letter);
        x += 30.0;
    }
    painter.setPen(theme::kText);
    painter.setFont(theme::font(13));
    const QFontMetrics metrics(painter.font());
    painter.drawText(
        QRectF(x, area.top(), kNames - x - kRowGap, area.height()),
        Qt::AlignVCenter,
        metrics.elidedText(row.name, Qt::ElideRight, static_cast<int>(kNames - x - kRowGap)));
    const QRectF bar(kNames + row.startSeconds * perSecond,
                     area.center().y() - 0.5 * kBar,
                     std::max(2.0, row.lengthSeconds * perSecond),
                     kBar);
    if (row.isPlaced) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(row.letter.isEmpty() ? theme::kFaint
                                              : theme::cameraColour(row.letter).darker(220));
        painter.drawRoundedRect(bar, 3, 3);
        paintPictures(painter, row, bar);
        paintSound(painter, row, bar);
        const timing::FrameReport* frames = row.frames;
        if (frames != nullptr) {
            painter.setBrush(theme::kOff);
            const auto at = [&](double t) { return bar.left() + t * perSecond; };
            // A chain that repeats frames all through is one line, not a thousand marks.
            if (!frames->pattern.empty()) {
                painter.drawRect(QRectF(bar.left(), bar.bottom() + 2, bar.width(), 2));
            } else {
                for (const double t : frames->repeated)
                    painter.drawRect(QRectF(at(t) - 0.8, bar.top() - 3, 1.6, kBar + 6));
            }
            for (const double t : frames->missing)
                painter.drawRect(QRectF(at(t) - 0.8, bar.top() - 3, 1.6, kBar + 6));
        }
    }
    const bool isOff = row.result != nullptr && !row.isPlaced;
    painter.setPen(isOff                                      ? theme::kOff
                   : row.isReference || row.result == nullptr ? theme::kDim
                                                              : theme::kText);
    painter.drawText(
        QRectF(width() - kOffsets + kRowGap, area.top(), kOffsets - kRowGap - 8, area.height()),
        Qt::AlignVCenter | Qt::AlignRight,
        (isOff ? u"▲ "_s : QString()) + offsetText(row));
}

void TimeLine::mousePressEvent(QMouseEvent* event) {
    const int row = static_cast<int>((event->position().y() - kScale) / kRow);
    if (row >= 0 && row < static_cast<int>(m_controller.rows().size())) setCurrent(row);
}

void TimeLine::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Down)
        setCurrent(m_current + 1);
    else if (event->key() == Qt::Key_Up)
        setCurrent(m_current - 1);
    else
        QWidget::keyPressEvent(event);
}

}  // namespace rigmatch::app
