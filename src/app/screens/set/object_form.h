// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
#include <functional>
#include <vector>

#include "base/result.h"

class QFormLayout;
class QLabel;

namespace rigmatch::app {

class SetController;

/// Exact numbers of the chosen object, and what else it can be: made from the fields its kind has.
/// A refused value stays in its field, with range and reason below.
class ObjectForm : public QScrollArea {
    Q_OBJECT
public:
    ObjectForm(SetController& controller, QWidget* parent);
    /// Shows the current object; rebuilds only when another kind is chosen.
    void showCurrent();
    /// Tells at the form why a value was refused.
    void showRefusal(const base::Error& error);

private:
    void rebuild();
    void addNumbers(QFormLayout* form);
    void addTexts(QFormLayout* form);
    void addTruths(QFormLayout* form);
    void addTarget(QFormLayout* form);
    void addCircuit(QFormLayout* form);
    void addCamera(QFormLayout* form);

    SetController& m_controller;
    QLabel* m_refusal = nullptr;
    int m_kind = -1;
    bool m_isInFeet = false;
    std::vector<std::function<void()>> m_refresh;
};

}  // namespace rigmatch::app
