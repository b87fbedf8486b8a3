// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>
#include <QVector>
#include <QWidget>

namespace rigmatch::app {

/// The greys of the reference as rungs: each camera's signal as a dash of its colour, and how far
/// apart the cameras are.
class NeutralLadder : public QWidget {
    Q_OBJECT
public:
    struct Camera {
        QString letter;
        QVector<double> percent;  ///< luma of the greys in their order, % signal
    };
    explicit NeutralLadder(QWidget* parent = nullptr);
    /// `greys`: their names, as many as each camera has percents.
    void setCameras(const QVector<Camera>& cameras, const QStringList& greys);
    [[nodiscard]] const QVector<Camera>& cameras() const { return m_cameras; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 130}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    [[nodiscard]] double spread(int grey) const;

    QVector<Camera> m_cameras;
    QStringList m_greys;
};

}  // namespace rigmatch::app
