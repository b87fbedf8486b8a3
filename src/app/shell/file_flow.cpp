// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/file_flow.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QFileInfo>
#include <QLocale>

#include "app/services/texts.h"
#include "jobs/shoot_job.h"
#include "rig/region.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kMostRecent = 8;

QString timeOf(std::chrono::system_clock::time_point time) {
    const auto seconds =
        std::chrono::duration_cast<std::chrono::seconds>(time.time_since_epoch()).count();
    return QLocale().toString(QDateTime::fromSecsSinceEpoch(seconds), QLocale::ShortFormat);
}

/// When it was last changed and last saved.
QString timesOf(const rig::Recovery& recovery) {
    const QString changed = timeOf(recovery.changedAt);
    if (!recovery.savedAt)
        return FileFlow::tr("Last change: %1; there is no saved file.").arg(changed);
    return FileFlow::tr("Last change: %1; saved file: %2.").arg(changed, timeOf(*recovery.savedAt));
}

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

void FileFlow::settleThen(const std::function<void()>& go) {
    // What is open stays open, journal and all, until something else has really taken its place.
    if (!m_context.document.isModified()) {
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
            go();
        });
}

rig::Rig freshRig() {
    rig::Rig rig;
    rig::applyRegion(
        rig, rig::regionOf(QLocale::territoryToCode(QLocale::system().territory()).toStdString()));
    return rig;
}

void FileFlow::newRig() {
    settleThen([this] { m_context.document.start(freshRig()); });
}

void FileFlow::openRig() {
    m_context.files.openRig(m_window, [this](const QString& path) {
        if (!path.isEmpty()) openPath(path);
    });
}

void FileFlow::openPath(const QString& path) {
    settleThen([this, path] { load(path); });
}

void FileFlow::load(const QString& path) {
    const QString absolute = QFileInfo(path).absoluteFilePath();
    m_asked = absolute;
    const bool isOpenHere = QFileInfo(m_context.document.path()).absoluteFilePath() == absolute;
    const auto recovery =
        isOpenHere ? std::nullopt : m_context.document.journal().find(absolute.toStdString());
    if (recovery) {
        m_context.prompter.ask(m_window,
                               tr("Recover \"%1\"?").arg(QFileInfo(absolute).fileName()),
                               tr("The program ended unexpectedly while this rig was open. %1")
                                   .arg(timesOf(*recovery)),
                               tr("Recover"),
                               tr("Open the saved file"),
                               tr("Later"),
                               [this, absolute, recovery](Answer answer) {
                                   if (answer == Answer::Cancel) return;
                                   if (answer == Answer::Yes) {
                                       m_context.document.recover(*recovery);
                                       remember(absolute);
                                       return;
                                   }
                                   openSaved(absolute, [this, recovery] {
                                       m_context.document.journal().discard(*recovery);
                                   });
                               });
        return;
    }
    openSaved(absolute, {});
}

void FileFlow::openSaved(const QString& absolute, const std::function<void()>& then) {
    using Loaded = base::Result<rig::LoadedRig>;
    m_context.jobs.startQuick<Loaded>(
        tr("Opening %1").arg(QFileInfo(absolute).fileName()),
        this,
        [path = absolute.toStdString()](const base::Progress&) { return rig::loadRig(path); },
        [this, absolute, then](const Loaded& loaded) {
            if (!loaded) {
                m_context.prompter.showError(m_window, loaded.error());
                return;
            }
            m_context.document.open(absolute, *loaded);
            remember(absolute);
            if (then) then();
            if (m_context.document.isReadOnly()) {
                m_context.prompter.showText(
                    m_window,
                    tr("Opened read-only"),
                    tr("This rig was written by a later version of the program. It can be looked "
                       "at, and saved under another name; what this version does not know is "
                       "kept."));
            }
            if (!loaded->missingMedia.empty())
                Q_EMIT mediaMissing(static_cast<int>(loaded->missingMedia.size()));
        });
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
            write(
                chosen,
                [this, chosen, then] {
                    remember(chosen);
                    then();
                },
                then);
        });
        return;
    }
    write(path, then, then);
}

/// `then` after it is saved. Where it cannot be, that is said and another place is asked for, which
/// leads to `later`: what was to follow the saving is not lost with it.
void FileFlow::write(const QString& path,
                     const std::function<void()>& then,
                     const std::function<void()>& later) {
    m_context.document.saveInBackground(path, [this, then, later](const base::Result<void>& saved) {
        if (saved) {
            then();
        } else {
            m_context.prompter.showError(
                m_window, saved.error(), [this, later] { saveTo(QString(), later); });
        }
    });
}

void FileFlow::offerRecoveries() {
    auto found = m_context.document.journal().findAll();
    // Of the file that was asked for at the start its own question tells.
    const std::filesystem::path open = m_asked.toStdString();
    std::erase_if(found, [&](const rig::Recovery& recovery) {
        return !open.empty() && recovery.document == open;
    });
    offerNext(std::make_shared<const std::vector<rig::Recovery>>(found), 0);
}

void FileFlow::offerNext(const std::shared_ptr<const std::vector<rig::Recovery>>& all,
                         std::size_t index) {
    if (index >= all->size()) return;
    const rig::Recovery& recovery = (*all)[index];
    const QString file = plain(recovery.document.filename().string());
    const QString what =
        file.isEmpty() ? tr("The program ended unexpectedly with the rig \"%1\" not yet saved. %2")
                             .arg(plain(recovery.rig.name), timesOf(recovery))
                       : tr("The program ended unexpectedly while \"%1\" was open. %2")
                             .arg(plain(recovery.document.string()), timesOf(recovery));
    m_context.prompter.ask(
        m_window,
        file.isEmpty() ? tr("Recover an unsaved rig?") : tr("Recover \"%1\"?").arg(file),
        what,
        tr("Recover"),
        tr("Throw it away"),
        tr("Later"),
        [this, all, index](Answer answer) {
            const rig::Recovery& chosen = (*all)[index];
            if (answer == Answer::Yes) {
                // The others are offered at the next start.
                m_context.document.recover(chosen);
                if (!chosen.document.empty()) remember(plain(chosen.document.string()));
                return;
            }
            if (answer == Answer::No) m_context.document.journal().discard(chosen);
            offerNext(all, index + 1);
        });
}

}  // namespace rigmatch::app
