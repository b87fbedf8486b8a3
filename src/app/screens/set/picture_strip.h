// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QMap>
#include <QScrollArea>
#include <QThreadPool>
#include <memory>

#include "jobs/plan_job.h"

class QHBoxLayout;

namespace rigmatch::app {

class SetController;

/// Predicts the pictures of all placed cameras off the interface thread: rough ones while something
/// is dragged, whole ones when it rests. The newest plan wins; one that is being drawn is finished
/// first, so that pictures follow a drag instead of waiting for its end.
class PredictedPictures : public QObject {
    Q_OBJECT
    Q_PROPERTY(bool isIdle READ isIdle)
public:
    explicit PredictedPictures(QObject* parent);
    ~PredictedPictures() override;

    void request(const rig::Rig& rig, jobs::PictureCare care, int widthPx);
    /// Nothing is being drawn or waiting.
    [[nodiscard]] bool isIdle() const { return m_left == 0 && !m_next; }

Q_SIGNALS:
    void pictureReady(const QString& cameraId, const QImage& picture);
    void failed(const QString& cameraId, const QString& why);
    void settled();

private:
    struct Wish {
        rig::Rig rig;
        jobs::PictureCare care = jobs::PictureCare::Quick;
        int widthPx = 128;
    };
    void start(const Wish& wish);
    void draw(const Wish& wish,
              const std::shared_ptr<const jobs::PredictedSet>& set,
              const base::Progress& progress);
    void finishOne();

    QThreadPool m_pool;
    base::Progress m_progress;
    std::optional<Wish> m_next;
    int m_left = 0;
    jobs::PictureCare m_running = jobs::PictureCare::Quick;
};

/// One camera's predicted picture with guides: thirds, eye line, 9:16 and 1:1 cuts.
class PredictedPicture : public QWidget {
    Q_OBJECT
public:
    PredictedPicture(const QString& cameraId, QWidget* parent);

    void setCamera(const QString& letter, const QString& role, const QString& lens);
    void setPicture(const QImage& picture);
    void setFailure(const QString& why);
    /// Eye line as a share of the height, and the middle of the cuts as a share of the width.
    void setGuides(std::optional<double> eyeLine, double cutMiddle, bool hasCuts);
    void setChosen(bool isChosen);
    [[nodiscard]] const QString& cameraId() const { return m_cameraId; }
    [[nodiscard]] const QImage& picture() const { return m_picture; }
    /// With or without the head line above the picture.
    void setLarge(bool isLarge);
    [[nodiscard]] QSize sizeHint() const override { return {214, 150}; }

Q_SIGNALS:
    void clicked();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void paintGuides(QPainter& painter, const QRectF& area) const;

    QString m_cameraId, m_letter, m_role, m_lens, m_failure;
    QImage m_picture;
    std::optional<double> m_eyeLine;
    double m_cutMiddle = 0.5;
    bool m_hasCuts = true;
    bool m_isChosen = false;
    bool m_isLarge = false;
};

/// All predicted pictures in a row; a click enlarges one.
class PictureStrip : public QScrollArea {
    Q_OBJECT
public:
    PictureStrip(SetController& controller, QWidget* parent);
    void refresh();
    [[nodiscard]] PredictedPictures& pictures() { return *m_pictures; }

Q_SIGNALS:
    void enlarged(const QString& cameraId);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void rebuild();
    void draw();
    void drawWhole();
    void showPicture(const QString& cameraId, const QImage& picture);

    SetController& m_controller;
    PredictedPictures* m_pictures;
    QHBoxLayout* m_row;
    QMap<QString, PredictedPicture*> m_views;
    bool m_isStale = false;   ///< not even rough pictures of what is shown were asked for
    bool m_hasWhole = false;  ///< the whole pictures of what is shown are drawn or being drawn
};

}  // namespace rigmatch::app
