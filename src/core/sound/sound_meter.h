// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>

#include "media/sound_block.h"
#include "sound/sound_report.h"

namespace rigmatch::sound {

/// Listens to a file's sound block by block and tells what each channel holds. Memory: some 35 MB
/// per hour and channel. Loudness and true peak by libebur128.
class SoundMeter {
public:
    SoundMeter();
    SoundMeter(SoundMeter&&) noexcept;
    SoundMeter& operator=(SoundMeter&&) noexcept;
    ~SoundMeter();

    void take(const media::SoundBlock& block);
    /// Nothing where no sound was taken.
    [[nodiscard]] std::optional<SoundReport> finish();

private:
    class Impl;
    std::unique_ptr<Impl> m_impl;
};

}  // namespace rigmatch::sound
