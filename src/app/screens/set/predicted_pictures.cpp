// SPDX-License-Identifier: GPL-3.0-or-later
#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

#include <QMetaObject>

#include "app/screens/set/picture_strip.h"
#include "app/services/images.h"
#include "app/services/texts.h"

namespace rigmatch::app {
namespace {

constexpr int kWorkers = 2;
constexpr int kNice = 10;

/// Workers step back behind the interface: pictures may wait, the hand on the mouse may not.
void stepBack() {
    static thread_local const int kDone =
        ::setpriority(PRIO_PROCESS, static_cast<id_t>(::syscall(SYS_gettid)), kNice);
    (void)kDone;
}

}  // namespace

PredictedPictures::PredictedPictures(QObject* parent) : QObject(parent) {
    m_pool.setMaxThreadCount(kWorkers);
}

PredictedPictures::~PredictedPictures() {
    m_progress.cancel();
    m_pool.clear();
    m_pool.waitForDone();
}

void PredictedPictures::request(const rig::Rig& rig, jobs::PictureCare care, int widthPx) {
    const Wish wish{rig, care, widthPx};
    if (m_left == 0) {
        start(wish);
        return;
    }
    // A slow, careful round is given up for a newer plan; a quick one is let finish.
    if (m_running == jobs::PictureCare::Whole) m_progress.cancel();
    m_next = wish;
}

void PredictedPictures::start(const Wish& wish) {
    m_running = wish.care;
    m_progress = base::Progress();
    m_left = 1;
    // The scene is built once, by the first worker; the pictures are then drawn by all.
    m_pool.start([this, wish, progress = m_progress] {
        stepBack();
        const auto set = std::make_shared<const jobs::PredictedSet>(wish.rig);
        QMetaObject::invokeMethod(
            this, [this, wish, set, progress] { draw(wish, set, progress); }, Qt::QueuedConnection);
    });
}

void PredictedPictures::draw(const Wish& wish,
                             const std::shared_ptr<const jobs::PredictedSet>& set,
                             const base::Progress& progress) {
    for (const rig::Camera& camera : wish.rig.cameras) {
        if (rig::findPlanCamera(*wish.rig.plan, camera.id) == nullptr) continue;
        ++m_left;
        m_pool.start([this, set, id = camera.id, width = wish.widthPx, care = wish.care, progress] {
            stepBack();
            const auto picture = set->picture(id, width, care, progress);
            // Runs on the interface thread; dropped where this object is gone.
            QMetaObject::invokeMethod(
                this,
                [this, id, picture, progress] {
                    const bool isGivenUp = progress.isCancelled();
                    if (picture && !isGivenUp) Q_EMIT pictureReady(plain(id), imageOf(*picture));
                    if (!picture && !isGivenUp) {
                        Q_EMIT failed(plain(id), fromCore(picture.error().detail));
                    }
                    finishOne();
                },
                Qt::QueuedConnection);
        });
    }
    finishOne();
}

void PredictedPictures::finishOne() {
    if (--m_left > 0) return;
    m_left = 0;
    if (m_next) {
        const Wish next = *m_next;
        m_next.reset();
        start(next);
    } else {
        Q_EMIT settled();
    }
}

}  // namespace rigmatch::app
