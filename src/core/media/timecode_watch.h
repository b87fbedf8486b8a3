// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "media/ffmpeg_handles.h"
#include "media/timecode.h"

namespace rigmatch::media {

/// Follows the timecode of a file while it is read: numbers that stand with the frames, and the
/// samples of a timecode track. Both go on with the frames' time, or jump.
class TimecodeWatch {
public:
    /// A decoded frame with its stamp in s. `firstSeconds`: the first frame's stamp, from which
    /// times in the file count.
    void takeFrame(const AVFrame& frame, double stampSeconds, double firstSeconds, double rate);
    /// A packet of any stream; all but those of timecode tracks are passed over.
    void takePacket(const AVStream& stream, const AVPacket& packet, double firstSeconds);
    /// The reader went elsewhere: what comes next need not go on from what came last.
    void forget();

    [[nodiscard]] const std::vector<TimecodeJump>& jumps() const { return m_jumps; }

private:
    struct Stamped {
        double seconds = 0.0;
        Timecode timecode;
    };
    void follow(std::optional<Stamped>& last,
                Stamped now,
                double firstSeconds,
                double toleranceSeconds);

    std::optional<Stamped> m_frame, m_track;
    std::vector<TimecodeJump> m_jumps;
};

}  // namespace rigmatch::media
