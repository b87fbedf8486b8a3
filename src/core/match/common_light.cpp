// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/common_light.h"

#include <algorithm>
#include <cmath>

namespace rigmatch::match {
namespace {

constexpr double kLeastStops = 0.1, kLeastMired = 5.0;
constexpr double kAlikeShare = 1.0 / 3.0;

struct Shared {
    double value = 0.0, uncertainty = 0.0;
    std::size_t cameras = 0;
};

/// What all have of one quality. What makes one reading unsure may make all of them so: the
/// uncertainty is no smaller for being shared.
std::optional<Shared> sharedOf(const std::vector<const CameraDifferences*>& cameras,
                               Quality quality,
                               double least) {
    Shared shared;
    std::vector<double> values;
    double variance = 0.0;
    for (const CameraDifferences* camera : cameras) {
        const Difference& one = camera->judged(quality);
        if (!one.value) return std::nullopt;
        values.push_back(*one.value);
        shared.value += *one.value;
        variance += one.uncertainty * one.uncertainty;
    }
    if (values.size() < 2) return std::nullopt;
    const auto count = static_cast<double>(values.size());
    shared.cameras = values.size();
    shared.value /= count;
    shared.uncertainty = std::sqrt(variance / count);
    const double size = std::abs(shared.value);
    if (size < std::max(least, 2.0 * shared.uncertainty)) return std::nullopt;
    const double alike = std::max(kAlikeShare * size, 2.0 * shared.uncertainty);
    const bool areAlike = std::all_of(values.begin(), values.end(), [&](double value) {
        return std::abs(value - shared.value) <= alike;
    });
    return areAlike ? std::optional(shared) : std::nullopt;
}

}  // namespace

std::optional<CommonLight> commonLight(const std::vector<const CameraDifferences*>& cameras) {
    const auto stops = sharedOf(cameras, Quality::Exposure, kLeastStops);
    const auto mired = sharedOf(cameras, Quality::WhiteBalance, kLeastMired);
    if (!stops && !mired) return std::nullopt;
    CommonLight light;
    if (stops) {
        light.cameras = stops->cameras;
        light.stops = stops->value;
        light.stopsUncertainty = stops->uncertainty;
    }
    if (mired) {
        light.cameras = mired->cameras;
        light.mired = mired->value;
        light.miredUncertainty = mired->uncertainty;
    }
    return light;
}

}  // namespace rigmatch::match
