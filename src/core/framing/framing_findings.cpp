// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/framing_findings.h"

#include <algorithm>
#include <cmath>

#include "framing/framing_pairs.h"
#include "framing/framing_surroundings.h"
#include "framing/picture_drift.h"
#include "rig/framing_goals.h"

namespace rigmatch::framing {
namespace {

using base::Finding;
using rig::FramedPerson;

constexpr double kNeck = 0.35;  // of the head, below the chin

/// A person of a camera, while its findings are made.
struct Seen {
    const FramedCamera& camera;
    int index;
    [[nodiscard]] const FramedPerson& person() const {
        return camera.reading->people[static_cast<std::size_t>(index)];
    }
};

Finding findingOf(const std::string& quantity, const Seen& seen, const rig::Doubted& value) {
    Finding finding;
    finding.quantity = quantity;
    finding.subject = seen.camera.id;
    finding.person = seen.index;
    finding.value = value.value;
    finding.uncertainty = value.uncertainty;
    finding.unit = "share";
    return finding;
}

Finding cutFinding(const Seen& seen) {
    const FramedPerson& person = seen.person();
    const double chin = person.headroom.value + person.headHeight.value;
    const double below = 1.0 - chin;
    Finding finding = findingOf("cut", seen, {below, person.headHeight.uncertainty});
    finding.low = kNeck * person.headHeight.value;
    finding.high = 1.0;
    base::judge(finding);
    if (person.isCut) finding.verdict = base::Verdict::Off;
    // A frame that small holds no shoulders: only a wider one helps.
    if (finding.verdict != base::Verdict::Good)
        finding.advice = resize(seen.camera, person, person.isCut ? 0.8 : 0.85);
    return finding;
}

Finding headroomFinding(const Seen& seen, const rig::Choices& choices) {
    const FramedPerson& person = seen.person();
    Finding finding = findingOf("headroom", seen, person.headroom);
    const rig::Wanted wanted = rig::wantedHeadroom(choices, person.headHeight.value);
    finding.low = wanted.low - rig::kHeadroomSlack;
    finding.high = wanted.high + rig::kHeadroomSlack;
    finding.nearBy = rig::kHeadroomNear - rig::kHeadroomSlack;
    base::judge(finding);
    const double goal =
        person.headroom.value + rig::wantedEyes(person, choices) - person.eyeLine.value;
    if (isSure(finding, goal))
        finding.advice =
            tilt(seen.camera, person, person.eyeLine.value, rig::wantedEyes(person, choices));
    return finding;
}

Finding eyeFinding(const Seen& seen, const rig::Choices& choices) {
    const FramedPerson& person = seen.person();
    Finding finding = findingOf("eyeLine", seen, person.eyeLine);
    finding.low = rig::kEyeLine.low;
    finding.high = rig::kEyeLine.high;
    finding.nearBy = rig::kEyeLineNear;
    // Where headroom as it is wanted brings the eyes elsewhere, headroom decides.
    const double goal = rig::wantedEyes(person, choices);
    finding.low = std::min(finding.low, goal);
    finding.high = std::max(finding.high, goal);
    base::judge(finding);
    if (isSure(finding, goal))
        finding.advice = tilt(seen.camera, person, person.eyeLine.value, goal);
    return finding;
}

Finding acrossFinding(const Seen& seen, const rig::Choices& choices) {
    const FramedPerson& person = seen.person();
    const double goal = rig::wantedAcross(person, choices);
    Finding finding = findingOf("across", seen, person.across);
    const double slack = goal == 0.5 ? 0.05 : 0.06;
    finding.low = goal - slack;
    finding.high = goal + slack;
    finding.nearBy = slack;
    base::judge(finding);
    if (isSure(finding, goal)) finding.advice = pan(seen.camera, person, person.across.value, goal);
    return finding;
}

Finding lookFinding(const Seen& seen) {
    const FramedPerson& person = seen.person();
    Finding finding = findingOf("lookRoom", seen, *person.lookRoom);
    finding.unit = "ratio";
    finding.low = 1.5;
    finding.high = 2.5;
    finding.nearBy = 0.5;
    base::judge(finding);
    return finding;
}

Finding punchFinding(const Seen& seen, const rig::Choices& choices) {
    const FramedPerson& person = seen.person();
    const double left =
        rig::headroomAfterZoom(person.headroom.value, person.eyeLine.value, choices.largestZoom);
    Finding finding =
        findingOf("punchIn", seen, {left, choices.largestZoom * person.headroom.uncertainty});
    finding.low = rig::kLeastHeadroom;
    finding.high = 1.0;
    finding.nearBy = rig::kLeastHeadroom;
    base::judge(finding);
    return finding;
}

Finding rollFinding(const FramedCamera& camera) {
    const rig::RollReading& roll = *camera.reading->roll;
    Finding finding =
        pictureFinding("roll", camera, roll.degrees, roll.uncertaintyDegrees, "degrees");
    finding.low = -0.5;
    finding.high = 0.5;
    finding.nearBy = 0.5;
    base::judge(finding);
    // What is less sure than what is accepted tells nothing: grain of wood is no upright.
    if (isSure(finding, 0.0) && roll.uncertaintyDegrees <= finding.high)
        finding.advice = level(roll.degrees);
    else if (finding.verdict != base::Verdict::Good) {
        // A head held aslant is no camera held aslant.
        finding.verdict = base::Verdict::Unknown;
        finding.reason = base::say("framing.noLine");
    }
    return finding;
}

constexpr double kSoftEyes = 3.0, kWidthDoubt = 0.15;  // px; of an edge's width, one deviation

/// What is held before the chest is sharp, the eyes are not, and nothing behind them is sharper.
bool isOnWhatIsHeld(const rig::FocusReading& focus) {
    constexpr double kSharper = 0.6;  // of the eyes' width
    return focus.front && *focus.front < kSharper * *focus.eyes &&
           (!focus.ear || *focus.ear > *focus.eyes);
}

/// Where the lens is told, the ear tells on which side of the eyes the focus lies, by how much
/// softer or sharper it is than they are.
bool isBeforeByEar(const FramedCamera& camera, const FramedPerson& person) {
    const rig::FocusReading& focus = camera.reading->focus;
    if (!focus.ear) return false;
    const auto sides = earWidths(camera, person, *focus.eyes);
    if (!sides) return false;
    const double doubt = 2.0 * kWidthDoubt * *focus.ear;
    return sides->before - sides->behind >= 2.0 * doubt && *focus.ear >= sides->before - doubt;
}

/// Eyes that are soft while nothing behind them is sharper.
std::optional<Finding> frontFocusFinding(const FramedCamera& camera, const FramedPerson& person) {
    const rig::FocusReading& focus = camera.reading->focus;
    if (*focus.eyes < kSoftEyes || !focus.background || *focus.background < *focus.eyes)
        return std::nullopt;
    if (!isOnWhatIsHeld(focus) && !isBeforeByEar(camera, person)) return std::nullopt;
    Finding finding =
        pictureFinding("focusBefore", camera, *focus.eyes, kWidthDoubt * *focus.eyes, "px");
    finding.high = kSoftEyes;
    finding.nearBy = kSoftEyes;
    base::judge(finding);
    if (finding.verdict == base::Verdict::Good) return std::nullopt;
    finding.advice = focusFurther(camera, person, *focus.eyes);
    return finding;
}

std::optional<Finding> focusFinding(const FramedCamera& camera) {
    const rig::FocusReading& focus = camera.reading->focus;
    if (!focus.eyes || camera.reading->people.empty()) return std::nullopt;
    const auto& people = camera.reading->people;
    const auto largest = std::max_element(people.begin(), people.end(), [](auto& a, auto& b) {
        return a.headHeight.value < b.headHeight.value;
    });
    std::optional<double> sharper;
    for (const auto& place : {focus.ear, focus.background}) {
        if (place && (!sharper || *place < *sharper)) sharper = place;
    }
    if (auto before = frontFocusFinding(camera, *largest)) return before;
    if (!sharper) return std::nullopt;
    Finding finding =
        pictureFinding("focus", camera, *focus.eyes - *sharper, kWidthDoubt * *focus.eyes, "px");
    finding.low = -1e6;
    finding.high = 1.0;
    finding.nearBy = 1.0;
    base::judge(finding);
    // By less than a sure difference nothing is said.
    if (*finding.value < 2.0 * finding.uncertainty) finding.verdict = base::Verdict::Good;
    if (finding.verdict != base::Verdict::Good)
        finding.advice = focusNearer(camera, *largest, *focus.eyes, *sharper);
    return finding;
}

std::optional<Finding> movedFinding(const FramedCamera& camera) {
    if (!camera.reading->drift) return std::nullopt;
    const rig::FrameDrift& drift = *camera.reading->drift;
    const double shift = std::hypot(drift.shiftPx[0], drift.shiftPx[1]);
    Finding finding = pictureFinding("moved", camera, shift, drift.shiftUncertaintyPx, "px");
    if (!drift.reason.empty()) {
        finding.value.reset();
        finding.reason = drift.reason;
        return finding;
    }
    const DriftCause cause = causeNamed(drift.cause);
    if (cause == DriftCause::None) {
        finding.verdict = base::Verdict::Good;
        return finding;
    }
    // Accepted: half a per cent of the width, 0.3°, a per cent of size (sources 7.3).
    const bool isSmall = shift <= 0.005 * camera.width && std::abs(drift.rollDegrees) <= 0.3 &&
                         std::abs(drift.scale - 1.0) <= 0.01;
    finding.nearBy = 0.005 * camera.width;
    finding.verdict = isSmall ? base::Verdict::Near : base::Verdict::Off;
    finding.advice = {"putBack",
                      {{"rightPx", drift.shiftPx[0]},
                       {"downPx", drift.shiftPx[1]},
                       {"rollDegrees", drift.rollDegrees},
                       {"scale", drift.scale}}};
    return finding;
}

void addSmallFaces(const FramedCamera& camera,
                   const std::vector<int>& judged,
                   std::vector<Finding>& findings) {
    const auto& people = camera.reading->people;
    const double largest = rig::largestFace(*camera.reading);
    for (int i = 0; i < static_cast<int>(people.size()); ++i) {
        if (std::find(judged.begin(), judged.end(), i) != judged.end()) continue;
        const rig::Doubted& face = people[static_cast<std::size_t>(i)].faceHeight;
        Finding finding = pictureFinding(
            "smallFace", camera, face.value / largest, face.uncertainty / largest, "ratio");
        finding.person = i;
        finding.low = rig::kJudgedFace;
        finding.high = 1.0;
        finding.verdict = base::Verdict::Unknown;
        finding.reason = base::say("framing.smallFace");
        findings.push_back(finding);
    }
}

void addCamera(const FramedCamera& camera,
               const rig::Choices& choices,
               std::vector<Finding>& findings) {
    const rig::FramingReading& reading = *camera.reading;
    const std::vector<int> judged = rig::judgedPeople(reading);
    const bool isLone = judged.size() == 1;
    addSmallFaces(camera, judged, findings);
    for (const int i : judged) {
        const Seen seen{camera, i};
        const FramedPerson& person = seen.person();
        findings.push_back(cutFinding(seen));
        if (findings.back().verdict == base::Verdict::Off) continue;
        if (rig::isClose(person)) findings.push_back(headroomFinding(seen, choices));
        if (isLone) {
            findings.push_back(eyeFinding(seen, choices));
            findings.push_back(acrossFinding(seen, choices));
        }
        if (isLone && rig::isClose(person) && person.lookRoom &&
            std::abs(person.turnDegrees) >= rig::kLensTurn)
            findings.push_back(lookFinding(seen));
        if (isLone && rig::isClose(person) && choices.headroom == "wide")
            findings.push_back(punchFinding(seen, choices));
    }
    if (judged.size() == 2)
        addTwoShot(camera,
                   reading.people[static_cast<std::size_t>(judged[0])],
                   reading.people[static_cast<std::size_t>(judged[1])],
                   findings);
    if (reading.roll) findings.push_back(rollFinding(camera));
    if (const auto focus = focusFinding(camera)) findings.push_back(*focus);
    addSurroundings(camera, findings);
    if (const auto moved = movedFinding(camera)) findings.push_back(*moved);
}

/// What a turn is done with: one of each kind a camera.
std::string kindOf(const base::Advice& advice) {
    for (const char* kind : {"tilt", "pan", "step", "roll", "focus"}) {
        if (advice.code.starts_with(kind)) return kind;
    }
    return advice.code;
}

void keepOneTurnOfAKind(std::vector<Finding>& findings) {
    for (std::size_t i = 0; i < findings.size(); ++i) {
        if (findings[i].advice.code.empty()) continue;
        const std::string kind = kindOf(findings[i].advice);
        for (std::size_t j = 0; j < findings.size(); ++j) {
            if (j == i || findings[j].subject != findings[i].subject) continue;
            const bool isSameKind = j > i && kindOf(findings[j].advice) == kind;
            const bool waits = kind == "putBack" && kindOf(findings[j].advice) != "focus";
            if (isSameKind || waits) findings[j].advice = {};
        }
    }
}

int rank(const Finding& finding) {
    switch (finding.verdict) {
        case base::Verdict::Off:
            return 0;
        case base::Verdict::Near:
            return 1;
        case base::Verdict::Unknown:
            return 2;
        case base::Verdict::Good:
            break;
    }
    return 3;
}

}  // namespace

std::vector<Finding> framingFindings(const std::vector<FramedCamera>& cameras,
                                     const rig::Choices& choices) {
    std::vector<Finding> findings;
    for (const FramedCamera& camera : cameras) {
        if (camera.reading != nullptr) addCamera(camera, choices, findings);
    }
    addPairs(cameras, findings);
    addVeils(cameras, findings);
    std::stable_sort(findings.begin(), findings.end(), [](const Finding& a, const Finding& b) {
        return rank(a) != rank(b) ? rank(a) < rank(b) : a.excess() > b.excess();
    });
    keepOneTurnOfAKind(findings);
    return findings;
}

}  // namespace rigmatch::framing
