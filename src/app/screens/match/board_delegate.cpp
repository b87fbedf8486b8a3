// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/board_delegate.h"

#include <QPainter>

#include "app/models/match_board_model.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using match::Verdict;

constexpr int kNumberWidth = 128;
constexpr int kWordsGauge = 46;  // px of a gauge beside words

QColor verdictColour(Verdict verdict) {
    if (verdict == Verdict::Off) return theme::kOff;
    return verdict == Verdict::Near ? theme::kNear : theme::kText;
}

void paintGauge(QPainter& painter, const QRectF& area, const QModelIndex& index, Verdict verdict) {
    const double middle = area.center().x();
    const double half = area.width() / 2.0;
    const double y = area.center().y();
    painter.setPen(QPen(theme::kFaint, 1.0));
    painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
    const double accept = index.data(MatchBoardModel::AcceptRole).toDouble() * half;
    const double good = index.data(MatchBoardModel::GoodRole).toDouble() * half;
    painter.setPen(QPen(QColor(96, 96, 96), 1.0));
    painter.setBrush(QColor(66, 66, 66));
    painter.drawRect(QRectF(middle - accept, y - 6, 2 * accept, 12));
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(92, 92, 92));
    painter.drawRect(QRectF(middle - good, y - 5, 2 * good, 10));
    const double at = middle + index.data(MatchBoardModel::PositionRole).toDouble() * (half - 2.0);
    painter.setBrush(verdictColour(verdict));
    painter.drawRect(QRectF(at - 2.0, y - 8, 4, 16));
}

void paintNumber(QPainter& painter, const QRect& area, const QModelIndex& index, Verdict verdict) {
    const QString mark = verdict == Verdict::Off    ? u"▲"_s
                         : verdict == Verdict::Near ? u"△"_s
                                                    : QString();
    const QRect markArea(area.right() - 15, area.top(), 15, area.height());
    painter.setFont(theme::font(11));
    painter.setPen(verdictColour(verdict));
    painter.drawText(markArea, Qt::AlignCenter, mark);
    QRect text = area.adjusted(0, 0, -19, 0);
    const QString uncertainty =
        u" ± "_s + index.data(MatchBoardModel::UncertaintyTextRole).toString();
    painter.setFont(theme::font(12));
    painter.setPen(theme::kDim);
    painter.drawText(text, Qt::AlignVCenter | Qt::AlignRight, uncertainty);
    text.setRight(text.right() - painter.fontMetrics().horizontalAdvance(uncertainty));
    painter.setFont(theme::font(13, verdict == Verdict::Good ? QFont::Normal : QFont::DemiBold));
    painter.setPen(theme::kText);
    painter.drawText(text, Qt::AlignVCenter | Qt::AlignRight, index.data().toString());
}

/// A shooter's words, and the number small beside them as far as there is room.
void paintWords(QPainter& painter,
                const QRect& area,
                const QModelIndex& index,
                Verdict verdict,
                const QString& words) {
    const QString mark = verdict == Verdict::Off    ? u"▲"_s
                         : verdict == Verdict::Near ? u"△"_s
                                                    : QString();
    painter.setFont(theme::font(11));
    painter.setPen(verdictColour(verdict));
    painter.drawText(
        QRect(area.right() - 13, area.top(), 13, area.height()), Qt::AlignCenter, mark);
    QRect text = area.adjusted(0, 0, -17, 0);
    const QFont strong =
        theme::font(12, verdict == Verdict::Good ? QFont::Normal : QFont::DemiBold);
    painter.setFont(strong);
    painter.setPen(verdict == Verdict::Good ? theme::kDim : theme::kText);
    const int wide = painter.fontMetrics().horizontalAdvance(words);
    painter.drawText(text,
                     Qt::AlignVCenter | Qt::AlignLeft,
                     painter.fontMetrics().elidedText(words, Qt::ElideRight, text.width()));
    const QString value = index.data().toString();
    const QString both =
        value + u" ± "_s + index.data(MatchBoardModel::UncertaintyTextRole).toString();
    painter.setFont(theme::font(11));
    painter.setPen(theme::kDim);
    text.setLeft(text.left() + wide + 8);
    for (const QString& number : {both, value}) {
        if (painter.fontMetrics().horizontalAdvance(number) > text.width()) continue;
        painter.drawText(text, Qt::AlignVCenter | Qt::AlignRight, number);
        break;
    }
}

/// A line where picture ends and skin begins.
void paintGroup(QPainter& painter, const QRect& rect, const QModelIndex& index) {
    if (!index.data(MatchBoardModel::GroupStartRole).toBool()) return;
    painter.setPen(QPen(theme::kFaint, 2.0));
    painter.drawLine(rect.topLeft(), rect.topRight());
}

void paintFocus(QPainter& painter, const QRect& rect, bool isChosen) {
    if (!isChosen) return;
    painter.setPen(QPen(theme::kFocus, 2.0));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(rect.adjusted(1, 1, -1, -1));
}

}  // namespace

