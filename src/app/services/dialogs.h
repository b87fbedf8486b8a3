// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/services/seams.h"

namespace rigmatch::app {

/// The real dialogs: opened, never run in a loop of their own.
class DialogFileChooser : public FileChooser {
public:
    void openRig(QWidget* parent, std::function<void(QString)> done) override;
    void saveRig(QWidget* parent,
                 const QString& suggestion,
                 std::function<void(QString)> done) override;
    void openMedia(QWidget* parent, std::function<void(QStringList)> done) override;
    void openLut(QWidget* parent, std::function<void(QString)> done) override;
    void openChart(QWidget* parent, std::function<void(QString)> done) override;
    void savePdf(QWidget* parent,
                 const QString& suggestion,
                 std::function<void(QString)> done) override;
    void saveOffsets(QWidget* parent,
                     const QString& suggestion,
                     std::function<void(QString)> done) override;
    void saveTable(QWidget* parent,
                   const QString& suggestion,
                   std::function<void(QString)> done) override;
    void openFolder(QWidget* parent,
                    const QString& title,
                    std::function<void(QString)> done) override;
};

class DialogPrompter : public Prompter {
public:
    void showError(QWidget* parent, const base::Error& error, std::function<void()> done) override;
    void showText(QWidget* parent, const QString& title, const QString& text) override;
    void ask(QWidget* parent,
             const QString& title,
             const QString& text,
             const QString& yes,
             const QString& no,
             const QString& cancel,
             std::function<void(Answer)> done) override;
};

}  // namespace rigmatch::app
