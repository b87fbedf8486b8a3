// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QHeaderView>
#include <QStyledItemDelegate>

namespace rigmatch::app {

/// Paints a cell of the match board: gauge with tolerance band, number with uncertainty, and a mark
/// where it is near (hollow triangle) or off (full triangle). What is good stays quiet.
class BoardDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* painter,
               const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    /// Numbers alone, without gauge and words.
    void setCompact(bool isCompact) { m_isCompact = isCompact; }

private:
    bool m_isCompact = false;
};

/// Heads of the board: badge, role and settings of a camera; title and unit of a quality.
class BoardHeader : public QHeaderView {
    Q_OBJECT
public:
    BoardHeader(Qt::Orientation orientation, QWidget* parent);
    /// Rows of numbers alone tell their unit.
    void setUnits(bool areShown);

protected:
    void paintSection(QPainter* painter, const QRect& rect, int section) const override;
    [[nodiscard]] QSize sectionSizeFromContents(int section) const override;

private:
    bool m_areUnitsShown = false;
};

}  // namespace rigmatch::app
