// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <future>
#include <optional>

#include "framing/focus_watch.h"
#include "framing/framing_look.h"
#include "measure/measurer.h"

namespace rigmatch::measure {

/// How a clip frames its people: five moments of it (three of a short one), or a still. Looks on a
/// thread beside the decoder.
class FramingScan : public Measurer {
public:
    explicit FramingScan(const ClipPart& part);
    void take(const image::CodedFrame& frame) override;
    void finish(rig::Reading& reading) override;

private:
    void look(const image::CodedFrame& frame, framing::FramingLook::Moment moment);

    face::FaceEffort m_effort;  ///< a clip is looked at quickly: smaller faces frame nothing
    std::vector<double> m_moments;
    std::size_t m_next = 0;
    std::optional<framing::FramingLook> m_look;
    framing::FocusWatch m_focus;
    bool m_isClip;
    bool m_isBroken = false;      ///< no network: nothing is told
    std::future<void> m_looking;  ///< last: it must end before the members it writes
};

}  // namespace rigmatch::measure
