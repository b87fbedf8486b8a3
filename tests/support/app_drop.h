// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDropEvent>
#include <QListView>
#include <QMimeData>
#include <QUrl>

#include "support/app_fixture.h"
#include "support/clips.h"

namespace rigmatch::support {

/// The shot of a camera in the newest take, or nullptr.
inline const rig::Shot* shotOf(const AppFixture& app, const char* cameraId) {
    const auto& takes = app.document.rig().takes;
    return takes.empty() ? nullptr : rig::findShot(takes.back(), cameraId);
}

/// Lets something be dropped on a widget at a place.
inline void dropOn(QWidget* widget, const QPoint& at, const QMimeData& data) {
    QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(widget, &enter);
    QDragMoveEvent move(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(widget, &move);
    QDropEvent event(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(widget, &event);
}
inline void dropOn(QAbstractItemView* view, const QPoint& at, const QMimeData& data) {
    dropOn(view->viewport(), at, data);
}

/// Lets files be dropped on a row of a list; below the last one where `row` is negative.
inline void drop(QListView* list, int row, const QStringList& files) {
    QMimeData data;
    QList<QUrl> urls;
    for (const QString& file : files) urls << QUrl::fromLocalFile(file);
    data.setUrls(urls);
    const QModelIndex index = row < 0 ? QModelIndex() : list->model()->index(row, 0);
    dropOn(list,
           row < 0 ? QPoint(20, list->viewport()->height() - 4) : list->visualRect(index).center(),
           data);
}

}  // namespace rigmatch::support
