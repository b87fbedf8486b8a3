// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/face_scan.h"

#include <algorithm>
#include <array>

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
    return reading;
}

}  // namespace

FaceScan::FaceScan(double durationSeconds)
    : m_effort(durationSeconds > 0.0 ? face::FaceEffort::Quick : face::FaceEffort::Thorough) {
    for (const double share : kMoments) m_moments.push_back(share * durationSeconds);
}

void FaceScan::take(const image::CodedFrame& frame) {
    const bool isDone = m_next >= m_moments.size() || !m_faces.empty() || !m_failure.empty();
    if (isDone || frame.seconds < m_moments[m_next] - 1e-6) return;
    while (m_next < m_moments.size() && m_moments[m_next] <= frame.seconds + 1e-6) ++m_next;
    look(frame);
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
