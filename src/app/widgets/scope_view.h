// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QVector>
#include <QWidget>
#include <optional>

#include "scope/scope_data.h"

class QPainter;

namespace rigmatch::app {

/// Waveform, RGB parade, vectorscope or histogram of one or several cameras: each in a field of its
/// own, or all in one, in the colours of the cameras.
class ScopeView : public QWidget {
    Q_OBJECT
public:
    enum class Kind { Luma, Parade, Vectorscope, Histogram };
    /// What one camera gives; only the part of the kind shown is filled.
    struct Trace {
        QString letter;
        QString missing;  ///< why there is nothing
        std::optional<scope::Waveform> waveform;
        std::optional<scope::Vectorscope> vectorscope;
        std::optional<scope::Histogram> histogram;
        QVector<QPointF> dots;  ///< colour differences (Cb, Cr) of the chart's patches
    };
    explicit ScopeView(QWidget* parent = nullptr);
    void setTraces(Kind kind, const QVector<Trace>& traces);
    void setOverlaid(bool isOverlaid);

    [[nodiscard]] Kind kind() const { return m_kind; }
    [[nodiscard]] bool isOverlaid() const { return m_isOverlaid; }
    [[nodiscard]] const QVector<Trace>& traces() const { return m_traces; }
    /// What a camera's scope reads, for the eye that cannot see it and for copying: "B: luma 2 % to
    /// 98 %, half of it below 41 %".
    [[nodiscard]] static QString reading(Kind kind, const Trace& trace);
    /// The same without the letter; stands under a field of its own.
    [[nodiscard]] static QString figures(Kind kind, const Trace& trace);
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 150}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    [[nodiscard]] QVector<QRectF> fields() const;
    void paintField(QPainter& painter, const QRectF& field, const QVector<int>& cameras) const;
    void paintLevels(QPainter& painter, const QRectF& field) const;
    void paintWaveform(QPainter& painter, const QRectF& field, int camera) const;
    void paintHistogram(QPainter& painter, const QRectF& field, int camera) const;
    void paintTarget(QPainter& painter, const QRectF& field) const;
    void paintVectors(QPainter& painter, const QRectF& field, int camera) const;

    Kind m_kind = Kind::Luma;
    QVector<Trace> m_traces;
    bool m_isOverlaid = false;
};

}  // namespace rigmatch::app
