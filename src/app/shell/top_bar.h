// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "app/services/app_context.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace rigmatch::app {

/// Name of the rig, its file, its reference camera and the take being looked at.
class TopBar : public QFrame {
    Q_OBJECT
public:
    TopBar(AppContext& context, QWidget* parent);

private:
    void refresh();
    void rename();
    void chooseReference(int index);

    AppContext& m_context;
    QLineEdit* m_name;
    QLabel* m_file;
    QComboBox* m_reference;
    QComboBox* m_take;
};

}  // namespace rigmatch::app
