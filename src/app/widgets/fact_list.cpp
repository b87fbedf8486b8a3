// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/fact_list.h"

#include <QHash>
#include <QPainter>

#include "app/services/texts.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using base::Verdict;

constexpr int kSide = 12;
constexpr int kTop = 8;
constexpr int kGap = 3;
constexpr int kShortValue = 64;  // narrower ones stay beside a title of several lines

Verdict levelOf(const QModelIndex& index) {
    return static_cast<Verdict>(index.data(FactListModel::LevelRole).toInt());
}

QColor markColour(Verdict level) {
    switch (level) {
        case base::Verdict::Near:
            return theme::kNear;
        case base::Verdict::Off:
            return theme::kOff;
        case base::Verdict::Unknown:
            return theme::kDim;
        case base::Verdict::Good:
            break;
    }
    return theme::kText;
}

/// The value with the shape that stands for its verdict.
QString marked(const QString& value, Verdict level) {
    const QString shape = level == base::Verdict::Near  ? u"△"_s
                          : level == base::Verdict::Off ? u"▼"_s
                                                        : QString();
    if (value.isEmpty() || shape.isEmpty()) return value + shape;
    return value + u' ' + shape;
}

struct FactLayout {
    QRect title, value, why, change;
    int height = 0;
};

FactLayout computedLayout(const QModelIndex& index, int width) {
    const QFontMetrics big(theme::font(13));
    const QFontMetrics strong(theme::font(13, QFont::DemiBold));
    const QFontMetrics small(theme::font(11));
    const int inner = std::max(80, width - 2 * kSide);
    FactLayout layout;
    const QString value = marked(index.data(FactListModel::ValueRole).toString(), levelOf(index));
    const QString title = index.data(FactListModel::TitleRole).toString();
    const bool isOneLine =
        big.horizontalAdvance(title) + strong.horizontalAdvance(value) + 16 <= inner;
    int y = kTop;
    if (isOneLine) {
        layout.title = QRect(kSide, y, inner, big.height());
        layout.value = layout.title;
        y += big.height();
    } else if (strong.horizontalAdvance(value) < kShortValue) {
        const int room = inner - strong.horizontalAdvance(value) - 8;
        const QRect bounds = big.boundingRect(QRect(0, 0, room, 1000), Qt::TextWordWrap, title);
        layout.title = QRect(kSide, y, room, bounds.height());
        layout.value = QRect(kSide, y, inner, strong.height());
        y += bounds.height();
    } else {
        const QRect bounds = big.boundingRect(QRect(0, 0, inner, 1000), Qt::TextWordWrap, title);
        layout.title = QRect(kSide, y, inner, bounds.height());
        y += bounds.height();
        const QRect words = strong.boundingRect(QRect(0, 0, inner, 1000), Qt::TextWordWrap, value);
        layout.value = QRect(kSide, y, inner, words.height());
        y += words.height();
    }
    const auto wrapped = [&](const QString& text, QRect& rect) {
        if (text.isEmpty()) return;
        y += kGap;
        const QRect bounds = small.boundingRect(QRect(0, 0, inner, 2000), Qt::TextWordWrap, text);
        rect = QRect(kSide, y, inner, bounds.height());
        y += bounds.height();
    };
    wrapped(index.data(FactListModel::WhyRole).toString(), layout.why);
    wrapped(index.data(FactListModel::ChangeRole).toString(), layout.change);
    layout.height = y + kTop;
    return layout;
}

/// Breaking lines is slow, and rows are asked twice and often: what was computed is kept.
const FactLayout& layoutOf(const QModelIndex& index, int width) {
    constexpr qsizetype kMostKept = 600;
    static QHash<QString, FactLayout> kept;
    const QString key = QString::number(width) + QChar(0) +
                        index.data(FactListModel::TitleRole).toString() + QChar(0) +
                        index.data(FactListModel::ValueRole).toString() + QChar(0) +
                        index.data(FactListModel::WhyRole).toString() + QChar(0) +
                        index.data(FactListModel::ChangeRole).toString() +
                        QString::number(static_cast<int>(levelOf(index)));
    const auto found = kept.constFind(key);
    if (found != kept.constEnd()) return *found;
    if (kept.size() > kMostKept) kept.clear();
    return *kept.insert(key, computedLayout(index, width));
}

}  // namespace