void BoardDelegate::paint(QPainter* painter,
                          const QStyleOptionViewItem& option,
                          const QModelIndex& index) const {
    painter->save();
    const bool isChosen = (option.state & QStyle::State_Selected) != 0;
    if (isChosen) painter->fillRect(option.rect, QColor(60, 60, 60));
    const QRect area = option.rect.adjusted(10, 2, -8, -2);
    const QString text = index.data().toString();
    if (index.data(MatchBoardModel::IsReferenceRole).toBool()) {
        painter->setPen(theme::kDim);
        painter->setFont(theme::font(12));
        painter->drawText(area,
                          Qt::AlignVCenter | Qt::AlignLeft,
                          painter->fontMetrics().elidedText(text, Qt::ElideRight, area.width()));
    } else if (!index.data(MatchBoardModel::ValueRole).isValid()) {
        const bool isQuiet = index.data(MatchBoardModel::IsQuietRole).toBool();
        painter->setPen(isQuiet ? theme::kFaint : theme::kNear);
        painter->setFont(theme::font(12));
        const QString reason = index.data(Qt::ToolTipRole).toString();
        const QString words = isQuiet ? text : u"△ "_s + text + u": "_s + reason;
        painter->drawText(area,
                          Qt::AlignVCenter | Qt::AlignLeft,
                          painter->fontMetrics().elidedText(words, Qt::ElideRight, area.width()));
    } else {
        painter->setRenderHint(QPainter::Antialiasing, false);
        const auto verdict = static_cast<Verdict>(index.data(MatchBoardModel::VerdictRole).toInt());
        const QString words =
            m_isCompact ? QString() : index.data(MatchBoardModel::WordsRole).toString();
        if (!words.isEmpty()) {
            paintGauge(*painter,
                       QRectF(area.left(), area.top(), kWordsGauge, area.height()),
                       index,
                       verdict);
            paintWords(*painter, area.adjusted(kWordsGauge + 10, 0, 0, 0), index, verdict, words);
            paintGroup(*painter, option.rect, index);
            paintFocus(*painter, option.rect, isChosen);
            painter->restore();
            return;
        }
        const int gaugeWidth = m_isCompact ? 0 : std::min(area.width() - kNumberWidth - 8, 220);
        if (gaugeWidth > 40)
            paintGauge(*painter,
                       QRectF(area.left(), area.top(), gaugeWidth, area.height()),
                       index,
                       verdict);
        paintNumber(*painter,
                    QRect(area.right() - kNumberWidth, area.top(), kNumberWidth, area.height()),
                    index,
                    verdict);
    }
    paintGroup(*painter, option.rect, index);
    paintFocus(*painter, option.rect, isChosen);
    painter->restore();
}

BoardHeader::BoardHeader(Qt::Orientation orientation, QWidget* parent)
    : QHeaderView(orientation, parent) {
    setSectionsClickable(false);
    setHighlightSections(false);
}

void BoardHeader::setUnits(bool areShown) {
    m_areUnitsShown = areShown;
    viewport()->update();
}

QSize BoardHeader::sectionSizeFromContents(int /*section*/) const {
    return orientation() == Qt::Horizontal ? QSize(150, 46) : QSize(172, 36);
}

void BoardHeader::paintSection(QPainter* painter, const QRect& rect, int section) const {
    painter->save();
    painter->fillRect(rect, theme::kPanel);
    painter->setPen(theme::kLine);
    painter->drawLine(rect.bottomLeft(), rect.bottomRight());
    painter->drawLine(rect.topRight(), rect.bottomRight());
    if (model()->headerData(section, orientation(), MatchBoardModel::GroupStartRole).toBool()) {
        painter->setPen(QPen(theme::kFaint, 2.0));
        painter->drawLine(rect.topLeft(), rect.topRight());
    }
    QRect area = rect.adjusted(10, 3, -6, -3);
    if (orientation() == Qt::Horizontal) {
        const QString letter =
            model()->headerData(section, orientation(), MatchBoardModel::LetterRole).toString();
        theme::paintBadge(*painter, QRectF(area.left(), area.center().y() - 10, 20, 20), letter);
        area.setLeft(area.left() + 30);
    }
    const QString title = model()->headerData(section, orientation(), Qt::DisplayRole).toString();
    const QString help =
        model()->headerData(section, orientation(), MatchBoardModel::HelpRole).toString();
    if (m_areUnitsShown && help.isEmpty()) {
        painter->setPen(theme::kDim);
        painter->setFont(theme::font(11));
        painter->drawText(
            area,
            Qt::AlignVCenter | Qt::AlignRight,
            model()->headerData(section, orientation(), MatchBoardModel::UnitRole).toString());
    }
    painter->setPen(theme::kText);
    painter->setFont(theme::font(13));
    painter->drawText(
        help.isEmpty() ? area : area.adjusted(0, 0, 0, -area.height() / 2 + 3),
        static_cast<int>((help.isEmpty() ? Qt::AlignVCenter : Qt::AlignBottom) | Qt::AlignLeft),
        painter->fontMetrics().elidedText(title, Qt::ElideRight, area.width()));
    painter->setPen(theme::kDim);
    painter->setFont(theme::font(11));
    painter->drawText(area.adjusted(0, area.height() / 2 + 2, 0, 2),
                      Qt::AlignTop | Qt::AlignLeft,
                      painter->fontMetrics().elidedText(help, Qt::ElideRight, area.width()));
    painter->restore();
}

}  // namespace rigmatch::app
