// SPDX-License-Identifier: GPL-3.0-or-later
#include <QApplication>
#include <QCommandLineParser>
#include <QPixmap>
#include <QSettings>
#include <QStandardPaths>
#include <QTextStream>
#include <QTimer>
#include <algorithm>
#include <functional>
#include <initializer_list>
#include <memory>
#include <optional>
#include <string_view>

#include "app/services/dialogs.h"
#include "app/shell/file_flow.h"
#include "app/shell/main_window.h"
#include "app/shell/text_size.h"
#include "app/widgets/theme.h"
#include "base/memory.h"
#include "rig/rig_store.h"
#include "words/english.h"

namespace {

using namespace Qt::StringLiterals;
using namespace rigmatch::app;

/// Draws the window into a file as soon as no work is going on, and ends the program.
void renderWhenQuiet(MainWindow& window, AppContext& context, const QString& file) {
    auto* timer = new QTimer(&window);
    timer->setInterval(150);
    const auto isQuiet = [&window, &context] {
        if (!context.jobs.running().isEmpty() || context.reports->isPending()) return false;
        // Pictures that are being drawn in the background say so by this property.
        const auto children = window.findChildren<QObject*>();
        return std::all_of(children.begin(), children.end(), [](const QObject* child) {
            const QVariant isIdle = child->property("isIdle");
            return !isIdle.isValid() || isIdle.toBool();
        });
    };
    // What came last is laid out by then.
    auto quietTicks = std::make_shared<int>(0);
    QObject::connect(timer, &QTimer::timeout, &window, [&window, isQuiet, quietTicks, file] {
        *quietTicks = isQuiet() ? *quietTicks + 1 : 0;
        if (*quietTicks < 2) return;
        const bool isSaved = window.grab().save(file);
        if (!isSaved)
            QTextStream(stderr) << "Cannot write " << file
                                << ". Choose a folder that can be written to.\n";
        QCoreApplication::exit(isSaved ? 0 : 1);
    });
    timer->start();
}

void addOptions(QCommandLineParser& parser) {
    parser.setApplicationDescription(
        QCoreApplication::translate("main", "Matches several cameras on one set."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(
        u"FILE.rigmatch"_s,
        QCoreApplication::translate(
            "main", "Rig to open, or the clips of a test take: one file or folder per camera"),
        u"[FILE.rigmatch | CLIP… | FOLDER…]"_s);
    parser.addOption(
        {u"demo"_s, QCoreApplication::translate("main", "Open the clock-bench demo rig")});
    parser.addOption({u"screen"_s,
                      QCoreApplication::translate(
                          "main",
                          "Screen to show: set, cameras, testTake, match, compare, framing, "
                          "sync"),
                      u"ID"_s});
    parser.addOption(
        {u"object"_s,
         QCoreApplication::translate("main", "Object of the set plan to choose, such as camera-2"),
         u"ID"_s});
    parser.addOption(
        {u"from-side"_s, QCoreApplication::translate("main", "Show the set plan from the side")});
    parser.addOption(
        {u"page"_s,
         QCoreApplication::translate("main",
                                     "Page of Compare (quilt, pictures, scopes, tone, numbers) or "
                                     "Framing (measures, saved, pair, crops, focus)"),
         u"ID"_s});
    parser.addOption({u"render"_s,
                      QCoreApplication::translate("main", "Draw the window into a PNG and quit"),
                      u"FILE"_s});
}

void nameProgram() {
    QCoreApplication::setApplicationName(u"rigmatch"_s);
    QCoreApplication::setOrganizationName(u"rigmatch"_s);
    QCoreApplication::setApplicationVersion(u"0.1.0"_s);
}

/// True where one of those stands among the arguments, also as "--name=value".
bool hasArgument(int argc, char** argv, std::initializer_list<std::string_view> names) {
    return std::any_of(argv + 1, argv + argc, [&](std::string_view argument) {
        return std::find(names.begin(), names.end(), argument.substr(0, argument.find('='))) !=
               names.end();
    });
}

/// True where only words are asked for: they need no display.
bool areWordsAskedFor(int argc, char** argv) {
    return hasArgument(argc, argv, {"-h", "--help", "--help-all", "-?", "-v", "--version"});
}

/// Draws into memory where a picture is asked for and no display is there. False, with words why,
/// where a window is asked for and could not open.
bool hasSomewhereToDraw(int argc, char** argv) {
    for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}) {
        if (!qEnvironmentVariableIsEmpty(name)) return true;
    }
    if (hasArgument(argc, argv, {"-platform", "--platform"})) return true;
    if (hasArgument(argc, argv, {"-render", "--render"})) {
        qputenv("QT_QPA_PLATFORM", "offscreen");
        return true;
    }
    QTextStream(stderr) << QCoreApplication::translate(
        "main",
        "No display: neither DISPLAY nor WAYLAND_DISPLAY is set. Start it in a desktop session, "
        "or draw a screen into a file with --render FILE.png; rigmatch-cli needs none.\n");
    return false;
}

/// Why a rig that is to be drawn cannot be; nothing where it can.
std::optional<rigmatch::base::Error> problemWith(const QStringList& files) {
    if (files.isEmpty() || !files.front().endsWith(u".rigmatch"_s)) return std::nullopt;
    const auto loaded = rigmatch::rig::loadRig(files.front().toStdString());
    return loaded ? std::nullopt : std::optional(loaded.error());
}

/// The screen, page and thing that the arguments name.
void showWhatIsAsked(MainWindow& window, const QCommandLineParser& parser) {
    if (parser.isSet(u"screen"_s)) window.showScreen(parser.value(u"screen"_s));
    if (parser.isSet(u"demo"_s)) window.files().openDemo();
    if (parser.isSet(u"object"_s) || parser.isSet(u"from-side"_s)) {
        QMetaObject::invokeMethod(
            window.screen(u"set"_s),
            "showObject",
            Q_ARG(QString, parser.value(u"object"_s)),
            Q_ARG(QString, parser.isSet(u"from-side"_s) ? u"side"_s : u"above"_s));
    }
    if (parser.isSet(u"page"_s)) {
        const QString screen =
            parser.value(u"screen"_s) == u"framing"_s ? u"framing"_s : u"compare"_s;
        QMetaObject::invokeMethod(
            window.screen(screen), "showPage", Q_ARG(QString, parser.value(u"page"_s)));
    }
}

}  // namespace

