// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/framing_pairs.h"

#include <algorithm>
#include <cmath>

#include "framing/framing_findings.h"
#include "framing/framing_surroundings.h"
#include "rig/framing_goals.h"

namespace rigmatch::framing {
namespace {

using base::Finding;
using rig::FramedPerson;

constexpr double kSameShot = 1.6;    // larger steps of size are meant
constexpr double kSizeStep = 1.3;    // of size, from which a cut is one (sources 3.7)
constexpr double kAngleStep = 30.0;  // degrees, the same
constexpr double kTurnDoubt = 6.0;   // degrees, of how far a face is turned
constexpr double kSidewards = 15.0;  // degrees of turn from where somebody looks aside

/// The lone person of a camera that is close on somebody.
const FramedPerson* loneClose(const FramedCamera& camera) {
    const FramedPerson* person =
        camera.reading == nullptr ? nullptr : rig::lonePerson(*camera.reading);
    return person != nullptr && rig::isClose(*person) && !person->isCut ? person : nullptr;
}

/// Head to head; where a crown is an estimate, face to face.
rig::Doubted sizeRatio(const FramedPerson& a, const FramedPerson& b) {
    const bool isHead = !a.isCrownEstimate && !b.isCrownEstimate;
    const rig::Doubted& x = isHead ? a.headHeight : a.faceHeight;
    const rig::Doubted& y = isHead ? b.headHeight : b.faceHeight;
    const double ratio = x.value / y.value;
    return {ratio, ratio * std::hypot(x.uncertainty / x.value, y.uncertainty / y.value)};
}

/// B against C: alike in size, height and, mirrored, in place.
void addAlike(const FramedCamera& camera,
              const FramedPerson& person,
              const FramedCamera& lead,
              const FramedPerson& other,
              std::vector<Finding>& findings) {
    const rig::Doubted ratio = sizeRatio(person, other);
    if (ratio.value > kSameShot || ratio.value < 1.0 / kSameShot) return;
    const auto add = [&](const char* quantity,
                         const rig::Doubted& value,
                         double slack,
                         double middle,
                         const std::string& unit) -> Finding& {
        Finding finding = pictureFinding(quantity, camera, value.value, value.uncertainty, unit);
        finding.person = 0;
        finding.other = lead.id;
        finding.low = middle == 1.0 ? 1.0 / (1.0 + slack) : -slack;
        finding.high = middle + slack;
        finding.nearBy = slack;
        base::judge(finding);
        findings.push_back(finding);
        return findings.back();
    };
    Finding& size = add("headSize", ratio, 0.05, 1.0, "ratio");
    if (isSure(size, 1.0)) size.advice = resize(camera, person, 1.0 / ratio.value);
    Finding& eyes = add("eyesAlike",
                        {person.eyeLine.value - other.eyeLine.value,
                         std::hypot(person.eyeLine.uncertainty, other.eyeLine.uncertainty)},
                        0.02,
                        0.0,
                        "share");
    if (isSure(eyes, 0.0))
        eyes.advice = tilt(camera, person, person.eyeLine.value, other.eyeLine.value);
    const double mine = person.across.value - 0.5, theirs = other.across.value - 0.5;
    const double goal = std::abs(mine - theirs) < std::abs(mine + theirs) ? theirs : -theirs;
    Finding& offset =
        add("offsetAlike",
            {mine - goal, std::hypot(person.across.uncertainty, other.across.uncertainty)},
            0.03,
            0.0,
            "share");
    if (isSure(offset, 0.0)) offset.advice = pan(camera, person, person.across.value, 0.5 + goal);
}

/// One person, and how two cameras see them.
struct Both {
    const FramedCamera& camera;
    const FramedPerson& person;
    const FramedCamera& lead;
    const FramedPerson& other;
    [[nodiscard]] double apart() const { return std::abs(person.turnDegrees - other.turnDegrees); }
    /// Both look aside, and the same way.
    [[nodiscard]] bool isOneWay() const {
        return isAside() && (person.turnDegrees > 0.0) == (other.turnDegrees > 0.0);
    }
    [[nodiscard]] bool isAside() const {
        return std::min(std::abs(person.turnDegrees), std::abs(other.turnDegrees)) > kSidewards;
    }
    [[nodiscard]] bool isOneSize() const {
        const double ratio = sizeRatio(person, other).value;
        return ratio < kSizeStep && ratio > 1.0 / kSizeStep;
    }
    /// Nothing where the plan does not tell whom both are aimed at.
    [[nodiscard]] std::optional<bool> isOnePerson() const {
        if (camera.subjectId.empty() || lead.subjectId.empty()) return std::nullopt;
        return camera.subjectId == lead.subjectId;
    }
};

/// How far apart two cameras see a face, by how far it is turned; good from 30°.
Finding angleFinding(const char* quantity, const Both& both, const char* advice) {
    Finding finding = pictureFinding(
        quantity, both.camera, both.apart(), std::hypot(kTurnDoubt, kTurnDoubt), "degrees");
    finding.person = 0;
    finding.other = both.lead.id;
    finding.low = kAngleStep;
    finding.high = 180.0;
    finding.nearBy = kAngleStep;
    base::judge(finding);
    if (finding.verdict != base::Verdict::Good) finding.advice = {advice, {}};
    return finding;
}

/// Looks that do not meet, or that turn round in a cut: seen or not seen, without a measure.
Finding lookFinding(const char* quantity, const Both& both, bool isGood, const char* advice) {
    Finding finding = pictureFinding(
        quantity, both.camera, both.apart(), std::hypot(kTurnDoubt, kTurnDoubt), "turn");
    finding.person = 0;
    finding.other = both.lead.id;
    finding.verdict = isGood ? base::Verdict::Good : base::Verdict::Near;
    if (!isGood) finding.advice = {advice, {}};
    return finding;
}

void addLooks(const Both& both, std::vector<Finding>& findings) {
    const auto isOne = both.isOnePerson();
    if (!isOne) {
        // Two who look at each other, or one seen from two sides: the picture cannot tell.
        if (!both.isOneWay() || !both.isOneSize() || both.apart() > kAngleStep - 2.0 * kTurnDoubt)
            return;
        findings.push_back(lookFinding("looksAlike", both, false, "otherSide"));
    } else if (*isOne) {
        if (both.isOneSize()) findings.push_back(angleFinding("anglesAlike", both, "widenAngle"));
        if (both.isAside())
            findings.push_back(lookFinding("lookFlips", both, both.isOneWay(), "oneSide"));
    } else if (both.isAside()) {
        findings.push_back(lookFinding("looksMeet", both, !both.isOneWay(), "otherSide"));
    }
}

}  // namespace

void addTwoShot(const FramedCamera& camera,
                const FramedPerson& left,
                const FramedPerson& right,
                std::vector<Finding>& findings) {
    Finding height = pictureFinding("pairLevel",
                                    camera,
                                    right.eyeLine.value - left.eyeLine.value,
                                    std::hypot(left.eyeLine.uncertainty, right.eyeLine.uncertainty),
                                    "share");
    height.low = -0.03;
    height.high = 0.03;
    height.nearBy = 0.03;
    base::judge(height);
    if (isSure(height, 0.0))
        height.advice = {
            "raiseSeat",
            {{"person", *height.value > 0.0 ? 1.0 : 0.0}, {"share", std::abs(*height.value)}}};
    findings.push_back(height);
    const double middle = 0.5 * (left.across.value + right.across.value);
    Finding spacing = pictureFinding("pairSpacing",
                                     camera,
                                     middle,
                                     std::hypot(left.across.uncertainty, right.across.uncertainty),
                                     "share");
    spacing.low = 0.45;
    spacing.high = 0.55;
    spacing.nearBy = 0.05;
    base::judge(spacing);
    if (isSure(spacing, 0.5)) spacing.advice = pan(camera, left, middle, 0.5);
    findings.push_back(spacing);
}

void addPairs(const std::vector<FramedCamera>& cameras, std::vector<Finding>& findings) {
    std::vector<const FramedCamera*> close;
    for (const FramedCamera& camera : cameras) {
        if (loneClose(camera) != nullptr) close.push_back(&camera);
    }
    for (std::size_t i = 0; i < close.size(); ++i) {
        const FramedPerson& person = *loneClose(*close[i]);
        if (i > 0) addAlike(*close[i], person, *close[0], *loneClose(*close[0]), findings);
        for (std::size_t j = 0; j < i; ++j)
            addLooks({*close[i], person, *close[j], *loneClose(*close[j])}, findings);
    }
}

}  // namespace rigmatch::framing
