// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <QWidget>
#include <functional>
#include <memory>

#include "app/services/app_context.h"

namespace rigmatch::app {

/// An empty rig for the region of the system's locale.
[[nodiscard]] rig::Rig freshRig();

/// New, open, save, recover and recent files: asks before anything is lost, says what failed.
class FileFlow : public QObject {
    Q_OBJECT
public:
    FileFlow(AppContext& context, QWidget* window);

    void newRig();
    void openRig();
    void openPath(const QString& path);
    void openDemo();
    void save();
    void saveAs();
    /// Offers what sessions left behind that did not end by themselves, one rig after the other.
    void offerRecoveries();
    /// Calls `go` once the rig is saved or given up; does nothing where the user cancels.
    void settleThen(const std::function<void()>& go);
    [[nodiscard]] QStringList recentFiles() const;

Q_SIGNALS:
    void recentChanged();
    /// Clips of the opened rig that are not where they were.
    void mediaMissing(int count);

private:
    void load(const QString& path);
    void openSaved(const QString& absolute, const std::function<void()>& then);
    void offerNext(const std::shared_ptr<const std::vector<rig::Recovery>>& all, std::size_t index);
    void saveTo(const QString& path, const std::function<void()>& then);
    void write(const QString& path,
               const std::function<void()>& then,
               const std::function<void()>& later);
    void remember(const QString& path);

    AppContext& m_context;
    QWidget* m_window;
    QString m_asked;  ///< the file that was last asked for
};

/// Where the demo's files lie; empty where they are not installed.
[[nodiscard]] QString demoFile();

}  // namespace rigmatch::app
