// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/json_plan.h"
#include "rig/json_values.h"

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

Json curveJson(const colour::TransferCurve& curve) {
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

colour::TransferCurve readCurve(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    colour::TransferCurve curve;
    const std::string name = object.text("kind", "bt709");
    bool isKnown = false;
    for (const auto& [kind, known] : kCurveNames) {
        if (name != known) continue;
        curve.kind = kind;
        isKnown = true;
    }
    if (!isKnown) throw JsonFailure{object.at("kind"), "names a curve that is not known: " + name};
    if (curve.kind == CurveKind::Table) {
        const auto table = colour::tableCurve(
            {object.text("source"), object.numbers("signal"), object.numbers("linear")});
        if (!table) throw JsonFailure{object.at("signal"), table.error().detail};
        return *table;
    }
    curve.log.spanStops = object.number("spanStops", curve.log.spanStops);
    curve.log.offset = object.number("offset", curve.log.offset);
    curve.log.cut = object.number("cut", curve.log.cut);
    curve.standard.bend = object.number("bend", curve.standard.bend);
    curve.standard.pedestal = object.number("pedestal", curve.standard.pedestal);
    if (!(curve.log.spanStops > 1.0) || !(curve.log.cut > 0.0)) {
        throw JsonFailure{object.at("spanStops"), "should be above 1, and cut above 0"};
    }
    return curve;
}

std::array<double, 3> readTriple(ObjectReader& object,
                                 const char* key,
                                 std::array<double, 3> fallback) {
    if (object.child(key) == nullptr) return fallback;
    const std::vector<double> list = object.numbers(key);
    if (list.size() != 3) throw JsonFailure{object.at(key), "should be three numbers"};
    return {list[0], list[1], list[2]};
}

Profile readProfile(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Profile profile;
    profile.name = object.text("name");
    if (const Json* curve = object.child("curve")) {
        profile.hasDeclaredCurve = true;
        profile.curve = readCurve(*curve, object.at("curve"));
    }
    profile.primaries = object.text("primaries");
    return profile;
}

double positive(ObjectReader& object, const char* key, double fallback) {
    const double value = object.number(key, fallback);
    if (!(value > 0.0 && value < 1e9)) throw JsonFailure{object.at(key), "should be above 0"};
    return value;
}

RecordingMode readCodec(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    RecordingMode mode;
    mode.name = object.text("name", mode.name);
    mode.bitDepth = object.whole("bitDepth", mode.bitDepth);
    mode.isIntra = object.truth("intra", false);
    if (mode.bitDepth < 8 || mode.bitDepth > 16) {
        throw JsonFailure{object.at("bitDepth"), "should lie between 8 and 16"};
    }
    return mode;
}

RateCrop readRateCrop(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    RateCrop crop{positive(object, "fromFps", 50.0), positive(object, "factor", 1.0)};
    if (crop.factor < 1.0 || crop.factor > 4.0) {
        throw JsonFailure{object.at("factor"), "should lie between 1 and 4"};
    }
    return crop;
}

Json lensJson(const Lens& lens) {
    Json json{{"name", lens.name},
              {"focalLengthMm", lens.focalLengthMm},
              {"largestAperture", lens.largestAperture},
              {"smallestAperture", lens.smallestAperture}};
    if (lens.isZoom()) {
        json["shortFocalMm"] = lens.shortFocalMm;
        json["longFocalMm"] = lens.longFocalMm;
        json["largestApertureLong"] = lens.largestApertureLong;
    }
    if (lens.transmissionStops != 0.0) json["transmissionStops"] = lens.transmissionStops;
    return json;
}

Lens readLens(const Json& json, const std::string& place) {
    ObjectReader part(json, place);
    Lens lens;
    lens.name = part.text("name", lens.name);
    lens.focalLengthMm = positive(part, "focalLengthMm", lens.focalLengthMm);
    lens.largestAperture = positive(part, "largestAperture", lens.largestAperture);
    lens.smallestAperture = positive(part, "smallestAperture", lens.smallestAperture);
    lens.shortFocalMm = part.number("shortFocalMm", 0.0);
    lens.longFocalMm = part.number("longFocalMm", 0.0);
    lens.largestApertureLong = part.number("largestApertureLong", 0.0);
    lens.transmissionStops = part.number("transmissionStops", 0.0);
    return lens;
}

}  // namespace

Json settingsJson(const Settings& s) {
    return withUnknown({{"iso", s.isoValue},
                        {"shutterSeconds", s.shutterSeconds},
                        {"fNumber", s.fNumber},
                        {"ndStops", s.ndStops},
                        {"whiteBalanceKelvin", s.whiteBalanceKelvin},
                        {"tintSteps", s.tintSteps},
                        {"profile", s.profile},
                        {"frameRate", s.frameRate},
                        {"widthPx", s.width},
                        {"heightPx", s.height},
                        {"autoExposure", s.isAutoExposure},
                        {"autoWhiteBalance", s.isAutoWhiteBalance},
                        {"codec", s.codec},
                        {"bitRateMbps", s.bitRateMbps},
                        {"detailSteps", s.detailSteps},
                        {"autoFocus", s.isAutoFocus},
                        {"stabilised", s.isStabilised},
                        {"soundInput", s.soundInput},
                        {"autoSoundLevel", s.isAutoSoundLevel}},
                       s.unknownFields);
}

