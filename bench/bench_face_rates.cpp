// SPDX-License-Identifier: GPL-3.0-or-later
// How often the face networks find the simulated sitters: by angle, size, exposure and curve, in
// light and dark skin, with and without glasses, hats and long hair. Usage: bench_face_rates
#include <cstdio>
#include <string>
#include <vector>

#include "face/face_finder.h"
#include "support/sitting.h"

using namespace rigmatch;
using support::Sitting;

namespace {

/// Light and dark skin, with and without glasses.
std::vector<Sitting> peopleOf(const Sitting& base) {
    std::vector<Sitting> all;
    for (const double skin : {0.29, 0.085}) {
        for (const bool hasGlasses : {false, true}) {
            Sitting one = base;
            one.skin = skin;
            one.hasGlasses = hasGlasses;
            all.push_back(one);
        }
    }
    return all;
}

void row(face::FaceFinder& finder, const std::string& name, const std::vector<Sitting>& sittings) {
    int found = 0;
    int wrong = 0;
    for (const Sitting& base : sittings) {
        for (const Sitting& sitting : peopleOf(base)) {
            const auto faces = finder.find(support::pictureOf(sitting));
            if (!faces) continue;
            bool isThere = false;
            for (const face::Face& face : *faces) {
                const bool isHead =
                    std::abs(face.centre().x - 480.0) < 0.45 * sitting.headShare * 540.0 &&
                    std::abs(face.centre().y - 270.0) < 0.45 * sitting.headShare * 540.0;
                isThere = isThere || isHead;
                if (!isHead) ++wrong;
            }
            if (isThere) ++found;
        }
    }
    std::printf(
        "%-28s %2d of %2zu found, %d elsewhere\n", name.c_str(), found, 4 * sittings.size(), wrong);
    std::fflush(stdout);
}

}  // namespace

int main() {
    auto finder = face::FaceFinder::create();
    if (!finder) return 1;
    for (const double turn : {0.0, 15.0, 30.0, 45.0, 60.0, 75.0, 90.0})
        row(*finder,
            "turned " + std::to_string(static_cast<int>(turn)) + " degrees",
            {{turn, 0.3}, {-turn, 0.3}});
    for (const bool isHat : {true, false}) {
        for (const double turn : {0.0, 30.0, 60.0, 90.0}) {
            Sitting one{turn, 0.3}, other{-turn, 0.3};
            one.hasHat = other.hasHat = isHat;
            one.hasLongHair = other.hasLongHair = !isHat;
            row(*finder,
                (isHat ? "hat, " : "long hair, ") + std::to_string(static_cast<int>(turn)) +
                    " degrees",
                {one, other});
        }
    }
    for (const double share : {0.06, 0.08, 0.12, 0.2, 0.4, 0.6})
        row(*finder,
            "head " + std::to_string(static_cast<int>(100 * share)) + " % of the height",
            {{0.0, share}, {25.0, share}});
    for (const double stops : {-3.0, -2.0, -1.0, 1.0, 2.0})
        row(*finder,
            "exposure " + std::to_string(static_cast<int>(stops)) + " stops",
            {{0.0, 0.3, stops}, {25.0, 0.3, stops}});
    for (const auto& [curve, name] : {std::pair{colour::CurveKind::Standard, "standard"},
                                      {colour::CurveKind::Bt709, "BT.709"},
                                      {colour::CurveKind::Hlg, "HLG"},
                                      {colour::CurveKind::Log, "log"}}) {
        Sitting front{0.0, 0.3};
        Sitting turned{25.0, 0.3};
        front.curve = turned.curve = curve;
        row(*finder, std::string("curve ") + name, {front, turned});
    }
    return 0;
}
