// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <future>
#include <optional>
#include <vector>

#include "base/text.h"
#include "face/face_finder.h"
#include "image/frame.h"
#include "measure/clip_part.h"
#include "rig/rig.h"

namespace rigmatch::measure {

/// The spot of skin under a mark, as a face of that place; nothing under 40 px or where it is
/// clipped.
[[nodiscard]] std::optional<rig::FaceReading> markedFace(const image::CodedFrame& frame,
                                                         const rig::SkinMark& mark);

/// Looks for faces at up to three moments of a clip (or on a still), or where they are known to be,
/// until one shows a face. Fed with every frame; looks only when a moment has come, on a thread
/// beside the decoder.
class FaceScan {
public:
    /// A clip (a part longer than 0 s) is looked at quickly: smaller faces tell nothing of their
    /// skin. `knownAt`: a moment at which faces were seen.
    explicit FaceScan(const ClipPart& part, std::optional<double> knownAt = std::nullopt);

    void take(const image::CodedFrame& frame);
    /// The faces from left to right, with their skin; waits for the last look. Empty: none found,
    /// or no network.
    [[nodiscard]] const std::vector<rig::FaceReading>& faces();
    /// Why nothing could be looked for; empty where it could. To be asked after faces().
    [[nodiscard]] const base::Text& failure() const { return m_failure; }

private:
    void look(const image::CodedFrame& frame);
    void finishLook();

    face::FaceEffort m_effort;
    std::vector<double> m_moments;
    std::size_t m_next = 0;
    std::optional<face::FaceFinder> m_finder;
    std::vector<rig::FaceReading> m_faces;
    base::Text m_failure;
    std::future<void> m_look;  ///< last: it must end before the members it writes
};

}  // namespace rigmatch::measure
