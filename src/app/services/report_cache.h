// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "jobs/match_job.h"

namespace rigmatch::app {

/// The match of the take that is looked at, computed once for all who show it.
class ReportCache {
public:
    [[nodiscard]] const match::MatchReport& of(const rig::Rig& rig, const rig::Take& take) {
        rig::Rig essence = essenceOf(rig, take);
        if (!m_isFilled || !(m_essence == essence)) {
            m_report = jobs::matchReport(rig, take);
            m_essence = std::move(essence);
            m_isFilled = true;
        }
        return m_report;
    }

private:
    /// The part of a rig that a match depends on: ticks change settings, which do not; later takes
    /// do not either, earlier ones tell whether a black moved. The plan names the people.
    static rig::Rig essenceOf(const rig::Rig& rig, const rig::Take& take) {
        rig::Rig essence = rig;
        while (!essence.takes.empty() && std::as_const(essence.takes).back().id != take.id)
            essence.takes.pop_back();
        for (rig::Camera& camera : essence.cameras) {
            camera.settings = rig::Settings{};
            camera.simulated.reset();
        }
        essence.name.clear();
        return essence;
    }

    bool m_isFilled = false;
    rig::Rig m_essence;
    match::MatchReport m_report;
};

}  // namespace rigmatch::app
