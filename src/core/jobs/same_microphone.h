// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "jobs/sync_source.h"

namespace rigmatch::jobs {

/// Tells channels of several files that carry one microphone's sound, by correlation: a "backup"
/// that is a copy of the main through the same cable fails with it. Keeps some seconds of each
/// channel, not whole files.
class MicrophoneTwins {
public:
    /// The reference, whose loudest moments are compared.
    explicit MicrophoneTwins(const SyncSource& reference);
    /// A source and where it lies on the reference.
    void add(const SyncSource& source, const timing::SoundOffset& offset);
    /// Adds what was found to the results of the later of two files each.
    void tell(SyncReport& report) const;

private:
    struct Excerpt {
        std::string file;
        double offsetSeconds = 0.0;
        timing::WhitenedTrack track;
    };
    void keep(const SyncSource& source, double offsetSeconds);
    [[nodiscard]] double likenessOf(const Excerpt& one, const Excerpt& other) const;

    double m_from = 0.0;  ///< of the excerpt, s of the reference
    std::vector<Excerpt> m_excerpts;
};

}  // namespace rigmatch::jobs
