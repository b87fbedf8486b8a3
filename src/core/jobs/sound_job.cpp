// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/sound_job.h"

#include <cmath>

#include "base/format.h"
#include "media/sound_reader.h"
#include "sound/sound_meter.h"

namespace rigmatch::jobs {
base::Result<sound::SoundReport> listenTo(const std::filesystem::path& file,
                                          const base::Progress& progress) {
    auto reader = media::SoundReader::open(file);
    if (!reader) return tl::unexpected(reader.error());
    sound::SoundMeter meter;
    const double length = reader->durationSeconds();
    std::optional<double> first;
    while (auto blocks = reader->next()) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        for (media::SoundBlock& block : *blocks) {
            if (!first) first = block.seconds;
            block.seconds -= *first;
            if (length > 0.0)
                progress.report(std::min(1.0, block.seconds / length),
                                base::say("progress.listening"));
            meter.take(block);
        }
    }
    auto report = meter.finish();
    if (!report) {
        return base::fail(
            base::ErrorCode::NoSound,
            base::say("soundJob.cannotHear", {{"filename", file.filename().string()}}),
            base::say("soundJob.soundTrackHolds"),
            base::say("soundJob.copyCardAgain"));
    }
    return *report;
}

}  // namespace rigmatch::jobs
