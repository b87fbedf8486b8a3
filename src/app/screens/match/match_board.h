// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTableView>

class QAction;
class QPushButton;
class QSettings;

namespace rigmatch::app {

class BoardDelegate;
class MatchBoardModel;

/// The match board as a table: words and gauges, or compact; in its groups, or worst first. Where
/// more cameras stand on it than have room it scrolls sideways, and the reference stays in sight.
class MatchBoard : public QTableView {
    Q_OBJECT
public:
    /// Order and form are remembered in `settings`.
    MatchBoard(MatchBoardModel* model, QSettings& settings, QWidget* parent);

    /// Takes heights and widths anew, for what the model now holds; `isTechnical`: numbers alone.
    void layOut(bool isTechnical);
    /// The camera column that is chosen first: the first that is no reference.
    void chooseFirst();

    void scrollTo(const QModelIndex& index, ScrollHint hint = EnsureVisible) override;

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void buildMenu(QSettings& settings);
    void layOutColumns();
    void layOutFrozen();
    [[nodiscard]] int referenceColumn() const;

    MatchBoardModel* m_model;
    BoardDelegate* m_delegate;
    QTableView* m_frozen;  ///< the reference's column over the others, while they scroll
    QPushButton* m_menu;
    bool m_isTechnical = false;
    bool m_isCompact = false;
    bool m_isScrolling = false;
};

}  // namespace rigmatch::app
