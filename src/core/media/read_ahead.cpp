// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/read_ahead.h"

#include <algorithm>

namespace rigmatch::media {

ReadAhead::ReadAhead(MediaReader& reader, std::size_t frames)
    : m_reader(reader), m_most(std::max<std::size_t>(frames, 1)), m_thread([this] { read(); }) {}

ReadAhead::~ReadAhead() {
    {
        const std::lock_guard lock(m_mutex);
        m_isStopped = true;
    }
    m_changed.notify_all();
    m_thread.join();
}

void ReadAhead::read() {
    for (;;) {
        {
            // Room first, then a frame: never more of them than were allowed.
            std::unique_lock lock(m_mutex);
            m_changed.wait(lock, [this] { return m_isStopped || m_waiting.size() < m_most; });
            if (m_isStopped) return;
        }
        Taken taken{m_reader.next(), {}};
        taken.sound = m_reader.takeSound();
        const bool wasLast = isLast(taken);
        {
            const std::lock_guard lock(m_mutex);
            m_waiting.push_back(std::move(taken));
        }
        m_changed.notify_all();
        if (wasLast) return;
    }
}

base::Result<std::optional<image::CodedFrame>> ReadAhead::next() {
    std::unique_lock lock(m_mutex);
    m_changed.wait(lock, [this] { return !m_waiting.empty(); });
    // Blocks that were not taken are kept for the next time they are asked for.
    for (SoundBlock& block : m_waiting.front().sound) m_sound.push_back(std::move(block));
    m_waiting.front().sound.clear();
    // The last word stays, to be given again.
    if (isLast(m_waiting.front())) return m_waiting.front().frame;
    Taken taken = std::move(m_waiting.front());
    m_waiting.pop_front();
    lock.unlock();
    m_changed.notify_all();
    return std::move(taken.frame);
}

}  // namespace rigmatch::media
