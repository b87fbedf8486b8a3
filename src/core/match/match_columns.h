// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <deque>
#include <optional>

#include "match/details.h"
#include "match/side_view.h"
#include "rig/rig.h"

namespace rigmatch::match {

/// One camera of the take, ready to be compared.
struct Column {
    const rig::Camera* camera = nullptr;
    const rig::Shot* shot = nullptr;
    Side side;
    SideView view;
    std::optional<rig::Reading> even;  ///< the reading as on an evenly lit chart
    std::optional<LightFall> fall;     ///< of light over the chart, as this camera alone sees it

    [[nodiscard]] bool hasChart() const {
        return side.reading != nullptr && side.reading->hasChart;
    }
};

void fillColumn(const rig::Camera& camera, const rig::Shot* shot, Column& column);

/// The light that all cameras see alike is taken out of all of them, so that none is compared under
/// another light than the rest. What was taken out; nothing where no chart tells.
std::optional<LightPlane> evenOut(std::deque<Column>& columns);

/// Notes what one camera keeps of falling light when the common fall is out: its own doing.
void tellOwnFall(const Column& column,
                 const LightPlane& plane,
                 std::size_t cameras,
                 CameraDifferences& result);

/// Notes a black that lies elsewhere than before while nothing was turned: the chart shines, not
/// the camera.
void tellBlackAgainstBefore(const rig::Rig& rig,
                            const rig::Take& take,
                            const Column& column,
                            CameraDifferences& result);

/// Light to signal as far as it is known without a chart: declared or tagged, or as an earlier
/// chart showed it in the same profile.
[[nodiscard]] std::optional<ToneCurve> knownShape(const rig::Rig& rig,
                                                  const rig::Take& take,
                                                  const Column& column);

}  // namespace rigmatch::match
