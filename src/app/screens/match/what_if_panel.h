// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QHash>
#include <QImage>

#include "app/services/app_context.h"
#include "jobs/what_if.h"

class QButtonGroup;
class QHBoxLayout;
class QLabel;
class QPushButton;
class QScrollArea;
class QSlider;

namespace rigmatch::app {

class MatchController;

/// Turns any control of a camera by hand; board, evidence and the pictures here follow at once.
class WhatIfPanel : public QFrame {
    Q_OBJECT
public:
    WhatIfPanel(AppContext& context, MatchController& controller, QWidget* parent);

    /// The camera whose controls are shown.
    void showCamera(const std::string& cameraId);
    void refresh();

private:
    /// One control: its slider, and the words beside it.
    struct Row {
        jobs::TryControl control;
        QSlider* slider;
        QLabel* value;
    };
    /// A frame of a camera, kept as it was decoded.
    struct Frame {
        QString key;  ///< file and moment
        std::optional<jobs::ComparedFrame> frame;
    };
    void buildButtons(QHBoxLayout* head);
    void buildControls(QHBoxLayout* body);
    void buildPictures(QHBoxLayout* body);
    void buildTabs(QHBoxLayout* row);
    void fillTabs();
    void fillRows();
    void refreshRows();
    void refreshPictures();
    void paint(const std::string& cameraId, QLabel* place, QLabel* caption);
    void load(const std::string& cameraId, const rig::Shot& shot);

    AppContext& m_context;
    MatchController& m_controller;
    std::string m_cameraId;
    std::vector<std::string> m_tabIds;
    std::vector<jobs::TryControl> m_controls;
    std::vector<Row> m_rows;
    QHash<QString, Frame> m_frames;
    QHBoxLayout* m_tabs = nullptr;
    QButtonGroup* m_group = nullptr;
    QScrollArea* m_area = nullptr;
    QLabel* m_empty = nullptr;
    QLabel *m_reference = nullptr, *m_referenceName = nullptr;
    QLabel *m_picture = nullptr, *m_pictureName = nullptr;
    QPushButton *m_reset = nullptr, *m_keep = nullptr, *m_drop = nullptr;
};

}  // namespace rigmatch::app
