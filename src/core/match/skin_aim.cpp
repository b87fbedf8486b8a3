// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/skin_aim.h"

#include <algorithm>
#include <cmath>

#include "base/luma.h"
#include "match/correction.h"

namespace rigmatch::match {
namespace {

using base::Number;
using base::say;
using Signal = std::array<double, 3>;

constexpr double kFarthestViews = 60.0;  // degrees between how two cameras see a head turned
constexpr double kPlaceChroma = 0.05;    // of the distance from neutral (docs/sources.md, 6.11)
constexpr double kMostShade = 4.0;       // times the light: beyond, one of them sees a shadow
constexpr double kSeenOtherwise = 2.0;   // ΔE2000

const rig::FaceReading* faceOf(const Person& person, const SkinSide& side) {
    const auto found = person.faces.find(side.cameraId);
    if (side.reading == nullptr || found == person.faces.end() ||
        found->second >= side.reading->faces.size())
        return nullptr;
    const rig::FaceReading& face = side.reading->faces[found->second];
    return face.forehead && !rig::isClipped(*face.forehead) ? &face : nullptr;
}

Signal inBt709(const SkinSide& side, const Signal& recorded) {
    return side.toBt709 != nullptr ? side.toBt709->toBt709(recorded) : recorded;
}

double lumaOfLight(const Eigen::Vector3d& light) {
    return base::lumaOf(Signal{light[0], light[1], light[2]});
}

double errorOf(const rig::SkinReading& skin) {
    double sum = 0.0;
    for (const double error : skin.standardError) sum += error * error;
    return std::sqrt(sum / 3.0);
}

/// `signal` with its colour farther from neutral by a share.
Signal moreColourful(const Signal& signal, double share) {
    const double luma = lumaOf(signal);
    Signal made{};
    for (std::size_t c = 0; c < 3; ++c) made[c] = luma + (1.0 + share) * (signal[c] - luma);
    return made;
}

double deltaE(const Signal& a, const Signal& b, const Judge& judge) {
    return colourDifference({a}, judge, {b}, judge).mean;
}

}  // namespace

std::vector<SkinAim> skinAims(const People& people,
                              const SkinSide& mine,
                              const SkinSide& theirs,
                              const Correction& byChart,
                              const BodyModel& theirBody,
                              const Judge& judge) {
    std::vector<SkinAim> aims;
    for (const Person& person : people) {
        const rig::FaceReading* here = faceOf(person, mine);
        const rig::FaceReading* there = faceOf(person, theirs);
        if (here == nullptr || there == nullptr ||
            std::abs(here->turnDegrees - there->turnDegrees) > kFarthestViews)
            continue;
        SkinAim aim;
        aim.person = person.name;
        aim.recorded = inBt709(mine, here->forehead->signal);
        const Signal byTheChart = byChart.apply(aim.recorded);
        const Eigen::Vector3d seen = theirBody.lightOf(inBt709(theirs, there->forehead->signal));
        const double level = lumaOfLight(theirBody.lightOf(byTheChart)) / lumaOfLight(seen);
        if (!(level > 1.0 / kMostShade && level < kMostShade)) continue;
        aim.aim = theirBody.signalOfCoded(level * seen);
        const Chroma chroma = chromaOf(aim.aim);
        aim.noise = std::hypot(errorOf(*here->forehead),
                               errorOf(*there->forehead),
                               kPlaceChroma * std::hypot(chroma.cb, chroma.cr));
        aim.apart = {deltaE(byTheChart, aim.aim, judge),
                     deltaE(moreColourful(aim.aim, kPlaceChroma), aim.aim, judge)};
        aims.push_back(aim);
    }
    return aims;
}

bool isSeenOtherwise(const SkinAim& aim) {
    return aim.apart.value - aim.apart.uncertainty > kSeenOtherwise;
}

base::Text seenOtherwiseText(const SkinAim& aim) {
    return say("skin.lightSetBetter",
               {{"person", aim.person},
                {"apart", Number{aim.apart.value, 1}},
                {"uncertainty", Number{std::max(aim.apart.uncertainty, 0.1), 1}}});
}

std::vector<FartherSkin> fartherByTurns(const People& people,
                                        const SkinSide& mine,
                                        const SkinSide& theirs,
                                        const BodyModel::Map& turned,
                                        const SkinJudges& judges) {
    constexpr double kLeast = 1.0;
    constexpr double kErrorPerPercent = 1.0;  // ΔE2000 of a difference in level (sources 5.10)
    std::vector<FartherSkin> found;
    for (const Person& person : people) {
        const rig::FaceReading* here = faceOf(person, mine);
        const rig::FaceReading* there = faceOf(person, theirs);
        if (here == nullptr || there == nullptr) continue;
        const auto seen = skinValues(*here, nullptr), other = skinValues(*there, nullptr);
        const Signal now = inBt709(mine, here->forehead->signal);
        const Signal aim = inBt709(theirs, there->forehead->signal);
        const auto apart = [&](const Signal& signal) {
            return colourDifference({signal}, judges.mine, {aim}, judges.theirs).mean;
        };
        FartherSkin skin{
            person.name,
            apart(now),
            {apart(turned.apply(now)), kErrorPerPercent * levelPlaceError(*seen, *other)}};
        if (skin.after.value - skin.before > kLeast + 2.0 * skin.after.uncertainty)
            found.push_back(skin);
    }
    return found;
}

base::Text fartherText(const FartherSkin& skin) {
    return say("skin.holdChartWhere",
               {{"person", skin.person},
                {"before", Number{skin.before, 1}},
                {"after", Number{skin.after.value, 1}},
                {"uncertainty", Number{std::max(skin.after.uncertainty, 0.1), 1}}});
}

}  // namespace rigmatch::match
