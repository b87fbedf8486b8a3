// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/json_values.h"
#include "rig/stored_framing.h"
#include "rig/stored_timing.h"

namespace rigmatch::rig {

Json storedJson(Purpose purpose) { return nameOf(purpose); }
void readStored(const Json& json, StoredPlace& place, Purpose& into) {
    std::string name;
    readStored(json, place, name);
    const auto purpose = purposeNamed(name);
    std::string all;
    for (const Purpose each : kPurposes)
        all += (all.empty() ? "" : ", ") + std::string(nameOf(each));
    if (!purpose)
        throw JsonFailure{place.path(), base::say("json.shouldBeOneOf", {{"names", all}})};
    into = *purpose;
}

Json storedJson(const PicturePoint& point) { return {point.x, point.y}; }
void readStored(const Json& json, StoredPlace& place, PicturePoint& into) {
    std::array<double, 2> values{};
    readStored(json, place, values);
    into = {values[0], values[1]};
}

template <>
struct Stored<PatchReading> {
    static constexpr auto fields() {
        return std::tuple{kept("name", &PatchReading::name),
                          kept("neutral", &PatchReading::isNeutral),
                          needed("nominalLinear", &PatchReading::nominalLinear),
                          needed("signal", &PatchReading::signal),
                          needed("noise", &PatchReading::noise),
                          needed("standardError", &PatchReading::standardError),
                          kept("clippedShare", &PatchReading::clippedShare),
                          kept("glareShare", &PatchReading::glareShare),
                          kept("centre", &PatchReading::centre)};
    }
};

template <>
struct Stored<NoiseReading> {
    static constexpr auto fields() {
        return std::tuple{needed("grey", &NoiseReading::grey),
                          needed("black", &NoiseReading::black),
                          kept("greyError", &NoiseReading::greyError),
                          kept("blackError", &NoiseReading::blackError)};
    }
};

template <>
struct Stored<SharpnessReading> {
    static constexpr auto fields() {
        return std::tuple{kept("widthPx", &SharpnessReading::widthPx),
                          kept("widthErrorPx", &SharpnessReading::widthErrorPx),
                          kept("overshootPercent", &SharpnessReading::overshootPercent),
                          kept("overshootErrorPercent", &SharpnessReading::overshootErrorPercent)};
    }
};

template <>
struct Stored<DriftReading> {
    static constexpr auto fields() {
        return std::tuple{needed("signalPerSecond", &DriftReading::signalPerSecond),
                          needed("standardError", &DriftReading::standardError),
                          kept("seconds", &DriftReading::seconds)};
    }
};

template <>
struct Stored<SkinReading> {
    static constexpr auto fields() {
        return std::tuple{needed("signal", &SkinReading::signal),
                          needed("standardError", &SkinReading::standardError),
                          kept("clippedShare", &SkinReading::clippedShare),
                          kept("pixels", &SkinReading::pixels)};
    }
};

template <>
struct Stored<FaceReading> {
    using F = FaceReading;
    static constexpr auto fields() {
        return std::tuple{PackedField<F>{"box", {&F::left, &F::top, &F::width, &F::height}},
                          kept("score", &F::score),
                          kept("presence", &F::presence),
                          kept("turnDegrees", &F::turnDegrees),
                          kept("atSeconds", &F::atSeconds),
                          kept("leftEye", &F::leftEye),
                          kept("rightEye", &F::rightEye),
                          sparse("forehead", &F::forehead),
                          sparse("leftCheek", &F::leftCheek),
                          sparse("rightCheek", &F::rightCheek),
                          sparse("background", &F::background),
                          sparse("manual", &F::isManual)};
    }
};

template <>
struct Stored<ChannelLevel> {
    static constexpr auto fields() {
        return std::tuple{kept("peakDbfs", &ChannelLevel::peakDbfs),
                          kept("meanDbfs", &ChannelLevel::meanDbfs),
                          kept("clippedShare", &ChannelLevel::clippedShare)};
    }
};

template <>
struct Stored<SoundReading> {
    static constexpr auto fields() {
        return std::tuple{kept("sampleRateHz", &SoundReading::sampleRate),
                          kept("channels", &SoundReading::channels)};
    }
};

template <>
struct Stored<MeasurerStamp> {
    static constexpr auto fields() {
        return std::tuple{kept("name", &MeasurerStamp::name),
                          kept("version", &MeasurerStamp::version)};
    }
};

template <>
struct Stored<Reading> {
    using R = Reading;
    static constexpr auto fields() {
        return std::tuple{
            sparse("picture", &R::hasPicture),
            kept("still", &R::isStill),
            kept("widthPx", &R::width),
            kept("heightPx", &R::height),
            kept("bitDepth", &R::bitDepth),
            kept("range", &R::range),
            kept("matrix", &R::matrix),
            kept("primaries", &R::primaries),
            kept("transfer", &R::transfer),
            kept("frameRate", &R::frameRate),
            kept("durationSeconds", &R::durationSeconds),
            kept("elapsedMs", &R::elapsedMs),
            kept("warnings", &R::warnings),
            group("chart",
                  kept("found", &R::hasChart),
                  sparse("reason", &R::reason),
                  sparse("reasonCode", &R::reasonCode),
                  sparse("hint", &R::hint),
                  sparse("layout", &R::layout),
                  kept("columns", &R::columns),
                  kept("rows", &R::rows),
                  NamedField<R, base::ValueTrust, 4>{
                      "trust", &R::trust, {"measured", "nominal", "printed", "found"}},
                  kept("confidence", &R::confidence),
                  kept("coloursDoubtful", &R::areColoursDoubtful),
                  kept("corners", &R::corners),
                  kept("patchShare", &R::patchShare),
                  kept("cornersManual", &R::areCornersManual),
                  kept("spanStartSeconds", &R::spanStartSeconds),
                  kept("spanEndSeconds", &R::spanEndSeconds),
                  kept("framesUsed", &R::framesUsed),
                  sparse("patches", &R::patches),
                  sparse("noise", &R::noise),
                  sparse("sharpness", &R::sharpness),
                  sparse("drift", &R::drift)),
            kept("faces", &R::faces),
            sparse("sound", &R::sound),
            sparse("framing", &R::framing),
            sparse("heard", &R::heard),
            sparse("frames", &R::frames),
            sparse("sync", &R::sync),
            sparse("identity", &R::identity),
            sparse("measuredBy", &R::measuredBy)};
    }
    /// A grid and patches that do not belong together cannot be compared: such a chart counts as
    /// not found, and the rest of the file is kept.
    static void check(Reading& r, const ObjectReader&) {
        constexpr int kMostPatches = 96;
        const bool isGrid = r.columns >= 1 && r.columns <= kMostPatches && r.rows >= 1 &&
                            r.rows <= kMostPatches && r.columns * r.rows <= kMostPatches;
        const std::size_t cells =
            isGrid ? static_cast<std::size_t>(r.columns) * static_cast<std::size_t>(r.rows) : 0;
        if (!r.hasChart || (isGrid && r.patches.size() == cells)) return;
        r.hasChart = false;
        r.reason = base::say("rigFile.wrongPatches",
                             {{"patches", base::whole(r.patches.size())},
                              {"columns", base::whole(r.columns)},
                              {"rows", base::whole(r.rows)}});
        r.hint = base::say("rigFile.measureAgain");
        r.columns = Reading{}.columns;
        r.rows = Reading{}.rows;
        r.patches.clear();
    }
};

template <>
struct Stored<SkinMark> {
    using M = SkinMark;
    static constexpr auto fields() {
        return std::tuple{PackedField<M>{"box", {&M::left, &M::top, &M::width, &M::height}},
                          kept("atSeconds", &M::atSeconds)};
    }
};

template <>
struct Stored<Shot> {
    static constexpr auto fields() {
        return std::tuple{kept("camera", &Shot::cameraId),
                          kept("media", &Shot::media),
                          sparse("laterParts", &Shot::laterParts),
                          kept("settings", &Shot::settings),
                          kept("isoRecorded", &Shot::isIsoRecorded),
                          kept("kelvinRecorded", &Shot::isKelvinRecorded),
                          kept("rangeOverride", &Shot::rangeOverride),
                          sparse("matrixOverride", &Shot::matrixOverride),
                          sparse("primariesOverride", &Shot::primariesOverride),
                          sparse("manualCorners", &Shot::manualCorners),
                          sparse("cornersAtSeconds", &Shot::cornersAtSeconds),
                          sparse("skinMarks", &Shot::skinMarks),
                          sparse("wholeClip", &Shot::isWholeWanted),
                          sparse("reading", &Shot::reading),
                          kept("failure", &Shot::failure)};
    }
};

template <>
struct Stored<LampTurn> {
    static constexpr auto fields() {
        return std::tuple{needed("object", &LampTurn::objectId),
                          NamedField<LampTurn, LampControl, 3>{
                              "control", &LampTurn::control, {"dimPercent", "kelvin", "filmStops"}},
                          kept("from", &LampTurn::from),
                          kept("to", &LampTurn::to)};
    }
};

template <>
struct Stored<Take> {
    static constexpr auto fields() {
        return std::tuple{kept("id", &Take::id),
                          kept("number", &Take::number),
                          sparse("purposes", &Take::purposes),
                          kept("startedAt", &Take::startedAt),
                          kept("shots", &Take::shots),
                          sparse("doneAtTripods", &Take::doneAtTripods),
                          sparse("doneAtLamps", &Take::doneAtLamps)};
    }
    static void check(const Take& take, const ObjectReader& object) {
        if (take.id.empty()) throw JsonFailure{object.at("id"), base::say("json.missing")};
        if (take.purposes.empty())
            throw JsonFailure{object.at("purposes"), base::say("json.shouldNameOne")};
    }
};

template <>
struct Stored<Source> {
    static constexpr auto fields() {
        return std::tuple{kept("id", &Source::id),
                          NamedField<Source, SourceKind, 3>{
                              "kind", &Source::kind, {"soundRecorder", "switcher", "computer"}},
                          kept("name", &Source::name)};
    }
    static void check(const Source& source, const ObjectReader& object) {
        if (source.id.empty()) throw JsonFailure{object.at("id"), base::say("json.missing")};
    }
};

Json sourceJson(const Source& source) { return storedJson(source); }
Source readSource(const Json& json, const std::string& place) {
    return readAt<Source>(json, place);
}
Json shotJson(const Shot& shot) { return storedJson(shot); }
Json takeJson(const Take& take) { return storedJson(take); }
Take readTake(const Json& json, const std::string& place) { return readAt<Take>(json, place); }

}  // namespace rigmatch::rig
