// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/progress.h"
#include "base/result.h"

namespace rigmatch::jobs {

/// A window at one moment, px of the recorded picture.
struct CropMoment {
    double seconds = 0.0;
    double left = 0.0, top = 0.0;
    bool isSeen = true;  ///< false: the person was not found there; the window goes on to where
                         ///< they are next
};

/// A moving window that keeps one person at its middle.
struct CropTrack {
    std::string shape;          ///< "9:16"
    int width = 0, height = 0;  ///< of the window, px: the largest of that shape
    std::vector<CropMoment> moments;
    double seenShare = 0.0;   ///< of the moments
    double farthestPx = 0.0;  ///< that the eyes leave the window's middle, where they are seen
};

struct CropTrackOptions {
    std::string shape = "9:16";  ///< two whole numbers from 1 to 100 with a colon
    int person = 0;              ///< from the left, where the clip begins
    double everySeconds = 0.25;  ///< 0.05 to 5
    double smoothSeconds = 0.6;  ///< 0 to 10: how calmly it follows (standard deviation)

    [[nodiscard]] base::Result<void> validate() const;
};

/// Follows a person through a clip. Fails as media::MediaReader::open, with OutOfRange for options,
/// Unmeasurable for a still or where that person is never found, or Cancelled. Takes about a tenth
/// of a second a moment.
[[nodiscard]] base::Result<CropTrack> cropTrack(const std::filesystem::path& file,
                                                const CropTrackOptions& options,
                                                const base::Progress& progress = {});

}  // namespace rigmatch::jobs
