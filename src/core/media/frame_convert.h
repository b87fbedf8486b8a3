// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "image/frame.h"
#include "media/ffmpeg_handles.h"

namespace rigmatch::media {

/// Tags of a decoded picture. Missing ones are assumed as `isStill` and the height suggest, and not
/// marked tagged.
[[nodiscard]] image::SignalTags tagsOf(const AVFrame& frame, bool isStill);

/// Shares the planes of `frame` where they are planar integers or floats; otherwise unpacks them
/// first. Nothing where the layout cannot be unpacked. The caller sets `seconds`.
[[nodiscard]] std::optional<image::CodedFrame> codedFrameOf(const AVFrame& frame,
                                                            const image::SignalTags& tags);

/// The picture turned clockwise by 0, 90, 180 or 270 degrees; copies unless 0.
[[nodiscard]] image::CodedFrame turned(const image::CodedFrame& frame, int degrees);

}  // namespace rigmatch::media
