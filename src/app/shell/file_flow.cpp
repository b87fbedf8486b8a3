// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/file_flow.h"

#include <QCoreApplication>
#include <QFileInfo>

#include "app/services/texts.h"
#include "jobs/shoot_job.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kMostRecent = 8;

}  // namespace

QString demoFile() {
    const QString name = u"/clock-bench/clock-bench.rigmatch"_s;
    const QStringList folders{
        QString::fromUtf8(RIGMATCH_DEMO_FOLDER),
        QString::fromUtf8(RIGMATCH_INSTALLED_DEMO),
        QCoreApplication::applicationDirPath() + u"/../share/rigmatch/demo"_s};
    for (const QString& folder : folders) {
        if (QFileInfo::exists(folder + name)) return folder + name;
    }
    return {};
}

FileFlow::FileFlow(AppContext& context, QWidget* window)
    : QObject(window), m_context(context), m_window(window) {}

QStringList FileFlow::recentFiles() const {
    return m_context.settings.value(u"recentFiles"_s).toStringList();
}

void FileFlow::remember(const QString& path) {
    QStringList files = recentFiles();
    files.removeAll(path);
    files.prepend(path);
    m_context.settings.setValue(u"recentFiles"_s, QStringList(files.mid(0, kMostRecent)));
    Q_EMIT recentChanged();
}

void FileFlow::settleThen(std::function<void()> go) {
    if (!m_context.document.isModified()) {
        m_context.document.close();
        go();
        return;
    }
    m_context.prompter.ask(
        m_window,
        tr("Save the changes to \"%1\"?").arg(plain(m_context.document.rig().name)),
        tr("Without saving, what was changed since the last save is lost."),
        tr("Save"),
        tr("Do not save"),
        tr("Cancel"),
        [this, go](Answer answer) {
            if (answer == Answer::Cancel) return;
            if (answer == Answer::Yes) {
                saveTo(m_context.document.path(), go);
                return;
            }
            m_context.document.close();
            go();
        });
}

void FileFlow::newRig() {
    settleThen([this] { m_context.document.start(rig::Rig{}); });
}

void FileFlow::openRig() {
    settleThen([this] {
        m_context.files.openRig(m_window, [this](const QString& path) {
            if (!path.isEmpty()) load(path);
        });
    });
}

void FileFlow::openPath(const QString& path) {
    settleThen([this, path] { load(path); });
}

void FileFlow::load(const QString& path) {
    const QString absolute = QFileInfo(path).absoluteFilePath();
    const auto recovery = m_context.document.journal().find(absolute.toStdString());
    if (recovery) {
        m_context.prompter.ask(m_window,
                               tr("Recover \"%1\"?").arg(QFileInfo(absolute).fileName()),
                               tr("The program ended unexpectedly while this rig was open. The "
                                  "recovered state is newer than the saved file."),
                               tr("Recover"),
                               tr("Open the saved file"),
                               QString(),
                               [this, absolute, recovery](Answer answer) {
                                   if (answer == Answer::Yes) {
                                       m_context.document.recover(*recovery);
                                       remember(absolute);
                                       return;
                                   }
                                   m_context.document.journal().remove(absolute.toStdString());
                                   load(absolute);
                               });
        return;
    }
    const auto missing = m_context.document.open(absolute);
    if (!missing) {
        m_context.prompter.showError(m_window, missing.error());
        return;
    }
    remember(absolute);
    if (m_context.document.isReadOnly()) {
        m_context.prompter.showText(m_window,
                                    tr("Opened read-only"),
                                    tr("This rig was written by a later version of the program. It "
                                       "can be looked at, and saved under another name; "
                                       "what this version does not know is kept."));
    }
    if (!missing->empty()) Q_EMIT mediaMissing(static_cast<int>(missing->size()));
}

void FileFlow::openDemo() {
    const QString file = demoFile();
    auto loaded = rig::loadRig(file.toStdString());
    // Without its footage the demo still opens: its cameras can shoot.
    m_context.document.start(loaded ? loaded->rig : jobs::demoRig());
}

void FileFlow::save() {
    saveTo(m_context.document.path(), [] {});
}

void FileFlow::saveAs() {
    saveTo(QString(), [] {});
}

void FileFlow::saveTo(const QString& path, const std::function<void()>& then) {
    if (path.isEmpty() || m_context.document.isReadOnly()) {
        const QString suggestion =
            plain(m_context.document.rig().name).toLower().replace(u' ', u'-') + u".rigmatch"_s;
        m_context.files.saveRig(m_window, suggestion, [this, then](const QString& chosen) {
            if (chosen.isEmpty()) return;
            if (auto saved = m_context.document.saveAs(chosen); !saved) {
                m_context.prompter.showError(m_window, saved.error());
                return;
            }
            remember(chosen);
            then();
        });
        return;
    }
    if (auto saved = m_context.document.saveAs(path); !saved) {
        m_context.prompter.showError(m_window, saved.error());
        return;
    }
    then();
}

void FileFlow::offerUnsaved() {
    const auto recovery = m_context.document.journal().findUnsaved();
    if (!recovery) return;
    m_context.prompter.ask(m_window,
                           tr("Recover an unsaved rig?"),
                           tr("The program ended unexpectedly with the rig \"%1\" not yet saved.")
                               .arg(plain(recovery->rig.name)),
                           tr("Recover"),
                           tr("Throw it away"),
                           QString(),
                           [this, recovery](Answer answer) {
                               if (answer == Answer::Yes) {
                                   m_context.document.recover(*recovery);
                               } else {
                                   std::error_code ignored;
                                   std::filesystem::remove(recovery->journal, ignored);
                               }
                           });
}

}  // namespace rigmatch::app
