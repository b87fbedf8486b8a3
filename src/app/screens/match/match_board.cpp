// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/match_board.h"

#include <QMenu>
#include <QPushButton>
#include <QResizeEvent>
#include <QScrollBar>
#include <QSettings>

#include "app/models/match_board_model.h"
#include "app/screens/match/board_delegate.h"
#include "app/widgets/build.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

// Heights of a row, px: numbers beside a large gauge, words beside a small one, numbers alone.
constexpr int kNumberRow = 32, kWordRow = 27, kCompactRow = 22;
constexpr int kBoardHead = 44;
constexpr int kReferenceRoom = 172;
// Least widths of a camera's column, px: words, number and gauge, number alone.
constexpr int kWordColumn = 208, kNumberColumn = 190, kCompactColumn = 112;

void dress(QTableView* view, BoardDelegate* delegate) {
    view->setItemDelegate(delegate);
    view->setHorizontalHeader(new BoardHeader(Qt::Horizontal, view));
    view->setVerticalHeader(new BoardHeader(Qt::Vertical, view));
    view->horizontalHeader()->setFixedHeight(kBoardHead);
    view->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    view->setSelectionMode(QAbstractItemView::SingleSelection);
    view->setEditTriggers(QAbstractItemView::NoEditTriggers);
    view->setTabKeyNavigation(false);
    view->setCornerButtonEnabled(false);
    view->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    view->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    view->setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
}

}  // namespace

MatchBoard::MatchBoard(MatchBoardModel* model, QSettings& settings, QWidget* parent)
    : QTableView(parent),
      m_model(model),
      m_delegate(new BoardDelegate(this)),
      m_frozen(new QTableView(this)),
      m_menu(makeButton(tr("Boar&d"),
                        u"boardButton"_s,
                        tr("How the board is ordered and how much of it is shown"),
                        this)) {
    setObjectName(u"matchBoard"_s);
    setAccessibleName(tr("Match board: differences from the reference"));
    setModel(model);
    dress(this, m_delegate);
    m_frozen->setObjectName(u"frozenReference"_s);
    m_frozen->setAccessibleName(tr("The reference"));
    m_frozen->setModel(model);
    dress(m_frozen, m_delegate);
    m_frozen->verticalHeader()->hide();
    m_frozen->setSelectionModel(selectionModel());
    m_frozen->setFocusPolicy(Qt::NoFocus);
    m_frozen->setFrameShape(QFrame::NoFrame);
    m_frozen->hide();
    buildMenu(settings);
}

void MatchBoard::buildMenu(QSettings& settings) {
    auto* menu = new QMenu(m_menu);
    const auto add = [&](const QString& text, const QString& name, const QString& key, auto act) {
        QAction* action = menu->addAction(text);
        action->setObjectName(name);
        action->setCheckable(true);
        action->setChecked(settings.value(key).toBool());
        act(action->isChecked());
        connect(action, &QAction::toggled, this, [this, &settings, key, act](bool isOn) {
            settings.setValue(key, isOn);
            act(isOn);
            layOut(m_isTechnical);
        });
    };
    add(tr("&Worst first"), u"worstFirstAction"_s, u"match/worstFirst"_s, [this](bool isOn) {
        m_model->setWorstFirst(isOn);
    });
    add(tr("&Compact: numbers alone"), u"compactAction"_s, u"match/compact"_s, [this](bool isOn) {
        m_isCompact = isOn;
        m_delegate->setCompact(isOn);
        static_cast<BoardHeader*>(verticalHeader())->setUnits(isOn);
        viewport()->update();
        m_frozen->viewport()->update();
    });
    m_menu->setMenu(menu);
    m_menu->setFlat(true);
}

int MatchBoard::referenceColumn() const {
    for (int column = 0; column < m_model->columnCount(); ++column) {
        if (m_model->index(0, column).data(MatchBoardModel::IsReferenceRole).toBool())
            return column;
    }
    return -1;
}

void MatchBoard::layOut(bool isTechnical) {
    m_isTechnical = isTechnical;
    const int row = m_isCompact ? kCompactRow : isTechnical ? kNumberRow : kWordRow;
    for (QTableView* view : {static_cast<QTableView*>(this), m_frozen})
        view->verticalHeader()->setDefaultSectionSize(row);
    verticalHeader()->setFixedWidth(isTechnical || m_isCompact ? 178 : 136);
    layOutColumns();
    const int bar = m_isScrolling ? horizontalScrollBar()->sizeHint().height() : 0;
    setFixedHeight(kBoardHead + row * m_model->rowCount() + 4 + bar);
    layOutFrozen();
    m_menu->setGeometry(
        frameWidth() + 2, frameWidth() + 6, verticalHeader()->width() - 6, kBoardHead - 12);
}

void MatchBoard::layOutColumns() {
    const int reference = referenceColumn();
    const int others = m_model->columnCount() - (reference >= 0 ? 1 : 0);
    const int least = m_isCompact ? kCompactColumn : m_isTechnical ? kNumberColumn : kWordColumn;
    const int room = width() - 2 * frameWidth() - verticalHeader()->width() -
                     (reference >= 0 ? kReferenceRoom : 0);
    m_isScrolling = others > 0 && room / others < least;
    setHorizontalScrollBarPolicy(m_isScrolling ? Qt::ScrollBarAlwaysOn : Qt::ScrollBarAlwaysOff);
    QHeaderView* head = horizontalHeader();
    for (int column = 0; column < m_model->columnCount(); ++column) {
        const bool isFixed = column == reference || m_isScrolling;
        head->setSectionResizeMode(column, isFixed ? QHeaderView::Fixed : QHeaderView::Stretch);
        if (isFixed) head->resizeSection(column, column == reference ? kReferenceRoom : least);
    }
    // What stays in sight stands first; where all have room, each stands where the rig has it.
    for (int column = 0; column < m_model->columnCount(); ++column)
        head->moveSection(head->visualIndex(column), column);
    if (m_isScrolling && reference > 0) head->moveSection(head->visualIndex(reference), 0);
}

void MatchBoard::layOutFrozen() {
    const int reference = referenceColumn();
    m_frozen->setVisible(m_isScrolling && reference >= 0);
    if (m_frozen->isHidden()) return;
    for (int column = 0; column < m_model->columnCount(); ++column)
        m_frozen->setColumnHidden(column, column != reference);
    m_frozen->setColumnWidth(reference, kReferenceRoom);
    m_frozen->setGeometry(verticalHeader()->width() + frameWidth(),
                          frameWidth(),
                          kReferenceRoom,
                          kBoardHead + viewport()->height());
    m_frozen->raise();
}

void MatchBoard::chooseFirst() {
    if (currentIndex().isValid()) return;
    const int reference = referenceColumn();
    for (int column = 0; column < m_model->columnCount(); ++column) {
        if (column == reference) continue;
        setCurrentIndex(m_model->index(0, column));
        return;
    }
}

void MatchBoard::scrollTo(const QModelIndex& index, ScrollHint hint) {
    QTableView::scrollTo(index, hint);
    if (!m_isScrolling || index.column() == referenceColumn()) return;
    const int hidden = kReferenceRoom - visualRect(index).left();
    if (hidden > 0) horizontalScrollBar()->setValue(horizontalScrollBar()->value() - hidden);
}

void MatchBoard::resizeEvent(QResizeEvent* event) {
    QTableView::resizeEvent(event);
    if (event->oldSize().width() != event->size().width()) layOut(m_isTechnical);
}

}  // namespace rigmatch::app
