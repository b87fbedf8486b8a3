// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "base/result.h"
#include "framing/person_frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

/// Looks at moments of one camera that does not move, and says how it frames what it sees.
class FramingLook {
public:
    /// Fails with Unreadable where the networks cannot be loaded.
    [[nodiscard]] static base::Result<FramingLook> create(
        face::FaceEffort effort = face::FaceEffort::Thorough);

    enum class Moment {
        Main,  ///< stands for the whole: roll and focus are read on it
        Other,
    };
    /// Some 0.2 s for a picture of 1080p with one person.
    void take(const image::CodedFrame& frame, Moment moment);
    /// People of the main moment, as they were found.
    [[nodiscard]] const std::vector<face::Face>& faces() const { return m_faces; }
    [[nodiscard]] rig::FramingReading reading() const;

private:
    FramingLook(face::FaceFinder finder, face::FaceEffort effort)
        : m_finder(std::move(finder)), m_effort(effort) {}

    face::FaceFinder m_finder;
    face::FaceEffort m_effort;
    std::vector<std::vector<PersonFrame>> m_people;  ///< by moment
    std::vector<face::Face> m_faces;
    rig::FramingReading m_reading;
};

/// The faces of a picture with their places read on its own pixels.
[[nodiscard]] std::vector<face::Face> refinedFaces(
    face::FaceFinder& finder,
    const image::CodedFrame& frame,
    face::FaceEffort effort = face::FaceEffort::Thorough);

}  // namespace rigmatch::framing
