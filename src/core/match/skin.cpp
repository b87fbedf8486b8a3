// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/skin.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/constants.h"
#include "base/luma.h"
#include "match/curve_error.h"

namespace rigmatch::match {
namespace {

// What a spot of skin leaves unsure, beside noise. Set by rendered heads seen from two places, and
// from one place with and without noise (test_skin_accuracy); the saturation by heads recorded
// through unlike curves (test_skin_coverage).
constexpr double kPlaceLevelPercent = 0.2;
constexpr double kPlaceHueDegrees = 0.35;
constexpr double kPlaceSaturationShare = 0.05;
constexpr double kPlaceKeyFillStops = 0.04;
constexpr double kPlaceCastMired = 2.5;
constexpr double kPlaceCastDuv = 0.001;
constexpr double kOwnShare = 0.15;  // of a spot's spread that is not shading
// Shares of the spread within the spots by which two cameras' means differ: at once, and for every
// degree between the turns at which they see the head.
constexpr double kLevelShare = 0.15;
constexpr double kLevelShareTurned = 0.002;
constexpr double kKeyFillShare = 0.2;
constexpr double kKeyFillShareTurned = 0.02;
// Share of the spread within both cheeks by which their ratio moves with the very place of the
// spots: the search lays them anew in every picture.
constexpr double kKeyFillSpotShare = 0.36;

double lumaError(const rig::SkinReading& skin) {
    return std::hypot(base::kLumaBt709[0] * skin.standardError[0],
                      base::kLumaBt709[1] * skin.standardError[1],
                      base::kLumaBt709[2] * skin.standardError[2]);
}

/// What noise and make-up leave unsure in the chroma of a spot: shading moves all three channels
/// together and leaves the hue alone.
double chromaError(const rig::SkinReading& spot) {
    return kOwnShare * std::hypot(spot.standardError[0], spot.standardError[2]);
}

/// Spread of luma among a spot's pixels. Its standard error is that of the mean of a quarter of
/// them; shading, which makes most of it, moves all channels together.
double lumaSpread(const rig::SkinReading& skin) {
    return lumaOf(skin.standardError) * std::sqrt(0.25 * std::max(skin.pixels, 4));
}

double slopeAt(const rig::SkinReading& skin, const NeutralFit& fit) {
    return std::max(fit.curve.slopeAt(fit.curve.stopsAt(skin.signal[1])), 1e-3);
}

/// Luminance of a spot, each channel through the camera's own curve, stops; nothing beyond the
/// measured curve.
std::optional<Measured> lightOf(const rig::SkinReading& skin, const NeutralFit& fit) {
    if (!fit.curve.covers(fit.curve.stopsAt(skin.signal[1]))) return std::nullopt;
    double luminance = 0.0;
    for (std::size_t c = 0; c < 3; ++c)
        luminance += base::kLumaBt709[c] *
                     std::exp2(fit.curve.stopsAt(skin.signal[c]) - fit.channelStops[c]);
    // Noise of the spot, and how well the curve is known where it lies.
    const double curve = signalErrorAt(fit, fit.curve.stopsAt(skin.signal[1]));
    return Measured{std::log2(luminance), std::hypot(lumaError(skin), curve) / slopeAt(skin, fit)};
}

std::optional<Measured> keyFill(const rig::FaceReading& face, const NeutralFit* fit) {
    if (fit == nullptr || !face.leftCheek || !face.rightCheek) return std::nullopt;
    const auto left = lightOf(*face.leftCheek, *fit);
    const auto right = lightOf(*face.rightCheek, *fit);
    if (!left || !right) return std::nullopt;
    return Measured{left->value - right->value,
                    std::hypot(left->uncertainty, right->uncertainty, kPlaceKeyFillStops)};
}

/// Linear light of a spot's channels against green, stops.
std::array<double, 2> redBlueStops(const rig::SkinReading& skin, const NeutralFit& fit) {
    std::array<double, 3> stops{};
    for (std::size_t c = 0; c < 3; ++c) stops[c] = fit.curve.stopsAt(skin.signal[c]);
    return {stops[0] - stops[1], stops[2] - stops[1]};
}

/// Colour of the light on one spot of skin against that on another: the skin is the same, so that
/// what differs is the light.
LightCast castBetween(const rig::SkinReading& spot,
                      const rig::SkinReading& other,
                      const NeutralFit& fit) {
    const std::array<double, 2> here = redBlueStops(spot, fit);
    const std::array<double, 2> there = redBlueStops(other, fit);
    const double red = here[0] - there[0];
    const double blue = here[1] - there[1];
    const double darker = std::min(spot.signal[1], other.signal[1]);
    const double slope = std::max(fit.curve.slopeAt(fit.curve.stopsAt(darker)), 1e-3);
    const double error = std::hypot(chromaError(spot), chromaError(other)) / slope;
    return {
        {kMiredPerStop * (red - blue), std::hypot(kMiredPerStop * error, kPlaceCastMired)},
        {-0.5 * kDuvPerStop * (red + blue), std::hypot(0.5 * kDuvPerStop * error, kPlaceCastDuv)}};
}

/// Cast of the chart's neutral against D65.
LightCast chartCast(const NeutralFit& fit) {
    const auto neutral = colour::whitePointOf(colour::kD65);
    const double error = std::hypot(fit.channelStopsError[0], fit.channelStopsError[2]);
    if (!neutral) return {{0.0, kMiredPerStop}, {0.0, kDuvPerStop}};
    return {{(fit.white.mired - neutral->mired).value(), kMiredPerStop * error},
            {(fit.white.duv - neutral->duv).value(), 0.5 * kDuvPerStop * error}};
}

LightCast sumOf(const LightCast& a, const LightCast& b) {
    return {{a.mired.value + b.mired.value, std::hypot(a.mired.uncertainty, b.mired.uncertainty)},
            {a.duv.value + b.duv.value, std::hypot(a.duv.uncertainty, b.duv.uncertainty)}};
}

/// Colour of the light on the brighter cheek against that on the darker, and the white balance
/// under each.
void putCast(const rig::FaceReading& face, const NeutralFit* fit, SkinValues& values) {
    if (!values.keyFillStops || fit == nullptr) return;
    const rig::SkinReading& key = values.isLeftBrighter ? *face.leftCheek : *face.rightCheek;
    const rig::SkinReading& fill = values.isLeftBrighter ? *face.rightCheek : *face.leftCheek;
    const LightCast apart = castBetween(key, fill, *fit);
    values.keyFillMired = apart.mired;
    values.keyFillDuv = apart.duv;
    if (!face.forehead || !fit->curve.covers(fit->curve.stopsAt(face.forehead->signal[1]))) return;
    const LightCast chart = chartCast(*fit);
    values.keyCast = sumOf(chart, castBetween(key, *face.forehead, *fit));
    values.fillCast = sumOf(chart, castBetween(fill, *face.forehead, *fit));
}

/// Background against the lit skin, stops.
std::optional<Measured> backgroundOf(const rig::FaceReading& face,
                                     const rig::SkinReading& lit,
                                     const NeutralFit* fit) {
    if (fit == nullptr || !face.background) return std::nullopt;
    const auto skin = lightOf(lit, *fit);
    const auto behind = lightOf(*face.background, *fit);
    if (!skin || !behind) return std::nullopt;
    return Measured{behind->value - skin->value,
                    std::hypot(behind->uncertainty, skin->uncertainty, kPlaceKeyFillStops)};
}

Difference differenceOf(
    const Measured& mine, const Measured& theirs, double good, double accept, double placeError) {
    Difference d;
    d.good = good;
    d.accept = accept;
    d.value = mine.value - theirs.value;
    d.uncertainty = std::hypot(mine.uncertainty, theirs.uncertainty, placeError);
    d.verdict = verdictOf(d, false);
    return d;
}

Difference unknown(double good, double accept, const base::Text& reason) {
    Difference d;
    d.good = good;
    d.accept = accept;
    d.reason = reason;
    return d;
}

/// Words for a key that one camera sees on the other side of the face.
base::Text sideMismatch(const std::string& person,
                        const SkinValues& mine,
                        const SkinValues& theirs) {
    if (mine.keySideInPicture.empty() || theirs.keySideInPicture.empty()) return {};
    const bool isSame = (mine.keyFillStops->value < 0.0) == (theirs.keyFillStops->value < 0.0);
    if (isSame) return {};
    const auto side = [](const SkinValues& values) {
        return base::say(values.isLeftBrighter ? "skin.ownLeft" : "skin.ownRight",
                         {{"side", values.keySideInPicture}});
    };
    return base::say("skin.keySides",
                     {{"person", person}, {"here", side(mine)}, {"reference", side(theirs)}});
}

/// Where the key stands in the picture: the person's own left is at the right of a face that looks
/// at the camera, at the left in a mirrored picture.
std::string keySideInPicture(const rig::FaceReading& face, const Measured& keyFill) {
    constexpr double kSure = 2.0;
    if (std::abs(keyFill.value) <= kSure * keyFill.uncertainty) return {};
    const bool isOwnLeftAtRight = face.leftEye.x >= face.rightEye.x;
    return (keyFill.value > 0.0) == isOwnLeftAtRight ? "right" : "left";
}

SkinDifference differences(const std::string& person,
                           const SkinValues& mine,
                           const std::optional<SkinValues>& theirs) {
    SkinDifference result;
    result.person = person;
    result.values = mine;
    result.reference = theirs;
    if (!theirs) {
        const base::Text reason = base::say("skin.notSeen");
        result.levelPercent = unknown(2.0, 4.0, reason);
        result.hueDegrees = unknown(2.0, 4.0, reason);
        result.saturationRatio = unknown(0.05, 0.10, reason);
        result.keyFillStops = unknown(0.15, 0.3, reason);
        return result;
    }
    result.levelPercent = differenceOf(
        mine.levelPercent, theirs->levelPercent, 2.0, 4.0, levelPlaceError(mine, *theirs));
    Measured around = mine.hueDegrees;
    around.value = theirs->hueDegrees.value +
                   std::remainder(mine.hueDegrees.value - theirs->hueDegrees.value, 360.0);
    result.hueDegrees = differenceOf(around, theirs->hueDegrees, 2.0, 4.0, kPlaceHueDegrees);
    const double most = std::max(theirs->saturationPercent.value, 0.1);
    const double ratio = mine.saturationPercent.value / most;
    result.saturationRatio = unknown(0.05, 0.10, {});
    result.saturationRatio.value = ratio;
    result.saturationRatio.uncertainty =
        ratio *
        std::hypot(mine.saturationPercent.uncertainty / std::max(mine.saturationPercent.value, 0.1),
                   theirs->saturationPercent.uncertainty / most,
                   kPlaceSaturationShare);
    result.saturationRatio.verdict = verdictOf(result.saturationRatio, true);
    if (mine.keyFillStops && theirs->keyFillStops) {
        // Own choice: half of the least difference of ratio that is planned for. Along the
        // reference's key side, so that + is more contrast.
        const double side = theirs->keyFillStops->value < 0.0 ? -1.0 : 1.0;
        Measured own = *mine.keyFillStops;
        Measured other = *theirs->keyFillStops;
        own.value *= side;
        other.value *= side;
        result.keyFillStops = differenceOf(own, other, 0.15, 0.3, keyFillPlaceError(mine, *theirs));
        result.sideMismatch = sideMismatch(person, mine, *theirs);
    } else {
        result.keyFillStops = unknown(0.15, 0.3, base::say("skin.bothCheeks"));
    }
    return result;
}

const rig::FaceReading* faceFrom(const Person& person,
                                 const std::string& cameraId,
                                 const rig::Reading* reading) {
    const auto found = person.faces.find(cameraId);
    if (reading == nullptr || found == person.faces.end() || found->second >= reading->faces.size())
        return nullptr;
    return &reading->faces[found->second];
}

}  // namespace

std::optional<SkinValues> skinValues(const rig::FaceReading& face, const NeutralFit* fit) {
    const rig::SkinReading* brighter = nullptr;
    for (const auto* spot : {&face.leftCheek, &face.rightCheek}) {
        if (*spot && (brighter == nullptr || lumaOf((*spot)->signal) > lumaOf(brighter->signal)))
            brighter = &**spot;
    }
    const rig::SkinReading* spot = face.forehead ? &*face.forehead : brighter;
    if (spot == nullptr) return std::nullopt;
    SkinValues values;
    values.isForehead = face.forehead.has_value();
    values.isLeftBrighter = face.leftCheek && brighter == &*face.leftCheek;
    values.levelPercent = {100.0 * lumaOf(spot->signal), 100.0 * lumaError(*spot)};
    const Chroma chroma = chromaOf(spot->signal);
    const double error = chromaError(*spot);
    const double radius = std::max(std::hypot(chroma.cb, chroma.cr), 1e-4);
    double degrees = std::atan2(chroma.cr, chroma.cb) * base::kDegreesPerRadian;
    if (degrees < 0.0) degrees += 360.0;
    values.hueDegrees = {degrees, std::min(180.0, error / radius * base::kDegreesPerRadian)};
    values.saturationPercent = {100.0 * radius, 100.0 * error};
    values.levelSpreadPercent = 100.0 * lumaSpread(*spot);
    values.turnDegrees = face.turnDegrees;
    values.keyFillStops = keyFill(face, fit);
    if (values.keyFillStops) {
        values.keyFillSpreadStops =
            std::hypot(lumaSpread(*face.leftCheek) / slopeAt(*face.leftCheek, *fit),
                       lumaSpread(*face.rightCheek) / slopeAt(*face.rightCheek, *fit));
        values.keyFillStops->uncertainty = std::hypot(
            values.keyFillStops->uncertainty, kKeyFillSpotShare * values.keyFillSpreadStops);
        values.keySideInPicture = keySideInPicture(face, *values.keyFillStops);
    }
    putCast(face, fit, values);
    values.backgroundStops = backgroundOf(face, *spot, fit);
    values.isManual = face.isManual;
    values.isClipped = rig::isClipped(*spot);
    return values;
}

double levelPlaceError(const SkinValues& mine, const SkinValues& theirs) {
    const double apart = std::abs(mine.turnDegrees - theirs.turnDegrees);
    const double spread = std::hypot(mine.levelSpreadPercent, theirs.levelSpreadPercent);
    return std::hypot(kPlaceLevelPercent, (kLevelShare + kLevelShareTurned * apart) * spread);
}

double keyFillPlaceError(const SkinValues& mine, const SkinValues& theirs) {
    const double apart = std::abs(mine.turnDegrees - theirs.turnDegrees);
    return (kKeyFillShare + kKeyFillShareTurned * apart) *
           std::hypot(mine.keyFillSpreadStops, theirs.keyFillSpreadStops);
}

std::vector<SkinDifference> compareSkin(const People& people,
                                        const std::string& cameraId,
                                        const rig::Reading& camera,
                                        const NeutralFit* cameraFit,
                                        const std::string& referenceId,
                                        const rig::Reading* reference,
                                        const NeutralFit* referenceFit) {
    std::vector<SkinDifference> result;
    for (const Person& person : people) {
        const rig::FaceReading* mine = faceFrom(person, cameraId, &camera);
        const auto values = mine != nullptr ? skinValues(*mine, cameraFit) : std::nullopt;
        if (!values) continue;
        const rig::FaceReading* theirs = faceFrom(person, referenceId, reference);
        result.push_back(
            differences(person.name,
                        *values,
                        theirs != nullptr ? skinValues(*theirs, referenceFit) : std::nullopt));
    }
    return result;
}

void putSkin(const std::vector<SkinDifference>& skin,
             std::size_t facesSeen,
             CameraDifferences& result) {
    const auto mean = [&](Quality quality, Difference SkinDifference::*member) {
        Difference& cell = result.of(quality);
        cell = toleranceOf(quality);
        double sum = 0.0;
        double error = 0.0;
        int count = 0;
        for (const SkinDifference& person : skin) {
            const Difference& d = person.*member;
            if (!d.value) continue;
            sum += *d.value;
            error += d.uncertainty * d.uncertainty;
            ++count;
        }
        if (count == 0) {
            cell.reason = skin.empty() && facesSeen > 0 ? base::say("skin.facesSeenBut")
                          : skin.empty()                ? base::say("skin.noFaceFound")
                                                        : base::say("skin.referenceNotSee");
            return;
        }
        cell.value = sum / count;
        cell.uncertainty = std::sqrt(error) / count;
        cell.verdict = verdictOf(cell, false);
    };
    mean(Quality::SkinLevel, &SkinDifference::levelPercent);
    mean(Quality::SkinHue, &SkinDifference::hueDegrees);
}

}  // namespace rigmatch::match
