// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "base/text.h"
#include "colour/grade.h"
#include "match/judge.h"
#include "match/match_report.h"
#include "rig/rig.h"

namespace rigmatch::jobs {

/// Where a correction is to be used, which decides what its numbers stand for.
enum class LutUse {
    Editor,   ///< 0 is black and 1 nominal white, whatever the file's range; results may lie beyond
    Monitor,  ///< codes of the whole range of a signal: black at 64 and white at 940 of 1023
    Camera,   ///< as Editor, within 0 to 1
};

/// What a correction ends in.
enum class LutResult {
    Recorded,  ///< what the reference records
    Finished,  ///< a finished BT.709 picture: log and HLG converted, for the reference too
};

struct LutOptions {
    int size = 33;          ///< 17, 33 or 65 points to a side
    double strength = 1.0;  ///< 0..1
    colour::GradeFormat format = colour::GradeFormat::Cube;
    LutUse use = LutUse::Editor;
    LutResult result = LutResult::Recorded;  ///< Finished: tables alone
};

/// A signal as it stands in a file for that use, and back.
[[nodiscard]] double lutPlace(double signal, LutUse use);
[[nodiscard]] double lutSignal(double place, LutUse use);

/// One camera's correction, and what it does to patches and skin.
struct WrittenLut {
    std::string cameraId;
    bool isReference = false;  ///< converted alone
    std::filesystem::path file;
    base::Text failure;  ///< why there is none; then the rest is empty
    match::ColourDifference before, after;
    std::optional<double> skinBefore, skinAfter;  ///< mean ΔE2000 over people seen by both
    double leftOutSignal = 0.0;      ///< mean distance of patches left out of the fit, signal
    double beyondShare = 0.0;        ///< of a table's points, results outside 0..1; of a decision
                                     ///< list, of the patches: those it cuts at white or black
    std::optional<colour::Cdl> cdl;  ///< where it is a decision list
};

/// Writes a table or a decision list for every camera of the take into `folder`, made where it is
/// missing: recorded signal to the reference's, or on to a finished picture, then for the reference
/// too where it records log or HLG; names and comments in words. Strength 0 is what the camera
/// records, or that converted by its own curve. Cameras that cannot be corrected are said. Fails
/// with WriteFailed, OutOfRange for a decision list that is to convert, or Unmeasurable where the
/// reference has no chart or nothing tells the curve that is to be converted.
[[nodiscard]] base::Result<std::vector<WrittenLut>> writeLuts(const rig::Rig& rig,
                                                              const rig::Take& take,
                                                              const std::filesystem::path& folder,
                                                              const LutOptions& options);

}  // namespace rigmatch::jobs
