// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "base/warning.h"
#include "image/frame.h"

namespace rigmatch::measure {

/// Lamp flicker as a clip shows it.
struct Flicker {
    double mainsHz = 0.0;  ///< 50 or 60; 0: no beat of the mains (a dimmed lamp, a screen)
    double beatHz = 0.0;   ///< at which the brightness swings in the clip
    double peakToPeakPercent = 0.0;
    double bandsPerPicture = 0.0;  ///< dark bands from top to bottom; under 0.3 the whole picture
                                   ///< beats as one
    double readoutSeconds = 0.0;   ///< of the sensor, as the bands tell it: bands over 2 x mains;
                                   ///< 0 where it is not the mains
};

/// Watches the brightness of the frames in bands of rows and looks for the beat of lamps on 50 and
/// 60 Hz mains with the frame rate (docs/sources.md, flicker), and for any other swing that repeats
/// evenly in the whole picture: a dimmed lamp's own rate. Costs a few thousand samples a frame.
class FlickerCheck {
public:
    explicit FlickerCheck(double frameRate);

    void take(const image::CodedFrame& frame);

    /// A beat of more than 1 % peak to peak (common practice: visible) that stands well above what
    /// movement brings at neighbouring frequencies; off the mains' beats most bands must swing
    /// alike, as movement swings only where it is. Nothing under two seconds, or where the lamps'
    /// ripple falls on the frames alike: then there is no beat in time.
    [[nodiscard]] std::optional<Flicker> flicker() const;
    /// The same in words, with the shutter that cures it.
    [[nodiscard]] std::optional<base::Warning> warning() const;

private:
    double m_frameRate;
    std::vector<std::vector<double>> m_bands;  ///< by frame
};

/// Watches the times of the frames and tells when they are not evenly spaced.
class TimingCheck {
public:
    void take(double seconds);
    /// More than one in a hundred steps departs by over a third of the usual one.
    [[nodiscard]] std::optional<base::Warning> warning() const;

private:
    std::vector<double> m_steps;
    std::optional<double> m_last;
};

}  // namespace rigmatch::measure
