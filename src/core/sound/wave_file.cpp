// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/wave_file.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "base/atomic_file.h"

namespace rigmatch::sound {
namespace {

void put(std::string& bytes, std::uint32_t value, int count) {
    for (int i = 0; i < count; ++i) bytes += static_cast<char>((value >> (8 * i)) & 0xFFU);
}

}  // namespace

base::Result<void> writeWave(const std::filesystem::path& file,
                             const std::vector<std::vector<float>>& channels,
                             int sampleRate) {
    constexpr std::uint32_t kBytes = 2;
    const auto count = static_cast<std::uint32_t>(channels.size());
    const std::size_t samples = channels.empty() ? 0 : channels.front().size();
    const auto size = static_cast<std::uint32_t>(samples) * count * kBytes;
    const auto rate = static_cast<std::uint32_t>(sampleRate);
    std::string bytes = "RIFF";
    put(bytes, 36 + size, 4);
    bytes += "WAVEfmt ";
    put(bytes, 16, 4);
    put(bytes, 1, 2);
    put(bytes, count, 2);
    put(bytes, rate, 4);
    put(bytes, rate * count * kBytes, 4);
    put(bytes, count * kBytes, 2);
    put(bytes, 8 * kBytes, 2);
    bytes += "data";
    put(bytes, size, 4);
    bytes.reserve(bytes.size() + size);
    for (std::size_t i = 0; i < samples; ++i) {
        for (const auto& channel : channels) {
            const auto code = static_cast<std::int16_t>(
                std::lround(32767.0F * std::clamp(channel[i], -1.0F, 1.0F)));
            put(bytes, static_cast<std::uint16_t>(code), 2);
        }
    }
    return base::writeAtomically(file, bytes);
}

}  // namespace rigmatch::sound
