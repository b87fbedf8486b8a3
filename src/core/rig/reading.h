// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "base/text.h"
#include "base/value_trust.h"
#include "base/warning.h"
#include "rig/framing_reading.h"
#include "rig/timing_reading.h"
#include "sound/sound_report.h"
#include "timing/frame_report.h"

namespace rigmatch::rig {

/// A place in the picture, px; the centre of the top-left pixel is (0, 0).
struct PicturePoint {
    double x = 0.0;
    double y = 0.0;

    bool operator==(const PicturePoint&) const = default;
};

using PictureQuad = std::array<PicturePoint, 4>;

/// One patch as measured: signal 0 = black, 1 = nominal white.
struct PatchReading {
    std::string name;
    bool isNeutral = false;
    std::array<double, 3> nominalLinear{};  ///< what the chart reflects: linear BT.709, D65
    std::array<double, 3> signal{};
    std::array<double, 3> noise{};          ///< standard deviation of single pixels, signal
    std::array<double, 3> standardError{};  ///< of `signal`, from frames and pixels
    double clippedShare = 0.0;
    double glareShare = 0.0;  ///< of its pixels that shine
    PicturePoint centre;
    std::string unknownFields{};

    bool operator==(const PatchReading&) const = default;
};

/// A spot of skin as measured.
struct SkinReading {
    std::array<double, 3> signal{};
    std::array<double, 3> standardError{};
    double clippedShare = 0.0;
    int pixels = 0;

    bool operator==(const SkinReading&) const = default;
};

/// A face as found, or a spot of skin marked by hand: where it is and how its skin is recorded.
/// Nothing else about the person is kept; people are told apart by place. Left and right are the
/// person's own.
struct FaceReading {
    double left = 0.0, top = 0.0, width = 0.0, height = 0.0;  ///< px
    double score = 0.0;                                       ///< of the detector, 0..1
    double presence = 0.0;                                    ///< of the mesh, 0..1
    double turnDegrees = 0.0;                                 ///< + toward the person's own left
    double atSeconds = 0.0;                                   ///< the frame it was measured on
    PicturePoint leftEye, rightEye;
    std::optional<SkinReading> forehead, leftCheek, rightCheek;
    std::optional<SkinReading> background;  ///< what stands beside the head, on both sides
    bool isManual = false;                  ///< marked by hand: `forehead` is the marked spot
    std::string unknownFields{};

    bool operator==(const FaceReading&) const = default;
};

/// Noise of single pixels between frames half a second apart, standard deviation, signal (sources
/// 5.8).
struct NoiseReading {
    std::array<double, 3> grey{};                     ///< on neutral 5
    std::array<double, 3> black{};                    ///< on the black patch
    std::array<double, 3> greyError{}, blackError{};  ///< of both, one standard deviation

    bool operator==(const NoiseReading&) const = default;
};

/// How edges of the chart are drawn.
struct SharpnessReading {
    double widthPx = 0.0;  ///< from 10 to 90 % of the step
    double widthErrorPx = 0.0;
    double overshootPercent = 0.0;  ///< of the step
    double overshootErrorPercent = 0.0;

    bool operator==(const SharpnessReading&) const = default;
};

/// How neutral 5 wanders while the chart rests.
struct DriftReading {
    std::array<double, 3> signalPerSecond{};
    std::array<double, 3> standardError{};
    double seconds = 0.0;  ///< how long it was watched

    bool operator==(const DriftReading&) const = default;
};

/// Level of one channel of sound, dBFS.
struct ChannelLevel {
    double peakDbfs = -120.0;   ///< of the highest sample
    double meanDbfs = -120.0;   ///< of the mean power, where a sine of full scale reads 0 (AES17)
    double clippedShare = 0.0;  ///< of the samples that stand at full scale
    std::string unknownFields{};

    bool operator==(const ChannelLevel&) const = default;
};

/// The sound of a clip.
struct SoundReading {
    double sampleRate = 0.0;  ///< Hz
    std::vector<ChannelLevel> channels;

    bool operator==(const SoundReading&) const = default;
};

/// Which version of a measurer a reading comes from.
struct MeasurerStamp {
    std::string name;
    int version = 0;
    std::string unknownFields{};

