// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/what_if.h"

#include <algorithm>

namespace rigmatch::app {

WhatIf::WhatIf(AppContext& context, QObject* parent) : QObject(parent), m_context(context) {
    connect(&m_reports, &ReportCache::ready, this, &WhatIf::changed);
}

const rig::Take* WhatIf::take() const {
    for (const rig::Take& one : m_context.document.rig().takes) {
        if (one.id == m_takeId) return &one;
    }
    return nullptr;
}

void WhatIf::start() {
    m_isOn = true;
    m_tried.clear();
    Q_EMIT changed();
}

void WhatIf::drop() {
    if (!m_isOn) return;
    m_isOn = false;
    m_tried.clear();
    Q_EMIT changed();
}

void WhatIf::keep() {
    if (const rig::Take* of = take(); of != nullptr && isAnythingTried()) {
        rig::Rig next = m_context.document.rig();
        jobs::keepTried(m_tried, *of, next);
        m_context.document.change(tr("Keep what was tried"), next);
    }
    drop();
}

jobs::Tried WhatIf::triedOf(const std::string& cameraId) const {
    const auto found = m_tried.find(cameraId);
    if (found != m_tried.end()) return found->second;
    const rig::Take* of = take();
    const rig::Shot* shot = of == nullptr ? nullptr : rig::findShot(*of, cameraId);
    jobs::Tried asShot;
    if (shot != nullptr) asShot.settings = shot->settings;
    return asShot;
}

bool WhatIf::isAnythingTried() const {
    const rig::Take* of = take();
    return of != nullptr && std::any_of(m_tried.begin(), m_tried.end(), [&](const auto& one) {
               const rig::Shot* shot = rig::findShot(*of, one.first);
               jobs::Tried asShot;
               if (shot != nullptr) asShot.settings = shot->settings;
               return !(one.second == asShot);
           });
}

std::vector<jobs::TryControl> WhatIf::controlsOf(const std::string& cameraId) const {
    const rig::Camera* camera = rig::findCamera(m_context.document.rig(), cameraId);
    const rig::Take* of = take();
    const rig::Shot* shot = of == nullptr ? nullptr : rig::findShot(*of, cameraId);
    const match::CameraMatch* match = m_measured ? m_measured->find(cameraId) : nullptr;
    // Without a chart there is no model that tells what a turn would do.
    if (camera == nullptr || shot == nullptr || match == nullptr || !match->compared) return {};
    return jobs::tryControls(*camera, shot->settings);
}

void WhatIf::turn(const std::string& cameraId, const jobs::TryControl& control, std::size_t index) {
    jobs::Tried tried = triedOf(cameraId);
    if (jobs::triedIndex(control, tried) == index) return;
    jobs::turnTo(control, index, tried);
    m_tried[cameraId] = tried;
    Q_EMIT changed();
}

void WhatIf::resetCamera(const std::string& cameraId) {
    if (m_tried.erase(cameraId) > 0) Q_EMIT changed();
}

void WhatIf::follow(const rig::Take* take, const ReportCache::Report& measured) {
    const std::string id = take == nullptr ? std::string() : take->id;
    if (id != m_takeId) {
        m_isOn = false;
        m_tried.clear();
    }
    m_takeId = id;
    m_measured = measured;
}

ReportCache::Report WhatIf::report() {
    const rig::Take* of = take();
    if (!m_isOn || of == nullptr || !m_measured || !isAnythingTried()) return m_measured;
    rig::Rig as = m_context.document.rig();
    for (std::size_t i = 0; i < as.takes.size(); ++i) {
        if (std::as_const(as.takes)[i].id == m_takeId)
            as.takes[i] = jobs::takeAsTried(m_context.document.rig(), *of, *m_measured, m_tried);
    }
    for (const rig::Take& one : std::as_const(as.takes)) {
        if (one.id == m_takeId) return m_reports.of(as, one);
    }
    return m_measured;
}

jobs::StageMap WhatIf::stageOf(const std::string& cameraId) const {
    const rig::Take* of = take();
    const auto found = m_tried.find(cameraId);
    if (of == nullptr || !m_measured || found == m_tried.end()) return {};
    return jobs::stageAsTried(m_context.document.rig(), *of, *m_measured, cameraId, found->second);
}

}  // namespace rigmatch::app
