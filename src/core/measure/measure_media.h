// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>

#include "base/progress.h"
#include "base/result.h"
#include "chart/reference_chart.h"
#include "image/signal_tags.h"
#include "media/media_info.h"
#include "rig/rig.h"

namespace rigmatch::measure {

struct MeasureOptions {
    chart::ReferenceChart chart = chart::classicChart();  ///< what to look for
    std::optional<rig::PictureQuad> corners;  ///< taken as they are instead of finding the chart
    std::optional<double> atSeconds;          ///< measure this one frame of a clip
    std::vector<rig::SkinMark> skinMarks;     ///< spots of skin marked by hand
    std::optional<image::Range> range;        ///< read the codes so, whatever the tags say
    std::optional<image::Matrix> matrix;      ///< the same for the colour matrix
    bool isSoundEnough = false;    ///< a file without pictures is heard instead of refused
    bool isChartWanted = true;     ///< false: no chart is looked for
    bool isFramingWanted = false;  ///< how people are framed, as rig::Reading::framing
    bool isTimingWanted = false;   ///< what its sound holds and its frames hide, as
                                   ///< rig::Reading::heard and frames
    bool isWholeClip = true;       ///< false with `corners`: only the frames around them are read
    bool isEndToEnd = false;       ///< a clip over three minutes is watched whole, not only around
                                   ///< its chart and faces; timing always needs all of it
    int threads = 0;               ///< decoder threads; 0: one per core
};

/// A reading with what the file says of the camera's settings.
struct MeasuredMedia {
    rig::Reading reading;
    media::RecordedSettings recorded;
};

/// Reads a still or scans a clip in one decoding pass: finds the chart, takes the longest span
/// where it is still, and averages up to 48 frames of it. Of a long clip, the part around the chart
/// (long_clip.h). A file without a chart gives a reading
/// that says why, a file without pictures, where that
/// is enough, one of its sound. Fails as MediaReader::open does, or with
/// Cancelled. Names the file in every text.
[[nodiscard]] base::Result<MeasuredMedia> measureMedia(const std::filesystem::path& path,
                                                       const MeasureOptions& options = {},
                                                       const base::Progress& progress = {});

}  // namespace rigmatch::measure
