// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>

#include "rig/json_plan.h"
#include "rig/json_values.h"
#include "rig/stored.h"

namespace rigmatch::rig {
namespace {

using colour::CurveKind;

constexpr std::array<std::pair<CurveKind, const char*>, 8> kCurveNames{
    {{CurveKind::Linear, "linear"},
     {CurveKind::Bt709, "bt709"},
     {CurveKind::Srgb, "srgb"},
     {CurveKind::Bt1886, "bt1886"},
     {CurveKind::Hlg, "hlg"},
     {CurveKind::Log, "log"},
     {CurveKind::Standard, "standard"},
     {CurveKind::Table, "table"}}};

}  // namespace

// A curve writes the parameters of its kind alone, so that it has no table of fields.
Json storedJson(const colour::TransferCurve& curve) {
    Json json;
    for (const auto& [kind, name] : kCurveNames) {
        if (kind == curve.kind) json["kind"] = name;
    }
    if (curve.kind == CurveKind::Log) {
        json["spanStops"] = curve.log.spanStops;
        json["offset"] = curve.log.offset;
        json["cut"] = curve.log.cut;
    }
    if (curve.kind == CurveKind::Standard) {
        json["bend"] = curve.standard.bend;
        json["pedestal"] = curve.standard.pedestal;
    }
    if (curve.kind == CurveKind::Table) {
        json["source"] = curve.table.source;
        json["signal"] = curve.table.signal;
        json["linear"] = curve.table.linear;
    }
    return json;
}

void readStored(const Json& json, StoredPlace& place, colour::TransferCurve& curve) {
    ObjectReader object(json, place);
    const std::string name = object.text("kind", "bt709");
    bool isKnown = false;
    for (const auto& [kind, known] : kCurveNames) {
        if (name != known) continue;
        curve.kind = kind;
        isKnown = true;
    }
    if (!isKnown)
        throw JsonFailure{object.at("kind"), base::say("json.namesCurveNot", {{"name", name}})};
    if (curve.kind == CurveKind::Table) {
        const auto table = colour::tableCurve(
            {object.text("source"), object.numbers("signal"), object.numbers("linear")});
        if (!table) throw JsonFailure{object.at("signal"), table.error().detail};
        curve = *table;
        place.unknown = object.unknown();
        return;
    }
    curve.log.spanStops = object.number("spanStops", curve.log.spanStops);
    curve.log.offset = object.number("offset", curve.log.offset);
    curve.log.cut = object.number("cut", curve.log.cut);
    curve.standard.bend = object.number("bend", curve.standard.bend);
    curve.standard.pedestal = object.number("pedestal", curve.standard.pedestal);
    if (!(curve.log.spanStops > 1.0) || !(curve.log.cut > 0.0)) {
        throw JsonFailure{object.at("spanStops"), base::say("json.shouldAboveCut")};
    }
    place.unknown = object.unknown();
}

template <>
struct Stored<Lens> {
    static constexpr auto fields() {
        return std::tuple{kept("name", &Lens::name),
                          kept("focalLengthMm", &Lens::focalLengthMm, kAboveZero),
                          kept("largestAperture", &Lens::largestAperture, kAboveZero),
                          kept("smallestAperture", &Lens::smallestAperture, kAboveZero),
                          sparse("shortFocalMm", &Lens::shortFocalMm),
                          sparse("longFocalMm", &Lens::longFocalMm),
                          sparse("largestApertureLong", &Lens::largestApertureLong),
                          sparse("transmissionStops", &Lens::transmissionStops)};
    }
};

template <>
struct Stored<Settings> {
    static constexpr auto fields() {
        return std::tuple{kept("iso", &Settings::isoValue, kAboveZero),
                          kept("shutterSeconds", &Settings::shutterSeconds, kAboveZero),
                          kept("fNumber", &Settings::fNumber, kAboveZero),
                          kept("ndStops", &Settings::ndStops),
                          sparse("gainDb", &Settings::gainDb),
                          kept("whiteBalanceKelvin", &Settings::whiteBalanceKelvin, kAboveZero),
                          kept("tintSteps", &Settings::tintSteps),
                          kept("profile", &Settings::profile),
                          kept("frameRate", &Settings::frameRate, kAboveZero),
                          kept("widthPx", &Settings::width),
                          kept("heightPx", &Settings::height),
                          kept("autoExposure", &Settings::isAutoExposure),
                          kept("autoWhiteBalance", &Settings::isAutoWhiteBalance),
                          kept("codec", &Settings::codec),
                          kept("bitRateMbps", &Settings::bitRateMbps, kAboveZero),
                          kept("detailSteps", &Settings::detailSteps),
                          kept("autoFocus", &Settings::isAutoFocus),
                          kept("stabilised", &Settings::isStabilised),
                          kept("soundInput", &Settings::soundInput),
                          kept("autoSoundLevel", &Settings::isAutoSoundLevel),
                          sparse("knobs", &Settings::knobs),
                          sparse("isoBeforeLock", &Settings::isoBeforeLock),
                          sparse("kelvinBeforeLock", &Settings::kelvinBeforeLock)};
    }
};

template <>
struct Stored<Profile> {
    static constexpr auto fields() {
        return std::tuple{kept("name", &Profile::name),
                          sparse("curve", &Profile::curve),
                          sparse("primaries", &Profile::primaries)};
    }
};

template <>
struct Stored<RecordingMode> {
    static constexpr auto fields() {
        return std::tuple{
            kept("name", &RecordingMode::name),
            kept("bitDepth", &RecordingMode::bitDepth, Range{8.0, 16.0, "json.between8And16"}),
            kept("intra", &RecordingMode::isIntra)};
    }
};

template <>
struct Stored<RateCrop> {
    static constexpr auto fields() {
        return std::tuple{kept("fromFps", &RateCrop::fromFps, kAboveZero),
                          kept("factor", &RateCrop::factor, Range{1.0, 4.0, "json.between1And4"})};
    }
};

template <>
struct Stored<Knob> {
    static constexpr auto fields() {
        return std::tuple{
            kept("name", &Knob::name),
            NamedField<Knob, KnobKind, kKnobKindNames.size()>{"kind", &Knob::kind, kKnobKindNames},
            kept("steps", &Knob::steps),
            sparse("perStep", &Knob::perStep)};
    }
    static void check(const Knob& knob, const ObjectReader& object) {
        if (knob.name.empty()) throw JsonFailure{object.at("name"), base::say("json.missing")};
        if (!std::is_sorted(knob.steps.begin(), knob.steps.end()))
            throw JsonFailure{object.at("steps"), base::say("json.shouldRise")};
    }
};

template <>
struct Stored<TaughtNd> {
    static constexpr auto fields() {
        return std::tuple{kept("stops", &TaughtNd::stops), kept("realStops", &TaughtNd::realStops)};
    }
};

template <>
struct Stored<ControlSheet> {
    static constexpr auto fields() {
        constexpr Range kAllowed{0.0, 1e9, "json.allowedNotAboveZero", true};
        return std::tuple{kept("iso", &ControlSheet::isoValues, kAllowed),
                          kept("nativeIso", &ControlSheet::nativeIsoValues),
                          kept("shutterSeconds", &ControlSheet::shutterSeconds, kAllowed),
                          kept("fNumber", &ControlSheet::fNumbers, kAllowed),
                          kept("ndStops", &ControlSheet::ndStops),
                          sparse("gainDb", &ControlSheet::gainsDb),
                          kept("whiteBalanceKelvin", &ControlSheet::kelvins, kAllowed),
                          kept("tintSteps", &ControlSheet::tintSteps),
                          kept("tintDuvPerStep", &ControlSheet::tintDuvPerStep),
                          sparse("stopsPerStop", &ControlSheet::stopsPerStop, kAllowed),
                          sparse("miredPerMired", &ControlSheet::miredPerMired, kAllowed),
                          sparse("ndTaught", &ControlSheet::ndTaught),
                          kept("frameRate", &ControlSheet::frameRates),
                          kept("sizes", &ControlSheet::sizes),
                          kept("profiles", &ControlSheet::profiles),
                          kept("codecs", &ControlSheet::codecs),
                          kept("bitRatesMbps", &ControlSheet::bitRatesMbps),
                          kept("detailSteps", &ControlSheet::detailSteps),
                          sparse("knobs", &ControlSheet::knobs),
                          kept("soundInputs", &ControlSheet::soundInputs),
                          kept("rateCrops", &ControlSheet::rateCrops),
                          kept("hasAutoFocus", &ControlSheet::hasAutoFocus),
                          kept("hasStabiliser", &ControlSheet::hasStabiliser)};
    }
};

template <>
struct Stored<SimulatedBody> {
    using B = SimulatedBody;
    static constexpr auto fields() {
        return std::tuple{kept("position", &B::position),
                          kept("aim", &B::aim),
                          kept("rollDegrees", &B::rollDegrees),
                          kept("horizontalViewDegrees",
                               &B::horizontalViewDegrees,
                               Range{0.5, 150.0, "json.between05And150"}),
                          kept("sensitivityStops", &B::sensitivityStops),
                          kept("glassStops", &B::glassStops),
                          kept("warmthMired", &B::warmthMired),
                          kept("tintDuv", &B::tintDuv),
                          kept("tintDuvPerStep", &B::tintDuvPerStep),
                          kept("saturation", &B::saturation),
                          kept("crosstalk", &B::crosstalk),
                          kept("noiseAtBase", &B::noiseAtBase),
                          kept("vignetteStops", &B::vignetteStops),
                          kept("lightMired", &B::lightMired),
                          kept("curve", &B::curve),
                          kept("bitDepth", &B::bitDepth),
                          kept("fullRange", &B::isFullRange),
                          sparse("repeatEvery", &B::repeatEvery),
                          sparse("focusMetres", &B::focusMetres),
                          sparse("breathing", &B::breathing),
                          sparse("distortion", &B::distortion)};
    }
};

// What a camera runs and records on has its fields, with titles and ranges, in plan_fields.h.
Json storedJson(const Equipment& equipment) { return equipmentJson(equipment); }
void readStored(const Json& json, StoredPlace& place, Equipment& into) {
    into = readEquipment(json, place.path());
}

template <>
struct Stored<SavedFraming> {
    static constexpr auto fields() {
        return std::tuple{kept("picture", &SavedFraming::picture),
                          sparse("take", &SavedFraming::takeId),
                          kept("savedAt", &SavedFraming::savedAt)};
    }
};

template <>
struct Stored<Camera> {
    static constexpr auto fields() {
        return std::tuple{kept("id", &Camera::id),
                          kept("letter", &Camera::letter),
                          kept("role", &Camera::role),
                          kept("body", &Camera::body),
                          kept("sensorFormat", &Camera::sensorFormat),
                          kept("sensorWidthMm", &Camera::sensorWidthMm, kAboveZero),
                          kept("sensorHeightMm", &Camera::sensorHeightMm, kAboveZero),
                          kept("lens", &Camera::lens),
                          sparse("lensTold", &Camera::isLensTold),
                          kept("filterStops", &Camera::filterStops),
                          kept("viewingLut", &Camera::viewingLut),
                          kept("equipment", &Camera::equipment),
                          kept("controls", &Camera::sheet),
                          kept("settings", &Camera::settings),
                          sparse("forgottenUpTo", &Camera::forgottenUpTo),
                          sparse("savedFraming", &Camera::savedFraming),
                          sparse("simulated", &Camera::simulated)};
    }
    static void check(const Camera& camera, const ObjectReader& object) {
        if (camera.id.empty()) throw JsonFailure{object.at("id"), base::say("json.missing")};
    }
};

Json storedJson(const Settings& settings) { return storedJson<Settings>(settings); }
void readStored(const Json& json, StoredPlace& place, Settings& into) {
    readStored<Settings>(json, place, into);
}
Json sheetJson(const ControlSheet& sheet) { return storedJson(sheet); }
Json cameraJson(const Camera& camera) { return storedJson(camera); }

Camera readCamera(const Json& json, const std::string& place) {
    return readAt<Camera>(json, place);
}

}  // namespace rigmatch::rig
