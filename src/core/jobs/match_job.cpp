// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/match_job.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "colour/transfer.h"
#include "jobs/people_job.h"
#include "jobs/target_job.h"
#include "match/curve_error.h"

namespace rigmatch::jobs {
namespace {

using match::Quality;

}  // namespace

match::MatchReport matchReport(const rig::Rig& rig, const rig::Take& take, bool hasControls) {
    const match::People people = peopleOf(rig, take);
    if (rig.target.empty()) return match::matchTake(rig, take, hasControls, people);
    const auto target = targetOf(rig.target, rig, take);
    if (target) return match::matchTake(rig, take, hasControls, people, *target);
    match::MatchReport report = match::matchTake(rig, take, hasControls, people);
    report.targetProblem = base::fullText(target.error());
    return report;
}

CurveEvidence curveEvidence(const match::CameraMatch& camera, const match::CameraMatch& reference) {
    CurveEvidence evidence;
    if (!camera.differences.fit) return evidence;
    const match::NeutralFit& fit = *camera.differences.fit;
    for (const match::CurvePoint& point : fit.greys) {
        evidence.patchStops.push_back(point.stops);
        evidence.patchPercent.push_back(100.0 * fit.greySignal(point.stops));
    }
    const double first = fit.curve.points().front().stops - 0.6;
    const double last = fit.curve.points().back().stops + 0.3;
    constexpr int kDrawnSteps = 80;
    for (int i = 0; i <= kDrawnSteps; ++i) {
        const double stops = first + (last - first) * i / kDrawnSteps;
        evidence.curveStops.push_back(stops);
        evidence.curvePercent.push_back(100.0 * fit.greySignal(stops));
        evidence.curveErrorPercent.push_back(100.0 *
                                             match::signalErrorAt(fit, stops + fit.luminanceStops));
    }
    evidence.greyPercent = 100.0 * fit.greySignal(0.0);
    evidence.greyErrorPercent = 100.0 * match::signalErrorAt(fit, fit.luminanceStops);
    evidence.slopePercent = 100.0 * fit.curve.slopeAt(fit.luminanceStops);
    evidence.slopeErrorPercent = 100.0 * match::slopeErrorAt(fit, fit.luminanceStops);
    if (reference.differences.fit) {
        evidence.greyAtReferenceStops = fit.greyStops(reference.differences.fit->greySignal(0.0));
    }
    return evidence;
}

std::vector<ScreenColour> screenColours(const match::PatchSignals& patches) {
    const colour::TransferCurve display = colour::curveOf(colour::CurveKind::Bt1886);
    const colour::TransferCurve screen = colour::curveOf(colour::CurveKind::Srgb);
    std::vector<ScreenColour> colours;
    for (const auto& signal : patches) {
        ScreenColour colour{};
        for (std::size_t c = 0; c < 3; ++c) {
            const double coded = screen.encode(std::clamp(display.decode(signal[c]), 0.0, 1.0));
            colour[c] = static_cast<unsigned char>(std::lround(255.0 * coded));
        }
        colours.push_back(colour);
    }
    return colours;
}

}  // namespace rigmatch::jobs
