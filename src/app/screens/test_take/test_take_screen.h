// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/services/app_context.h"

class QComboBox;
class QHBoxLayout;
class QLabel;
class QPushButton;
class QSlider;
class QVBoxLayout;

namespace rigmatch::app {

class FrameView;
class ReferencePanel;
class ShotListPanel;
class TakeController;

/// Screen "Test take": clips dropped on cameras, the chart over the picture, and what was found in
/// words.
class TestTakeScreen : public QWidget {
    Q_OBJECT
public:
    TestTakeScreen(AppContext& context, QWidget* parent);
    [[nodiscard]] TakeController& controller() { return *m_controller; }
    /// Files and folders from elsewhere in the window.
    Q_INVOKABLE void takeIn(const QStringList& files);
    Q_INVOKABLE void writeCard();

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void connectController();
    void buildHead(QVBoxLayout* layout);
    void buildPurposes();
    void buildButtons(QHBoxLayout* head);
    QWidget* buildPicture();
    QWidget* buildFacts();
    QWidget* buildTimeRow();
    void buildReadings(QHBoxLayout* head, QWidget* card);
    void followLink(const QString& link);
    void showMoment(double seconds);
    void takeMarks(const QVector<QRectF>& marks);
    [[nodiscard]] double shownSeconds() const;
    void refresh();
    void refreshPurposes();
    void refreshView();
    void refreshMoment();
    void loadPicture();
    void take(const QStringList& files, const QString& cameraId);
    void findMissing();

    AppContext& m_context;
    TakeController* m_controller;
    ShotListPanel* m_list;
    QPushButton* m_purposes;
    FrameView* m_view;
    QLabel* m_facts;
    QLabel* m_summary;
    QLabel* m_pictureTitle;
    ReferencePanel* m_reference;
    QComboBox* m_range;
    QComboBox* m_matrix;
    QComboBox* m_primaries;
    QSlider* m_time;
    QLabel* m_timeLabel;
    QPushButton* m_mark;
    QPushButton* m_shoot;
    QPushButton* m_cancel;
    QPushButton* m_findAgain;
    QPushButton* m_measureAgain;
    QPushButton* m_removeClip;
    QPushButton* m_missing;
    QPushButton* m_files;
    QPushButton* m_folder;
    QPushButton* m_newTake;
    QString m_shownPicture;  ///< what the view shows, so that it is not loaded twice
    QString m_momentOf;      ///< the reading for which the time was chosen by hand
    std::optional<double> m_moment;
};

}  // namespace rigmatch::app
