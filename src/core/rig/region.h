// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "rig/rig.h"

namespace rigmatch::rig {

/// What the place of the shoot decides: mains, rate, units (sources 4.6).
struct Region {
    std::string key;   ///< "europe"
    base::Text title;  ///< "Europe, Africa, most of Asia, Australia"
    double mainsHz = 50.0;
    double framesPerSecond = 25.0;  ///< usual for delivery
    double volts = 230.0;           ///< of wall sockets
    bool isInFeet = false;
};
/// The first is taken where nothing is known.
[[nodiscard]] const std::vector<Region>& regions();
/// Of that key, or nullptr.
[[nodiscard]] const Region* findRegion(const std::string& key);
/// Of a territory's two letters (ISO 3166), in either case; the first region for others.
[[nodiscard]] const Region& regionOf(const std::string& territory);

/// Mains, delivered rate, voltage and units of the rig become those of the region. A rate that was
/// chosen by hand is overwritten: it is one click to choose it again.
void applyRegion(Rig& rig, const Region& region);
/// The same for a plan that comes into a rig of that region.
void applyRegion(SetPlan& plan, const Region& region);

}  // namespace rigmatch::rig
