// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/picture_offset.h"

#include <algorithm>
#include <cmath>

#include "image/robust.h"
#include "sound/fourier.h"

namespace rigmatch::timing {
namespace {

constexpr double kRate = 200.0;     // values per second that both are brought to
constexpr double kMean = 2.0;       // s, over which the slow part is taken away
constexpr double kMostSigma = 6.0;  // larger jumps count no more
constexpr double kLeastPeak = 5.5;  // of the peak over chance
constexpr double kLeastLikeness = 0.3;
constexpr double kLeastOverlap = 1.0;  // s
constexpr double kTwin = 0.85;         // of the peak that another may reach
constexpr int kFewestMoving = 4;       // frames with motion; fewer hold none to lay on another's
constexpr double kLeastJump = 1.0;     // 8-bit codes that a lamp brings when it is switched
constexpr double kPart = 10.0;         // s of the reference that tell an offset of their own
constexpr double kPartReach = 1.0;     // s about it
constexpr double kPartApart = 0.5;  // s about the whole's offset, in which a part's is looked for
constexpr double kPartLikeness = 0.5;  // by itself a part is too short to be sure
constexpr std::size_t kFewestParts = 3;
constexpr double kFrameShare = 0.3;  // standard deviation in frames of the slower camera

struct Even {
    double start = 0.0;
    std::vector<float> values;
};

/// A curve at an even rate, without its slow part, in standard deviations.
Even evened(const std::vector<double>& seconds, const std::vector<double>& values) {
    Even even;
    if (seconds.size() < 8) return even;
    even.start = seconds.front();
    const auto count = static_cast<std::size_t>((seconds.back() - seconds.front()) * kRate);
    std::vector<double> raw(count);
    std::size_t at = 0;
    for (std::size_t i = 0; i < count; ++i) {
        const double t = even.start + static_cast<double>(i) / kRate;
        while (at + 2 < seconds.size() && seconds[at + 1] < t) ++at;
        const double span = seconds[at + 1] - seconds[at];
        const double share = span > 0.0 ? std::clamp((t - seconds[at]) / span, 0.0, 1.0) : 0.0;
        raw[i] = values[at] + share * (values[at + 1] - values[at]);
    }
    std::vector<double> sums(count + 1, 0.0);
    for (std::size_t i = 0; i < count; ++i) sums[i + 1] = sums[i] + raw[i];
    const auto half = static_cast<std::size_t>(kMean * kRate / 2.0);
    std::vector<double> rest(count);
    for (std::size_t i = 0; i < count; ++i) {
        const std::size_t from = i > half ? i - half : 0, to = std::min(count, i + half + 1);
        rest[i] = raw[i] - (sums[to] - sums[from]) / static_cast<double>(to - from);
    }
    const double sigma = image::meanSigma(rest).sigma;
    if (sigma <= 1e-6) return even;
    for (const double value : rest)
        even.values.push_back(
            static_cast<float>(std::clamp(value / sigma, -kMostSigma, kMostSigma)));
    return even;
}

/// Correlation at every lag, and what it would be at most.
struct Lags {
    std::vector<double> likeness;  ///< of lag i - zero
    std::vector<double> height;    ///< over chance
    std::size_t zero = 0;
};

Lags laid(const Even& first, const Even& second) {
    Lags lags;
    const std::size_t a = first.values.size(), b = second.values.size();
    sound::Fourier mine(sound::fastLength(a + b + 2)), theirs(mine.length());
    const auto put = [](sound::Fourier& fourier, const std::vector<float>& values, std::size_t at) {
        auto samples = fourier.samples();
        std::fill(samples.begin(), samples.end(), 0.0F);
        std::copy(values.begin(), values.end(), samples.begin() + static_cast<std::ptrdiff_t>(at));
        fourier.forth();
    };
    put(mine, first.values, 0);
    put(theirs, second.values, a);
    const auto x = mine.spectrum();
    const auto y = theirs.spectrum();
    for (std::size_t k = 0; k < x.size(); ++k) y[k] *= std::conj(x[k]);
    theirs.back();
    const auto sums = [](const std::vector<float>& values) {
        std::vector<double> all(values.size() + 1, 0.0);
        for (std::size_t i = 0; i < values.size(); ++i)
            all[i + 1] = all[i] + static_cast<double>(values[i]) * static_cast<double>(values[i]);
        return all;
    };
    const auto energyA = sums(first.values), energyB = sums(second.values);
    lags.zero = a;
    lags.likeness.assign(a + b, 0.0);
    const auto least = static_cast<std::size_t>(kLeastOverlap * kRate);
    for (std::size_t i = 0; i < a + b; ++i) {
        // Lag i lays the first's start on sample i - a of the second.
        const std::size_t skipped = i < a ? a - i : 0;
        if (skipped >= a) continue;
        const std::size_t from = i + skipped - a;
        if (from >= b) continue;
        const std::size_t count = std::min(a - skipped, b - from);
        if (count < least) continue;
        const double energy =
            (energyA[skipped + count] - energyA[skipped]) * (energyB[from + count] - energyB[from]);
        const double fewest = 0.1 * static_cast<double>(std::min(a, b));
        const double scale = std::max(std::sqrt(energy), fewest);
        lags.likeness[i] =
            static_cast<double>(theirs.samples()[i]) / static_cast<double>(theirs.length()) / scale;
    }
    return lags;
}

/// `expected`: the offset is known about; only near it is looked, and less is asked.
base::Result<PictureOffset> offsetOf(const PictureCurve& reference,
                                     const PictureCurve& other,
                                     std::optional<double> expected = {}) {
    const auto nothing = [](const char* detail) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          "The pictures do not tell the offset.",
                          detail,
                          "Let both see one clap of hands, or switch a lamp on.");
    };
    // What is left of a still picture is its codec: key frames that come evenly would fit.
    const bool hasMotion = std::min(reference.movingFrames, other.movingFrames) >= kFewestMoving;
    const bool hasJump =
        std::min(reference.largestBrightening, other.largestBrightening) >= kLeastJump;
    if (!hasMotion && !hasJump) return nothing("Nothing moves in one of them.");
    std::vector<double> together;
    std::size_t zero = 0;
    double start = 0.0;
    for (const auto values : {&PictureCurve::motion, &PictureCurve::brightening}) {
        if (values == &PictureCurve::brightening ? !hasJump : !hasMotion) continue;
        const Even mine = evened(reference.seconds, reference.*values);
        const Even theirs = evened(other.seconds, other.*values);
        if (mine.values.empty() || theirs.values.empty()) {
            if (values == &PictureCurve::motion && !hasJump)
                return nothing("Nothing moves in one of them.");
            continue;
        }
        const Lags lags = laid(mine, theirs);
        if (together.empty()) {
            together = lags.likeness;
            zero = lags.zero;
            start = theirs.start - mine.start;
        } else if (together.size() == lags.likeness.size()) {
            // A jump of the light is worth what motion is; where there is none it is noise.
            for (std::size_t i = 0; i < together.size(); ++i)
                together[i] = std::max(together[i], lags.likeness[i]);
        }
    }
    if (together.size() < 3) return nothing("The two share less than a second.");
    auto from = together.begin() + 1, to = together.end() - 1;
    if (expected) {
        const auto index = [&](double seconds) {
            const double at = (seconds - start) * kRate + static_cast<double>(zero);
            return together.begin() + static_cast<std::ptrdiff_t>(std::clamp(
                                          at, 1.0, static_cast<double>(together.size() - 2)));
        };
        from = index(*expected - kPartApart);
        to = std::max(from + 1, index(*expected + kPartApart));
    }
    const auto best = static_cast<std::size_t>(std::max_element(from, to) - together.begin());
    const double peak = together[best];
    std::vector<double> elsewhere;
    double second = 0.0;
    const auto apart = static_cast<std::size_t>(0.5 * kRate);
    for (std::size_t i = 0; i < together.size(); ++i) {
        if (i + apart > best && i < best + apart) continue;
        if (together[i] != 0.0) elsewhere.push_back(together[i]);
        second = std::max(second, together[i]);
    }
    const double chance = std::max(image::robustSigma(elsewhere), 0.02);
    const bool isClear =
        expected ? peak >= kPartLikeness
                 : peak >= kLeastLikeness && peak >= kLeastPeak * chance && second <= kTwin * peak;
    if (!isClear) return nothing("No moment of one stands out in the other.");
    const double before = together[best - 1], after = together[best + 1];
    const double bend = before - 2.0 * peak + after;
    const double into = bend < 0.0 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0.0;
    PictureOffset offset;
    offset.offsetSeconds =
        start + (static_cast<double>(best) + into - static_cast<double>(zero)) / kRate;
    offset.uncertaintySeconds = kFrameShare * std::max(reference.frameSeconds, other.frameSeconds);
    offset.likeness = peak;
    return offset;
}

