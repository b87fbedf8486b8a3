// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "match/differences.h"

namespace rigmatch::match {

/// One person of a take and where each camera's reading has them. People are told apart by place
/// alone.
struct Person {
    std::string name;                          ///< "restorer", or "person 1"
    std::map<std::string, std::size_t> faces;  ///< camera id to index into Reading::faces
};
using People = std::vector<Person>;

/// How a camera renders what is neutral under one lamp: against D65, + warmer and + greener.
struct LightCast {
    Measured mired;
    Measured duv;
};

/// How a face is recorded: luma and colour of the forehead, which cameras on all sides see, in the
/// BT.709 Cb/Cr plane (sources 5.7), and key against fill from the cheeks.
struct SkinValues {
    bool isForehead = true;      ///< false: the brighter cheek, as no forehead was free
    Measured levelPercent;       ///< Y', % signal
    Measured hueDegrees;         ///< anticlockwise from +Cb; the skin line is drawn at 123°
    Measured saturationPercent;  ///< distance from neutral, % signal
    std::optional<Measured> keyFillStops;  ///< the person's own left cheek over the right one,
                                           ///< through the camera's own curve: + is a key from the
                                           ///< person's own left (the picture's right where they
                                           ///< face the camera); nothing without a chart or a
                                           ///< second cheek
    /// Side of the key in the picture, "left" or "right"; empty where the cheeks are alike within
    /// twice the uncertainty.
    std::string keySideInPicture;
    std::optional<Measured> keyFillMired;  ///< light on the brighter cheek against the darker one:
                                           ///< + is warmer; where two lamps of unlike colour meet
    std::optional<Measured> keyFillDuv;    ///< the same for the tint: + is greener
    /// White balance under the light of the brighter and of the darker cheek: that of the chart,
    /// moved by what the cheek differs from the forehead. Chart and forehead both face the cameras
    /// and are taken to stand in the same mixture; the skin is the same all over. Nothing without
    /// chart, forehead or a second cheek.
    std::optional<LightCast> keyCast, fillCast;
    std::optional<Measured> backgroundStops;  ///< what stands beside the head against the face's
                                              ///< lit skin, through the curve; + is brighter
    bool isLeftBrighter = false;              ///< the person's own left
    double levelSpreadPercent = 0.0;          ///< of the pixels of the spot, % signal
    double keyFillSpreadStops = 0.0;          ///< of the pixels of both cheeks
    double turnDegrees = 0.0;                 ///< of the head, as this camera sees it
    bool isManual = false;                    ///< the spot was marked by hand
    bool isClipped = false;
};
/// Nothing where no spot of skin was measured. `fit` null: without key : fill.
[[nodiscard]] std::optional<SkinValues> skinValues(const rig::FaceReading& face,
                                                   const NeutralFit* fit);

/// One person on one camera against the reference camera.
struct SkinDifference {
    std::string person;
    SkinValues values;
    std::optional<SkinValues> reference;  ///< the same person there
    Difference levelPercent;
    Difference hueDegrees;
    Difference saturationRatio;
    /// + is a stronger contrast on the reference's key side; a key from the other side is as far
    /// away as both ratios together.
    Difference keyFillStops;
    base::Text
        sideMismatch;  ///< the key comes from unlike sides, in words; empty where it does not
};

/// What is unsure in a difference of two cameras because they never look at the very same skin:
/// the more, the more the light changes within a spot, and the farther apart the cameras see the
/// head turned. Fitted to rendered heads (test_skin_accuracy).
[[nodiscard]] double levelPlaceError(const SkinValues& mine, const SkinValues& theirs);
[[nodiscard]] double keyFillPlaceError(const SkinValues& mine, const SkinValues& theirs);

/// Differences for every person that both readings have, in the order of `people`; for the
/// reference camera itself the values alone. Tolerances of docs/sources.md, 5.10.
[[nodiscard]] std::vector<SkinDifference> compareSkin(const People& people,
                                                      const std::string& cameraId,
                                                      const rig::Reading& camera,
                                                      const NeutralFit* cameraFit,
                                                      const std::string& referenceId,
                                                      const rig::Reading* reference,
                                                      const NeutralFit* referenceFit);

/// Puts the mean of the people's differences into the board's skin rows, or why there is none;
/// `facesSeen`: on this camera, whoever they are.
void putSkin(const std::vector<SkinDifference>& skin,
             std::size_t facesSeen,
             CameraDifferences& result);

}  // namespace rigmatch::match