void FactListModel::setFacts(const std::vector<words::ToldFact>& facts) {
    if (facts == m_facts) return;
    if (facts.size() != m_facts.size()) {
        beginResetModel();
        m_facts = facts;
        endResetModel();
        return;
    }
    m_facts = facts;
    if (!m_facts.empty()) Q_EMIT dataChanged(index(0), index(rowCount() - 1));
}

int FactListModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_facts.size());
}

QVariant FactListModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount()) return {};
    const words::ToldFact& fact = m_facts[static_cast<std::size_t>(index.row())];
    switch (role) {
        case TitleRole:
            return fromCore(fact.title);
        case ValueRole:
            return fromCore(fact.value);
        case WhyRole:
            return fromCore(fact.why);
        case ChangeRole:
            return fact.change.empty() ? QString() : u"→ "_s + fromCore(fact.change);
        case LevelRole:
            return static_cast<int>(fact.verdict);
        case Qt::DisplayRole:
            return fromCore(fact.title) + u": "_s + fromCore(fact.value);
        case Qt::AccessibleTextRole:
            return QStringLiteral("%1: %2 (%3). %4 %5")
                .arg(fromCore(fact.title),
                     fromCore(fact.value),
                     fromCore(base::nameOf(fact.verdict)),
                     fromCore(fact.why),
                     fromCore(fact.change));
        default:
            return {};
    }
}

void FactDelegate::paint(QPainter* painter,
                         const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
    painter->save();
    if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, QColor(58, 58, 58));
    const FactLayout layout = layoutOf(index, option.rect.width());
    const Verdict level = levelOf(index);
    painter->translate(option.rect.topLeft());
    painter->setFont(theme::font(13));
    painter->setPen(theme::kText);
    painter->drawText(
        layout.title, Qt::TextWordWrap, index.data(FactListModel::TitleRole).toString());
    painter->setFont(theme::font(13, QFont::DemiBold));
    painter->setPen(markColour(level));
    painter->drawText(layout.value,
                      Qt::AlignRight | Qt::TextWordWrap,
                      marked(index.data(FactListModel::ValueRole).toString(), level));
    painter->setFont(theme::font(11));
    painter->setPen(theme::kDim);
    painter->drawText(layout.why, Qt::TextWordWrap, index.data(FactListModel::WhyRole).toString());
    painter->setPen(theme::kText);
    painter->drawText(
        layout.change, Qt::TextWordWrap, index.data(FactListModel::ChangeRole).toString());
    painter->setPen(theme::kLine);
    painter->drawLine(0, option.rect.height() - 1, option.rect.width(), option.rect.height() - 1);
    painter->restore();
}

QSize FactDelegate::sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const auto* view = qobject_cast<const QListView*>(option.widget);
    const int width = view == nullptr ? option.rect.width() : view->viewport()->width();
    return {width, layoutOf(index, width).height};
}

FactList::FactList(const QString& objectName, const QString& accessibleName, QWidget* parent)
    : QListView(parent), m_model(new FactListModel(this)) {
    setObjectName(objectName);
    setAccessibleName(accessibleName);
    setModel(m_model);
    setItemDelegate(new FactDelegate(this));
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setFrameShape(QFrame::NoFrame);
}

void FactList::setFacts(const std::vector<words::ToldFact>& facts) {
    const int before = m_model->rowCount();
    m_model->setFacts(facts);
    // Rows are as high as their words: lay them out anew, keeping the place.
    if (before == m_model->rowCount()) scheduleDelayedItemsLayout();
}

void FactList::resizeEvent(QResizeEvent* event) {
    QListView::resizeEvent(event);
    scheduleDelayedItemsLayout();
}

}  // namespace rigmatch::app