PictureCurve partOf(const PictureCurve& curve, double from, double to) {
    PictureCurve part;
    part.frameSeconds = curve.frameSeconds;
    part.movingFrames = curve.movingFrames;
    for (std::size_t i = 0; i < curve.seconds.size(); ++i) {
        if (curve.seconds[i] < from || curve.seconds[i] > to) continue;
        part.seconds.push_back(curve.seconds[i]);
        part.motion.push_back(curve.motion[i]);
        part.brightening.push_back(curve.brightening[i]);
        part.largestBrightening = std::max(part.largestBrightening, std::abs(curve.brightening[i]));
    }
    return part;
}

/// How far the offsets of parts lie apart.
std::optional<double> wander(const PictureCurve& reference,
                             const PictureCurve& other,
                             double offset) {
    if (reference.seconds.empty()) return std::nullopt;
    std::vector<double> offsets;
    for (double from = reference.seconds.front(); from + kPart <= reference.seconds.back();
         from += kPart) {
        const auto part =
            offsetOf(partOf(reference, from, from + kPart),
                     partOf(other, from + offset - kPartReach, from + kPart + offset + kPartReach),
                     offset);
        if (part) offsets.push_back(part->offsetSeconds);
    }
    if (offsets.size() < kFewestParts) return std::nullopt;
    const auto [least, most] = std::minmax_element(offsets.begin(), offsets.end());
    return *most - *least;
}

}  // namespace

base::Result<PictureOffset> findPictureOffset(const PictureCurve& reference,
                                              const PictureCurve& other) {
    auto offset = offsetOf(reference, other);
    if (offset) offset->wanderSeconds = wander(reference, other, offset->offsetSeconds);
    return offset;
}

}  // namespace rigmatch::timing
