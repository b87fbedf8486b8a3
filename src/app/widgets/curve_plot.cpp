// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/curve_plot.h"

#include <qcustomplot.h>

#include <algorithm>

#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

void dress(QCPAxis* axis) {
    axis->setBasePen(QPen(theme::kLine));
    axis->setTickPen(QPen(theme::kLine));
    axis->setSubTickPen(Qt::NoPen);
    axis->setTickLabelColor(theme::kDim);
    axis->setLabelColor(theme::kDim);
    axis->setTickLabelFont(theme::font(11));
    axis->setLabelFont(theme::font(11));
    axis->grid()->setPen(QPen(QColor(60, 60, 60)));
    axis->grid()->setZeroLinePen(QPen(QColor(84, 84, 84)));
}

QVector<double> toVector(const std::vector<double>& values) {
    return QVector<double>(values.begin(), values.end());
}

}  // namespace

CurvePlot::CurvePlot(QWidget* parent) : QWidget(parent), m_plot(new QCustomPlot(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_plot);
    m_plot->setBackground(QBrush(theme::kPanel));
    m_plot->setMinimumHeight(104);
    m_plot->setFocusPolicy(Qt::NoFocus);
    for (QCPAxis* axis : {m_plot->xAxis, m_plot->yAxis}) dress(axis);
    m_plot->xAxis->setLabel(tr("light on the patch, stops from 18 % grey"));
    m_plot->yAxis->setLabel(tr("signal, %"));
    m_plot->xAxis->setRange(-3.4, 2.8);
    m_plot->yAxis->setRange(0, 110);
    setAccessibleName(tr("Grey rows and tone curves"));
}

void CurvePlot::clear() {
    m_plot->clearPlottables();
    m_plot->clearItems();
    m_pointCount = 0;
    setAccessibleDescription(tr("Nothing to show."));
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void CurvePlot::addCurve(const jobs::CurveEvidence& evidence, const QString& letter) {
    const QColor colour = theme::cameraColour(letter);
    // How far the curve may lie off, twice the standard error to each side.
    QVector<double> low, high;
    for (std::size_t i = 0; i < evidence.curveErrorPercent.size(); ++i) {
        low << evidence.curvePercent[i] - 2.0 * evidence.curveErrorPercent[i];
        high << evidence.curvePercent[i] + 2.0 * evidence.curveErrorPercent[i];
    }
    QCPGraph* lower = m_plot->addGraph();
    QCPGraph* upper = m_plot->addGraph();
    QColor veil = colour;
    veil.setAlphaF(0.22F);
    for (QCPGraph* border : {lower, upper}) border->setPen(Qt::NoPen);
    upper->setBrush(veil);
    upper->setChannelFillGraph(lower);
    if (!low.isEmpty()) {
        lower->setData(toVector(evidence.curveStops), low, true);
        upper->setData(toVector(evidence.curveStops), high, true);
    }
    QCPGraph* curve = m_plot->addGraph();
    curve->setPen(QPen(colour, 1.6));
    curve->setData(toVector(evidence.curveStops), toVector(evidence.curvePercent), true);
    QCPGraph* points = m_plot->addGraph();
    points->setLineStyle(QCPGraph::lsNone);
    points->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, colour, colour, 7));
    points->setData(toVector(evidence.patchStops), toVector(evidence.patchPercent), true);
    m_pointCount += static_cast<int>(evidence.patchStops.size());
}

void CurvePlot::show(const jobs::CurveEvidence& reference,
                     const QString& referenceLetter,
                     const jobs::CurveEvidence& camera,
                     const QString& cameraLetter,
                     bool hasExposureMark) {
    clear();
    addCurve(reference, referenceLetter);
    addCurve(camera, cameraLetter);
    if (hasExposureMark && !camera.patchStops.empty()) {
        auto* mark = new QCPItemLine(m_plot);
        mark->setPen(QPen(theme::kText, 2.0));
        mark->start->setCoords(0.0, reference.greyPercent);
        mark->end->setCoords(camera.greyAtReferenceStops, reference.greyPercent);
        auto* label = new QCPItemText(m_plot);
        label->setFont(theme::font(11, QFont::DemiBold));
        label->setColor(theme::kText);
        label->setPositionAlignment(Qt::AlignTop | Qt::AlignLeft);
        label->setPadding(QMargins(4, 1, 4, 1));
        label->setBrush(QBrush(theme::kPanel));
        label->position->setCoords(std::max(0.0, camera.greyAtReferenceStops) + 0.15,
                                   reference.greyPercent - 4.0);
        label->setText(tr("%1 stop").arg(std::abs(camera.greyAtReferenceStops), 0, 'f', 2));
    }
    setAccessibleDescription(tr("Grey at %1 % on %2 and %3 % on %4")
                                 .arg(reference.greyPercent, 0, 'f', 1)
                                 .arg(referenceLetter)
                                 .arg(camera.greyPercent, 0, 'f', 1)
                                 .arg(cameraLetter));
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void CurvePlot::showAll(const QVector<Curve>& curves) {
    clear();
    QStringList words;
    for (const Curve& curve : curves) {
        addCurve(curve.evidence, curve.letter);
        if (!curve.evidence.patchStops.empty())
            words << tr("grey at %1 ± %2 % on %3")
                         .arg(curve.evidence.greyPercent, 0, 'f', 1)
                         .arg(std::max(curve.evidence.greyErrorPercent, 0.1), 0, 'f', 1)
                         .arg(curve.letter);
    }
    if (!words.isEmpty()) setAccessibleDescription(words.join(QStringLiteral(", ")));
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

}  // namespace rigmatch::app
