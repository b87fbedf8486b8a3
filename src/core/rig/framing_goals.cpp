// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/framing_goals.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::rig {
namespace {

constexpr double kCloseHead = 0.20;  // of the height; smaller ones are framed by the whole body
constexpr double kThird = 1.0 / 3.0;

}  // namespace

Wanted wantedHeadroom(const Choices& choices, double headShare) {
    if (choices.headroom == "wide") return {0.16, 0.24};
    // A small head whose eyes lie on the third has more room above it, and that is as it should be.
    return {0.24 * headShare, std::max(0.40 * headShare, 0.36 - 0.51 * headShare)};
}

double headroomAfterZoom(double headroom, double eyeLine, double zoom) {
    return eyeLine - zoom * (eyeLine - headroom);
}

double largestFace(const FramingReading& reading) {
    double largest = 0.0;
    for (const FramedPerson& person : reading.people)
        largest = std::max(largest, person.faceHeight.value);
    return largest;
}

std::vector<int> judgedPeople(const FramingReading& reading) {
    const double least = kJudgedFace * largestFace(reading);
    std::vector<int> judged;
    for (std::size_t i = 0; i < reading.people.size(); ++i) {
        if (reading.people[i].faceHeight.value >= least) judged.push_back(static_cast<int>(i));
    }
    return judged;
}

const FramedPerson* lonePerson(const FramingReading& reading) {
    const std::vector<int> judged = judgedPeople(reading);
    return judged.size() == 1 ? &reading.people[static_cast<std::size_t>(judged[0])] : nullptr;
}

bool isClose(const FramedPerson& person) { return person.headHeight.value >= kCloseHead; }

double wantedEyes(const FramedPerson& person, const Choices& choices) {
    const double low = kEyeLine.low, high = kEyeLine.high;
    if (!isClose(person)) return std::clamp(person.eyeLine.value, low, high);
    const Wanted room = wantedHeadroom(choices, person.headHeight.value);
    const double below = person.eyeLine.value - person.headroom.value;
    // The stretch in which both hold, or, where there is none, the one that headroom gives.
    const double from = std::max(low, room.low + below), to = std::min(high, room.high + below);
    if (from <= to) return std::clamp(person.eyeLine.value, from, to);
    return std::clamp(person.eyeLine.value, room.low + below, room.high + below);
}

double wantedAcross(const FramedPerson& person, const Choices& choices) {
    const bool isToLens = std::abs(person.turnDegrees) < kLensTurn;
    if (choices.placing == "centre" || (choices.placing == "look" && isToLens)) return 0.5;
    // The person's own left is on the right of the picture: room goes where the nose points.
    if (!isToLens) return person.turnDegrees > 0.0 ? kThird : 1.0 - kThird;
    return person.across.value < 0.5 ? kThird : 1.0 - kThird;
}

}  // namespace rigmatch::rig
