// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/text.h"
#include "match/common_light.h"
#include "match/details.h"
#include "match/primaries_map.h"
#include "match/skin.h"
#include "match/skin_aim.h"
#include "match/solver.h"
#include "match/target.h"

namespace rigmatch::match {

/// The published curve of a shot's profile or of its file's tag; nothing where the camera keeps its
/// curve to itself.
[[nodiscard]] std::optional<colour::TransferCurve> declaredCurve(const rig::Camera& camera,
                                                                 const rig::Shot& shot);

/// One camera of a take against the reference.
struct CameraMatch {
    std::string cameraId;
    bool isReference = false;
    CameraDifferences differences;
    TurnPlan plan;
    std::shared_ptr<const BodyModel> body;  ///< its colour chain; null for the reference and where
                                            ///< there is no fit
    LearnedControls learned;                ///< how its controls answered so far
    std::vector<SkinDifference> skin;       ///< of the people it sees, against the reference
    std::size_t facesSeen = 0;              ///< whoever they are
    std::vector<SkinAim> skinAims;          ///< what the reference's camera makes of them
    /// Its reading as it was compared: uneven light taken out, in BT.709 primaries. Null without a
    /// chart.
    std::shared_ptr<const rig::Reading> compared;
    std::string conversion;  ///< how its recording is converted before it is judged; empty: not
    /// From its recorded signals to the primaries of `compared`; null where they are the same.
    std::shared_ptr<const PrimariesMap> toBt709;
    bool isToConvert = false;        ///< its recording is log or HLG
    std::optional<Judge> finishing;  ///< shows such a recording as a finished picture; nothing
                                     ///< where its curve is not known
};

/// Two cameras and how far their colours are apart.
struct WorstPair {
    std::string firstId;
    std::string secondId;
    double deltaE = 0.0;
    double uncertainty = 0.0;  ///< of `deltaE`; of a prediction also what the exposure and white
                               ///< balance of the pair leave unsure
};

/// The match of a whole take.
struct MatchReport {
    std::string referenceId;   ///< empty: the target is no camera of this take
    std::string targetWords;   ///< then: what it is
    base::Text targetProblem;  ///< why the target that was asked for is not met: then it is the
                               ///< rig's reference
    Judging judging = Judging::Recorded;  ///< board, worst pairs, prediction and solver, all alike
    std::optional<LightPlane> light;      ///< on the chart, as all cameras see it; taken out of all
    std::vector<CameraMatch> cameras;     ///< in the order of the rig
    std::optional<CommonLight> commonLight;  ///< against a target from outside the take
    std::optional<WorstPair>
        worstNow;  ///< largest mean ΔE2000 of any two measured cameras, under `judging`
    std::optional<WorstPair> worstAfter;  ///< the same after all turns, predicted

    [[nodiscard]] const CameraMatch* find(const std::string& cameraId) const;
    /// All turns in the order to do them: locks, exposure, white balance, tint; cameras in order
    /// within.
    [[nodiscard]] std::vector<rig::Turn> turns() const;
    /// Cells that are near, off or unknown.
    [[nodiscard]] int attentionCount() const;
};

/// Compares every camera of `take` with `target` (the rig's reference, where nothing else is asked
/// for) and solves its turns: by the chart, or where one of the two shows none by the faces that
/// both see. `hasControls` false: turns are given as amounts. `people`: who is where; empty: skin
/// is not compared. Never fails: what is missing is said in the cells.
[[nodiscard]] MatchReport matchTake(const rig::Rig& rig,
                                    const rig::Take& take,
                                    bool hasControls = true,
                                    const People& people = {},
                                    const Target& target = {});

}  // namespace rigmatch::match