Settings readSettings(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Settings s;
    s.isoValue = positive(object, "iso", s.isoValue);
    s.shutterSeconds = positive(object, "shutterSeconds", s.shutterSeconds);
    s.fNumber = positive(object, "fNumber", s.fNumber);
    s.ndStops = object.number("ndStops", s.ndStops);
    s.whiteBalanceKelvin = positive(object, "whiteBalanceKelvin", s.whiteBalanceKelvin);
    s.tintSteps = object.number("tintSteps", s.tintSteps);
    s.profile = object.text("profile", s.profile);
    s.frameRate = positive(object, "frameRate", s.frameRate);
    s.width = object.whole("widthPx", s.width);
    s.height = object.whole("heightPx", s.height);
    s.isAutoExposure = object.truth("autoExposure", false);
    s.isAutoWhiteBalance = object.truth("autoWhiteBalance", false);
    s.codec = object.text("codec", s.codec);
    s.bitRateMbps = positive(object, "bitRateMbps", s.bitRateMbps);
    s.detailSteps = object.number("detailSteps", s.detailSteps);
    s.isAutoFocus = object.truth("autoFocus", false);
    s.isStabilised = object.truth("stabilised", false);
    s.soundInput = object.text("soundInput", s.soundInput);
    s.isAutoSoundLevel = object.truth("autoSoundLevel", false);
    s.unknownFields = object.rest();
    return s;
}

Json sheetJson(const ControlSheet& sheet) {
    Json profiles = Json::array();
    for (const Profile& profile : sheet.profiles) {
        Json one{{"name", profile.name}};
        if (profile.hasDeclaredCurve) one["curve"] = curveJson(profile.curve);
        if (!profile.primaries.empty()) one["primaries"] = profile.primaries;
        profiles.push_back(one);
    }
    Json codecs = Json::array();
    for (const RecordingMode& mode : sheet.codecs) {
        codecs.push_back(
            {{"name", mode.name}, {"bitDepth", mode.bitDepth}, {"intra", mode.isIntra}});
    }
    Json crops = Json::array();
    for (const RateCrop& crop : sheet.rateCrops) {
        crops.push_back({{"fromFps", crop.fromFps}, {"factor", crop.factor}});
    }
    return withUnknown({{"iso", sheet.isoValues},
                        {"nativeIso", sheet.nativeIsoValues},
                        {"shutterSeconds", sheet.shutterSeconds},
                        {"fNumber", sheet.fNumbers},
                        {"ndStops", sheet.ndStops},
                        {"whiteBalanceKelvin", sheet.kelvins},
                        {"tintSteps", sheet.tintSteps},
                        {"tintDuvPerStep", sheet.tintDuvPerStep},
                        {"frameRate", sheet.frameRates},
                        {"sizes", sheet.sizes},
                        {"profiles", profiles},
                        {"codecs", codecs},
                        {"bitRatesMbps", sheet.bitRatesMbps},
                        {"detailSteps", sheet.detailSteps},
                        {"soundInputs", sheet.soundInputs},
                        {"rateCrops", crops},
                        {"hasAutoFocus", sheet.hasAutoFocus},
                        {"hasStabiliser", sheet.hasStabiliser}},
                       sheet.unknownFields);
}

ControlSheet readSheet(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    ControlSheet sheet;
    sheet.isoValues = object.numbers("iso");
    sheet.nativeIsoValues = object.numbers("nativeIso");
    sheet.shutterSeconds = object.numbers("shutterSeconds");
    sheet.fNumbers = object.numbers("fNumber");
    sheet.ndStops = object.numbers("ndStops");
    sheet.kelvins = object.numbers("whiteBalanceKelvin");
    sheet.tintSteps = object.numbers("tintSteps");
    sheet.tintDuvPerStep = object.number("tintDuvPerStep", sheet.tintDuvPerStep);
    sheet.frameRates = object.numbers("frameRate");
    sheet.sizes = object.texts("sizes");
    sheet.profiles = readList(object, "profiles", readProfile);
    sheet.codecs = readList(object, "codecs", readCodec);
    sheet.bitRatesMbps = object.numbers("bitRatesMbps");
    sheet.detailSteps = object.numbers("detailSteps");
    sheet.soundInputs = object.texts("soundInputs");
    sheet.rateCrops = readList(object, "rateCrops", readRateCrop);
    sheet.hasAutoFocus = object.truth("hasAutoFocus", sheet.hasAutoFocus);
    sheet.hasStabiliser = object.truth("hasStabiliser", sheet.hasStabiliser);
    sheet.unknownFields = object.rest();
    for (const auto* list :
         {&sheet.isoValues, &sheet.fNumbers, &sheet.kelvins, &sheet.shutterSeconds}) {
        for (double value : *list) {
            if (!(value > 0.0))
                throw JsonFailure{place, "lists an allowed value that is not above 0"};
        }
    }
    return sheet;
}

