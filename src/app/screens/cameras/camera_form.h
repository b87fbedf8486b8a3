// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <functional>

#include "rig/rig.h"

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;

namespace rigmatch::app {

class BadgeLabel;
class CamerasController;

/// The settings of one camera, each chosen from that camera's own allowed values.
class CameraForm : public QFrame {
    Q_OBJECT
public:
    CameraForm(CamerasController& controller, QWidget* parent);
    /// Shows the controller's current camera; the form is disabled where there is none.
    void showCurrent();

private:
    using Number = double rig::Settings::*;
    using Values = std::vector<double> rig::ControlSheet::*;

    void addGroup(QGridLayout* grid, int column, const QString& title);
    void addField(QGridLayout* grid,
                  int row,
                  int column,
                  const QString& label,
                  QWidget* field,
                  const QString& objectName);
    void buildCameraGroup(QGridLayout* grid);
    void buildExposureGroup(QGridLayout* grid);
    void buildColourGroup(QGridLayout* grid);
    void buildRecordingGroup(QGridLayout* grid);
    /// A list of a control's values; choosing one sets it.
    QComboBox* numberBox(const QString& step,
                         Number number,
                         Values values,
                         std::function<QString(double)> words);
    QCheckBox* automaticBox(const QString& text, const QString& step, bool rig::Settings::*flag);

    CamerasController& m_controller;
    BadgeLabel* m_badge;
    QLabel* m_title;
    QLineEdit* m_role;
    QComboBox* m_body;
    QComboBox* m_lens;
    QLabel* m_sensor;
    QComboBox* m_profile;
    QComboBox* m_size;
    std::vector<std::function<void(const rig::Camera&)>> m_refresh;
    bool m_isShowing = false;
};

}  // namespace rigmatch::app
