// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <memory>
#include <vector>

struct SwrContext;

namespace rigmatch::sound {

/// One channel from one sample rate to another (libswresample), in time with its input.
class Resampler {
public:
    Resampler(double fromHz, double toHz);

    /// Appends what comes out.
    void take(const float* samples, std::size_t count, std::vector<float>& out);
    /// Appends what is left at the end.
    void finish(std::vector<float>& out);

private:
    struct Deleter {
        void operator()(SwrContext* context) const;
    };
    std::unique_ptr<SwrContext, Deleter> m_context;
    std::vector<float> m_made;
};

}  // namespace rigmatch::sound
