// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/details.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/luma.h"
#include "colour/primaries.h"
#include "match/compare_parts.h"
#include "match/judge.h"
#include "match/predict.h"

namespace rigmatch::match {
namespace {

constexpr double kLightGrey = 1.4;   // stops from 18 %: greys above are light, …
constexpr double kDarkGrey = -2.0;   // … below dark, …
constexpr double kMiddleGrey = 1.2;  // … and within this of 18 % middle

/// Light of a channel against green's curve, less what the chart reflects, stops.
std::optional<Measured> shiftOf(const rig::PatchReading& patch,
                                std::size_t channel,
                                const NeutralFit& fit) {
    if (!rig::isUsable(patch)) return std::nullopt;
    const double stops = fit.curve.stopsAt(patch.signal[channel]);
    if (!fit.curve.covers(stops)) return std::nullopt;
    const double slope = std::max(fit.curve.slopeAt(stops), 1e-3);
    return Measured{stops - std::log2(patch.nominalLinear[channel] / 0.18),
                    patch.standardError[channel] / slope};
}

/// Mean shift of red or blue against green over some greys.
std::optional<Measured> meanShift(const rig::Reading& reading,
                                  const NeutralFit& fit,
                                  std::size_t channel,
                                  double fromStops,
                                  double toStops) {
    Measured mean;
    double count = 0.0;
    for (const rig::PatchReading& patch : reading.patches) {
        const double at = std::log2(std::max(patch.nominalLinear[1], 1e-6) / 0.18);
        if (!patch.isNeutral || at < fromStops || at > toStops) continue;
        const auto shift = shiftOf(patch, channel, fit);
        const auto green = shiftOf(patch, 1, fit);
        if (!shift || !green) continue;
        mean.value += shift->value - green->value;
        mean.uncertainty +=
            shift->uncertainty * shift->uncertainty + green->uncertainty * green->uncertainty;
        count += 1.0;
    }
    if (count < 1.0) return std::nullopt;
    return Measured{mean.value / count, std::sqrt(mean.uncertainty) / count};
}

std::optional<LevelCast> castAt(const rig::Reading& reading,
                                const NeutralFit& fit,
                                double fromStops,
                                double toStops) {
    const auto red = meanShift(reading, fit, 0, fromStops, toStops);
    const auto blue = meanShift(reading, fit, 2, fromStops, toStops);
    const auto middleRed = meanShift(reading, fit, 0, -kMiddleGrey, kMiddleGrey);
    const auto middleBlue = meanShift(reading, fit, 2, -kMiddleGrey, kMiddleGrey);
    if (!red || !blue || !middleRed || !middleBlue) return std::nullopt;
    const double redMore = red->value - middleRed->value;
    const double blueMore = blue->value - middleBlue->value;
    const double error = std::hypot(std::hypot(red->uncertainty, blue->uncertainty),
                                    std::hypot(middleRed->uncertainty, middleBlue->uncertainty));
    return LevelCast{
        {kMiredPerStop * (redMore - blueMore), kMiredPerStop * error + 0.5},
        {-0.5 * kDuvPerStop * (redMore + blueMore), 0.5 * kDuvPerStop * error + 0.0002}};
}

double degreesOf(const Chroma& c) { return std::atan2(c.cr, c.cb) * 180.0 / std::numbers::pi; }

/// Sums that give one complex ratio between two lists of chroma, and what it leaves.
struct Ratio {
    double along = 0.0, across = 0.0, norm = 0.0, own = 0.0, errors = 0.0;
    int count = 0;

