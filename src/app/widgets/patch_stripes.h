// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QColor>
#include <QStringList>
#include <QVector>
#include <QWidget>

namespace rigmatch::app {

/// The chart's patches, each striped with the reference's colour on the left and the camera's on
/// the right, and the difference below. A matched pair shows no stripe.
class PatchStripes : public QWidget {
    Q_OBJECT
public:
    struct Patch {
        QString name;
        QColor reference;
        QColor camera;
        double deltaE = 0.0;
    };
    explicit PatchStripes(QWidget* parent = nullptr);
    void setPatches(const QVector<Patch>& patches,
                    const QString& referenceLetter,
                    const QString& cameraLetter);
    [[nodiscard]] const QVector<Patch>& patches() const { return m_patches; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {260, 150}; }

protected:
    void paintEvent(QPaintEvent* event) override;
    bool event(QEvent* event) override;

private:
    [[nodiscard]] QRectF cell(int index) const;

    QVector<Patch> m_patches;
    QString m_referenceLetter;
    QString m_cameraLetter;
};

}  // namespace rigmatch::app
