// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/services/report_cache.h"

#include <condition_variable>
#include <mutex>

namespace rigmatch::app {
namespace {

/// Of the plan a match reads where people and cameras are, which tells who is who, and whether
/// lamps follow the mains; moving a lamp or a table is no reason to match anew.
void keepWhatNames(rig::SetPlan& plan) {
    std::erase_if(plan.objects, [](const rig::PlanObject& object) {
        return object.kind != rig::PlanKind::Person && object.kind != rig::PlanKind::Camera &&
               object.kind != rig::PlanKind::Light;
    });
    for (rig::PlanObject& object : plan.objects) {
        if (object.kind != rig::PlanKind::Light) continue;
        rig::PlanObject lamp;
        lamp.id = object.id;
        lamp.kind = object.kind;
        lamp.isOn = object.isOn;
        lamp.isFlickerFree = object.isFlickerFree;
        object = lamp;
    }
}

/// The part of a rig that a match depends on: ticks change settings, which do not; later takes do
/// not either, earlier ones tell whether a black moved.
rig::Rig essenceOf(const rig::Rig& rig, const rig::Take& take) {
    rig::Rig essence = rig;
    while (!essence.takes.empty() && std::as_const(essence.takes).back().id != take.id)
        essence.takes.pop_back();
    for (rig::Camera& camera : essence.cameras) {
        camera.settings = rig::Settings{};
        camera.simulated.reset();
    }
    if (essence.plan) keepWhatNames(*essence.plan);
    essence.sources = {};
    essence.name.clear();
    return essence;
}

bool areCamerasSame(const rig::Rig& one, const rig::Rig& other) {
    return std::equal(one.cameras.begin(),
                      one.cameras.end(),
                      other.cameras.begin(),
                      other.cameras.end(),
                      [](const auto& a, const auto& b) { return a.id == b.id; });
}

}  // namespace

/// One match that is being computed; the worker leaves its report here.
struct ReportCache::Work {
    rig::Rig essence;
    std::string takeId;
    std::mutex mutex;
    std::condition_variable isLeft;
    Report report;
    std::string failure;
    bool isDone = false;
};

ReportCache::ReportCache(QObject* parent) : QObject(parent) { m_pool.setMaxThreadCount(1); }

ReportCache::~ReportCache() { m_pool.waitForDone(); }

ReportCache::Report ReportCache::of(const rig::Rig& rig, const rig::Take& take) {
    static const Report kNone = std::make_shared<match::MatchReport>();
    rig::Rig essence = essenceOf(rig, take);
    if (m_report && m_take == take.id && m_essence == essence) {
        m_wanted.reset();
        return m_report;
    }
    if (!m_wanted || m_wantedTake != take.id || !(*m_wanted == essence)) {
        m_wanted = std::move(essence);
        m_wantedRig = rig;
        m_wantedTake = take.id;
    }
    start();
    const auto until = std::chrono::steady_clock::now() + m_patience;
    while (m_wanted && m_running) {
        std::unique_lock lock(m_running->mutex);
        if (!m_running->isLeft.wait_until(lock, until, [&] { return m_running->isDone; })) break;
        lock.unlock();
        if (!collect()) start();
    }
    if (!m_wanted) return m_report;
    const bool isOfThisTake = m_report && m_take == take.id && areCamerasSame(m_essence, rig);
    return isOfThisTake ? m_report : kNone;
}

void ReportCache::start() {
    if (m_running || !m_wanted) return;
    m_running = std::make_shared<Work>();
    m_running->essence = *m_wanted;
    m_running->takeId = m_wantedTake;
    m_pool.start([this, work = m_running, rig = m_wantedRig] {
        Report report;
        std::string failure;
        try {
            for (const rig::Take& take : rig.takes) {
                if (take.id == work->takeId)
                    report = std::make_shared<match::MatchReport>(jobs::matchReport(rig, take));
            }
        } catch (const std::exception& error) {
            failure = error.what();
        }
        {
            const std::lock_guard lock(work->mutex);
            work->report = report ? report : std::make_shared<match::MatchReport>();
            work->failure = failure;
            work->isDone = true;
        }
        work->isLeft.notify_all();
        QMetaObject::invokeMethod(
            this, [this] { finished(); }, Qt::QueuedConnection);
    });
}

/// Takes over what the worker left; true where it is what was asked for.
bool ReportCache::collect() {
    const std::shared_ptr<Work> work = std::exchange(m_running, nullptr);
    m_report = work->report;
    m_essence = work->essence;
    m_take = work->takeId;
    if (!work->failure.empty()) {
        Q_EMIT broke({base::ErrorCode::Unmeasurable,
                      base::say("report.notComputed"),
                      base::asIs(work->failure),
                      base::say("report.measureAgain")});
    }
    if (!m_wanted || m_wantedTake != m_take || !(*m_wanted == m_essence)) return false;
    m_wanted.reset();
    return true;
}

void ReportCache::finished() {
    if (!m_running) return;  // somebody waited for it
    {
        const std::lock_guard lock(m_running->mutex);
        if (!m_running->isDone) return;  // of a later one
    }
    const bool isWanted = collect();
    start();
    if (isWanted) Q_EMIT ready();
}

}  // namespace rigmatch::app
