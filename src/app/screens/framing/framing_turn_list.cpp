// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/framing/framing_turn_list.h"

#include <QAbstractItemView>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "app/screens/framing/framed_view.h"
#include "app/services/texts.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kLeft = 70, kTop = 10, kRight = 12;

/// Height of a wrapped text.
int heightOf(const QString& text, int pixels, int weight, int width) {
    if (text.isEmpty()) return 0;
    const QFontMetrics metrics(theme::font(pixels, weight));
    return metrics.boundingRect(QRect(0, 0, width, 1000), Qt::TextWordWrap, text).height() + 2;
}

}  // namespace

FramingTurnModel::FramingTurnModel(FramingController& controller, QObject* parent)
    : QAbstractListModel(parent), m_controller(controller) {
    connect(&controller, &FramingController::changed, this, &FramingTurnModel::take);
    take();
}

void FramingTurnModel::take() {
    // The same turns with other numbers keep the row that the keyboard is on.
    const auto& turns = m_controller.turns();
    const bool isSame = std::equal(turns.begin(),
                                   turns.end(),
                                   m_turns.begin(),
                                   m_turns.end(),
                                   [](const auto& a, const auto& b) { return a.key() == b.key(); });
    if (isSame) {
        m_turns = turns;
        if (!m_turns.empty())
            Q_EMIT dataChanged(index(0), index(static_cast<int>(m_turns.size()) - 1));
        return;
    }
    beginResetModel();
    m_turns = turns;
    endResetModel();
}

int FramingTurnModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_turns.size());
}

QVariant FramingTurnModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid()) return {};
    const base::Finding& finding = m_turns[static_cast<std::size_t>(index.row())];
    switch (role) {
        case Qt::DisplayRole:
            return fromCore(m_controller.words(finding).turn);
        case Qt::CheckStateRole:
            return m_controller.isDone(finding) ? Qt::Checked : Qt::Unchecked;
        case LetterRole:
            return m_controller.letterOf(finding);
        case HeadlineRole:
            return fromCore(m_controller.words(finding).headline);
        case NumbersRole:
            return fromCore(m_controller.words(finding).numbers);
        case VerdictRole:
            return static_cast<int>(finding.verdict);
        case Qt::AccessibleTextRole: {
            const auto words = m_controller.words(finding);
            return tr("Camera %1: %2. %3, %4")
                .arg(m_controller.letterOf(finding),
                     fromCore(words.turn),
                     fromCore(words.headline),
                     fromCore(words.numbers));
        }
        default:
            return {};
    }
}

Qt::ItemFlags FramingTurnModel::flags(const QModelIndex&) const {
    const Qt::ItemFlags plainly = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    return m_controller.isReadOnly() ? plainly : plainly | Qt::ItemIsUserCheckable;
}

bool FramingTurnModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (!index.isValid() || role != Qt::CheckStateRole || m_controller.isReadOnly()) return false;
    // A copy: the list is made anew while the tick is put.
    const base::Finding finding = m_turns[static_cast<std::size_t>(index.row())];
    m_controller.setDone(finding, value.toInt() == Qt::Checked);
    return true;
}

QSize FramingTurnDelegate::sizeHint(const QStyleOptionViewItem& option,
                                    const QModelIndex& index) const {
    int width = option.rect.width();
    if (const auto* view = qobject_cast<const QAbstractItemView*>(option.widget))
        width = view->viewport()->width();
    const int text = std::max(80, width - kLeft - kRight);
    const int height =
        heightOf(index.data().toString(), 13, QFont::DemiBold, text) +
        heightOf(index.data(FramingTurnModel::HeadlineRole).toString(), 12, QFont::Normal, text) +
        heightOf(index.data(FramingTurnModel::NumbersRole).toString(), 11, QFont::Normal, text);
    return {width, height + 2 * kTop};
}

void FramingTurnDelegate::paint(QPainter* painter,
                                const QStyleOptionViewItem& option,
                                const QModelIndex& index) const {
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    const QRect area = option.rect;
    const bool isDone = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
    const auto verdict =
        static_cast<base::Verdict>(index.data(FramingTurnModel::VerdictRole).toInt());
    if (option.state.testFlag(QStyle::State_Selected)) painter->fillRect(area, theme::kField);
    painter->setPen(theme::kLine);
    painter->drawLine(area.bottomLeft(), area.bottomRight());
    if (option.state.testFlag(QStyle::State_HasFocus)) {
        painter->setPen(QPen(theme::kFocus, 1.2));
        painter->drawRect(QRectF(area).adjusted(1.5, 1.5, -1.5, -2.5));
    }
    const QRectF box(area.left() + 12, area.top() + kTop + 1, 15, 15);
    painter->setPen(QPen(theme::kDim, 1.2));
    painter->setBrush(Qt::NoBrush);
    painter->drawRoundedRect(box, 3, 3);
    if (isDone) {
        painter->setPen(QPen(theme::kText, 1.8));
        painter->drawPolyline(QPolygonF{box.topLeft() + QPointF(3.5, 8),
                                        box.topLeft() + QPointF(6.5, 11),
                                        box.topLeft() + QPointF(12, 4.5)});
    }
    theme::paintBadge(*painter,
                      QRectF(area.left() + 38, area.top() + kTop - 1, 20, 20),
                      index.data(FramingTurnModel::LetterRole).toString());
    const int width = std::max(80, area.width() - kLeft - kRight);
    int y = area.top() + kTop;
    const auto write = [&](const QString& text, int pixels, int weight, const QColor& colour) {
        if (text.isEmpty()) return;
        const int height = heightOf(text, pixels, weight, width);
        painter->setFont(theme::font(pixels, weight));
        painter->setPen(colour);
        painter->drawText(QRect(area.left() + kLeft, y, width, height), Qt::TextWordWrap, text);
        y += height;
    };
    write(index.data().toString(), 13, QFont::DemiBold, isDone ? theme::kDim : theme::kText);
    write(markOf(verdict) + index.data(FramingTurnModel::HeadlineRole).toString(),
          12,
          QFont::Normal,
          isDone ? theme::kDim : colourOf(verdict));
    write(index.data(FramingTurnModel::NumbersRole).toString(), 11, QFont::Normal, theme::kDim);
    painter->restore();
}

bool FramingTurnDelegate::editorEvent(QEvent* event,
                                      QAbstractItemModel* model,
                                      const QStyleOptionViewItem& option,
                                      const QModelIndex& index) {
    bool isTick = false;
    if (event->type() == QEvent::MouseButtonRelease) {
        const QPoint at = static_cast<QMouseEvent*>(event)->position().toPoint();
        isTick = at.x() < option.rect.left() + 34;
    } else if (event->type() == QEvent::KeyPress) {
        isTick = static_cast<QKeyEvent*>(event)->key() == Qt::Key_Space;
    }
    if (!isTick || !index.flags().testFlag(Qt::ItemIsUserCheckable)) return false;
    const bool wasDone = index.data(Qt::CheckStateRole).toInt() == Qt::Checked;
    return model->setData(index, wasDone ? Qt::Unchecked : Qt::Checked, Qt::CheckStateRole);
}

}  // namespace rigmatch::app
