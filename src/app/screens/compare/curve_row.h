// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QWidget>

#include "jobs/curve_job.h"

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QToolButton;

namespace rigmatch::app {

class CompareController;

/// Which curve is declared for a camera's profile, and the ways to declare one: a published curve,
/// parameters, a table, or the takes themselves.
class CurveRow : public QWidget {
    Q_OBJECT
public:
    CurveRow(CompareController& controller, QWidget* parent);
    void refresh();

private:
    void buildMenu();
    [[nodiscard]] QString cameraId() const;

    CompareController& m_controller;
    QComboBox* m_camera;
    QComboBox* m_primaries;
    QToolButton* m_declare;
    QLabel* m_words;
};

/// The three numbers of a logarithmic curve.
class LogCurveDialog : public QDialog {
    Q_OBJECT
public:
    LogCurveDialog(const colour::LogParameters& start, QWidget* parent);
    [[nodiscard]] colour::LogParameters parameters() const;

private:
    QDoubleSpinBox* m_span;
    QDoubleSpinBox* m_offset;
    QDoubleSpinBox* m_cut;
};

}  // namespace rigmatch::app
