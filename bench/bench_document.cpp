// SPDX-License-Identifier: GPL-3.0-or-later
// What a large document costs: sixteen cameras, a hundred takes, every shot measured. Time of an
// edit on the interface thread (hand-over to the journal included), memory of an undo step, time to
// open and to save, each over many rounds. Times of one run beside one another: absolute ones
// depend on the machine.
#include <malloc.h>

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>
#include <utility>

#include "app/services/rig_document.h"
#include "jobs/match_job.h"
#include "jobs/shoot_job.h"
#include "rig/rig_store.h"

using namespace rigmatch;

namespace {

rig::Reading readingLike(int number) {
    rig::Reading reading;
    reading.hasChart = true;
    reading.layout = "classic-24";
    reading.width = 1920;
    reading.height = 1080;
    for (int i = 0; i < 24; ++i) {
        rig::PatchReading patch;
        patch.name = "patch " + std::to_string(i + 1);
        const double level = 0.02 + 0.03 * i + 1e-4 * number;
        patch.signal = patch.nominalLinear = {level, level, level};
        patch.noise = patch.standardError = {0.001, 0.001, 0.001};
        reading.patches.push_back(patch);
    }
    return reading;
}

rig::Rig largeRig() {
    rig::Rig rig = jobs::demoRig();
    const rig::Camera first = std::as_const(rig.cameras)[0];
    rig.takes.clear();
    while (rig.cameras.size() < 16) {
        rig::Camera camera = first;
        camera.id = rig::freshCameraId(rig);
        rig.cameras.push_back(camera);
    }
    rig::giveLetters(rig);
    for (int t = 0; t < 100; ++t) {
        rig::Take take;
        take.id = "take-" + std::to_string(t + 1);
        take.number = t + 1;
        for (const rig::Camera& camera : std::as_const(rig.cameras)) {
            rig::Shot shot;
            shot.cameraId = camera.id;
            shot.media = "/clips/take-" + std::to_string(t + 1) + "/" + camera.letter + ".mov";
            shot.settings = camera.settings;
            shot.reading = readingLike(t);
            take.shots.push_back(shot);
        }
        rig.takes.push_back(take);
    }
    return rig;
}

double milliseconds(const QElapsedTimer& timer) {
    return static_cast<double>(timer.nsecsElapsed()) / 1e6;
}

double quantile(std::vector<double> values, double share) {
    std::sort(values.begin(), values.end());
    return values[static_cast<std::size_t>(share * static_cast<double>(values.size() - 1))];
}

}  // namespace

int main(int argc, char** argv) {
    const QCoreApplication application(argc, argv);
    const QTemporaryDir folder;
    const std::string file = folder.filePath("large.rigmatch").toStdString();
    const rig::Rig large = largeRig();
    QElapsedTimer timer;
    timer.start();
    if (!rig::saveRig(large, file)) return 1;
    const double save = milliseconds(timer);
    app::RigDocument document(folder.filePath("journals"));
    timer.start();
    if (!document.open(QString::fromStdString(file))) return 1;
    std::printf("open %.0f ms, save %.0f ms\n", milliseconds(timer), save);

    constexpr int kEdits = 100;
    std::vector<double> edits;
    const auto before = mallinfo2().uordblks;
    for (int i = 0; i < kEdits; ++i) {
        timer.start();
        rig::Rig next = document.rig();
        next.cameras[static_cast<std::size_t>(i % 16)].settings.isoValue = 100.0 + i;
        document.change("Camera: ISO", next);
        edits.push_back(milliseconds(timer));
    }
    const auto after = mallinfo2().uordblks;
    std::printf("edit of a camera: median %.3f ms, 95th %.3f ms; an undo step takes %.1f KB\n",
                quantile(edits, 0.5),
                quantile(edits, 0.95),
                static_cast<double>(after - before) / kEdits / 1024.0);

    edits.clear();
    for (int i = 0; i < kEdits; ++i) {
        timer.start();
        rig::Rig next = document.rig();
        next.takes[static_cast<std::size_t>(i % 100)].shots[3].rangeOverride =
            i % 2 == 0 ? "full" : "limited";
        document.change("Read the codes differently", next);
        edits.push_back(milliseconds(timer));
    }
    std::printf("edit of a shot: median %.3f ms, 95th %.3f ms; an undo step takes %.1f KB\n",
                quantile(edits, 0.5),
                quantile(edits, 0.95),
                static_cast<double>(mallinfo2().uordblks - after) / kEdits / 1024.0);

    edits.clear();
    for (int i = 0; i < kEdits; ++i) {
        timer.start();
        document.undoStack().undo();
        edits.push_back(milliseconds(timer));
    }
    std::printf(
        "undo: median %.3f ms, 95th %.3f ms\n", quantile(edits, 0.5), quantile(edits, 0.95));

    edits.clear();
    for (int i = 0; i < 5; ++i) {
        timer.start();
        (void)jobs::matchReport(document.rig(), std::as_const(document.rig().takes)[0]);
        edits.push_back(milliseconds(timer));
    }
    std::printf("match of sixteen cameras: median %.1f ms\n", quantile(edits, 0.5));

    // The journal is written beside the interface: how long the event loop is held up by it.
    double longest = 0.0;
    QEventLoop loop;
    QElapsedTimer all;
    all.start();
    while (all.elapsed() < 3000) {
        timer.start();
        loop.processEvents(QEventLoop::AllEvents, 5);
        longest = std::max(longest, milliseconds(timer));
    }
    std::printf("longest step of the event loop while the journal is written: %.1f ms\n", longest);
    return 0;
}
