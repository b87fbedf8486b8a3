// SPDX-License-Identifier: GPL-3.0-or-later
#include <QApplication>
#include <QCommandLineParser>
#include <QPixmap>
#include <QStandardPaths>
#include <QTextStream>
#include <QTimer>
#include <functional>

#include "app/services/dialogs.h"
#include "app/shell/file_flow.h"
#include "app/shell/main_window.h"
#include "app/widgets/theme.h"

namespace {

using namespace Qt::StringLiterals;
using namespace rigmatch::app;

/// Draws the window into a file as soon as no work is going on, and ends the program.
void renderWhenQuiet(MainWindow& window, AppContext& context, const QString& file) {
    auto* timer = new QTimer(&window);
    timer->setInterval(150);
    QObject::connect(timer, &QTimer::timeout, &window, [&window, &context, file] {
        if (!context.jobs.running().isEmpty()) return;
        const bool isSaved = window.grab().save(file);
        if (!isSaved)
            QTextStream(stderr) << "Cannot write " << file
                                << ". Choose a folder that can be written to.\n";
        QCoreApplication::exit(isSaved ? 0 : 1);
    });
    timer->start();
}

}  // namespace

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    QApplication::setApplicationName(u"rigmatch"_s);
    QApplication::setOrganizationName(u"rigmatch"_s);
    QApplication::setApplicationVersion(u"0.1.0"_s);
    theme::apply(application);
    QCommandLineParser parser;
    parser.setApplicationDescription(
        QCoreApplication::translate("main", "Matches several cameras on one set."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(u"FILE.rigmatch"_s,
                                 QCoreApplication::translate("main", "Rig to open"),
                                 u"[FILE.rigmatch]"_s);
    parser.addOption(
        {u"demo"_s, QCoreApplication::translate("main", "Open the clock-bench demo rig")});
    parser.addOption(
        {u"screen"_s,
         QCoreApplication::translate("main", "Screen to show: cameras, testTake, match"),
         u"ID"_s});
    parser.addOption({u"render"_s,
                      QCoreApplication::translate("main", "Draw the window into a PNG and quit"),
                      u"FILE"_s});
    parser.process(application);

    RigDocument document(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) +
                         u"/journals"_s);
    Selection selection;
    DialogFileChooser chooser;
    DialogPrompter prompter;
    QSettings settings;
    // The last of all to go but the values it works on: work that still runs reports here.
    JobRunner jobs;
    AppContext context{
        document, selection, jobs, chooser, prompter, settings, std::make_shared<SharedSet>()};
    MainWindow window(context);
    if (parser.isSet(u"screen"_s)) window.showScreen(parser.value(u"screen"_s));
    if (parser.isSet(u"demo"_s)) window.files().openDemo();
    if (parser.isSet(u"render"_s)) {
        window.resize(1280, 800);
        renderWhenQuiet(window, context, parser.value(u"render"_s));
    }
    window.show();
    const QStringList files = parser.positionalArguments();
    QTimer::singleShot(0, &window, [&] {
        if (!files.isEmpty()) {
            window.files().openPath(files.front());
        } else if (!parser.isSet(u"demo"_s)) {
            window.files().offerUnsaved();
        }
    });
    return QApplication::exec();
}
