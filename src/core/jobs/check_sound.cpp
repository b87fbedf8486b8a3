// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/check_sound.h"

#include <algorithm>
#include <cmath>

#include "jobs/sync_source.h"
#include "sound/wave_file.h"

namespace rigmatch::jobs {
namespace {

constexpr double kSeconds = 20.0, kBeforeClapShare = 0.2;

/// A stretch of a track from a time on, zeros beyond its ends.
std::vector<float> stretch(const sound::SoundTrack& track, double from, std::size_t count) {
    std::vector<float> cut(count, 0.0F);
    const double first = (from - track.startSeconds) * track.sampleRate;
    for (std::size_t i = 0; i < count; ++i) {
        const double at = first + static_cast<double>(i);
        const auto low = static_cast<long long>(std::floor(at));
        if (low < 0 || low + 1 >= static_cast<long long>(track.samples.size())) continue;
        const auto share = static_cast<float>(at - static_cast<double>(low));
        const auto index = static_cast<std::size_t>(low);
        cut[i] = (1.0F - share) * track.samples[index] + share * track.samples[index + 1];
    }
    return cut;
}

/// As loud as the other, peaks under full scale.
void even(std::vector<float>& samples) {
    double power = 0.0;
    float peak = 0.0F;
    for (const float sample : samples) {
        power += static_cast<double>(sample) * static_cast<double>(sample);
        peak = std::max(peak, std::abs(sample));
    }
    if (peak <= 0.0F) return;
    const double mean = std::sqrt(power / static_cast<double>(samples.size()));
    const double gain = std::min(0.1 / mean, 0.89 / static_cast<double>(peak));
    for (float& sample : samples) sample *= static_cast<float>(gain);
}

}  // namespace

base::Result<CheckStretch> checkStretch(const std::string& reference,
                                        const SyncResult& result,
                                        std::optional<double> clapSeconds,
                                        double seconds,
                                        const base::Progress& progress) {
    const auto offset = result.offsetSeconds();
    if (!offset) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("checkSound.noCheckSound"),
                          base::say("checkSound.twoNoOffset", {{"reason", result.reason}}),
                          base::say("checkSound.chooseSourceLies"));
    }
    auto left = soundOf(reference, progress.part(0.0, 0.5));
    if (!left) return tl::unexpected(left.error());
    auto right = soundOf(result.file, progress.part(0.5, 1.0));
    if (!right) return tl::unexpected(right.error());
    const double from = std::max({0.0, left->startSeconds, right->startSeconds - *offset});
    const double to = std::min(left->startSeconds + left->seconds(),
                               right->startSeconds + right->seconds() - *offset);
    const double middle =
        clapSeconds ? *clapSeconds + (0.5 - kBeforeClapShare) * seconds : 0.5 * (from + to);
    CheckStretch both;
    both.startSeconds = std::max(from, std::min(middle - 0.5 * seconds, to - seconds));
    const double length = std::clamp(to - both.startSeconds, 0.0, seconds);
    const auto count = static_cast<std::size_t>(length * kCheckRate);
    both.left = stretch(*left, both.startSeconds, count);
    // Within a stretch drift does not show; from the moment of the offset to it, it does.
    const double here = result.offsetAt(both.startSeconds + 0.5 * length).value_or(*offset);
    both.right = stretch(*right, both.startSeconds + here, count);
    even(both.left);
    even(both.right);
    return both;
}

base::Result<void> writeCheckSound(const std::string& reference,
                                   const SyncResult& result,
                                   std::optional<double> clapSeconds,
                                   const std::filesystem::path& file,
                                   const base::Progress& progress) {
    const auto both = checkStretch(reference, result, clapSeconds, kSeconds, progress);
    if (!both) return tl::unexpected(both.error());
    return sound::writeWave(file, {both->left, both->right}, kCheckRate);
}

}  // namespace rigmatch::jobs
