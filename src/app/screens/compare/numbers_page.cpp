// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/numbers_page.h"

#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QTableView>

#include "app/models/fact_table_model.h"
#include "app/screens/compare/compare_controller.h"
#include "app/widgets/build.h"
#include "words/reading_facts.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

namespace {

constexpr int kMarkPx = 22;

/// Numbers end in one line, and their marks stand in a column of their own behind them.
class NumberDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter,
               const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const QVariant mark = index.data(FactTableModel::MarkRole);
        if (!mark.isValid()) {
            QStyledItemDelegate::paint(painter, option, index);
            return;
        }
        if (option.state & QStyle::State_Selected)
            painter->fillRect(option.rect, QColor(0x45, 0x45, 0x45));
        QStyleOptionViewItem number = option;
        number.state &= ~QStyle::State_Selected;
        number.rect.adjust(0, 0, -kMarkPx, 0);
        QStyledItemDelegate::paint(painter, number, index);
        painter->save();
        painter->setPen(index.data(Qt::ForegroundRole).value<QBrush>().color());
        painter->drawText(option.rect.adjusted(option.rect.width() - kMarkPx, 0, -4, 0),
                          Qt::AlignCenter,
                          mark.toString());
        painter->restore();
    }
};

}  // namespace

NumbersPage::NumbersPage(CompareController& controller, AppContext& context, QWidget* parent)
    : ComparePage(controller, parent), m_context(context), m_model(new FactTableModel(this)) {
    setObjectName(u"numbersPage"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    m_table = new QTableView(this);
    m_table->setObjectName(u"factTable"_s);
    m_table->setAccessibleName(tr("Measured quantities of all cameras"));
    m_table->setModel(m_model);
    m_table->setItemDelegate(new NumberDelegate(m_table));
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setTabKeyNavigation(false);
    m_table->setShowGrid(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(26);
    m_table->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    layout->addWidget(m_table, 1);
    m_words = makeLabel(QString(), "dim", u"factWords"_s, this);
    m_words->setWordWrap(true);
    m_words->setMinimumHeight(40);
    m_words->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    layout->addWidget(m_words);
    connect(m_table->selectionModel(),
            &QItemSelectionModel::currentChanged,
            this,
            &NumbersPage::explain);
    explain();
}

void NumbersPage::refresh() {
    const rig::Take* take = m_context.matchTake();
    const QModelIndex before = m_table->currentIndex();
    m_model->setTable(m_controller.rig(),
                      take == nullptr
                          ? words::FactTable{}
                          : words::readingFacts(m_controller.rig(), *take, m_controller.report()));
    m_table->clearSpans();
    for (int row = 0; row < m_model->rowCount(); ++row) {
        if (m_model->isHeading(row)) m_table->setSpan(row, 0, 1, m_model->columnCount());
    }
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    if (m_model->columnCount() > 0) {
        m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Fixed);
        m_table->setColumnWidth(0, 290);
    }
    if (before.isValid()) m_table->setCurrentIndex(m_model->index(before.row(), before.column()));
    explain();
}

void NumbersPage::explain() {
    const QString text = m_table->currentIndex().data(FactTableModel::ExplanationRole).toString();
    m_words->setText(text.isEmpty() ? tr("As shot. Choose a number to see what it rests on.")
                                    : text);
}

QString NumbersPage::numbers() const { return m_model->numbers(); }

}  // namespace rigmatch::app
