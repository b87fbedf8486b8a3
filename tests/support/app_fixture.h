// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAction>
#include <QComboBox>
#include <QTemporaryDir>
#include <memory>

#include "app/shell/file_flow.h"
#include "app/shell/main_window.h"
#include "app/widgets/theme.h"
#include "support/qt_test.h"
#include "words/english.h"

namespace rigmatch::support {

using namespace app;

/// Answers at once with what the test laid ready.
class FakeChooser : public FileChooser {
public:
    QString rig;
    QString saveTo;
    QStringList savesFirst;  ///< answered before `saveTo`
    QStringList media;
    QString folder;
    void openRig(QWidget*, std::function<void(QString)> done) override { done(rig); }
    void saveRig(QWidget*, const QString&, std::function<void(QString)> done) override {
        done(savesFirst.isEmpty() ? saveTo : savesFirst.takeFirst());
    }
    void openMedia(QWidget*, std::function<void(QStringList)> done) override { done(media); }
    QString lut;
    QString chart;
    QString pdf;
    void openChart(QWidget*, std::function<void(QString)> done) override { done(chart); }
    void savePdf(QWidget*, const QString&, std::function<void(QString)> done) override {
        done(pdf);
    }
    QString offsets;
    void saveOffsets(QWidget*, const QString&, std::function<void(QString)> done) override {
        done(offsets);
    }
    QString table;
    void saveTable(QWidget*, const QString&, std::function<void(QString)> done) override {
        done(table);
    }
    void openLut(QWidget*, std::function<void(QString)> done) override { done(lut); }
    void openFolder(QWidget*, const QString&, std::function<void(QString)> done) override {
        done(folder);
    }
};

/// Remembers what was said and answers questions with `answer`.
class FakePrompter : public Prompter {
public:
    QStringList errors;
    QStringList texts;
    QStringList questions;
    QString askedText;
    Answer answer = Answer::Yes;
    void showError(QWidget*, const base::Error& error, std::function<void()> done) override {
        errors << QString::fromStdString(words::inEnglish(error));
        done();
    }
    void showText(QWidget*, const QString& title, const QString& text) override {
        texts << title + ": " + text;
    }
    void ask(QWidget*,
             const QString& title,
             const QString& text,
             const QString&,
             const QString&,
             const QString&,
             std::function<void(Answer)> done) override {
        questions << title;
        askedText = text;
        done(answer);
    }
};

/// Plays nothing and remembers what.
class FakePlayer : public SoundPlayer {
public:
    QString file;
    bool hasOutput = true;
    [[nodiscard]] bool canPlay() const override { return hasOutput; }
    [[nodiscard]] bool isPlaying() const override { return m_isPlaying; }
    void play(const QString& sound, int) override {
        file = sound;
        m_isPlaying = true;
        Q_EMIT changed();
    }
    void stop() override {
        m_isPlaying = false;
        Q_EMIT changed();
    }

private:
    bool m_isPlaying = false;
};

/// The whole window with replaced dialogs, in a folder of its own.
struct AppFixture {
    QTemporaryDir folder;
    RigDocument document{folder.filePath("journals")};
    Selection selection;
    FakeChooser chooser;
    FakePrompter prompter;
    QSettings settings{folder.filePath("settings.ini"), QSettings::IniFormat};
    JobRunner jobs;
    // The user's own layouts and templates lie in the test's folder.
    bool hasFolders = [this] {
        settings.setValue("folders/layouts", folder.filePath("layouts"));
        settings.setValue("folders/templates", folder.filePath("templates"));
        return true;
    }();
    std::shared_ptr<FakePlayer> player = std::make_shared<FakePlayer>();
    AppContext context{document,
                       selection,
                       jobs,
                       chooser,
                       prompter,
                       settings,
                       std::make_shared<SharedSet>(),
                       std::make_shared<ReportCache>(),
                       player};
    // Clicks of a test see their outcome at once; that reports may come late has tests of its own.
    bool isPatient = [this] {
        context.reports->setPatience(std::chrono::seconds(60));
        jobs.setPatience(std::chrono::seconds(60));
        return true;
    }();
    std::unique_ptr<MainWindow> window = std::make_unique<MainWindow>(context);

    bool show(const QString& screen) {
        window->showScreen(screen);
        window->show();
        return QTest::qWaitForWindowExposed(window.get());
    }
    void openDemo() { window->files().openDemo(); }
    bool waitForJobs(int milliseconds = 120000) {
        return QTest::qWaitFor([this] { return jobs.running().isEmpty(); }, milliseconds);
    }
};

/// The child of that type and name; the test stops with the name where there is none.
template <class Widget>
Widget* child(const QObject* root, const char* name) {
    auto* found = root->findChild<Widget*>(QString::fromUtf8(name));
    if (found == nullptr) qFatal("no child named %s", name);
    return found;
}

/// Triggers a menu action by its name.
inline void trigger(const QObject* root, const char* name) {
    child<QAction>(root, name)->trigger();
}

/// Chooses the entry of a combo box by keys, as a user does.
inline void chooseByKeys(QComboBox* box, const QString& text) {
    const int target = box->findText(text);
    if (target < 0) qFatal("no entry %s", qPrintable(text));
    box->setFocus();
    while (box->currentIndex() < target) QTest::keyClick(box, Qt::Key_Down);
    while (box->currentIndex() > target) QTest::keyClick(box, Qt::Key_Up);
}

}  // namespace rigmatch::support
