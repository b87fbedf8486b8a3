// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QFrame;
class QVBoxLayout;

namespace rigmatch::app {

/// What an empty rig shows: where clips are dropped, and where else one may begin.
class StartPage : public QWidget {
    Q_OBJECT
public:
    explicit StartPage(QWidget* parent);

    /// Rigs that were open before, the newest first.
    void setRecent(const QStringList& files);
    /// While files are looked at: what is being done instead of what may be.
    void setBusy(bool isBusy);

Q_SIGNALS:
    void filesDropped(const QStringList& files);
    void clipsWanted();
    void folderWanted();
    void planWanted();
    void demoWanted();
    void cardWanted();
    void rigWanted(const QString& file);

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    QWidget* buildDropArea();
    QWidget* buildSteps();
    QWidget* buildElsewhere();
    QWidget* buildRecent();
    void markDrop(bool isOver);

    QFrame* m_drop = nullptr;
    QWidget* m_choices = nullptr;
    QWidget* m_busy = nullptr;
    QVBoxLayout* m_recent = nullptr;
};

}  // namespace rigmatch::app
