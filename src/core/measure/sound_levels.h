// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "measure/measurer.h"

namespace rigmatch::measure {

/// Level of each channel of a clip's sound: its highest sample, and its mean power where a sine of
/// full scale reads 0 dBFS (sources 11.14); how much of it stands at full scale.
class SoundLevels : public Measurer {
public:
    [[nodiscard]] int frameStep() const override { return 0; }
    void takeSound(const media::SoundBlock& block) override;
    void finish(rig::Reading& reading) override;

private:
    struct Channel {
        double power = 0.0;  ///< sum of squares
        double peak = 0.0;
        long long samples = 0;
        long long atFullScale = 0;
    };
    std::vector<Channel> m_channels;
    double m_sampleRate = 0.0;
};

}  // namespace rigmatch::measure