    bool operator==(const MeasurerStamp&) const = default;
};

/// What was measured on one camera in one take.
struct Reading {
    bool hasPicture = true;  ///< false: a recording of sound alone
    bool isStill = false;
    int width = 0;
    int height = 0;
    int bitDepth = 8;
    std::string range;                  ///< "limited" or "full", as it was read
    std::string matrix;                 ///< "bt709", …
    std::string primaries = "unknown";  ///< "bt709", "bt2020", "bt601", "p3-d65" or "unknown": as
                                        ///< they were read
    std::string transfer;               ///< "bt709", "hlg", "unknown", …: the stream's tag
    double frameRate = 0.0;
    double durationSeconds = 0.0;
    double elapsedMs = 0.0;
    /// Of the files that were measured (base::fileIdentity()), joined by "+"; empty: not known.
    std::string identity;
    std::vector<base::Warning> warnings;

    bool hasChart = false;
    base::Text reason;       ///< why there is no chart
    std::string reasonCode;  ///< the same for programs: "NotMarked", "NotLookedFor"; else empty
    base::Text hint;         ///< and what to do
    std::string layout;      ///< "classic-24"
    int columns = 6;         ///< of patches, row by row
    int rows = 4;
    base::ValueTrust trust = base::ValueTrust::Nominal;
    double confidence = 0.0;
    bool areColoursDoubtful = false;  ///< corners set by hand on what does not look like the chart:
                                      ///< no turn is made from it
    PictureQuad corners{};
    double patchShare = 0.86;
    bool areCornersManual = false;
    double spanStartSeconds = 0.0;
    double spanEndSeconds = 0.0;
    int framesUsed = 0;
    std::vector<PatchReading> patches;

    std::optional<NoiseReading> noise;          ///< nothing on a still
    std::optional<SharpnessReading> sharpness;  ///< nothing where the patches are too small
    std::optional<DriftReading> drift;          ///< nothing on a still or a short span

    std::vector<FaceReading> faces;             ///< from left to right
    std::optional<SoundReading> sound;          ///< nothing on a still or without a sound track
    std::optional<FramingReading> framing;      ///< nothing where it was not asked for
    std::optional<sound::SoundReport> heard;    ///< likewise
    std::optional<timing::FrameReport> frames;  ///< likewise
    std::optional<SyncReading> sync;            ///< likewise
    std::vector<MeasurerStamp> measuredBy;      ///< measurers that watched the clip
    std::string unknownFields{};  ///< JSON of keys a later program wrote; kept as they are

    bool operator==(const Reading&) const = default;
};

/// Share of clipped pixels from which a patch, or a spot of skin, no longer tells its level.
inline constexpr double kMostClipped = 0.02;
[[nodiscard]] inline bool isClipped(const PatchReading& patch) {
    return patch.clippedShare > kMostClipped;
}
[[nodiscard]] inline bool isClipped(const SkinReading& skin) {
    return skin.clippedShare > kMostClipped;
}
/// True where a patch may be compared: neither clipped, crushed nor shining, with sound numbers.
[[nodiscard]] bool isUsable(const PatchReading& patch);
/// The neutrals that make a grey row, from dark to light: usable, and rising in green. Where they
/// do not rise, those are left out whose absence makes the row rise most evenly (fewest first), so
/// that a black that shines does not throw out the good grey above it.
[[nodiscard]] std::vector<const PatchReading*> usableGreys(const Reading& reading);
/// Names of the usable neutrals that usableGreys() leaves out because the row does not rise.
[[nodiscard]] std::vector<std::string> fallingGreys(const Reading& reading);

/// Index of the neutral patch nearest to mid-grey (in stops from 18 %); nothing without neutrals.
[[nodiscard]] std::optional<std::size_t> greyPatch(const Reading& reading);
/// Index of the darkest neutral patch, where it is under 6 %: what tells black.
[[nodiscard]] std::optional<std::size_t> blackPatch(const Reading& reading);
/// True where a patch lies at the floor of the codes, without noise: darker light would read alike.
[[nodiscard]] bool isCrushed(const PatchReading& patch);
/// True where so much of a patch shines that its mean cannot be trusted.
[[nodiscard]] bool isGlared(const PatchReading& patch);
/// How far the chart is turned out of the picture's plane.
struct ChartTilt {
    double degrees = 0.0;       ///< 0..90
    double errorDegrees = 0.0;  ///< one standard deviation
};
/// From the shape of the chart's field (patches are square); nothing without a chart of two rows
/// and columns.
[[nodiscard]] std::optional<ChartTilt> chartTilt(const Reading& reading);
/// True where a patch lies outside BT.709 (cyan on the classic chart): not used for colour means.
[[nodiscard]] bool isOutsideGamut(const PatchReading& patch);

}  // namespace rigmatch::rig
