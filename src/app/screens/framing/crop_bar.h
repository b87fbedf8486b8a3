// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace rigmatch::app {

class FramingController;

/// A moving crop of one camera: which, what shape, and the file that its track goes to.
class CropBar : public QWidget {
    Q_OBJECT
public:
    CropBar(AppContext& context, FramingController& controller, QWidget* parent);
    void refresh();

private:
    void askFile();

    AppContext& m_context;
    FramingController& m_controller;
    QComboBox* m_cameras;
    QComboBox* m_shapes;
    QPushButton* m_export;
    QLabel* m_told;
};

}  // namespace rigmatch::app
