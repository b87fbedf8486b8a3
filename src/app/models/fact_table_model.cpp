// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/fact_table_model.h"

#include <QBrush>

#include "app/services/texts.h"
#include "app/widgets/theme.h"
#include "words/reading_facts.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;
using match::Verdict;

void FactTableModel::setTable(const rig::Rig& rig, const words::FactTable& table) {
    beginResetModel();
    m_table = table;
    m_rows.clear();
    m_letters.clear();
    for (const std::string& id : table.cameraIds) {
        const rig::Camera* camera = rig::findCamera(rig, id);
        m_letters << (camera == nullptr ? QString() : plain(camera->letter));
    }
    QString group;
    for (std::size_t i = 0; i < table.rows.size(); ++i) {
        const QString own = fromCore(table.rows[i].group);
        if (own != group) m_rows << Row{own, -1};
        group = own;
        m_rows << Row{{}, static_cast<int>(i)};
    }
    endResetModel();
}

bool FactTableModel::isHeading(int row) const { return m_rows.value(row).fact < 0; }

int FactTableModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_rows.size());
}

int FactTableModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_letters.size()) + 1;
}

Qt::ItemFlags FactTableModel::flags(const QModelIndex& index) const {
    return isHeading(index.row()) ? Qt::ItemIsEnabled : Qt::ItemIsEnabled | Qt::ItemIsSelectable;
}

QVariant FactTableModel::cellData(const words::FactRow& row, int column, int role) const {
    if (column == 0) {
        const QString title = fromCore(row.title);
        if (role == Qt::DisplayRole)
            return row.unit.empty() ? title : title + u", "_s + fromCore(row.unit);
        if (role == ExplanationRole || role == Qt::ToolTipRole) return fromCore(row.help);
        return role == Qt::ForegroundRole ? QVariant(QBrush(theme::kDim)) : QVariant();
    }
    const words::FactCell& cell = row.cells[static_cast<std::size_t>(column - 1)];
    const bool isOff = cell.verdict == Verdict::Off;
    const bool isNear = cell.verdict == Verdict::Near;
    switch (role) {
        case Qt::DisplayRole:
            return fromCore(cell.text);
        case MarkRole:
            return isOff ? u"▲"_s : isNear ? u"△"_s : QString();
        case Qt::ForegroundRole:
            return QBrush(isOff                              ? theme::kOff
                          : isNear                           ? theme::kNear
                          : cell.verdict == Verdict::Unknown ? theme::kFaint
                                                             : theme::kText);
        case Qt::TextAlignmentRole:
            return QVariant(Qt::AlignRight | Qt::AlignVCenter);
        case VerdictRole:
            return static_cast<int>(cell.verdict);
        case ValueRole:
            return cell.value ? QVariant(*cell.value) : QVariant();
        case ExplanationRole:
        case Qt::ToolTipRole:
            return cell.why.empty() ? fromCore(row.help)
                                    : fromCore(cell.why) + u" "_s + fromCore(row.help);
        case Qt::AccessibleTextRole:
            return tr("%1 of %2: %3 %4")
                       .arg(fromCore(row.title),
                            m_letters[column - 1],
                            fromCore(cell.text),
                            fromCore(row.unit)) +
                   (isOff    ? tr(", off")
                    : isNear ? tr(", near")
                             : QString());
        default:
            return {};
    }
}

QVariant FactTableModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid()) return {};
    const Row& row = m_rows[index.row()];
    if (role == IsHeadingRole) return row.fact < 0;
    if (row.fact >= 0)
        return cellData(m_table.rows[static_cast<std::size_t>(row.fact)], index.column(), role);
    if (index.column() != 0) return {};
    if (role == Qt::DisplayRole || role == Qt::AccessibleTextRole) return row.heading;
    return role == Qt::FontRole ? QVariant(theme::font(13, QFont::DemiBold)) : QVariant();
}

QVariant FactTableModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation == Qt::Vertical) return {};
    if (role == Qt::TextAlignmentRole)
        return QVariant(section == 0 ? Qt::AlignLeft | Qt::AlignVCenter
                                     : Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::ForegroundRole && section > 0)
        return QBrush(theme::cameraColour(m_letters.value(section - 1)));
    if (role == Qt::FontRole && section > 0) return theme::font(13, QFont::DemiBold);
    if (role != Qt::DisplayRole) return {};
    // The letter ends above the numbers, not above their marks.
    return section == 0 ? tr("quantity") : m_letters.value(section - 1) + u"\u2003"_s;
}

QString FactTableModel::numbers() const {
    QStringList head{tr("quantity"), tr("unit")};
    for (const QString& letter : m_letters) head << letter << tr("%1 ±").arg(letter);
    QStringList lines{head.join(u'\t')};
    for (const words::FactRow& row : m_table.rows) {
        QStringList line{fromCore(row.group) + u": "_s + fromCore(row.title), fromCore(row.unit)};
        for (const words::FactCell& cell : row.cells) {
            line << (cell.value ? QString::number(*cell.value, 'g', 5) : fromCore(cell.text))
                 << (cell.value && cell.uncertainty > 0.0
                         ? QString::number(cell.uncertainty, 'g', 2)
                         : QString());
        }
        lines << line.join(u'\t');
    }
    return lines.join(u'\n') + u'\n';
}

}  // namespace rigmatch::app
