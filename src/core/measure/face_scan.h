// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "face/face_finder.h"
#include "image/frame.h"
#include "rig/reading.h"

namespace rigmatch::measure {

/// Looks for faces at up to three moments of a clip (or on a still), until one shows a face. Fed
/// with every frame; looks only when a moment has come.
class FaceScan {
public:
    /// A clip (longer than 0 s) is looked at quickly: smaller faces tell nothing of their skin.
    explicit FaceScan(double durationSeconds);

    void take(const image::CodedFrame& frame);
    /// The faces from left to right, with their skin. Empty: none found, or no network.
    [[nodiscard]] const std::vector<rig::FaceReading>& faces() const { return m_faces; }
    /// Why nothing could be looked for; empty where it could.
    [[nodiscard]] const std::string& failure() const { return m_failure; }

private:
    void look(const image::CodedFrame& frame);

    face::FaceEffort m_effort;
    std::vector<double> m_moments;
    std::size_t m_next = 0;
    std::optional<face::FaceFinder> m_finder;
    std::vector<rig::FaceReading> m_faces;
    std::string m_failure;
};

}  // namespace rigmatch::measure
