// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QColor>
#include <QStringList>
#include <QVector>
#include <QWidget>

namespace rigmatch::app {

/// The chart's patches, each striped from left to right with every camera's colour, the largest
/// difference below. Matched cameras show no stripe. A patch can be chosen by click or arrow keys.
class PatchQuilt : public QWidget {
    Q_OBJECT
public:
    struct Patch {
        QString name;
        QVector<QColor> colours;     ///< one per camera
        double largestDeltaE = 0.0;  ///< of any camera against the reference
        bool isNear = false;         ///< above what is good …
        bool isOff = false;          ///< … or above what is accepted
    };
    explicit PatchQuilt(QWidget* parent = nullptr);
    /// `letters`: of the cameras, in the order of the stripes.
    void setPatches(const QVector<Patch>& patches, const QStringList& letters, int columns = 6);
    [[nodiscard]] const QVector<Patch>& patches() const { return m_patches; }
    [[nodiscard]] int current() const { return m_current; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 110}; }

Q_SIGNALS:
    void chosen(int patch);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    [[nodiscard]] QRectF cell(int index) const;
    [[nodiscard]] int patchAt(const QPointF& position) const;
    void choose(int patch);
    void updateDescription();

    QVector<Patch> m_patches;
    QStringList m_letters;
    int m_columns = 6;
    int m_current = -1;
};

}  // namespace rigmatch::app
