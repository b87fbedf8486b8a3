// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>

#include "image/frame.h"
#include "rig/framing_reading.h"

namespace rigmatch::framing {

/// Watches a clip for an automatic focus that hunts: places that do not move turn soft and sharp
/// again, and the picture breathes with them (sources 14.9). Five times a second; some
/// milliseconds each.
class FocusWatch {
public:
    FocusWatch();
    FocusWatch(FocusWatch&&) noexcept;
    FocusWatch& operator=(FocusWatch&&) noexcept;
    ~FocusWatch();

    void take(const image::CodedFrame& frame);
    /// Nothing of a still, or where too little is textured and at rest.
    [[nodiscard]] std::optional<rig::FocusOverTime> report() const;

private:
    class Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace rigmatch::framing
