// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <QStringList>
#include <functional>

#include "base/result.h"

class QWidget;

namespace rigmatch::app {

/// Asks for files. Replaced in tests. `done` is called later with an empty answer where the user
/// gave up.
class FileChooser {
public:
    virtual ~FileChooser() = default;
    virtual void openRig(QWidget* parent, std::function<void(QString)> done) = 0;
    virtual void saveRig(QWidget* parent,
                         const QString& suggestion,
                         std::function<void(QString)> done) = 0;
    virtual void openMedia(QWidget* parent, std::function<void(QStringList)> done) = 0;
    virtual void openLut(QWidget* parent, std::function<void(QString)> done) = 0;
    virtual void openChart(QWidget* parent, std::function<void(QString)> done) = 0;
    virtual void savePdf(QWidget* parent,
                         const QString& suggestion,
                         std::function<void(QString)> done) = 0;
    /// A .csv, .edl, .otio or .wav file.
    virtual void saveOffsets(QWidget* parent,
                             const QString& suggestion,
                             std::function<void(QString)> done) = 0;
    /// A .csv file.
    virtual void saveTable(QWidget* parent,
                           const QString& suggestion,
                           std::function<void(QString)> done) = 0;
    virtual void openFolder(QWidget* parent,
                            const QString& title,
                            std::function<void(QString)> done) = 0;
};

enum class Answer { Yes, No, Cancel };

/// Tells and asks. Replaced in tests.
class Prompter {
public:
    virtual ~Prompter() = default;
    /// What failed, why, and what to do now.
    void showError(QWidget* parent, const base::Error& error) {
        showError(parent, error, [] {});
    }
    /// `done` once it has been read.
    virtual void showError(QWidget* parent,
                           const base::Error& error,
                           std::function<void()> done) = 0;
    virtual void showText(QWidget* parent, const QString& title, const QString& text) = 0;
    /// `yes`, `no`: the words on the buttons; `hasCancel` is implied by a non-empty `cancel`.
    virtual void ask(QWidget* parent,
                     const QString& title,
                     const QString& text,
                     const QString& yes,
                     const QString& no,
                     const QString& cancel,
                     std::function<void(Answer)> done) = 0;
};

}  // namespace rigmatch::app
