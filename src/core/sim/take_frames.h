// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "sim/camera_model.h"
#include "sim/chart_card.h"
#include "sim/moving_people.h"
#include "sim/plan_scene.h"

namespace rigmatch::sim {

/// Corners of a held chart in a picture.
[[nodiscard]] std::array<image::Point, 4> cornersOf(const View& view, const ChartPlace& place);

/// The frames of one camera's take. The set is exposed once; per frame only what moves in it is
/// exposed anew: the chart, and people where there are any that move. One thread at a time.
class TakeFrames {
public:
    /// What is given must outlive it. `set`: linear light, with people in it that do not move.
    TakeFrames(const image::Frame& set,
               const CameraModel& model,
               const Scene& scene,
               const View& view,
               const MovingPeople* people = nullptr);

    [[nodiscard]] image::Frame frame(double seconds,
                                     const std::optional<ChartPlace>& place,
                                     std::uint64_t seed);

private:
    void layChart(const ChartPlace& place);
    void expose(image::PixelRect part);

    const image::Frame& m_set;
    const CameraModel& m_model;
    const Scene& m_scene;
    const View& m_view;
    const MovingPeople* m_people;
    image::Frame m_light;         ///< the set with what moves laid over it
    image::Frame m_exposedLight;  ///< the same as it was when it was last exposed
    Exposed m_exposed;
    image::PixelRect m_chartPart{};  ///< where the chart is in it
    std::optional<std::array<Vec, 4>> m_paintedAt;
    image::Frame m_onBlack, m_onWhite;  ///< the chart, painted there
};

}  // namespace rigmatch::sim
