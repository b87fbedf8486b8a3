// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "base/progress.h"
#include "base/result.h"
#include "base/warning.h"
#include "chart/reference_chart.h"
#include "measure/clip_part.h"
#include "media/media_reader.h"

namespace rigmatch::measure {

/// What a search of a long clip's key frames brought.
struct ClipSearch {
    ClipPart part;                  ///< worth watching frame by frame
    std::optional<double> chartAt;  ///< s, where the chart was seen first
    std::optional<double> facesAt;  ///< s, near the chart where there is one
    int looks = 0;                  ///< frames that were looked at
    bool isChartWanted = false;
};

/// From here on a recording is a programme with the chart somewhere in it, not a test take, s.
inline constexpr double kLongClipSeconds = 180.0;

[[nodiscard]] bool isLongClip(const media::MediaInfo& info);

/// The moments at which a long clip is looked at for its chart: its first two minutes and its last
/// one closely, then what lies between, ever more closely down to every four seconds: a chart
/// that is shown for five is not missed. For tests too.
[[nodiscard]] std::vector<double> searchMoments(double durationSeconds);

/// Looks for `chart` (null: none is wanted) and for faces by key frames alone, which need none of
/// their neighbours decoded. The part is 40 s around the chart and the faces near it; around faces
/// where there is no chart; the first 40 s where there is neither. What cannot
/// be read is passed over. Fails with Cancelled.
[[nodiscard]] base::Result<ClipSearch> searchClip(media::MediaReader& reader,
                                                  const chart::ReferenceChart* chart,
                                                  const base::Progress& progress);

/// The part around a moment that is known, as where corners were set by hand.
[[nodiscard]] ClipPart partAround(double seconds, double durationSeconds);

/// That only a part was looked at, where, and how to have all of it.
[[nodiscard]] base::Warning partWarning(const ClipSearch& search, double durationSeconds);

}  // namespace rigmatch::measure
