// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/differences.h"

#include <algorithm>
#include <cmath>

#include "match/compare_parts.h"
#include "match/trap_findings.h"

namespace rigmatch::match {
namespace {

void setUnknown(CameraDifferences& result, const base::Text& reason) {
    for (std::size_t i = 0; i < kQualityCount; ++i) {
        result.qualities[i] = toleranceOf(static_cast<Quality>(i));
        result.qualities[i].reason = reason;
    }
}

/// Why one side cannot be compared at all.
std::optional<base::Text> notMeasured(const Side& side) {
    if (side.reading == nullptr) return side.missing;
    if (!side.reading->hasChart)
        return side.reading->reason + base::say("error.more", {{"sentence", side.reading->hint}});
    if (side.reading->areColoursDoubtful) return base::say("unknown.coloursDoubtful");
    return std::nullopt;
}

}  // namespace

Difference toleranceOf(Quality quality) {
    Difference d;
    switch (quality) {
        case Quality::Exposure:
            d.good = 0.10;
            d.accept = 0.25;
            break;
        case Quality::WhiteBalance:
            d.good = 5.0;
            d.accept = 10.0;
            break;
        case Quality::Tint:
            d.good = 0.002;
            d.accept = 0.004;
            break;
        case Quality::Contrast:
            d.good = 0.05;
            d.accept = 0.10;
            break;
        case Quality::BlackLevel:
            d.good = 1.0;
            d.accept = 2.0;
            break;
        case Quality::Saturation:
            d.good = 0.05;
            d.accept = 0.10;
            break;
        case Quality::Hue:
            d.good = 2.0;
            d.accept = 4.0;
            break;
        case Quality::DeltaE:
            d.good = 2.0;
            d.accept = 3.5;
            break;
        case Quality::SkinLevel:
        case Quality::SkinHue:
            d.good = 2.0;
            d.accept = 4.0;
            break;
    }
    return d;
}

bool isRatio(Quality quality) {
    return quality == Quality::Contrast || quality == Quality::Saturation;
}

double resolutionOf(Quality quality) {
    switch (quality) {
        case Quality::Exposure:
        case Quality::Contrast:
        case Quality::Saturation:
            return 0.001;
        case Quality::WhiteBalance:
            return 0.1;
        case Quality::Tint:
            return 0.00001;
        case Quality::BlackLevel:
        case Quality::Hue:
        case Quality::DeltaE:
        case Quality::SkinLevel:
        case Quality::SkinHue:
            break;
    }
    return 0.01;
}

void setValue(
    Difference& difference, Quality quality, double value, double uncertainty, double floor) {
    if (!std::isfinite(value)) return;
    const double step = resolutionOf(quality);
    difference.value = std::round(value / step) * step;
    difference.uncertainty = std::hypot(uncertainty, floor);
    difference.floor = floor;
    difference.verdict = verdictOf(difference, isRatio(quality));
}

Verdict verdictOf(const Difference& difference, bool ratio) {
    if (!difference.value) return Verdict::Unknown;
    constexpr double kRounding = 1e-9;
    const auto isWithin = [&](double limit) {
        if (!ratio) return std::abs(*difference.value) <= limit + kRounding;
        return *difference.value > 0.0 &&
               std::abs(std::log2(*difference.value)) <= std::log2(1.0 + limit) + kRounding;
    };
    if (isWithin(difference.good)) return Verdict::Good;
    return isWithin(difference.accept) ? Verdict::Near : Verdict::Off;
}

std::optional<base::Text> chartMismatch(const rig::Reading& camera, const rig::Reading& reference) {
    constexpr double kSameValue = 1e-4;  // linear light: files keep more digits
    if (camera.layout != reference.layout)
        return base::say("unknown.otherChart",
                         {{"own", camera.layout}, {"reference", reference.layout}});
    if (camera.columns != reference.columns || camera.rows != reference.rows ||
        camera.patches.size() != reference.patches.size())
        return base::say("unknown.otherGrid",
                         {{"chart", camera.layout},
                          {"columns", base::Number{double(camera.columns)}},
                          {"rows", base::Number{double(camera.rows)}},
                          {"theirColumns", base::Number{double(reference.columns)}},
                          {"theirRows", base::Number{double(reference.rows)}}});
    for (std::size_t i = 0; i < camera.patches.size(); ++i) {
        const rig::PatchReading& mine = camera.patches[i];
        const rig::PatchReading& theirs = reference.patches[i];
        bool isSame = mine.name == theirs.name && mine.isNeutral == theirs.isNeutral;
        for (std::size_t c = 0; c < 3; ++c)
            isSame =
                isSame && std::abs(mine.nominalLinear[c] - theirs.nominalLinear[c]) <= kSameValue;
        if (!isSame) return base::say("unknown.otherValues", {{"patch", mine.name}});
    }
    return std::nullopt;
}

CameraDifferences compare(const Side& camera, const Side& reference, Judging judging) {
    const SideView none;
    return compare(camera,
                   camera.reading != nullptr ? viewOf(camera) : none,
                   reference,
                   reference.reading != nullptr ? viewOf(reference) : none,
                   judging);
}

CameraDifferences compare(const Side& camera,
                          const SideView& cameraView,
                          const Side& reference,
                          const SideView& referenceView,
                          Judging judging) {
    CameraDifferences result;
    setUnknown(result, {});
    for (const Side* side : {&camera, &reference}) {
        if (const auto reason = notMeasured(*side)) {
            setUnknown(
                result,
                (side == &reference ? base::say("unknown.reference") : base::Text{}) + *reason);
            return result;
        }
    }
    if (cameraView.reading->layout != referenceView.reading->layout ||
        cameraView.reading->patches.size() != referenceView.reading->patches.size()) {
        setUnknown(
            result,
            chartMismatch(*cameraView.reading, *referenceView.reading).value_or(base::Text{}));
        return result;
    }
    const Comparison both{camera, cameraView, reference, referenceView, judging};
    if (cameraView.fit) result.fit = *cameraView.fit;
    if (!cameraView.fit || !referenceView.fit) {
        const base::Error& error =
            cameraView.fit ? referenceView.fit.error() : cameraView.fit.error();
        setUnknown(result,
                   (cameraView.fit ? base::say("unknown.reference") : base::Text{}) + error.detail +
                       base::say("error.more", {{"sentence", error.hint}}));
    } else {
        compareNeutrals(both, result);
        compareExposures(both, result);
        compareChroma(both, result);
        applyTraps(both, result);
    }
    compareColours(both, result);
    addNotes(both, result);
    return result;
}

}  // namespace rigmatch::match
