// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"

class QLabel;
class QPushButton;
class QStackedWidget;
class QTableView;
class QVBoxLayout;

namespace rigmatch::app {

class CameraForm;
class CamerasController;
class CamerasModel;

/// Screen "Cameras": the rig's cameras in rows, the chosen one's settings below.
class CamerasScreen : public QWidget {
    Q_OBJECT
public:
    CamerasScreen(AppContext& context, QWidget* parent);

private:
    void buildHead(QVBoxLayout* layout);
    void buildTable();
    void refresh();
    void selectRow(int row);

    CamerasController* m_controller;
    CamerasModel* m_model;
    QTableView* m_table;
    CameraForm* m_form;
    QLabel* m_summary;
    QStackedWidget* m_pages;
    QPushButton* m_add;
    QPushButton* m_remove;
    QPushButton* m_up;
    QPushButton* m_down;
    QPushButton* m_reference;
};

}  // namespace rigmatch::app