Json simulatedJson(const SimulatedBody& b) {
    return {{"position", b.position},
            {"aim", b.aim},
            {"rollDegrees", b.rollDegrees},
            {"horizontalViewDegrees", b.horizontalViewDegrees},
            {"sensitivityStops", b.sensitivityStops},
            {"glassStops", b.glassStops},
            {"warmthMired", b.warmthMired},
            {"tintDuv", b.tintDuv},
            {"tintDuvPerStep", b.tintDuvPerStep},
            {"saturation", b.saturation},
            {"crosstalk", b.crosstalk},
            {"noiseAtBase", b.noiseAtBase},
            {"vignetteStops", b.vignetteStops},
            {"lightMired", b.lightMired},
            {"curve", curveJson(b.curve)},
            {"bitDepth", b.bitDepth},
            {"fullRange", b.isFullRange}};
}

SimulatedBody readSimulated(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    SimulatedBody b;
    b.position = readTriple(object, "position", b.position);
    b.aim = readTriple(object, "aim", b.aim);
    b.rollDegrees = object.number("rollDegrees", b.rollDegrees);
    b.horizontalViewDegrees = object.number("horizontalViewDegrees", b.horizontalViewDegrees);
    if (!(b.horizontalViewDegrees > 0.5 && b.horizontalViewDegrees < 150.0)) {
        throw JsonFailure{object.at("horizontalViewDegrees"), "should lie between 0.5 and 150"};
    }
    b.sensitivityStops = object.number("sensitivityStops", b.sensitivityStops);
    b.glassStops = object.number("glassStops", b.glassStops);
    b.warmthMired = object.number("warmthMired", b.warmthMired);
    b.tintDuv = object.number("tintDuv", b.tintDuv);
    b.tintDuvPerStep = object.number("tintDuvPerStep", b.tintDuvPerStep);
    b.saturation = object.number("saturation", b.saturation);
    b.crosstalk = object.number("crosstalk", b.crosstalk);
    b.noiseAtBase = object.number("noiseAtBase", b.noiseAtBase);
    b.vignetteStops = object.number("vignetteStops", b.vignetteStops);
    b.lightMired = object.number("lightMired", b.lightMired);
    if (const Json* curve = object.child("curve")) b.curve = readCurve(*curve, object.at("curve"));
    b.bitDepth = object.whole("bitDepth", b.bitDepth);
    b.isFullRange = object.truth("fullRange", b.isFullRange);
    return b;
}

Json cameraJson(const Camera& c) {
    Json json{{"id", c.id},
              {"letter", c.letter},
              {"role", c.role},
              {"body", c.body},
              {"sensorFormat", c.sensorFormat},
              {"sensorWidthMm", c.sensorWidthMm},
              {"sensorHeightMm", c.sensorHeightMm},
              {"lens", lensJson(c.lens)},
              {"filterStops", c.filterStops},
              {"viewingLut", c.viewingLut.generic_string()},
              {"equipment", equipmentJson(c.equipment)},
              {"controls", sheetJson(c.sheet)},
              {"settings", settingsJson(c.settings)}};
    if (c.simulated) json["simulated"] = simulatedJson(*c.simulated);
    return withUnknown(std::move(json), c.unknownFields);
}

Camera readCamera(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Camera c;
    c.id = object.text("id");
    if (c.id.empty()) throw JsonFailure{object.at("id"), "is missing"};
    c.letter = object.text("letter");
    c.role = object.text("role");
    c.body = object.text("body");
    c.sensorFormat = object.text("sensorFormat");
    c.sensorWidthMm = positive(object, "sensorWidthMm", c.sensorWidthMm);
    c.sensorHeightMm = positive(object, "sensorHeightMm", c.sensorHeightMm);
    c.filterStops = object.number("filterStops", 0.0);
    c.viewingLut = object.text("viewingLut");
    if (const Json* lens = object.child("lens")) c.lens = readLens(*lens, object.at("lens"));
    if (const Json* equipment = object.child("equipment")) {
        c.equipment = readEquipment(*equipment, object.at("equipment"));
    }
    if (const Json* sheet = object.child("controls"))
        c.sheet = readSheet(*sheet, object.at("controls"));
    if (const Json* settings = object.child("settings")) {
        c.settings = readSettings(*settings, object.at("settings"));
    }
    if (const Json* body = object.child("simulated")) {
        c.simulated = readSimulated(*body, object.at("simulated"));
    }
    c.unknownFields = object.rest();
    return c;
}

}  // namespace rigmatch::rig
