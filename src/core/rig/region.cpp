// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/region.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <string_view>

namespace rigmatch::rig {
namespace {

/// 60 Hz at 100 to 127 V, not in feet.
constexpr std::array<std::string_view, 19> kSixtyLow{"BS",
                                                     "BZ",
                                                     "CO",
                                                     "CR",
                                                     "CU",
                                                     "DO",
                                                     "EC",
                                                     "GT",
                                                     "HN",
                                                     "HT",
                                                     "MX",
                                                     "NI",
                                                     "PA",
                                                     "PR",
                                                     "SV",
                                                     "TT",
                                                     "TW",
                                                     "VE",
                                                     "VI"};
/// 60 Hz at 220 V and more.
constexpr std::array<std::string_view, 6> kSixtyHigh{"BR", "GU", "KR", "PE", "PH", "SA"};

}  // namespace

const std::vector<Region>& regions() {
    constexpr double kNtsc = 30000.0 / 1001.0;
    static const std::vector<Region> kRegions{
        {"europe", base::say("region.europe"), 50.0, 25.0, 230.0, false},
        {"northAmerica", base::say("region.northAmerica"), 60.0, kNtsc, 120.0, true},
        {"centralAmerica", base::say("region.centralAmerica"), 60.0, kNtsc, 120.0, false},
        {"sixtyHigh", base::say("region.sixtyHigh"), 60.0, kNtsc, 220.0, false},
        {"japanEast", base::say("region.japanEast"), 50.0, kNtsc, 100.0, false},
        {"japanWest", base::say("region.japanWest"), 60.0, kNtsc, 100.0, false}};
    return kRegions;
}

const Region* findRegion(const std::string& key) {
    const auto& all = regions();
    const auto found = std::find_if(
        all.begin(), all.end(), [&](const Region& region) { return region.key == key; });
    return found == all.end() ? nullptr : &*found;
}

const Region& regionOf(const std::string& territory) {
    std::string code = territory;
    for (char& letter : code)
        letter = static_cast<char>(std::toupper(static_cast<unsigned char>(letter)));
    const auto isAmong = [&](const auto& list) {
        return std::find(list.begin(), list.end(), code) != list.end();
    };
    const char* key = code == "US" || code == "CA" ? "northAmerica"
                      : code == "JP"               ? "japanEast"
                      : isAmong(kSixtyLow)         ? "centralAmerica"
                      : isAmong(kSixtyHigh)        ? "sixtyHigh"
                                                   : "europe";
    return *findRegion(key);
}

void applyRegion(SetPlan& plan, const Region& region) {
    plan.isInFeet = region.isInFeet;
    for (Circuit& circuit : plan.circuits) circuit.volts = region.volts;
}

void applyRegion(Rig& rig, const Region& region) {
    rig.choices.region = region.key;
    rig.choices.mainsHz = region.mainsHz;
    rig.choices.deliveryFps = region.framesPerSecond;
    if (rig.plan) applyRegion(*rig.plan, region);
}

}  // namespace rigmatch::rig
