// SPDX-License-Identifier: GPL-3.0-or-later
//
// Dragging a lamp on a plan with eight cameras and twenty lights: frames of interface a second, and
// how soon all eight predicted pictures follow. Prints absolute figures, and as ratios of one whole
// picture of 320 px drawn on one thread in the same run.
#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QMouseEvent>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>

#include "app/screens/set/picture_strip.h"
#include "app/screens/set/plan_view.h"
#include "app/screens/set/set_screen.h"
#include "app/services/dialogs.h"
#include "app/widgets/theme.h"
#include "jobs/plan_job.h"
#include "jobs/shoot_job.h"

using namespace rigmatch;

namespace {

constexpr int kCameras = 8;
constexpr int kLights = 20;
constexpr int kMoves = 120;

rig::Rig largeRig() {
    rig::Rig rig = jobs::demoRig();
    rig::SetPlan& plan = *rig.plan;
    while (static_cast<int>(rig.cameras.size()) < kCameras) {
        const std::size_t from = rig.cameras.size() % 4;
        rig::PlanObject place = *rig::findPlanCamera(plan, rig.cameras[from].id);
        rig::Camera camera = rig.cameras[from];
        camera.id = rig::freshCameraId(rig);
        place.id = rig::freshObjectId(plan, rig::PlanKind::Camera);
        place.cameraId = camera.id;
        place.xMetres += 0.25;
        rig.cameras.push_back(camera);
        plan.objects.push_back(place);
    }
    for (int i = 3; i < kLights; ++i) {
        rig::PlanObject light = *rig::findObject(plan, "light-1");
        light.id = rig::freshObjectId(plan, rig::PlanKind::Light);
        light.xMetres = 0.3 + 0.22 * i;
        light.luxAtOneMetre = 300.0;
        plan.objects.push_back(light);
    }
    rig::giveLetters(rig);
    return rig;
}

void send(QWidget* widget, QEvent::Type type, const QPointF& at, Qt::MouseButton button) {
    const auto held = type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton;
    QMouseEvent event(type, at, widget->mapToGlobal(at), button, held, Qt::NoModifier);
    QApplication::sendEvent(widget, &event);
}

/// Until nothing is being drawn any more; the interface thread sleeps meanwhile.
void waitForPictures(app::PredictedPictures& pictures) {
    while (!pictures.isIdle()) {
        QEventLoop loop;
        QObject::connect(&pictures,
                         &app::PredictedPictures::settled,
                         &loop,
                         &QEventLoop::quit,
                         Qt::QueuedConnection);
        loop.exec();
    }
}

double wholePictureMs(const rig::Rig& rig) {
    const jobs::PredictedSet set(rig);
    QElapsedTimer timer;
    timer.start();
    (void)set.picture(rig.cameras[0].id, 320, jobs::PictureCare::Whole, {});
    return static_cast<double>(timer.nsecsElapsed()) / 1e6;
}

}  // namespace

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    app::theme::apply(application);
    const QTemporaryDir folder;
    app::RigDocument document(folder.filePath("journals"));
    app::Selection selection;
    app::DialogFileChooser chooser;
    app::DialogPrompter prompter;
    QSettings settings(folder.filePath("settings.ini"), QSettings::IniFormat);
    app::JobRunner jobs;
    app::AppContext context{
        document, selection, jobs, chooser, prompter, settings, std::make_shared<app::SharedSet>()};
    const rig::Rig rig = largeRig();
    document.start(rig);
    app::SetScreen screen(context, nullptr);
    screen.resize(1132, 700);
    screen.show();
    auto* view = screen.findChild<app::PlanView*>();
    auto* pictures = &screen.findChild<app::PictureStrip*>()->pictures();
    waitForPictures(*pictures);
    const double whole = wholePictureMs(rig);

    // A drag as fast as the interface takes it; pictures are drawn beside it.
    const QPointF start = view->placeOf("light-1");
    send(view, QEvent::MouseButtonPress, start, Qt::LeftButton);
    std::vector<double> frames;
    QElapsedTimer all;
    all.start();
    for (int i = 1; i <= kMoves; ++i) {
        QElapsedTimer frame;
        frame.start();
        send(view, QEvent::MouseMove, start + QPointF(i * 1.3, i * 0.5), Qt::NoButton);
        view->repaint();
        QApplication::processEvents();
        frames.push_back(static_cast<double>(frame.nsecsElapsed()) / 1e6);
    }
    const double perFrame = static_cast<double>(all.nsecsElapsed()) / 1e6 / kMoves;
    waitForPictures(*pictures);

    // One more move: how long until the last of the eight pictures of it has arrived.
    std::vector<double> waits;
    for (int round = 0; round < 9; ++round) {
        QElapsedTimer wait;
        wait.start();
        send(view, QEvent::MouseMove, start + QPointF(20.0 + 9.0 * round, 40.0), Qt::NoButton);
        waitForPictures(*pictures);
        waits.push_back(static_cast<double>(wait.nsecsElapsed()) / 1e6);
    }
    send(view, QEvent::MouseButtonRelease, start + QPointF(100, 40), Qt::LeftButton);
    waitForPictures(*pictures);
    std::sort(frames.begin(), frames.end());
    std::sort(waits.begin(), waits.end());
    const auto at = [](const std::vector<double>& values, double share) {
        return values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
    };
    std::printf("one whole picture, 320 px, one thread: %.0f ms (the measure of the ratios)\n",
                whole);
    std::printf(
        "interface while dragging: %.0f frames/s, median %.1f ms (ratio %.3f), 95th %.1f ms\n",
        1000.0 / perFrame,
        at(frames, 0.5),
        at(frames, 0.5) / whole,
        at(frames, 0.95));
    std::printf("all eight pictures after a move: median %.0f ms (ratio %.2f), worst %.0f ms\n",
                at(waits, 0.5),
                at(waits, 0.5) / whole,
                waits.back());
    return 0;
}
