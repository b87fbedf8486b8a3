// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "plan/geometry.h"
#include "rig/set_plan.h"
#include "sim/ray_scene.h"

namespace rigmatch::sim {

/// How somebody holds themselves at one moment of a take.
struct Pose {
    Vec sway = Vec::Zero();  ///< m, of the head; less below it, nothing at the hips
    double clap = 0.0;       ///< 1: hands that are held before the chest meet
};

/// People never sit still: they sway by a centimetre or two, and once in a take they lean forward.
/// Who holds both hands before the chest claps at `clapSeconds`. The same for every camera of a
/// take. `person`: among the plan's people.
[[nodiscard]] Pose poseAt(std::size_t person,
                          const plan::Head& head,
                          double seconds,
                          double length,
                          std::uint64_t seed,
                          std::optional<double> clapSeconds);

/// The smallest part of a picture that holds both; an empty one counts for nothing.
[[nodiscard]] image::PixelRect joined(image::PixelRect a, image::PixelRect b);

/// The people of a plan in one camera's picture, moved from frame to frame. What they uncover is
/// the set as it is without them; their shadows stay.
class MovingPeople {
public:
    MovingPeople(const rig::SetPlan& plan,
                 const View& view,
                 const std::vector<MovingPart>& parts,
                 double length,
                 std::uint64_t seed,
                 std::optional<double> clapSeconds);

    /// All that they may touch, px.
    [[nodiscard]] image::PixelRect region() const { return m_region; }
    /// Lays them over a piece of the set that begins at `origin` of the picture.
    void lay(double seconds, image::PixelRect piece, image::Frame& onto) const;

private:
    struct Part {
        const MovingPart* seen = nullptr;
        /// How much of the head's way every place goes, also a little beside what is seen, and how
        /// much of a hand's; negative: nothing is there.
        std::vector<float> sways, reaches;
        std::vector<std::pair<int, int>> covered;  ///< first and last column, by rows
        plan::Head head;
        double handMetres = 0.0;  ///< of a hand before the chest from the middle; 0: it is none
    };
    /// How far the picture of a part goes in a pose, px.
    struct Shift {
        image::Point middle;          ///< of the head, where it was drawn
        image::Point by;              ///< of the head
        image::Point hand{0.0, 0.0};  ///< beside that
        double larger = 0.0;          ///< for what has come nearer
        int roomPx = 0;               ///< farther nothing goes
    };
    [[nodiscard]] Shift shiftOf(const Part& part, const Pose& pose) const;
    /// Where in a part's own picture it lies that is seen at a place of the frame.
    [[nodiscard]] static image::Point sourceOf(const Part& part,
                                               const Shift& shift,
                                               double x,
                                               double y);
    void layPart(const Part& part,
                 const Pose& pose,
                 image::PixelRect piece,
                 image::Frame& onto) const;

    View m_view;
    std::vector<Part> m_parts;  ///< farthest first
    image::PixelRect m_region;
    double m_length;
    std::uint64_t m_seed;
    std::optional<double> m_clapSeconds;
};

}  // namespace rigmatch::sim
