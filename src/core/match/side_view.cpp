// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/side_view.h"

#include <algorithm>
#include <cmath>

#include "colour/named_primaries.h"
#include "match/details.h"
#include "match/tone_curve.h"

namespace rigmatch::match {
namespace {

/// Primaries of a side: what was declared, else the file's tag.
std::string primariesOf(const Side& side) {
    if (!side.primaries.empty()) return side.primaries;
    return side.reading->primaries == "unknown" ? std::string() : side.reading->primaries;
}

RecordingKind kindOf(const rig::Reading& reading,
                     const NeutralFit& fit,
                     const std::optional<colour::TransferCurve>& curve,
                     bool isDeclared) {
    if (reading.transfer == "hlg") return RecordingKind::Hlg;
    if (curve && curve->kind == colour::CurveKind::Hlg) return RecordingKind::Hlg;
    if (curve && isDeclared && curve->kind == colour::CurveKind::Log) return RecordingKind::Log;
    if (curve && curve->kind == colour::CurveKind::Table && curve->table.source == "HLG")
        return RecordingKind::Hlg;
    if (fit.isCurveAssumed) return RecordingKind::Finished;
    return profileClass(reading, fit, std::nullopt).name == "log" ? RecordingKind::Log
                                                                  : RecordingKind::Finished;
}

/// Signals as a BT.1886 display would need them to show what `judge` makes of them.
std::shared_ptr<const rig::Reading> finishedOf(const rig::Reading& reading, const Judge& judge) {
    static const colour::TransferCurve kDisplay = colour::curveOf(colour::CurveKind::Bt1886);
    auto finished = std::make_shared<rig::Reading>(reading);
    for (rig::PatchReading& patch : finished->patches) {
        const auto before = displayLight(patch.signal, judge);
        std::array<double, 3> stepped = patch.signal;
        for (std::size_t c = 0; c < 3; ++c) stepped[c] += patch.standardError[c];
        const auto after = displayLight(stepped, judge);
        for (std::size_t c = 0; c < 3; ++c) {
            patch.signal[c] = kDisplay.encode(before[c]);
            patch.standardError[c] = std::abs(kDisplay.encode(after[c]) - patch.signal[c]);
        }
    }
    return finished;
}

}  // namespace

const colour::TransferCurve* declaredOf(const Side& side) {
    return side.declared ? &*side.declared : nullptr;
}

rig::Reading inBt709(const rig::Reading& reading,
                     const NeutralFit& fit,
                     const colour::Matrix3& toBt709) {
    rig::Reading converted = reading;
    for (rig::PatchReading& patch : converted.patches) {
        colour::Vector3 light;
        for (std::size_t c = 0; c < 3; ++c)
            light(static_cast<long>(c)) = std::exp2(fit.curve.stopsAt(patch.signal[c]));
        const colour::Vector3 bt709 = toBt709 * light;
        std::array<double, 3> errors{};
        for (std::size_t to = 0; to < 3; ++to) {
            const double least = std::exp2(kCurveFloorStops);
            const double stops = std::log2(std::max(bt709(static_cast<long>(to)), least));
            const double slopeTo = std::max(fit.curve.slopeAt(stops), 1e-4);
            for (std::size_t from = 0; from < 3; ++from) {
                const double slopeFrom =
                    std::max(fit.curve.slopeAt(std::log2(light(static_cast<long>(from)))), 1e-3);
                const double share = toBt709(static_cast<long>(to), static_cast<long>(from)) *
                                     light(static_cast<long>(from)) /
                                     std::max(bt709(static_cast<long>(to)), least);
                const double part = share * patch.standardError[from] / slopeFrom * slopeTo;
                errors[to] = std::hypot(errors[to], std::min(std::abs(part), 1.0));
            }
            patch.signal[to] = fit.curve.signalAt(stops);
        }
        patch.standardError = errors;
    }
    return converted;
}

namespace {

/// The light v that lies over all of the picture: black b and grey g then stand as
/// (b + v) / (g + v), and veil() says what that makes of black where grey reads its own.
std::optional<Measured> addedLight(const rig::Reading& reading,
                                   const colour::TransferCurve& declared) {
    const auto told = veil(reading, declared);
    if (!told) return std::nullopt;
    const double grey = reading.patches[*rig::greyPatch(reading)].nominalLinear[1];
    const double black = reading.patches[*rig::blackPatch(reading)].nominalLinear[1];
    const double share = grey / std::max(grey - black - told->value, 0.5 * grey);
    return Measured{share * told->value, share * told->uncertainty};
}

}  // namespace

SideView viewOf(const Side& side) {
    SideView view;
    view.reading = std::shared_ptr<const rig::Reading>(std::shared_ptr<void>(), side.reading);
    view.primaries = primariesOf(side);
    view.arePrimariesKnown = !view.primaries.empty();
    if (!side.reading->hasChart) return view;
    view.curve = side.declared;
    if (view.curve) view.curveSource = "declared";
    if (!view.curve) {
        view.curve = identifiedCurve(*side.reading);
        if (view.curve) view.curveSource = "identified as " + view.curve->table.source;
    }
    view.fit = fitNeutrals(*side.reading, declaredOf(side));
    if (!view.fit) return view;
    view.kind = kindOf(*side.reading, *view.fit, view.curve, side.declared.has_value());
    if (view.arePrimariesKnown && view.primaries != "bt709") {
        if (const auto matrix = colour::toBt709(view.primaries)) {
            view.toBt709 = std::make_shared<const PrimariesMap>(view.fit->curve, *matrix);
            view.reading =
                std::make_shared<const rig::Reading>(inBt709(*side.reading, *view.fit, *matrix));
            view.fit = fitNeutrals(*view.reading, declaredOf(side));
        } else {
            view.arePrimariesKnown = false;
        }
    }
    if (view.fit && side.declared) view.fit->veil = addedLight(*view.reading, *side.declared);
    if (view.isToConvert() && view.curve) {
        const auto judge = judgeOf(side, view, Judging::Recorded);
        if (judge) view.finished = finishedOf(*view.reading, *judge);
    }
    return view;
}

std::optional<Judge> judgeOf(const Side& side, const SideView& view, Judging judging) {
    Judge judge;
    if (judging == Judging::Linear) {
        if (!side.declared) return std::nullopt;
        judge.linearise = side.declared;
        return judge;
    }
    if (judging == Judging::ThroughLut) {
        judge.lut = side.lut;
        if (judge.lut) return judge;
    }
    if (view.isToConvert() && view.curve) {
        judge.scene = view.curve;
        judge.isHlg = view.kind == RecordingKind::Hlg;
    }
    return judge;
}

std::string judgingText(Judging judging) {
    switch (judging) {
        case Judging::Recorded:
            return "as recorded";
        case Judging::Linear:
            return "in linear light";
        case Judging::ThroughLut:
            return "through viewing LUTs";
    }
    return {};
}

std::string conversionText(const SideView& view) {
    if (!view.isToConvert() || !view.curve) return {};
    return view.kind == RecordingKind::Hlg ? "HLG through the BT.2100 OOTF"
                                           : "log converted to BT.709";
}

}  // namespace rigmatch::match
