// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QListView;
class QPushButton;

namespace rigmatch::app {

class ShotListModel;
class TakeController;

/// What every camera and every other source gave in the take; sources are added and removed here.
class ShotListPanel : public QWidget {
    Q_OBJECT
public:
    explicit ShotListPanel(TakeController& controller, QWidget* parent = nullptr);
    void refresh();

Q_SIGNALS:
    /// Files were dropped; `sourceId` is empty where they were dropped beside the rows.
    void filesDropped(const QStringList& files, const QString& sourceId);

private:
    TakeController& m_controller;
    ShotListModel* m_model;
    QListView* m_list;
    QPushButton* m_addSource;
    QPushButton* m_removeSource;
};

}  // namespace rigmatch::app
