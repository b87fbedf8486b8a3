// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/number_edit.h"

#include <QStyle>

namespace rigmatch::app {

NumberEdit::NumberEdit(const QString& objectName, const QString& title, QWidget* parent)
    : QLineEdit(parent), m_title(title) {
    setObjectName(objectName);
    setAccessibleName(title);
    connect(this, &QLineEdit::editingFinished, this, &NumberEdit::finish);
    connect(this, &QLineEdit::textEdited, this, [this] {
        setProperty("refused", false);
        style()->polish(this);
    });
}

void NumberEdit::setValue(double value, int decimals) {
    if (hasFocus() && isModified()) return;
    QString text = QString::number(value, 'f', decimals);
    if (text.startsWith(u'-')) text.replace(0, 1, u'\u2212');
    setText(text);
    setModified(false);
}

void NumberEdit::markRefused() {
    setProperty("refused", true);
    style()->polish(this);
}

void NumberEdit::finish() {
    if (!isModified()) return;
    setModified(false);
    QString typed = text().trimmed();
    typed.replace(u'\u2212', u'-');
    typed.replace(u',', u'.');
    bool isNumber = false;
    const double value = typed.toDouble(&isNumber);
    if (isNumber) {
        Q_EMIT entered(value);
        return;
    }
    markRefused();
    Q_EMIT refused({base::ErrorCode::OutOfRange,
                    base::say("planChecks.cannotSet", {{"title", m_title.toStdString()}}),
                    base::say("number.isNone", {{"given", text().toStdString()}}),
                    base::say("number.typeOne")});
}

}  // namespace rigmatch::app
