// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/progress.h"
#include "jobs/picture_job.h"
#include "plan/analysis.h"

namespace rigmatch::jobs {

/// OutOfRange where a rig has no plan, with what to do.
[[nodiscard]] base::Error noPlanError(const std::string& rigName);

enum class PictureCare {
    Quick,  ///< while something is dragged: strongest lamps cast shadows, edges are rough
    Whole,
};

/// The planned set, ready to be drawn as its cameras will see it at their settings: the simulated
/// set of the plan, developed by an ordinary body. Const calls are thread-safe.
class PredictedSet {
public:
    /// `rig.plan` must be set.
    explicit PredictedSet(const rig::Rig& rig);
    ~PredictedSet();
    PredictedSet(PredictedSet&&) noexcept;
    PredictedSet& operator=(PredictedSet&&) noexcept;

    /// `widthPx` 32..4096. Fails with OutOfRange (no such camera, nothing to see) or Cancelled.
    [[nodiscard]] base::Result<Picture> picture(const std::string& cameraId,
                                                int widthPx,
                                                PictureCare care,
                                                const base::Progress& progress) const;

private:
    struct State;
    std::unique_ptr<State> m_state;
};

}  // namespace rigmatch::jobs
