// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <optional>
#include <string>

#include "base/progress.h"
#include "base/result.h"
#include "rig/rig.h"
#include "sim/moving_people.h"
#include "sim/ray_scene.h"
#include "sim/shoot_options.h"

namespace rigmatch::sim {

/// Settings as the camera really used them: automatics choose for themselves, by the mean of what
/// they see.
[[nodiscard]] rig::Settings usedSettings(const rig::Camera& camera, const image::Frame& linear);

/// The planned set as its simulated cameras see it (cameras as placedRig() gives them). Keeps each
/// camera's empty view, so that shooting again after a change of settings only develops and
/// encodes. One thread at a time.
class SimulatedSet {
public:
    /// The demo set.
    SimulatedSet();

    /// Becomes the set of that plan; views of another one are forgotten.
    void follow(const rig::SetPlan& plan);

    /// Shoots one camera of the set into `file` (MOV). Gives the settings it used.
    /// Fails with OutOfRange (no simulated body, options), WriteFailed, Cancelled.
    [[nodiscard]] base::Result<rig::Settings> shoot(const rig::Camera& camera,
                                                    const ShootOptions& options,
                                                    const std::filesystem::path& file,
                                                    const base::Progress& progress);

    /// What a recorder with a microphone on each person writes during the same take (WAV).
    /// Fails with OutOfRange (options) or WriteFailed.
    [[nodiscard]] base::Result<void> recordSound(const ShootOptions& options,
                                                 const std::filesystem::path& file);

    /// One developed frame of the held chart, without writing a file.
    [[nodiscard]] base::Result<image::Frame> heldFrame(const rig::Camera& camera,
                                                       std::uint64_t seed);

    /// The true pose of the held chart in that camera's picture.
    [[nodiscard]] std::array<image::Point, 4> heldCorners(const rig::Camera& camera) const;

private:
    /// Built when it is first asked for: its people take a second or two.
    [[nodiscard]] const Scene& scene();
    [[nodiscard]] base::Result<std::shared_ptr<const image::Frame>> emptyView(
        const rig::Camera& camera, bool isFine, const base::Progress& progress);
    [[nodiscard]] base::Result<std::shared_ptr<const LayeredPicture>> layeredView(
        const rig::Camera& camera, bool isFine, const base::Progress& progress);
    /// What a camera sees: the set, and the people in it where they move.
    struct Stage {
        std::shared_ptr<const image::Frame> set;  ///< keeps what the people are made of, too
        std::optional<MovingPeople> people;
        [[nodiscard]] image::Frame at(double seconds, const View& view) const;
    };
    [[nodiscard]] base::Result<Stage> stageOf(const rig::Camera& camera,
                                              const ShootOptions& options,
                                              const base::Progress& progress);
    /// The moment of the clap, where anybody holds up their hands for it.
    [[nodiscard]] std::optional<double> clapSeconds(const ShootOptions& options) const;

    rig::SetPlan m_plan;
    std::optional<Scene> m_scene;
    std::map<std::string, std::shared_ptr<const image::Frame>> m_views;
    std::map<std::string, std::shared_ptr<const LayeredPicture>> m_layers;
};

}  // namespace rigmatch::sim
