// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QButtonGroup>
#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace rigmatch::app {

/// A label with a style role: "title", "heading", "dim", "big" or none.
inline QLabel* makeLabel(const QString& text,
                         const char* role,
                         const QString& objectName,
                         QWidget* parent) {
    auto* label = new QLabel(text, parent);
    if (role != nullptr) label->setProperty(role, true);
    label->setObjectName(objectName);
    return label;
}

/// A panel with a thin border.
inline QFrame* makeCard(const QString& objectName, QWidget* parent) {
    auto* card = new QFrame(parent);
    card->setObjectName(objectName);
    card->setProperty("card", true);
    return card;
}

/// A button whose name for assistive tools is its text.
inline QPushButton* makeButton(const QString& text,
                               const QString& objectName,
                               const QString& help,
                               QWidget* parent) {
    auto* button = new QPushButton(text, parent);
    button->setObjectName(objectName);
    button->setAccessibleName(QString(text).remove(QLatin1Char('&')));
    button->setToolTip(help);
    return button;
}

/// A button of a row of which one is always chosen: the group keeps them apart.
inline QPushButton* makeTab(const QString& text,
                            const QString& objectName,
                            const QString& help,
                            QButtonGroup* group,
                            QWidget* parent) {
    QPushButton* button = makeButton(text, objectName, help, parent);
    button->setCheckable(true);
    button->setProperty("tab", true);
    group->addButton(button);
    return button;
}

}  // namespace rigmatch::app
