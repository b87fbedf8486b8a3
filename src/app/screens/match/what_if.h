// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

#include "app/services/app_context.h"
#include "jobs/what_if.h"

namespace rigmatch::app {

/// Cameras turned by hand, to see what that would do: the match of the take as it is predicted to
/// come out. Nothing in the rig changes until it is kept.
class WhatIf : public QObject {
    Q_OBJECT
public:
    explicit WhatIf(AppContext& context, QObject* parent = nullptr);

    [[nodiscard]] bool isOn() const { return m_isOn; }
    /// Starts with everything as it was shot.
    void start();
    /// Ends; what was tried is forgotten.
    void drop();
    /// Writes what was tried to the cameras, as one step, and ends.
    void keep();

    /// True where anything stands otherwise than it was shot.
    [[nodiscard]] bool isAnythingTried() const;
    [[nodiscard]] std::vector<jobs::TryControl> controlsOf(const std::string& cameraId) const;
    [[nodiscard]] jobs::Tried triedOf(const std::string& cameraId) const;
    void turn(const std::string& cameraId, const jobs::TryControl& control, std::size_t index);
    void resetCamera(const std::string& cameraId);

    /// Follows the measured match; ends where another take is looked at.
    void follow(const rig::Take* take, const ReportCache::Report& measured);
    /// The match as predicted, or the measured one where nothing is tried.
    [[nodiscard]] ReportCache::Report report();
    /// What a camera's picture becomes.
    [[nodiscard]] jobs::StageMap stageOf(const std::string& cameraId) const;

Q_SIGNALS:
    void changed();

private:
    [[nodiscard]] const rig::Take* take() const;

    AppContext& m_context;
    ReportCache m_reports;
    ReportCache::Report m_measured;
    std::string m_takeId;
    jobs::TriedByHand m_tried;
    bool m_isOn = false;
};

}  // namespace rigmatch::app
