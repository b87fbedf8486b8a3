// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sim/clock_bench.h"
#include "support/synthetic_reading.h"

namespace rigmatch::support {

/// The clock bench shot twice: the second time all cameras see it `stops` brighter.
inline rig::Rig brighterSince(double stops) {
    rig::Rig rig = sim::clockBenchRig();
    rig.plan = sim::clockBenchPlan();
    for (const double by : {0.0, stops}) {
        rig::Take take;
        take.id = by == 0.0 ? "take-1" : "take-2";
        take.number = by == 0.0 ? 1 : 2;
        for (const rig::Camera& camera : std::as_const(rig).cameras) {
            IdealCamera ideal;
            ideal.exposureStops = by;
            rig::Shot shot;
            shot.cameraId = camera.id;
            shot.settings = camera.settings;
            shot.reading = idealReading(ideal);
            take.shots.push_back(shot);
        }
        rig.takes.push_back(take);
    }
    rig.target = "take:take-1";
    return rig;
}

}  // namespace rigmatch::support
