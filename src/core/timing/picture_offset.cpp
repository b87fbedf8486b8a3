// SPDX-License-Identifier: GPL-3.0-or-later
#include "timing/picture_offset.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "image/robust.h"
#include "sound/fourier.h"
#include "timing/picture_curve.h"

namespace rigmatch::timing {
namespace {

constexpr double kRate = 200.0;     // values per second that both are brought to
constexpr double kMean = 2.0;       // s, over which the slow part is taken away
constexpr double kMostSigma = 6.0;  // larger jumps count no more
constexpr double kLeastLikeness = 0.5;
constexpr double kMostLikeness = 0.995;  // more is not told apart
constexpr double kLeastOverlap = 1.0;    // s
constexpr double kMomentsApart = 0.5;    // s, from which another moment counts
// How far the weight of the best moment stands above every other's. Other hands laid on each other
// reach 3.6 by motion alone and 2.1 with its direction; the same hands mostly 4 to 8.
constexpr double kClearByMotion = 3.9, kClearBySinking = 2.6;
constexpr int kFewestMoving = 4;    // frames with motion; fewer hold none to lay on another's
constexpr double kLeastJump = 1.0;  // 8-bit codes that a lamp brings when it is switched
constexpr double kPart = 10.0;      // s of the reference that tell an offset of their own
constexpr double kPartReach = 1.0;  // s about it
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
    if (seconds.size() < 8 || values.size() != seconds.size()) return even;
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

/// Correlation at every lag.
struct Lags {
    std::vector<double> likeness;  ///< of lag i - zero, -1..1
    std::vector<double> seconds;   ///< that the two share there
    std::size_t zero = 0;
    double start = 0.0;  ///< offset at lag 0
};

using Curves = std::vector<Even>;

/// The curves of one laid on the same curves of the other, all together.
Lags laid(const Curves& first, const Curves& second) {
    Lags lags;
    std::size_t a = first.front().values.size(), b = second.front().values.size();
    for (const Even& even : first) a = std::min(a, even.values.size());
    for (const Even& even : second) b = std::min(b, even.values.size());
    sound::Fourier mine(sound::fastLength(a + b + 2)), theirs(mine.length());
    const auto put = [](sound::Fourier& fourier,
                        const std::vector<float>& values,
                        std::size_t count,
                        std::size_t at) {
        auto samples = fourier.samples();
        std::fill(samples.begin(), samples.end(), 0.0F);
        std::copy_n(values.begin(), count, samples.begin() + static_cast<std::ptrdiff_t>(at));
        fourier.forth();
    };
    const auto addEnergy = [](std::vector<double>& all, const std::vector<float>& values) {
        double sum = 0.0;
        for (std::size_t i = 0; i + 1 < all.size(); ++i) {
            sum += static_cast<double>(values[i]) * static_cast<double>(values[i]);
            all[i + 1] += sum;
        }
    };
    std::vector<double> products(a + b, 0.0), energyA(a + 1, 0.0), energyB(b + 1, 0.0);
    for (std::size_t curve = 0; curve < first.size(); ++curve) {
        put(mine, first[curve].values, a, 0);
        put(theirs, second[curve].values, b, a);
        const auto x = mine.spectrum();
        const auto y = theirs.spectrum();
        for (std::size_t k = 0; k < x.size(); ++k) y[k] *= std::conj(x[k]);
        theirs.back();
        for (std::size_t i = 0; i < a + b; ++i)
            products[i] +=
                static_cast<double>(theirs.samples()[i]) / static_cast<double>(theirs.length());
        addEnergy(energyA, first[curve].values);
        addEnergy(energyB, second[curve].values);
    }
    lags.zero = a;
    lags.start = second.front().start - first.front().start;
    lags.likeness.assign(a + b, 0.0);
    lags.seconds.assign(a + b, 0.0);
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
        const double fewest = 0.1 * static_cast<double>(std::min(a, b) * first.size());
        lags.likeness[i] = products[i] / std::max(std::sqrt(energy), fewest);
        lags.seconds[i] = static_cast<double>(count) / kRate;
    }
    return lags;
}

/// A moment at which one may lie on the other.
struct Moment {
    std::size_t lag = 0;
    double above = 0.0;  ///< of its weight over every other moment's
};

/// Fisher's z of a correlation times the root of what it rests on: chance is as large at every
/// lag, so that a second that is alike by accident does not outweigh ten that are.
Moment bestMoment(const Lags& lags) {
    std::vector<double> weights(lags.likeness.size(), 0.0);
    for (std::size_t i = 0; i < weights.size(); ++i)
        weights[i] = std::atanh(std::clamp(lags.likeness[i], -kMostLikeness, kMostLikeness)) *
                     std::sqrt(lags.seconds[i]);
    Moment best;
    best.lag = static_cast<std::size_t>(std::max_element(weights.begin(), weights.end()) -
                                        weights.begin());
    double second = 0.0;
    const auto apart = static_cast<std::size_t>(kMomentsApart * kRate);
    for (std::size_t i = 0; i < weights.size(); ++i) {
        if (i + apart > best.lag && i < best.lag + apart) continue;
        second = std::max(second, weights[i]);
    }
    best.above = weights[best.lag] - second;
    return best;
}

PictureOffset offsetAt(const Lags& lags, std::size_t best) {
    const double before = lags.likeness[best - 1], peak = lags.likeness[best],
                 after = lags.likeness[best + 1];
    const double bend = before - 2.0 * peak + after;
    const double into = bend < 0.0 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0.0;
    PictureOffset offset;
    offset.offsetSeconds =
        lags.start + (static_cast<double>(best) + into - static_cast<double>(lags.zero)) / kRate;
    offset.likeness = peak;
    return offset;
}

/// What of two clips can be laid on each other.
struct Signs {
    bool hasMotion = false, hasJump = false;
};

Signs signsOf(const PictureCurve& reference, const PictureCurve& other) {
    // What is left of a still picture is its codec: key frames that come evenly would fit.
    return {std::min(reference.movingFrames, other.movingFrames) >= kFewestMoving,
            std::min(reference.largestBrightening, other.largestBrightening) >= kLeastJump};
}

using Values = std::vector<double> PictureCurve::*;

/// Nothing where one of them holds none of it.
std::optional<Lags> lagsOf(const PictureCurve& reference,
                           const PictureCurve& other,
                           const std::vector<Values>& which) {
    Curves mine, theirs;
    for (const Values values : which) {
        mine.push_back(evened(reference.seconds, reference.*values));
        theirs.push_back(evened(other.seconds, other.*values));
        if (mine.back().values.empty() || theirs.back().values.empty()) return std::nullopt;
    }
    auto lags = laid(mine, theirs);
    if (lags.likeness.size() < 3) return std::nullopt;
    return lags;
}

/// One of the ways in which a moment can stand out.
struct Way {
    std::vector<Values> curves;
    bool isThere = false;
    double clear = kClearByMotion;
};

base::Result<PictureOffset> offsetOf(const PictureCurve& reference, const PictureCurve& other) {
    const auto nothing = [](const base::Text& detail) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("pictureOffset.picturesNotTell"),
                          detail,
                          base::say("pictureOffset.letBothSee"));
    };
    const Signs signs = signsOf(reference, other);
    if (!signs.hasMotion && !signs.hasJump)
        return nothing(base::say("pictureOffset.nothingMovesOne"));
    // A camera that looks down sees another direction: motion alone is tried as well.
    const std::array<Way, 3> ways{
        Way{{&PictureCurve::motion, &PictureCurve::sinking}, signs.hasMotion, kClearBySinking},
        Way{{&PictureCurve::motion}, signs.hasMotion, kClearByMotion},
        Way{{&PictureCurve::brightening}, signs.hasJump, kClearByMotion}};
    std::optional<PictureOffset> found;
    double clearest = 1.0;
    bool isAny = false;
    for (const Way& way : ways) {
        const auto lags = way.isThere ? lagsOf(reference, other, way.curves) : std::nullopt;
        if (!lags) continue;
        isAny = true;
        const Moment best = bestMoment(*lags);
        if (best.lag == 0 || best.lag + 1 >= lags->likeness.size()) continue;
        if (lags->likeness[best.lag] < kLeastLikeness || best.above < clearest * way.clear)
            continue;
        clearest = best.above / way.clear;
        found = offsetAt(*lags, best.lag);
    }
    if (!isAny) return nothing(base::say("pictureOffset.nothingMovesOne"));
    if (!found) return nothing(base::say("pictureOffset.noMomentOne"));
    found->uncertaintySeconds = kFrameShare * std::max(reference.frameSeconds, other.frameSeconds);
    return *found;
}

