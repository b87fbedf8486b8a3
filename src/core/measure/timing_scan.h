// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "measure/measurer.h"
#include "sound/sound_meter.h"
#include "timing/frame_watch.h"

namespace rigmatch::measure {

/// What a clip's sound holds, channel by channel.
class SoundScan : public Measurer {
public:
    [[nodiscard]] int frameStep() const override { return 0; }
    void takeSound(const media::SoundBlock& block) override { m_meter.take(block); }
    void finish(rig::Reading& reading) override { reading.heard = m_meter.finish(); }

private:
    sound::SoundMeter m_meter;
};

/// What a clip's frames say of its rate.
class FrameScan : public Measurer {
public:
    void take(const image::CodedFrame& frame) override { m_watch.take(frame); }
    void finish(rig::Reading& reading) override {
        if (reading.hasPicture && !reading.isStill) reading.frames = m_watch.report();
    }

private:
    timing::FrameWatch m_watch;
};

}  // namespace rigmatch::measure
