// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/resampler.h"

extern "C" {
#include <libavutil/channel_layout.h>
#include <libavutil/opt.h>
#include <libswresample/swresample.h>
}

#include <cmath>

namespace rigmatch::sound {

void Resampler::Deleter::operator()(SwrContext* context) const { swr_free(&context); }

Resampler::Resampler(double fromHz, double toHz) {
    AVChannelLayout mono = AV_CHANNEL_LAYOUT_MONO;
    SwrContext* raw = nullptr;
    if (swr_alloc_set_opts2(&raw,
                            &mono,
                            AV_SAMPLE_FMT_FLT,
                            static_cast<int>(std::lround(toHz)),
                            &mono,
                            AV_SAMPLE_FMT_FLT,
                            static_cast<int>(std::lround(fromHz)),
                            0,
                            nullptr) < 0)
        return;
    m_context.reset(raw);
    if (swr_init(raw) < 0) m_context.reset();
}

void Resampler::take(const float* samples, std::size_t count, std::vector<float>& out) {
    if (!m_context) return;
    const auto* bytes = reinterpret_cast<const std::uint8_t*>(samples);
    const int most = swr_get_out_samples(m_context.get(), static_cast<int>(count));
    if (most <= 0) return;
    m_made.resize(static_cast<std::size_t>(most));
    auto* made = reinterpret_cast<std::uint8_t*>(m_made.data());
    const int got = swr_convert(m_context.get(),
                                &made,
                                most,
                                samples == nullptr ? nullptr : &bytes,
                                static_cast<int>(count));
    if (got > 0) out.insert(out.end(), m_made.begin(), m_made.begin() + got);
}

void Resampler::finish(std::vector<float>& out) { take(nullptr, 0, out); }

}  // namespace rigmatch::sound