    void add(const Chroma& mine, const Chroma& theirs, double error) {
        along += mine.cb * theirs.cb + mine.cr * theirs.cr;
        across += theirs.cb * mine.cr - theirs.cr * mine.cb;
        norm += theirs.cb * theirs.cb + theirs.cr * theirs.cr;
        errors += error * error;
        ++count;
    }
};

}  // namespace

std::optional<double> patchLight(const rig::PatchReading& patch, const NeutralFit& fit) {
    std::array<double, 3> light{};
    for (std::size_t c = 0; c < 3; ++c) {
        const double stops = fit.curve.stopsAt(patch.signal[c]);
        if (c == 1 && !fit.curve.covers(stops)) return std::nullopt;
        light[c] = std::exp2(stops - fit.channelStops[c]);
    }
    return std::log2(base::lumaOf(light));
}

std::optional<LevelCast> highlightCast(const rig::Reading& reading, const NeutralFit& fit) {
    return castAt(reading, fit, kLightGrey, 9.0);
}

std::optional<LevelCast> shadowCast(const rig::Reading& reading, const NeutralFit& fit) {
    return castAt(reading, fit, -9.0, kDarkGrey);
}

std::array<HueSector, 6> hueSectors(const rig::Reading& camera,
                                    const CameraDifferences& differences,
                                    const rig::Reading& reference) {
    // Hues of the primaries and secondaries in the BT.709 Cb/Cr plane (sources 5.7).
    static constexpr std::array<double, 6> kHues{102.9, 174.8, 229.7, 282.9, 354.8, 49.7};
    static constexpr std::array<const char*, 6> kNames{
        "red", "yellow", "green", "cyan", "blue", "magenta"};
    std::array<HueSector, 6> sectors;
    std::array<Ratio, 6> ratios;
    const Change even{-differences.of(Quality::Exposure).value.value_or(0.0),
                      -differences.of(Quality::WhiteBalance).value.value_or(0.0),
                      -differences.of(Quality::Tint).value.value_or(0.0)};
    const PatchSignals mine = predicted(camera, *differences.fit, even);
    const bool isSameGrid = !chartMismatch(camera, reference);
    for (std::size_t i = 0; isSameGrid && i < reference.patches.size(); ++i) {
        const rig::PatchReading& theirs = reference.patches[i];
        if (theirs.isNeutral || rig::isOutsideGamut(theirs) || !rig::isUsable(theirs) ||
            !rig::isUsable(camera.patches[i]))
            continue;
        const Chroma chroma = chromaOf(theirs.signal);
        std::size_t nearest = 0;
        for (std::size_t s = 1; s < 6; ++s) {
            const auto away = [&](std::size_t sector) {
                return std::abs(std::remainder(degreesOf(chroma) - kHues[sector], 360.0));
            };
            if (away(s) < away(nearest)) nearest = s;
        }
        const double error = std::hypot(chromaError(camera.patches[i].standardError),
                                        chromaError(theirs.standardError));
        ratios[nearest].add(chromaOf(mine[i]), chroma, error);
    }
    for (std::size_t s = 0; s < 6; ++s) {
        HueSector& sector = sectors[s];
        sector.name = kNames[s];
        sector.saturationRatio = toleranceOf(Quality::Saturation);
        sector.hueDegrees = toleranceOf(Quality::Hue);
        const Ratio& r = ratios[s];
        if (r.count == 0 || r.norm < 1e-5) {
            sector.saturationRatio.reason =
                isSameGrid ? base::say("unknown.noPatchOfHue") : base::say("unknown.unlikeCharts");
            sector.hueDegrees.reason = sector.saturationRatio.reason;
            continue;
        }
        const double error = std::hypot(std::sqrt(r.errors / r.norm), 0.01);
        const double ratio = std::hypot(r.along, r.across) / r.norm;
        setValue(sector.saturationRatio, Quality::Saturation, ratio, error);
        setValue(sector.hueDegrees,
                 Quality::Hue,
                 std::atan2(r.across, r.along) * 180.0 / std::numbers::pi,
                 error / std::max(ratio, 0.05) * 180.0 / std::numbers::pi);
    }
    return sectors;
}

double LightFall::size() const {
    return std::max(std::abs(acrossStops.value), std::abs(downStops.value));
}

namespace {

/// Where a patch lies on the chart, 0..1 across and down.
struct Place {
    double x = 0.0, y = 0.0;
};

Place placeOf(const rig::Reading& reading, std::size_t patch) {
    const auto columns = static_cast<std::size_t>(std::max(reading.columns, 1));
    const std::size_t column = patch % columns, row = patch / columns;
    return {static_cast<double>(column) / std::max(reading.columns - 1.0, 1.0),
            static_cast<double>(row) / std::max(reading.rows - 1.0, 1.0)};
}

/// Where on the chart the grey of a given light would stand: the curve was taken from the grey row
/// as if it were evenly lit.
class GreyPlaces {
public:
    explicit GreyPlaces(const rig::Reading& reading) {
        for (std::size_t i = 0; i < reading.patches.size(); ++i) {
            if (reading.patches[i].isNeutral)
                m_greys.push_back(
                    {std::log2(reading.patches[i].nominalLinear[1]), placeOf(reading, i)});
        }
        std::sort(m_greys.begin(), m_greys.end(), [](const auto& l, const auto& r) {
            return l.first < r.first;
        });
    }
    [[nodiscard]] bool isEmpty() const { return m_greys.empty(); }
    [[nodiscard]] Place at(double stops) const {
        if (stops <= m_greys.front().first) return m_greys.front().second;
        for (std::size_t i = 0; i + 1 < m_greys.size(); ++i) {
            if (stops > m_greys[i + 1].first) continue;
            const double share =
                (stops - m_greys[i].first) / (m_greys[i + 1].first - m_greys[i].first);
            const Place& from = m_greys[i].second;
            const Place& to = m_greys[i + 1].second;
            return {from.x + share * (to.x - from.x), from.y + share * (to.y - from.y)};
        }
        return m_greys.back().second;
    }

private:
    std::vector<std::pair<double, Place>> m_greys;
};

/// Plane through rows of (across, down, light), through 0. Saturated patches depart with the
/// camera's colour matrix: a robust fit (Huber weights).
LightFall planeThrough(const std::vector<std::array<double, 3>>& rows) {
    Eigen::Vector2d fall(0, 0);
    Eigen::Matrix2d inverse;
    double scatter = 0.0;
    std::vector<double> weights(rows.size(), 1.0);
    for (int round = 0; round < 8; ++round) {
        Eigen::Matrix2d normal = Eigen::Matrix2d::Zero();
        Eigen::Vector2d right(0, 0);
        for (std::size_t i = 0; i < rows.size(); ++i) {
            const Eigen::Vector2d a(rows[i][0], rows[i][1]);
            normal += weights[i] * a * a.transpose();
            right += weights[i] * a * rows[i][2];
        }
        inverse = normal.inverse();
        fall = inverse * right;
        double sum = 0.0, weight = 0.0;
        for (std::size_t i = 0; i < rows.size(); ++i) {
            const double rest = rows[i][2] - fall.dot(Eigen::Vector2d(rows[i][0], rows[i][1]));
            sum += weights[i] * rest * rest;
            weight += weights[i];
            weights[i] = std::min(1.0, 0.1 / std::max(std::abs(rest), 1e-6));
        }
        scatter = sum / std::max(1.0, weight - 2.0);
    }
    // Neighbouring hues depart alike with the camera's colour matrix: fewer patches tell than there
    // are (test_coverage).
    constexpr double kTied = 1.3;
    const auto error = [&](int i) { return kTied * std::sqrt(scatter * inverse(i, i)); };
    return {{fall(0), error(0)}, {fall(1), error(1)}};
}

}  // namespace

std::optional<LightFall> lightFall(const rig::Reading& reading, const NeutralFit& fit) {
    if (fit.isCurveAssumed) return std::nullopt;
    const GreyPlaces greys(reading);
    if (greys.isEmpty()) return std::nullopt;
    std::vector<std::array<double, 3>> rows;  // across, down, residual
    for (std::size_t i = 0; i < reading.patches.size(); ++i) {
        const rig::PatchReading& patch = reading.patches[i];
        if (patch.isNeutral || rig::isOutsideGamut(patch) || !rig::isUsable(patch)) continue;
        const auto light = patchLight(patch, fit);
        if (!light) continue;
        const double nominal = std::log2(lumaOf(patch.nominalLinear) / 0.18);
        const Place at = placeOf(reading, i);
        const Place grey = greys.at(*light + std::log2(0.18));
        rows.push_back({at.x - grey.x, at.y - grey.y, *light - nominal});
    }
    if (rows.size() < 10) return std::nullopt;
    return planeThrough(rows);
}

rig::Reading evened(const rig::Reading& reading, const LightPlane& plane) {
    rig::Reading even = reading;
    for (std::size_t i = 0; i < even.patches.size(); ++i) {
        const Place at = placeOf(even, i);
        for (double& light : even.patches[i].nominalLinear)
            light *= std::exp2(plane.acrossStops * (at.x - 0.5) + plane.downStops * (at.y - 0.5));
    }
    return even;
}

std::optional<LightPlane> commonLight(const std::vector<LightFall>& falls) {
    if (falls.empty()) return std::nullopt;
    constexpr double kCameraStops = 0.05;  // what a camera adds of its own: lens, matrix, place
    const auto mean = [&](Measured LightFall::*axis) {
        double sum = 0.0, weights = 0.0;
        for (const LightFall& fall : falls) {
            const Measured& m = fall.*axis;
            const double weight =
                1.0 / (m.uncertainty * m.uncertainty + kCameraStops * kCameraStops);
            sum += weight * m.value;
            weights += weight;
        }
        return sum / weights;
    };
    return LightPlane{mean(&LightFall::acrossStops), mean(&LightFall::downStops)};
}

std::optional<rig::Reading> evened(const rig::Reading& reading) {
    constexpr double kLeastFall = 0.1;
    constexpr double kSure = 4.0;
    if (!reading.hasChart) return std::nullopt;
    const auto fit = fitNeutrals(reading);
    const auto fall = fit ? lightFall(reading, *fit) : std::nullopt;
    if (!fall) return std::nullopt;
    const auto taken = [](const Measured& m) {
        return std::abs(m.value) > kSure * m.uncertainty ? m.value : 0.0;
    };
    const double across = taken(fall->acrossStops);
    const double down = taken(fall->downStops);
    if (std::max(std::abs(across), std::abs(down)) < kLeastFall) return std::nullopt;
    return evened(reading, LightPlane{across, down});
}

std::optional<Measured> veil(const rig::Reading& reading, const colour::TransferCurve& declared) {
    const auto greyAt = rig::greyPatch(reading);
    const auto blackAt = rig::blackPatch(reading);
    if (!greyAt || !blackAt) return std::nullopt;
    const rig::PatchReading& grey = reading.patches[*greyAt];
    const rig::PatchReading& black = reading.patches[*blackAt];
    const auto light = [&](const rig::PatchReading& patch) {
        return declared.decode(lumaOf(patch.signal));
    };
    const double scale = light(grey);
    if (scale <= 1e-4 || rig::isClipped(grey)) return std::nullopt;
    const double share = light(black) / scale * grey.nominalLinear[1];
    const double step = declared.decode(black.signal[1] + black.standardError[1]) -
                        declared.decode(black.signal[1]);
    return Measured{share - black.nominalLinear[1],
                    std::hypot(step / scale * grey.nominalLinear[1], 0.001)};
}

std::optional<Drift> driftOf(const rig::Reading& reading, const NeutralFit& fit) {
    const auto grey = rig::greyPatch(reading);
    if (!reading.drift || !grey) return std::nullopt;
    const rig::DriftReading& watched = *reading.drift;
    std::array<Measured, 3> stops;
    for (std::size_t c = 0; c < 3; ++c) {
        const double at = fit.curve.stopsAt(reading.patches[*grey].signal[c]);
        const double slope = std::max(fit.curve.slopeAt(at), 1e-3);
        stops[c] = {watched.seconds * watched.signalPerSecond[c] / slope,
                    watched.seconds * watched.standardError[c] / slope};
    }
    Drift drift;
    drift.seconds = watched.seconds;
    drift.stops = stops[1];
    drift.mired = {kMiredPerStop * (stops[0].value - stops[2].value),
                   kMiredPerStop * std::hypot(stops[0].uncertainty, stops[2].uncertainty)};
    const auto notable = [](const Measured& m, double limit) {
        return std::abs(m.value) > limit && std::abs(m.value) > 3.0 * m.uncertainty;
    };
    drift.isNotable = notable(drift.stops, 0.1) || notable(drift.mired, 5.0);
    return drift;
}

std::optional<OffMiddle> offMiddle(const rig::Reading& reading,
                                   const rig::Camera& camera,
                                   double framesPerSecond) {
    if (!reading.hasChart || reading.width < 2 || reading.height < 2) return std::nullopt;
    constexpr double kFarShare = 0.6;
    constexpr double kLostStops = 0.1;
    double x = 0.0, y = 0.0;
    for (const rig::PicturePoint& corner : reading.corners) {
        x += 0.25 * (corner.x + 0.5) - 0.125 * reading.width;
        y += 0.25 * (corner.y + 0.5) - 0.125 * reading.height;
    }
    const double away = std::hypot(x, y);
    OffMiddle place;
    place.share = away / (0.5 * std::hypot(reading.width, reading.height));
    const double millimetres = away / reading.width * camera.sensorWidthMm /
                               rig::cropAtRate(camera.sheet, framesPerSecond);
    const double angle = std::atan(millimetres / std::max(camera.lens.focalLengthMm, 1.0));
    place.naturalStops = 4.0 * std::log2(std::cos(angle));
    place.isNotable = place.share > kFarShare || place.naturalStops < -kLostStops;
    return place;
}

}  // namespace rigmatch::match
