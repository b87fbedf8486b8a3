// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/framing_scan.h"

namespace rigmatch::measure {
namespace {

constexpr double kShortSeconds = 30.0;

}  // namespace

FramingScan::FramingScan(const ClipPart& part)
    : m_effort(part.length() > 0.0 ? face::FaceEffort::Quick : face::FaceEffort::Thorough),
      m_isClip(part.length() > 0.0) {
    const double length = part.length();
    const bool isShort = length < kShortSeconds;
    for (const double share :
         isShort ? std::vector{0.15, 0.5, 0.85} : std::vector{0.1, 0.3, 0.5, 0.7, 0.9})
        m_moments.push_back(part.from + share * length);
    if (length <= 0.0) m_moments = {0.0};
}

void FramingScan::take(const image::CodedFrame& frame) {
    if (m_isClip) m_focus.take(frame);
    if (m_next >= m_moments.size() || frame.seconds < m_moments[m_next] - 1e-6) return;
    if (m_looking.valid()) m_looking.get();
    const auto moment = m_next == m_moments.size() / 2 ? framing::FramingLook::Moment::Main
                                                       : framing::FramingLook::Moment::Other;
    ++m_next;
    if (!m_isBroken)
        m_looking = std::async(std::launch::async, [this, frame, moment] { look(frame, moment); });
}

void FramingScan::look(const image::CodedFrame& frame, framing::FramingLook::Moment moment) {
    if (!m_look) {
        auto made = framing::FramingLook::create(m_effort);
        if (!made) {
            m_isBroken = true;
            return;
        }
        m_look = std::move(*made);
    }
    m_look->take(frame, moment);
}

void FramingScan::finish(rig::Reading& reading) {
    if (m_looking.valid()) m_looking.get();
    if (!m_look) return;
    reading.framing = m_look->reading();
    if (m_isClip) reading.framing->focusOverTime = m_focus.report();
}

}  // namespace rigmatch::measure
