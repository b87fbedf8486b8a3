// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <string>
#include <vector>

#include "match/body_model.h"
#include "match/measured.h"
#include "match/primaries_map.h"
#include "match/skin.h"

namespace rigmatch::match {

class Correction;

/// The skin of a person whom camera and reference see: what the reference's camera makes of it, at
/// the level to which the chart takes this camera's. The two never see the very same spot, and how
/// light falls on it is no matter of colour. Signals in BT.709's primaries.
/// (docs/sources.md, 6.11.)
struct SkinAim {
    std::string person;
    std::array<double, 3> recorded{}, aim{};
    double noise = 0.0;  ///< one standard deviation of `aim` in each channel, signal
    Measured apart;  ///< ΔE2000 between `aim` and what the chart's correction makes of `recorded`
};

/// One camera of a pair, by the reading that its faces stand in.
struct SkinSide {
    std::string cameraId;
    const rig::Reading* reading = nullptr;
    const PrimariesMap* toBt709 = nullptr;  ///< null: recorded in BT.709's
};

/// Of every person whose forehead both see unclipped, from views less than 60° apart. `byChart`
/// takes this camera to the reference; `judge`: how the reference's signals are looked at.
[[nodiscard]] std::vector<SkinAim> skinAims(const People& people,
                                            const SkinSide& mine,
                                            const SkinSide& theirs,
                                            const Correction& byChart,
                                            const BodyModel& theirBody,
                                            const Judge& judge);

/// True where the sensors see this skin otherwise than the chart tells: by more than 2 ΔE2000
/// beyond what the place leaves unsure (docs/sources.md, 6.11).
[[nodiscard]] bool isSeenOtherwise(const SkinAim& aim);

/// What is to be said of it.
[[nodiscard]] base::Text seenOtherwiseText(const SkinAim& aim);

/// Skin that turns by the chart take away from the reference's instead of nearer to it.
struct FartherSkin {
    std::string person;
    double before = 0.0;  ///< ΔE2000 as recorded …
    Measured after;       ///< … and once the turns are done
};
struct SkinJudges {
    Judge mine, theirs;
};
/// People of whom that holds by more than 1 ΔE2000 and by twice what the places leave unsure: then
/// the chart does not stand in the light of their faces. `turned`: what the turns do.
[[nodiscard]] std::vector<FartherSkin> fartherByTurns(const People& people,
                                                      const SkinSide& mine,
                                                      const SkinSide& theirs,
                                                      const BodyModel::Map& turned,
                                                      const SkinJudges& judges);
[[nodiscard]] base::Text fartherText(const FartherSkin& skin);

}  // namespace rigmatch::match
