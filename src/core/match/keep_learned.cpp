// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/keep_learned.h"

#include <cmath>

namespace rigmatch::match {

void keepLearned(const LearnedControls& learned, rig::ControlSheet& sheet) {
    if (learned.exposure.takes > 0) sheet.stopsPerStop = learned.exposure.share;
    if (learned.nd.takes > 0 && rig::hasOwnNd(sheet)) {
        sheet.ndTaught.clear();
        for (const double stops : sheet.ndStops) {
            if (stops > 0.0) sheet.ndTaught.push_back({stops, learned.ndOf(stops).share * stops});
        }
    }
    if (learned.whiteBalance.takes > 0) sheet.miredPerMired = learned.whiteBalance.share;
    if (learned.tint.takes > 0) sheet.tintDuvPerStep *= learned.tint.share;
    for (const KnobResponse& knob : learned.knobs) {
        if (knob.takes == 0) continue;
        for (rig::Knob& own : sheet.knobs) {
            if (own.name != knob.name) continue;
            switch (own.kind) {
                case rig::KnobKind::Contrast:
                    own.perStep = std::exp(knob.shown.contrast) - 1.0;
                    break;
                case rig::KnobKind::Black:
                    own.perStep = knob.shown.blackPercent;
                    break;
                case rig::KnobKind::Saturation:
                    own.perStep = std::exp(knob.shown.saturation) - 1.0;
                    break;
                case rig::KnobKind::Hue:
                    own.perStep = knob.shown.hueDegrees;
                    break;
                case rig::KnobKind::Amber:
                    own.perStep = knob.shown.whiteBalanceMired;
                    break;
                case rig::KnobKind::Knee:
                    own.perStep = std::exp(knob.shown.knee) - 1.0;
                    break;
                case rig::KnobKind::Other:
                    break;
            }
        }
    }
}

void forgetKept(rig::ControlSheet& sheet) {
    sheet.stopsPerStop = 1.0;
    sheet.miredPerMired = 1.0;
    sheet.ndTaught.clear();
}

}  // namespace rigmatch::match
