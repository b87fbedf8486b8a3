// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>
#include <utility>
#include <vector>

#include "media/media_reader.h"

namespace rigmatch::media {

/// Reads a clip's frames on a thread of its own, a few ahead of who takes them: decoding goes on
/// while a frame is looked at. While it lives the reader belongs to it.
class ReadAhead {
public:
    /// Up to `frames` >= 1 wait to be taken; each holds its planes.
    ReadAhead(MediaReader& reader, std::size_t frames);
    /// Lets go of the frames that wait; the reader then stands behind them.
    ~ReadAhead();
    ReadAhead(const ReadAhead&) = delete;
    ReadAhead& operator=(const ReadAhead&) = delete;

    /// As MediaReader::next(). After the end or an error it gives that again.
    [[nodiscard]] base::Result<std::optional<image::CodedFrame>> next();
    /// The sound that stood in the file up to the frame that next() gave last.
    [[nodiscard]] std::vector<SoundBlock> takeSound() { return std::exchange(m_sound, {}); }

private:
    struct Taken {
        base::Result<std::optional<image::CodedFrame>> frame;
        std::vector<SoundBlock> sound;
    };
    static bool isLast(const Taken& taken) { return !taken.frame || !*taken.frame; }
    void read();

    MediaReader& m_reader;
    std::size_t m_most;
    std::mutex m_mutex;
    std::condition_variable m_changed;
    std::deque<Taken> m_waiting;
    std::vector<SoundBlock> m_sound;  ///< of whoever takes frames, not of the reading thread
    bool m_isStopped = false;
    std::thread m_thread;
};

}  // namespace rigmatch::media
