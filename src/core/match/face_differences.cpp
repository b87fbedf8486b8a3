// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/face_differences.h"

#include <algorithm>
#include <cmath>

#include "base/luma.h"
#include "colour/primaries.h"

namespace rigmatch::match {
namespace {

using base::say;

// Of one face, one standard deviation (common practice): what shine, side light and unlike spots
// do.
constexpr double kStops = 0.15, kMired = 6.0, kDuv = 0.0015;
constexpr double kAlikeDegrees = 20.0;   // apart: up to here as above …
constexpr double kDoubleDegrees = 45.0;  // … and twice that here
constexpr double kSlopeDoubt = 0.3;      // share by which an assumed curve's slope may be wrong
constexpr double kFreedom = 4.0;         // of a Student weight: one odd face counts for less
constexpr double kMostClipped = 0.02;

/// One person on both cameras.
struct FacePair {
    double stops = 0.0, mired = 0.0, duv = 0.0;
    double scale = 1.0;  ///< of the uncertainties, by how far apart the cameras stand
};

/// A curve that is known only in its kind: BT.709 (ITU-R BT.709-6 item 1.2).
const ToneCurve& usualCurve() {
    static const ToneCurve kCurve = [] {
        const colour::TransferCurve bt709 = colour::curveOf(colour::CurveKind::Bt709);
        std::vector<CurvePoint> points;
        for (double stops = -6.0; stops <= 2.5; stops += 0.5)
            points.push_back({stops, bt709.encode(0.18 * std::exp2(stops))});
        return ToneCurve(points);
    }();
    return kCurve;
}

const ToneCurve& curveOf(const FaceSide& side) {
    return side.curve != nullptr ? *side.curve : usualCurve();
}

std::array<double, 3> stopsOf(const ToneCurve& curve, const std::array<double, 3>& signal) {
    return {curve.stopsAt(signal[0]), curve.stopsAt(signal[1]), curve.stopsAt(signal[2])};
}

/// What channels that differ by so many stops render white as, against D65.
std::optional<colour::WhitePoint> castOf(const std::array<double, 3>& stops) {
    const colour::Vector3 rgb(std::exp2(stops[0] - stops[1]), 1.0, std::exp2(stops[2] - stops[1]));
    const colour::Matrix3 toXyz = colour::rgbToXyz(colour::kBt709);
    const auto white = colour::whitePointOf(colour::chromaticityOf(colour::Vector3(toXyz * rgb)));
    const auto d65 = colour::whitePointOf(colour::kD65);
    if (!white || !d65) return std::nullopt;
    return colour::WhitePoint{white->mired - d65->mired, white->duv - d65->duv};
}

const rig::FaceReading* faceOf(const Person& person, const FaceSide& side) {
    const auto found = person.faces.find(side.cameraId);
    if (found == person.faces.end() || side.reading == nullptr ||
        found->second >= side.reading->faces.size())
        return nullptr;
    const rig::FaceReading& face = side.reading->faces[found->second];
    const bool isGood = face.forehead && face.forehead->clippedShare <= kMostClipped;
    return isGood ? &face : nullptr;
}

std::vector<FacePair> pairsOf(const People& people,
                              const FaceSide& camera,
                              const FaceSide& reference) {
    std::vector<FacePair> pairs;
    for (const Person& person : people) {
        const rig::FaceReading* mine = faceOf(person, camera);
        const rig::FaceReading* theirs = faceOf(person, reference);
        if (mine == nullptr || theirs == nullptr) continue;
        const auto a = stopsOf(curveOf(camera), mine->forehead->signal);
        const auto b = stopsOf(curveOf(reference), theirs->forehead->signal);
        FacePair pair;
        const auto cast = castOf({a[0] - b[0], a[1] - b[1], a[2] - b[2]});
        if (!cast) continue;
        pair.mired = cast->mired.value();
        pair.duv = cast->duv.value();
        // Two finished pictures are turned to one level through this camera's own curve, a
        // recording that is to be converted by the light of the scene.
        const bool isByScene = camera.isToConvert || reference.isToConvert;
        const double level = base::lumaOf(mine->forehead->signal);
        const double aim = base::lumaOf(theirs->forehead->signal);
        pair.stops = curveOf(camera).stopsAt(level) -
                     (isByScene ? curveOf(reference) : curveOf(camera)).stopsAt(aim);
        const double apart = std::abs(mine->turnDegrees - theirs->turnDegrees);
        pair.scale =
            1.0 + std::max(0.0, (apart - kAlikeDegrees) / (kDoubleDegrees - kAlikeDegrees));
        pairs.push_back(pair);
    }
    return pairs;
}

/// Weighed mean of one number over the people; an odd one counts for less (Student's t).
Measured weighed(const std::vector<FacePair>& pairs, double FacePair::*value, double sigma) {
    Measured mean;
    std::vector<double> trust(pairs.size(), 1.0);
    for (int round = 0; round < 4; ++round) {
        double sum = 0.0, weights = 0.0;
        for (std::size_t i = 0; i < pairs.size(); ++i) {
            const double weight = trust[i] / std::pow(sigma * pairs[i].scale, 2.0);
            sum += weight * pairs[i].*value;
            weights += weight;
        }
        mean = {sum / weights, std::sqrt(1.0 / weights)};
        for (std::size_t i = 0; i < pairs.size(); ++i) {
            const double off = (pairs[i].*value - mean.value) / (sigma * pairs[i].scale);
            trust[i] = std::min(1.0, (kFreedom + 1.0) / (kFreedom + off * off));
        }
    }
    return mean;
}

base::Text facesText(std::size_t count) {
    return count == 1 ? say("faces.fromOne")
                      : say("faces.fromSeveral", {{"count", base::Number{double(count)}}});
}

}  // namespace

bool compareFaces(const People& people,
                  const FaceSide& camera,
                  const FaceSide& reference,
                  CameraDifferences& result) {
    const std::vector<FacePair> pairs = pairsOf(people, camera, reference);
    if (pairs.empty()) return false;
    const bool isCurveKnown = camera.curve != nullptr && reference.curve != nullptr;
    const base::Text source = say("faces.withoutChart", {{"from", facesText(pairs.size())}});
    const auto put = [&](Quality quality, const Measured& measured) {
        setValue(result.of(quality), quality, measured.value, measured.uncertainty);
        result.of(quality).reason = source;
    };
    const auto doubtful = [&](Measured measured) {
        if (!isCurveKnown)
            measured.uncertainty = std::hypot(measured.uncertainty, kSlopeDoubt * measured.value);
        return measured;
    };
    put(Quality::WhiteBalance, doubtful(weighed(pairs, &FacePair::mired, kMired)));
    put(Quality::Tint, doubtful(weighed(pairs, &FacePair::duv, kDuv)));
    if (isCurveKnown) {
        put(Quality::Exposure, weighed(pairs, &FacePair::stops, kStops));
    } else {
        result.of(Quality::Exposure).reason = say("faces.curveUnknown");
        result.exposureReason = result.of(Quality::Exposure).reason;
        result.exposureBasis = ExposureBasis::None;
    }
    NeutralFit fit;
    fit.curve = curveOf(camera);
    fit.isCurveAssumed = true;
    fit.white = colour::whitePointOf(colour::kD65).value_or(colour::WhitePoint{});
    result.fit = fit;
    result.notes.push_back(say("faces.holdUpChart", {{"source", source}}));
    return true;
}

CameraDifferences onlySure(const CameraDifferences& differences) {
    CameraDifferences sure = differences;
    for (const Quality quality : {Quality::Exposure, Quality::WhiteBalance, Quality::Tint}) {
        Difference& difference = sure.of(quality);
        if (difference.value && std::abs(*difference.value) <= 2.0 * difference.uncertainty)
            difference.value = 0.0;
    }
    return sure;
}

}  // namespace rigmatch::match
