// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/person_frame.h"

#include <algorithm>
#include <cmath>
#include <opencv2/core/utility.hpp>

#include "framing/bright_spots.h"
#include "framing/chin_edge.h"
#include "framing/head_outline.h"
#include "framing/pupils.h"
#include "image/robust.h"

namespace rigmatch::framing {
namespace {

// One standard deviation, of the head's height, as measured on pictures with known heads.
constexpr double kEyesDoubt = 0.015, kHatDoubt = 0.03, kChinDoubt = 0.03;
constexpr double kTurnedDoubt = 0.035;  // more of the chin at a turn of 60°: the mesh has it short
constexpr double kPixelDoubt = 0.001;   // of the picture's height
constexpr double kFrontal = 8.0;        // degrees of turn under which nobody looks aside

/// Room before the nose over room behind the head, as the handy measure of look room has it.
std::optional<Share> lookRoomOf(const PersonFrame& person,
                                const HeadOutline& outline,
                                double width) {
    const double turn = person.turnDegrees;
    if (std::abs(turn) < kFrontal) return std::nullopt;
    // The person's own left is on the right of the picture.
    const bool isToRight = turn > 0.0;
    const double nose = person.face.points.nose.x;
    const double front =
        isToRight ? width - 1.0 - std::max(nose, outline.right) : std::min(nose, outline.left);
    const double back = isToRight ? outline.left : width - 1.0 - outline.right;
    if (back <= 0.02 * width || front <= 0.0) return std::nullopt;
    const double doubt = 0.08 * person.face.width;
    return Share{front / back, front / back * (doubt / front + doubt / back)};
}

rig::FramedPerson framedPerson(const PersonFrame& person) {
    rig::FramedPerson framed;
    framed.left = person.face.left;
    framed.top = person.face.top;
    framed.width = person.face.width;
    framed.height = person.face.height;
    framed.headroom = person.headroom;
    framed.eyeLine = person.eyeLine;
    framed.headHeight = person.headHeight;
    framed.faceHeight = person.faceHeight;
    framed.across = person.across;
    framed.lookRoom = person.lookRoom;
    framed.turnDegrees = person.turnDegrees;
    framed.isCrownEstimate = person.isCrownEstimate;
    framed.isCut = person.isCut;
    framed.hasLineOver = person.hasLineOver;
    return framed;
}

PersonFrame personFrame(const image::CodedFrame& frame, const face::Face& found) {
    const double height = frame.height, width = frame.width;
    PersonFrame person;
    face::Face face = found;
    face.eyes = betweenPupils(frame, found);
    const auto jaw = chinEdge(frame, face);
    if (jaw) face.chin.y = jaw->row;
    const HeadOutline outline = headOutline(frame, face);
    person.face = face;
    person.turnDegrees = face.turnDegrees;
    person.isCrownEstimate = outline.isEstimate;
    const double head = (face.chin.y - outline.crown.y) / height;
    const auto doubt = [&](double share) { return std::hypot(share * head, kPixelDoubt); };
    const double crown = outline.crownDoubt;
    const double chin =
        jaw ? jaw->doubt
            : kChinDoubt + kTurnedDoubt * std::min(std::abs(face.turnDegrees) / 60.0, 1.5);
    person.headroom = {(outline.crown.y + 0.5) / height, doubt(crown)};
    // A brim hides the brows, from which the eyes are told.
    const double eyes = outline.isEstimate ? kHatDoubt : kEyesDoubt;
    person.eyeLine = {(face.eyes.y + 0.5) / height, doubt(eyes)};
    person.headHeight = {head, doubt(std::hypot(crown, chin))};
    person.faceHeight = {2.0 * (face.chin.y - face.eyes.y) / height,
                         doubt(2.0 * std::hypot(eyes, chin))};
    person.across = {(face.eyes.x + 0.5) / width, doubt(eyes) * height / width};
    person.lookRoom = lookRoomOf(person, outline, width);
    person.isCut = outline.crown.y < 1.0 || outline.left < 1.0 || outline.right > width - 2.0 ||
                   face.chin.y > height - 2.0;
    person.hasLineOver = hasLineOver(frame, headBox(person, frame));
    return person;
}

}  // namespace

HeadBox headBox(const PersonFrame& person, const image::CodedFrame& frame) {
    const double top = person.headroom.value * frame.height;
    return {person.face.left,
            top,
            person.face.left + person.face.width,
            top + person.headHeight.value * frame.height};
}

std::vector<PersonFrame> personFrames(const image::CodedFrame& frame,
                                      const std::vector<face::Face>& faces) {
    std::vector<PersonFrame> people(faces.size());
    // Each on a thread of its own; what is random within is seeded there.
    cv::parallel_for_(cv::Range(0, static_cast<int>(faces.size())), [&](const cv::Range& range) {
        for (int i = range.start; i < range.end; ++i) {
            const auto at = static_cast<std::size_t>(i);
            people[at] = personFrame(frame, faces[at]);
        }
    });
    return people;
}

std::vector<rig::FramedPerson> peopleOverTime(const std::vector<std::vector<PersonFrame>>& frames) {
    std::vector<std::vector<const PersonFrame*>> groups;
    for (const auto& people : frames) {
        for (const PersonFrame& person : people) {
            const auto same = std::find_if(groups.begin(), groups.end(), [&](const auto& group) {
                const PersonFrame& last = *group.back();
                return std::abs(last.across.value - person.across.value) <
                           0.5 * last.headHeight.value &&
                       std::abs(last.eyeLine.value - person.eyeLine.value) <
                           0.6 * last.headHeight.value;
            });
            if (same != groups.end())
                same->push_back(&person);
            else
                groups.push_back({&person});
        }
    }
    std::vector<rig::FramedPerson> all;
    for (const auto& group : groups) {
        // Who shows in a quarter of the frames only was a picture on a wall or a mistake.
        if (4 * group.size() < frames.size()) continue;
        const auto middleOf = [&](auto part) {
            std::vector<double> values;
            values.reserve(group.size());
            for (const PersonFrame* one : group) values.push_back(part(*one));
            return image::median(values);
        };
        const auto spanOf = [&](auto part) {
            double least = part(*group.front()), most = least;
            for (const PersonFrame* one : group) {
                least = std::min(least, part(*one));
                most = std::max(most, part(*one));
            }
            return most - least;
        };
        const double eyes = middleOf([](const PersonFrame& p) { return p.eyeLine.value; });
        // The frame that lies nearest to the middle stands for the box and what is not averaged.
        rig::FramedPerson person = framedPerson(**std::min_element(
            group.begin(), group.end(), [&](const PersonFrame* a, const PersonFrame* b) {
                return std::abs(a->eyeLine.value - eyes) < std::abs(b->eyeLine.value - eyes);
            }));
        person.eyeLine.value = eyes;
        person.headroom.value = middleOf([](const PersonFrame& p) { return p.headroom.value; });
        person.headHeight.value = middleOf([](const PersonFrame& p) { return p.headHeight.value; });
        person.across.value = middleOf([](const PersonFrame& p) { return p.across.value; });
        // A line that one moment only shows was a hand or a passer-by.
        const auto lines = std::count_if(
            group.begin(), group.end(), [](const PersonFrame* p) { return p->hasLineOver; });
        person.hasLineOver = 2 * lines > static_cast<std::ptrdiff_t>(group.size());
        person.swayShare = spanOf([](const PersonFrame& p) { return p.across.value; });
        person.leanShare = spanOf([](const PersonFrame& p) { return p.faceHeight.value; }) /
                           std::max(1e-6, person.faceHeight.value);
        person.frames = static_cast<int>(group.size());
        all.push_back(person);
    }
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
        return a.across.value < b.across.value;
    });
    return all;
}

}  // namespace rigmatch::framing
