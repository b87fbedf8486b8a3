// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>

#include "image/frame.h"
#include "timing/frame_report.h"
#include "timing/picture_curve.h"

namespace rigmatch::timing {

/// Watches the frames of a clip go by and tells which of them repeat the one before, where some are
/// left out, and how the clip moves (sources 13.4). Works on pictures of 640 px; holds four.
class FrameWatch {
public:
    FrameWatch();
    FrameWatch(FrameWatch&&) noexcept;
    FrameWatch& operator=(FrameWatch&&) noexcept;
    ~FrameWatch();

    void take(const image::CodedFrame& frame);
    [[nodiscard]] FrameReport report() const;
    [[nodiscard]] PictureCurve curve() const;

private:
    class Impl;
    std::unique_ptr<Impl> m_impl;
};

/// A rate as the fraction it stands for: whole, or a multiple of 1000/1001 (SMPTE).
[[nodiscard]] std::string rateText(double rate);

}  // namespace rigmatch::timing