/// The same of a part, whose offset is known about.
std::optional<double> partOffset(const PictureCurve& reference,
                                 const PictureCurve& other,
                                 double expected) {
    if (!signsOf(reference, other).hasMotion) return std::nullopt;
    const auto lags = lagsOf(reference, other, {&PictureCurve::motion});
    if (!lags) return std::nullopt;
    const auto index = [&](double seconds) {
        const double at = (seconds - lags->start) * kRate + static_cast<double>(lags->zero);
        return lags->likeness.begin() +
               static_cast<std::ptrdiff_t>(
                   std::clamp(at, 1.0, static_cast<double>(lags->likeness.size() - 2)));
    };
    const auto from = index(expected - kPartApart);
    const auto to = std::max(from + 1, index(expected + kPartApart));
    const auto best = std::max_element(from, to);
    if (*best < kPartLikeness) return std::nullopt;
    return offsetAt(*lags, static_cast<std::size_t>(best - lags->likeness.begin())).offsetSeconds;
}

PictureCurve partOf(const PictureCurve& curve, double from, double to) {
    PictureCurve part;
    part.frameSeconds = curve.frameSeconds;
    part.movingFrames = curve.movingFrames;
    for (std::size_t i = 0; i < curve.seconds.size(); ++i) {
        if (curve.seconds[i] < from || curve.seconds[i] > to) continue;
        part.seconds.push_back(curve.seconds[i]);
        part.motion.push_back(curve.motion[i]);
        if (!curve.sinking.empty()) part.sinking.push_back(curve.sinking[i]);
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
        const auto part = partOffset(
            partOf(reference, from, from + kPart),
            partOf(other, from + offset - kPartReach, from + kPart + offset + kPartReach),
            offset);
        if (part) offsets.push_back(*part);
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