int main(int argc, char** argv) {
    rigmatch::base::returnLargeBlocks();
    nameProgram();
    if (areWordsAskedFor(argc, argv)) {
        const QCoreApplication application(argc, argv);
        QCommandLineParser parser;
        addOptions(parser);
        parser.process(application);
        return 0;
    }
    if (!hasSomewhereToDraw(argc, argv)) return 1;
    applyTextSize(QSettings());
    QApplication application(argc, argv);
    theme::apply(application);
    QCommandLineParser parser;
    addOptions(parser);
    parser.process(application);
    if (parser.isSet(u"render"_s)) {
        if (const auto problem = problemWith(parser.positionalArguments())) {
            QTextStream(stderr) << QString::fromStdString(rigmatch::words::inEnglish(*problem))
                                << '\n';
            return 1;
        }
    }

    RigDocument document(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) +
                         u"/journals"_s);
    document.start(freshRig());
    Selection selection;
    DialogFileChooser chooser;
    DialogPrompter prompter;
    QSettings settings;
    // The last of all to go but the values it works on: work that still runs reports here.
    JobRunner jobs;
    AppContext context{
        document, selection, jobs, chooser, prompter, settings, std::make_shared<SharedSet>()};
    context.player = std::make_shared<SystemSoundPlayer>();
    MainWindow window(context);
    showWhatIsAsked(window, parser);
    if (parser.isSet(u"render"_s)) {
        window.resize(1280, 800);
        renderWhenQuiet(window, context, parser.value(u"render"_s));
    }
    window.show();
    const QStringList files = parser.positionalArguments();
    QTimer::singleShot(0, &window, [&] {
        if (!files.isEmpty()) {
            window.takeIn(files);
        }
        if (!parser.isSet(u"render"_s)) window.files().offerRecoveries();
    });
    return QApplication::exec();
}
