// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

namespace rigmatch::app {

class CompareController;

/// One way to look at the cameras.
class ComparePage : public QWidget {
    Q_OBJECT
public:
    ComparePage(CompareController& controller, QWidget* parent)
        : QWidget(parent), m_controller(controller) {}
    /// Shows the controller's present state.
    virtual void refresh() = 0;
    /// What is shown as lines of tab-separated numbers with a head line.
    [[nodiscard]] virtual QString numbers() const = 0;

protected:
    CompareController& m_controller;
};

}  // namespace rigmatch::app
