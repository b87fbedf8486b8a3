// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "jobs/picture_job.h"
#include "match/match_report.h"
#include "rig/rig.h"
#include "scope/scope_data.h"

namespace rigmatch::jobs {

enum class Stage {
    AsShot,      ///< what the file holds
    AfterTurns,  ///< as this camera will record it once its turns are carried out, predicted
    ThroughLut,  ///< as shot, through the viewing LUT of its camera
};

/// What a stage does to a camera's signal. Cheap to copy; thread-safe.
class StageMap {
public:
    /// As shot: nothing changes.
    StageMap() = default;
    /// `match`: of this camera; without a fit nothing changes.
    [[nodiscard]] static StageMap afterTurns(const match::CameraMatch& match);
    /// With the dials of the camera's body turned by `dial`.
    [[nodiscard]] static StageMap turned(const match::BodyModel& body, const match::Change& dial);
    /// Fails as colour::ViewingLut::read.
    [[nodiscard]] static base::Result<StageMap> throughLut(const std::filesystem::path& lut);

    [[nodiscard]] bool isIdentity() const;
    [[nodiscard]] std::array<double, 3> apply(const std::array<double, 3>& signal) const;
    void apply(image::Frame& signal) const;

private:
    struct Map;
    std::shared_ptr<const Map> m_map;
};

/// Which moment of a shot is shown.
enum class Moment {
    Chart,  ///< the middle of the span in which the chart rests
    Faces,  ///< the frame on which faces were measured
};
/// Seconds of that moment; the other one, or the middle of the clip, where the shot has none.
[[nodiscard]] double secondsOf(const rig::Reading& reading, Moment moment);

/// A place read from one frame: the mean of its pixels, and how far that mean may lie off: their
/// spread, as if every fourth stood alone (chroma samples and codecs tie neighbours together), and
/// half a code.
struct SpotSignal {
    std::array<double, 3> signal{};
    double lumaPercent = 0.0;      ///< BT.709 weights
    double lumaUncertainty = 0.0;  ///< % signal, one standard deviation
};

/// One frame of a camera, kept as it was decoded. Cheap to copy; const calls are thread-safe.
class ComparedFrame {
public:
    /// Fails as pictureAt().
    [[nodiscard]] static base::Result<ComparedFrame> load(const std::filesystem::path& media,
                                                          double seconds,
                                                          const CodeReading& codes);
    [[nodiscard]] int width() const;
    [[nodiscard]] int height() const;

    /// The frame as 8-bit R'G'B'.
    [[nodiscard]] Picture picture(const StageMap& stage) const;
    /// The same, at least `width` px wide where the frame is: every so many pixels averaged.
    [[nodiscard]] Picture smallPicture(const StageMap& stage, int width) const;
    /// Mean signal of the `reach` pixels to each side of a place; nothing outside the picture.
    [[nodiscard]] std::optional<SpotSignal> signalAt(double x,
                                                     double y,
                                                     int reach,
                                                     const StageMap& stage) const;
    /// Scopes of the frame. Fail as the functions of scope/.
    [[nodiscard]] base::Result<scope::Waveform> waveform(scope::WaveformKind kind,
                                                         const scope::ScopeOptions& options,
                                                         const StageMap& stage) const;
    [[nodiscard]] base::Result<scope::Vectorscope> vectorscope(const scope::ScopeOptions& options,
                                                               const StageMap& stage) const;
    [[nodiscard]] base::Result<scope::Histogram> histogram(const scope::ScopeOptions& options,
                                                           const StageMap& stage) const;

private:
    struct State;
    explicit ComparedFrame(std::shared_ptr<const State> state);
    std::shared_ptr<const State> m_state;
};

/// Patch signals of a reading at a stage, in chart order.
[[nodiscard]] match::PatchSignals patchesAt(const rig::Reading& reading, const StageMap& stage);

}  // namespace rigmatch::jobs
