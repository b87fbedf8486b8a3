// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/framing_look.h"

#include <cmath>

#include "base/constants.h"
#include "framing/bright_spots.h"
#include "framing/darkest_place.h"
#include "framing/eye_focus.h"
#include "framing/key_screen.h"
#include "framing/picture_roll.h"

namespace rigmatch::framing {
namespace {

/// Heads are held level to a few degrees only (sources 14.3).
std::optional<PictureRoll> rollOfHead(const face::Face& face) {
    constexpr double kHeads = 3.0, kMostTurn = 40.0;
    const double dx = face.points.leftEye.x - face.points.rightEye.x;
    const double dy = face.points.leftEye.y - face.points.rightEye.y;
    if (std::abs(face.turnDegrees) >= kMostTurn || dx <= 0.0) return std::nullopt;
    return PictureRoll{std::atan2(dy, dx) * base::kDegreesPerRadian, kHeads, 0.0, "eyes"};
}

}  // namespace

std::vector<face::Face> refinedFaces(face::FaceFinder& finder,
                                     const image::CodedFrame& frame,
                                     face::FaceEffort effort) {
    std::vector<face::Face> faces;
    face::FaceOptions options;
    options.effort = effort;
    options.mostFaces = 16;  // a group is framed whole, where a match needs its largest faces
    if (const auto found = finder.find(frame, options)) {
        for (const face::Face& face : *found) faces.push_back(finder.refined(frame, face));
    }
    return faces;
}

base::Result<FramingLook> FramingLook::create(face::FaceEffort effort) {
    auto finder = face::FaceFinder::create();
    if (!finder) return tl::unexpected(finder.error());
    return FramingLook(std::move(*finder), effort);
}

void FramingLook::take(const image::CodedFrame& frame, Moment moment) {
    const auto faces = refinedFaces(m_finder, frame, m_effort);
    m_people.push_back(personFrames(frame, faces));
    if (moment == Moment::Other) return;
    m_faces = faces;
    m_reading.atSeconds = frame.seconds;
    m_reading.roll = pictureRoll(frame);
    if (!m_reading.roll && !faces.empty()) m_reading.roll = rollOfHead(faces.front());
    m_reading.focus = eyeFocus(frame, faces);
    std::vector<HeadBox> heads;
    for (const PersonFrame& person : m_people.back()) heads.push_back(headBox(person, frame));
    m_reading.brightSpots = brightSpots(frame, heads);
    m_reading.keyScreen = keyScreen(frame, heads);
    m_reading.darkest = darkestPlace(frame);
}

rig::FramingReading FramingLook::reading() const {
    rig::FramingReading reading = m_reading;
    reading.frames = static_cast<int>(m_people.size());
    reading.people = peopleOverTime(m_people);
    return reading;
}

}  // namespace rigmatch::framing
