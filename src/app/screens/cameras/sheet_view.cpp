// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/sheet_view.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPainter>
#include <QTimer>

#include "app/models/camera_sheet_model.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using Kind = SheetRow::Kind;

constexpr int kSide = 7;

const QColor kFollows(58, 58, 58);

Kind kindOf(const QVariant& value) { return static_cast<Kind>(value.toInt()); }

}  // namespace

void SheetDelegate::paint(QPainter* painter,
                          const QStyleOptionViewItem& option,
                          const QModelIndex& index) const {
    painter->save();
    const QRect area = option.rect;
    const Kind kind = kindOf(index.data(CameraSheetModel::KindRole));
    if (kind == Kind::Group) {
        painter->fillRect(area, QColor(42, 42, 42));
        painter->restore();
        return;
    }
    // What follows from the settings is tinted: it cannot be typed.
    const bool isFact = kind == Kind::Fact;
    if (isFact) painter->fillRect(area, kFollows);
    if (option.state & QStyle::State_Selected) painter->fillRect(area, QColor(66, 66, 66));
    if (option.state & QStyle::State_HasFocus) {
        painter->setPen(theme::kFocus);
        painter->drawRect(area.adjusted(0, 0, -1, -1));
    }
    const auto level = static_cast<base::Verdict>(index.data(CameraSheetModel::LevelRole).toInt());
    const bool isQuiet = index.data(CameraSheetModel::IsQuietRole).toBool();
    QString text = index.data().toString();
    QColor colour = isQuiet ? theme::kDim : theme::kText;
    if (level == base::Verdict::Near) {
        colour = theme::kNear;
        text += u" △"_s;
    } else if (level == base::Verdict::Off) {
        colour = theme::kOff;
        text += u" ▼"_s;
    } else if (level == base::Verdict::Unknown) {
        colour = theme::kDim;
    }
    painter->setFont(
        theme::font(12, level == base::Verdict::Off ? QFont::DemiBold : QFont::Normal));
    painter->setPen(colour);
    const QRect inner = area.adjusted(kSide, 0, -kSide, 0);
    painter->drawText(inner,
                      Qt::AlignVCenter | Qt::AlignLeft,
                      painter->fontMetrics().elidedText(text, Qt::ElideRight, inner.width()));
    painter->restore();
}

QWidget* SheetDelegate::createEditor(QWidget* parent,
                                     const QStyleOptionViewItem&,
                                     const QModelIndex& index) const {
    const auto* model = qobject_cast<const CameraSheetModel*>(index.model());
    if (model == nullptr) return nullptr;
    const QList<SheetChoice> choices = model->choices(index);
    if (choices.isEmpty()) {
        auto* edit = new QLineEdit(parent);
        edit->setObjectName(u"sheetEdit"_s);
        edit->setAccessibleName(index.data(Qt::AccessibleTextRole).toString());
        edit->setFrame(false);
        return edit;
    }
    auto* box = new QComboBox(parent);
    box->setObjectName(u"sheetBox"_s);
    box->setAccessibleName(index.data(Qt::AccessibleTextRole).toString());
    box->setMaxVisibleItems(16);
    for (const SheetChoice& choice : choices) box->addItem(choice.text, choice.value);
    auto* self = const_cast<SheetDelegate*>(this);
    connect(box, &QComboBox::activated, self, [self, box] {
        Q_EMIT self->commitData(box);
        Q_EMIT self->closeEditor(box);
    });
    QTimer::singleShot(0, box, [box] { box->showPopup(); });
    return box;
}

void SheetDelegate::setEditorData(QWidget* editor, const QModelIndex& index) const {
    const QVariant value = index.data(Qt::EditRole);
    if (auto* edit = qobject_cast<QLineEdit*>(editor)) {
        edit->setText(value.toString());
        edit->selectAll();
        return;
    }
    auto* box = qobject_cast<QComboBox*>(editor);
    for (int i = 0; box != nullptr && i < box->count(); ++i) {
        const QVariant item = box->itemData(i);
        const bool isSame = value.isValid() && item.typeId() == QMetaType::Double
                                ? std::abs(item.toDouble() - value.toDouble()) <
                                      1e-6 * (1.0 + std::abs(value.toDouble()))
                                : item == value;
        if (isSame) box->setCurrentIndex(i);
    }
}

void SheetDelegate::setModelData(QWidget* editor,
                                 QAbstractItemModel* model,
                                 const QModelIndex& index) const {
    if (auto* box = qobject_cast<QComboBox*>(editor)) {
        model->setData(index, box->currentData());
        return;
    }
    auto* edit = qobject_cast<QLineEdit*>(editor);
    if (edit == nullptr || !edit->isModified()) return;
    if (index.data(Qt::EditRole).typeId() != QMetaType::Double) {
        model->setData(index, edit->text());
        return;
    }
    QString text = edit->text().trimmed();
    text.replace(u',', u'.');
    text.replace(u'\u2212', u'-');
    bool isNumber = false;
    const double value = text.toDouble(&isNumber);
    // What is no number goes on as it was typed, to be refused with words.
    model->setData(index, isNumber ? QVariant(value) : QVariant(edit->text()));
}

SheetHeader::SheetHeader(Qt::Orientation orientation, QWidget* parent)
    : QHeaderView(orientation, parent) {
    setSectionsClickable(true);
}

void SheetHeader::paintSection(QPainter* painter, const QRect& rect, int section) const {
    painter->save();
    painter->fillRect(rect, theme::kPanel);
    if (orientation() == Qt::Vertical) {
        const bool isGroup = kindOf(model()->headerData(
                                 section, Qt::Vertical, CameraSheetModel::KindRole)) == Kind::Group;
        if (isGroup) painter->fillRect(rect, QColor(42, 42, 42));
        painter->setFont(theme::font(12, isGroup ? QFont::DemiBold : QFont::Normal));
        painter->setPen(isGroup ? theme::kText : theme::kDim);
        painter->drawText(rect.adjusted(isGroup ? 8 : 14, 0, -4, 0),
                          Qt::AlignVCenter | Qt::AlignLeft,
                          model()->headerData(section, Qt::Vertical).toString());
        painter->restore();
        return;
    }
    const QString letter =
        model()->headerData(section, Qt::Horizontal, CameraSheetModel::LetterRole).toString();
    const bool isReference =
        model()->headerData(section, Qt::Horizontal, CameraSheetModel::IsReferenceRole).toBool();
    const QRect badge(rect.left() + kSide, rect.center().y() - 10, 20, 20);
    theme::paintBadge(*painter, badge, letter);
    const QRect text = rect.adjusted(badge.width() + 2 * kSide, 0, -4, 0);
    painter->setFont(theme::font(13, QFont::DemiBold));
    painter->setPen(theme::kText);
    const QString role = painter->fontMetrics().elidedText(
        model()->headerData(section, Qt::Horizontal).toString(), Qt::ElideRight, text.width());
    if (isReference) {
        painter->drawText(
            text.adjusted(0, 0, 0, -rect.height() / 2 + 2), Qt::AlignBottom | Qt::AlignLeft, role);
        painter->setFont(theme::font(11));
        painter->setPen(theme::kDim);
        painter->drawText(text.adjusted(0, rect.height() / 2 + 1, 0, 0),
                          Qt::AlignTop | Qt::AlignLeft,
                          tr("reference"));
    } else {
        painter->drawText(text, Qt::AlignVCenter | Qt::AlignLeft, role);
    }
    painter->setPen(theme::kLine);
    painter->drawLine(rect.bottomLeft(), rect.bottomRight());
    painter->restore();
}

}  // namespace rigmatch::app
