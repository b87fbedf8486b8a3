// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "jobs/match_job.h"

namespace rigmatch::app {

/// The match of the take that is looked at, computed once for all who show it.
class ReportCache {
public:
    [[nodiscard]] const match::MatchReport& of(const rig::Rig& rig, const rig::Take& take) {
        if (!m_isFilled || m_takeId != take.id || !(m_rig == rig)) {
            m_report = jobs::matchReport(rig, take);
            m_rig = rig;
            m_takeId = take.id;
            m_isFilled = true;
        }
        return m_report;
    }

private:
    bool m_isFilled = false;
    rig::Rig m_rig;
    std::string m_takeId;
    match::MatchReport m_report;
};

}  // namespace rigmatch::app
