// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"

class QLabel;
class QMenu;
class QPushButton;
class QStackedWidget;
class QTableView;
class QVBoxLayout;

namespace rigmatch::app {

class CameraSheetModel;
class CamerasController;
class FactList;

/// Screen "Cameras": one column per camera, settings and what follows from them as rows, in groups;
/// beside it the reasons.
class CamerasScreen : public QWidget {
    Q_OBJECT
public:
    CamerasScreen(AppContext& context, QWidget* parent);

private:
    void buildHead(QVBoxLayout* layout);
    void buildTable();
    QWidget* buildReasons();
    QWidget* buildOffer();
    void fillCameraMenu();
    void fillBodyMenu();
    void fillCopyMenu();
    void askTemplateName();
    void openChoices();
    void refresh();
    void showReasons();
    void showOffer();
    void edit(int row, int column, const QVariant& value);

    AppContext& m_context;
    CamerasController* m_controller;
    CameraSheetModel* m_model;
    QTableView* m_table;
    FactList* m_reasons;
    QLabel* m_reasonsTitle;
    QLabel* m_summary;
    QLabel* m_refusal;
    QWidget* m_offer;
    QLabel* m_offerText;
    QStackedWidget* m_pages;
    QPushButton* m_add;
    QPushButton* m_one;
    QPushButton* m_all;
    QMenu* m_cameraMenu;
    QMenu* m_bodyMenu;
    QMenu* m_copyMenu;
    QString m_offeredId;
};

}  // namespace rigmatch::app
