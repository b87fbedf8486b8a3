// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "jobs/match_job.h"

class QCustomPlot;

namespace rigmatch::app {

/// The grey rows of two cameras with the curves through them: signal against stops from grey, and
/// the sideways distance at the reference's grey, which is the exposure difference.
class CurvePlot : public QWidget {
    Q_OBJECT
public:
    explicit CurvePlot(QWidget* parent = nullptr);
    void show(const jobs::CurveEvidence& reference,
              const QString& referenceLetter,
              const jobs::CurveEvidence& camera,
              const QString& cameraLetter,
              bool hasExposureMark);
    struct Curve {
        QString letter;
        jobs::CurveEvidence evidence;
    };
    /// All cameras together.
    void showAll(const QVector<Curve>& curves);
    void clear();
    /// Points drawn, for tests: reference and camera.
    [[nodiscard]] int pointCount() const { return m_pointCount; }

private:
    void addCurve(const jobs::CurveEvidence& evidence, const QString& letter);

    QCustomPlot* m_plot;
    int m_pointCount = 0;
};

}  // namespace rigmatch::app
