// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <array>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "match/body_model.h"
#include "match/control_moves.h"
#include "rig/rig.h"

namespace rigmatch::match {

/// How a dial answers: what it really does over what it says, and one standard deviation. Before
/// anything is learned: 1, and what is usual of such dials.
struct Response {
    double share = 1.0;
    double uncertainty = 0.0;
    int takes = 0;  ///< pairs of takes that it was learned from
};

/// What a dial does over one stretch of its range.
struct StretchResponse {
    double from = 0.0, to = 0.0;  ///< mired of the Kelvin dial, Duv by the sheet, f-numbers, or ND
    double share = 1.0;           ///< what it does over what it says
    double uncertainty = 0.0;     ///< one standard deviation
    bool isUnlike = false;        ///< surely otherwise than the dial as a whole
};

/// How a knob answers: what one step does, and one standard deviation of that.
struct KnobResponse {
    std::string name;
    rig::KnobKind kind = rig::KnobKind::Other;
    Change perStep;
    Change uncertainty;
    /// What a step does to what is measured, and one standard deviation; only where something was
    /// learned.
    Change shown, shownUncertainty;
    int takes = 0;
};

/// What is known of one camera's controls: a Gaussian over what a unit of each does to each part of
/// the picture, that of physics and common practice until takes between which it was turned tell
/// more. ISO, gain and shutter are nearly what they say, an f-number is off by its own tenth of a
/// stop and an ND filter by more, with a colour of its own; white balance and tint do not answer
/// alike all over their range; white balance may take or give light, as a body holds green or
/// luminance; knobs do mainly what their kind says.
/// (docs/sources.md, 6.6.)
class LearnedControls {
public:
    LearnedControls() : LearnedControls(rig::ControlSheet{}) {}
    explicit LearnedControls(const rig::ControlSheet& sheet);

    Response exposure;      ///< stops per stop of ISO or gain
    Response shutter;       ///< stops per stop of shutter time
    Response aperture;      ///< stops per stop, from the widest f-number to the smallest opening
    Response nd;            ///< stops per stop of the strongest ND
    Response whiteBalance;  ///< mired per mired of the Kelvin dial
    Response tint;          ///< Duv per Duv that the sheet gives a step
    Response sharpness;     ///< % of an edge's step, of overshoot, per step of in-camera sharpening
    std::vector<KnobResponse> knobs;
    /// Takes in which something did not answer as before: turned twice, the other way, not at all,
    /// or another camera. Nothing is learned from them.
    std::vector<base::Text> surprises;

    /// What moves do to the dials of the body, and one standard deviation of that.
    [[nodiscard]] Change answer(const Moves& moves) const;
    [[nodiscard]] Change uncertainty(const Moves& moves) const;
    /// What the dials do between two values: mired between two of Kelvin, Duv between two of what
    /// the sheet says of the tint.
    [[nodiscard]] double miredBetween(double fromKelvin, double toKelvin) const;
    [[nodiscard]] double duvBetween(double from, double to) const;
    /// Stops of light that ND takes which says so many, and one standard deviation.
    [[nodiscard]] StretchResponse ndOf(double stops) const;
    /// From each f-number of the sheet to the next.
    [[nodiscard]] std::vector<StretchResponse> apertureStretches() const;
    /// White balance and tint, stretch by stretch over the range.
    [[nodiscard]] std::vector<StretchResponse> whiteBalanceStretches() const;
    [[nodiscard]] std::vector<StretchResponse> tintStretches() const;
    /// Takes in that `moves` did `seen` ± `error`. False where a part of it is no answer of these
    /// controls as they are known so far: of that part nothing is learned, unless the same dial
    /// did the same of what it says the last time: twice is no slip.
    bool learn(const Moves& moves, const Change& seen, const Change& error, std::size_t parts);

    /// The same of sharpening: so many steps made `seen` ± `error` % more overshoot.
    bool learnSharpness(double steps, double seen, double error);

    /// Works out what the knobs do to what is measured, on that body.
    void show(const BodyModel& body, double referenceGrey);

    [[nodiscard]] bool isAnythingLearned() const;

private:
    struct Part {
        Eigen::VectorXd mean;
        Eigen::MatrixXd covariance;
    };
    void tell();
    [[nodiscard]] Moves noMoves() const { return Moves::Zero(m_parts[0].mean.size()); }
    /// Of one part between two places of the dial `control`, moved by `moves`.
    [[nodiscard]] StretchResponse stretch(std::size_t part, int control, const Moves& moves) const;
    using Mover = std::function<void(double from, double to, Moves& moves)>;
    /// From each place to the next, as `put` moves the dial between two of them.
    [[nodiscard]] std::vector<StretchResponse> along(std::size_t part,
                                                     int control,
                                                     const std::vector<double>& places,
                                                     const Mover& put) const;
    /// True where a dial was off in the same way the last time: it is doubted more from now on.
    [[nodiscard]] bool isDoubtedAgain(std::size_t part, const Moves& moves, double seen);
    [[nodiscard]] bool learnPart(std::size_t part, const Moves& moves, double seen, double error);

    std::array<Part, kChangeParts> m_parts;
    std::vector<double> m_fNumbers;  ///< of the sheet, rising
    double m_strongestNd = 0.0;
    /// What a dial did of what it says the last time it was turned, where that was no answer of it.
    std::array<std::optional<double>, kAllDials> m_offBefore;
};

/// Learns from each pair of takes, for matching or to probe a control, that follow each other, up
/// to and with `upTo`, in which the reference was left alone and this camera was turned: what its
/// picture did against the reference's, seen back through its body, against what its settings
/// changed by. What lies more than three deviations off is told and left out (docs/sources.md,
/// 6.6). What was forgotten (rig::Camera::forgottenUpTo) is not counted.
[[nodiscard]] LearnedControls learnControls(const rig::Rig& rig,
                                            const rig::Take& upTo,
                                            const std::string& cameraId);

/// What a step of a control does: learned from so many turns, or guessed.
[[nodiscard]] base::Text stepText(int takes);

}  // namespace rigmatch::match
