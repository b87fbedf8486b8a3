// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/face_scan.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "face/skin_patch.h"

namespace rigmatch::measure {
namespace {

// Where in a take faces are likely free: before the chart comes in, and after it has gone.
constexpr std::array<double, 3> kMoments{0.02, 0.5, 0.97};

std::optional<rig::SkinReading> skinOf(const image::CodedFrame& frame,
                                       const std::vector<image::Point>& outline) {
    const auto patch = face::skinPatch(frame, outline);
    if (!patch) return std::nullopt;
    return rig::SkinReading{
        patch->signal, patch->standardError, patch->clippedShare, patch->pixels};
}

/// What stands beside the head: two boxes at the height of the face, clear of hair, as far as they
/// lie in the picture.
std::optional<rig::SkinReading> backgroundOf(const image::CodedFrame& frame,
                                             const rig::FaceReading& face) {
    constexpr double kNear = 0.55;  // of the face's width beyond its sides
    constexpr double kFar = 1.05;
    std::vector<rig::SkinReading> sides;
    for (const double sign : {-1.0, 1.0}) {
        const double middle = face.left + 0.5 * face.width;
        const double a = middle + sign * (0.5 + kNear) * face.width;
        const double b = middle + sign * (0.5 + kFar) * face.width;
        const double left = std::max(0.0, std::min(a, b));
        const double right = std::min(frame.width - 1.0, std::max(a, b));
        const double top = std::max(0.0, face.top);
        const double bottom = std::min(frame.height - 1.0, face.top + 0.8 * face.height);
        if (right - left < 0.25 * face.width) continue;
        const auto side =
            skinOf(frame, {{left, top}, {right, top}, {right, bottom}, {left, bottom}});
        if (side) sides.push_back(*side);
    }
    if (sides.empty()) return std::nullopt;
    rig::SkinReading mean = sides.front();
    if (sides.size() == 2) {
        for (std::size_t c = 0; c < 3; ++c) {
            mean.signal[c] = 0.5 * (sides[0].signal[c] + sides[1].signal[c]);
            mean.standardError[c] =
                0.5 * std::hypot(sides[0].standardError[c], sides[1].standardError[c]);
        }
        mean.clippedShare = 0.5 * (sides[0].clippedShare + sides[1].clippedShare);
        mean.pixels += sides[1].pixels;
    }
    return mean;
}

rig::FaceReading readingOf(const image::CodedFrame& frame, const face::Face& face) {
    rig::FaceReading reading;
    reading.left = face.left;
    reading.top = face.top;
    reading.width = face.width;
    reading.height = face.height;
    reading.score = face.score;
    reading.presence = face.presence;
    reading.turnDegrees = face.turnDegrees;
    reading.atSeconds = frame.seconds;
    reading.rightEye = {face.points.rightEye.x, face.points.rightEye.y};
    reading.leftEye = {face.points.leftEye.x, face.points.leftEye.y};
    reading.forehead = skinOf(frame, face.forehead);
    reading.leftCheek = skinOf(frame, face.leftCheek);
    reading.rightCheek = skinOf(frame, face.rightCheek);
    reading.background = backgroundOf(frame, reading);
    return reading;
}

}  // namespace

std::optional<rig::FaceReading> markedFace(const image::CodedFrame& frame,
                                           const rig::SkinMark& mark) {
    const double right = mark.left + mark.width;
    const double bottom = mark.top + mark.height;
    auto spot = skinOf(
        frame, {{mark.left, mark.top}, {right, mark.top}, {right, bottom}, {mark.left, bottom}});
    if (!spot || spot->clippedShare > 0.5) return std::nullopt;
    rig::FaceReading face;
    face.left = mark.left;
    face.top = mark.top;
    face.width = mark.width;
    face.height = mark.height;
    face.score = face.presence = 1.0;
    face.atSeconds = mark.atSeconds;
    face.forehead = spot;
    face.isManual = true;
    return face;
}

FaceScan::FaceScan(const ClipPart& part, std::optional<double> knownAt)
    : m_effort(part.length() > 0.0 ? face::FaceEffort::Quick : face::FaceEffort::Thorough) {
    for (const double share : kMoments) m_moments.push_back(part.from + share * part.length());
    if (knownAt) m_moments = {*knownAt};
}

void FaceScan::take(const image::CodedFrame& frame) {
    if (m_next >= m_moments.size() || frame.seconds < m_moments[m_next] - 1e-6) return;
    finishLook();
    if (!m_faces.empty() || !m_failure.empty()) {
        m_next = m_moments.size();
        return;
    }
    while (m_next < m_moments.size() && m_moments[m_next] <= frame.seconds + 1e-6) ++m_next;
    m_look = std::async(std::launch::async, [this, frame] { look(frame); });
}

void FaceScan::finishLook() {
    if (m_look.valid()) m_look.get();
}

const std::vector<rig::FaceReading>& FaceScan::faces() {
    finishLook();
    return m_faces;
}

void FaceScan::look(const image::CodedFrame& frame) {
    if (!m_finder) {
        auto made = face::FaceFinder::create();
        if (!made) {
            m_failure = made.error().detail;
            return;
        }
        m_finder = std::move(*made);
    }
    face::FaceOptions options;
    options.effort = m_effort;
    const auto found = m_finder->find(frame, options);
    if (!found) return;  // too small a picture holds no face to measure
    for (const face::Face& face : *found) m_faces.push_back(readingOf(frame, face));
}

}  // namespace rigmatch::measure
