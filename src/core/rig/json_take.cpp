// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/json_values.h"

namespace rigmatch::rig {
namespace {

constexpr std::array<const char*, 4> kTrustNames{"measured", "nominal", "printed", "found"};

base::ValueTrust readTrust(ObjectReader& chart) {
    const std::string name = chart.text("trust", "nominal");
    for (std::size_t i = 0; i < kTrustNames.size(); ++i) {
        if (name == kTrustNames[i]) return static_cast<base::ValueTrust>(i);
    }
    throw JsonFailure{chart.at("trust"), "should be measured, nominal, printed or found"};
}

std::array<double, 3> triple(ObjectReader& object, const char* key) {
    const std::vector<double> list = object.numbers(key);
    if (list.size() != 3) throw JsonFailure{object.at(key), "should be three numbers"};
    return {list[0], list[1], list[2]};
}

PicturePoint readPoint(const Json& json, const std::string& place) {
    if (!json.is_array() || json.size() != 2 || !json[0].is_number() || !json[1].is_number()) {
        throw JsonFailure{place, "should be two numbers"};
    }
    return {json[0].get<double>(), json[1].get<double>()};
}

Json patchJson(const PatchReading& patch) {
    return {{"name", patch.name},
            {"neutral", patch.isNeutral},
            {"nominalLinear", patch.nominalLinear},
            {"signal", patch.signal},
            {"noise", patch.noise},
            {"standardError", patch.standardError},
            {"clippedShare", patch.clippedShare},
            {"glareShare", patch.glareShare},
            {"centre", {patch.centre.x, patch.centre.y}}};
}

PatchReading readPatch(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    PatchReading patch;
    patch.name = object.text("name");
    patch.isNeutral = object.truth("neutral", false);
    patch.nominalLinear = triple(object, "nominalLinear");
    patch.signal = triple(object, "signal");
    patch.noise = triple(object, "noise");
    patch.standardError = triple(object, "standardError");
    patch.clippedShare = object.number("clippedShare", 0.0);
    patch.glareShare = object.number("glareShare", 0.0);
    if (const Json* centre = object.child("centre"))
        patch.centre = readPoint(*centre, object.at("centre"));
    return patch;
}

base::Warning readWarning(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    base::Warning warning;
    warning.code = object.text("code");
    warning.text = object.text("text");
    warning.hint = object.text("hint");
    return warning;
}

Json chartJson(const Reading& r) {
    if (!r.hasChart) return {{"found", false}, {"reason", r.reason}, {"hint", r.hint}};
    Json patches = Json::array();
    for (const PatchReading& patch : r.patches) patches.push_back(patchJson(patch));
    Json json{{"found", true},
              {"layout", r.layout},
              {"columns", r.columns},
              {"rows", r.rows},
              {"trust", kTrustNames.at(static_cast<std::size_t>(r.trust))},
              {"confidence", r.confidence},
              {"coloursDoubtful", r.areColoursDoubtful},
              {"corners", quadJson(r.corners)},
              {"patchShare", r.patchShare},
              {"cornersManual", r.areCornersManual},
              {"spanStartSeconds", r.spanStartSeconds},
              {"spanEndSeconds", r.spanEndSeconds},
              {"framesUsed", r.framesUsed},
              {"patches", patches}};
    if (r.noise) json["noise"] = {{"grey", r.noise->grey}, {"black", r.noise->black}};
    if (r.sharpness) {
        json["sharpness"] = {{"widthPx", r.sharpness->widthPx},
                             {"widthErrorPx", r.sharpness->widthErrorPx},
                             {"overshootPercent", r.sharpness->overshootPercent},
                             {"overshootErrorPercent", r.sharpness->overshootErrorPercent}};
    }
    if (r.drift) {
        json["drift"] = {{"signalPerSecond", r.drift->signalPerSecond},
                         {"standardError", r.drift->standardError},
                         {"seconds", r.drift->seconds}};
    }
    return json;
}

void readDetails(ObjectReader& chart, Reading& r) {
    if (const Json* json = chart.child("noise")) {
        ObjectReader object(*json, chart.at("noise"));
        r.noise = NoiseReading{triple(object, "grey"), triple(object, "black")};
    }
    if (const Json* json = chart.child("sharpness")) {
        ObjectReader object(*json, chart.at("sharpness"));
        r.sharpness = SharpnessReading{object.number("widthPx", 0.0),
                                       object.number("widthErrorPx", 0.0),
                                       object.number("overshootPercent", 0.0),
                                       object.number("overshootErrorPercent", 0.0)};
    }
    if (const Json* json = chart.child("drift")) {
        ObjectReader object(*json, chart.at("drift"));
        r.drift = DriftReading{triple(object, "signalPerSecond"),
                               triple(object, "standardError"),
                               object.number("seconds", 0.0)};
    }
}

/// A grid and patches that do not belong together cannot be compared: such a chart counts as not
/// found, and the rest of the file is kept.
void dropMisfitPatches(Reading& r) {
    constexpr int kMostPatches = 96;
    const bool isGrid = r.columns >= 1 && r.columns <= kMostPatches && r.rows >= 1 &&
                        r.rows <= kMostPatches && r.columns * r.rows <= kMostPatches;
    if (!r.hasChart || (isGrid && r.patches.size() == static_cast<std::size_t>(r.columns * r.rows)))
        return;
    r.hasChart = false;
    r.reason = "The rig file holds " + std::to_string(r.patches.size()) +
               " patches for a chart of " + std::to_string(r.columns) + " × " +
               std::to_string(r.rows) + ".";
    r.hint = "Measure the shot again.";
    r.columns = Reading{}.columns;
    r.rows = Reading{}.rows;
    r.patches.clear();
}

void readChart(const Json& json, const std::string& place, Reading& r) {
    ObjectReader object(json, place);
    r.hasChart = object.truth("found", false);
    r.reason = object.text("reason");
    r.hint = object.text("hint");
    r.layout = object.text("layout");
    r.columns = object.whole("columns", r.columns);
    r.rows = object.whole("rows", r.rows);
    r.trust = readTrust(object);
    r.confidence = object.number("confidence", 0.0);
    r.areColoursDoubtful = object.truth("coloursDoubtful", false);
    if (const Json* corners = object.child("corners"))
        r.corners = readQuad(*corners, object.at("corners"));
    r.patchShare = object.number("patchShare", r.patchShare);
    r.areCornersManual = object.truth("cornersManual", false);
    r.spanStartSeconds = object.number("spanStartSeconds", 0.0);
    r.spanEndSeconds = object.number("spanEndSeconds", 0.0);
    r.framesUsed = object.whole("framesUsed", 0);
    r.patches = readList(object, "patches", readPatch);
    readDetails(object, r);
    dropMisfitPatches(r);
}

Json skinJson(const SkinReading& skin) {
    return {{"signal", skin.signal},
            {"standardError", skin.standardError},
            {"clippedShare", skin.clippedShare},
            {"pixels", skin.pixels}};
}

Json facesJson(const Reading& reading) {
    Json faces = Json::array();
    for (const FaceReading& face : reading.faces) {
        Json json{{"box", {face.left, face.top, face.width, face.height}},
                  {"score", face.score},
                  {"presence", face.presence},
                  {"turnDegrees", face.turnDegrees},
                  {"atSeconds", face.atSeconds},
                  {"leftEye", {face.leftEye.x, face.leftEye.y}},
                  {"rightEye", {face.rightEye.x, face.rightEye.y}}};
        if (face.forehead) json["forehead"] = skinJson(*face.forehead);
        if (face.leftCheek) json["leftCheek"] = skinJson(*face.leftCheek);
        if (face.rightCheek) json["rightCheek"] = skinJson(*face.rightCheek);
        if (face.background) json["background"] = skinJson(*face.background);
        if (face.isManual) json["manual"] = true;
        faces.push_back(json);
    }
    return faces;
}

std::optional<SkinReading> readSkin(ObjectReader& face, const char* key) {
    const Json* json = face.child(key);
    if (json == nullptr) return std::nullopt;
    ObjectReader object(*json, face.at(key));
    SkinReading skin;
    skin.signal = triple(object, "signal");
    skin.standardError = triple(object, "standardError");
    skin.clippedShare = object.number("clippedShare", 0.0);
    skin.pixels = object.whole("pixels", 0);
    return skin;
}

FaceReading readFace(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    FaceReading face;
    const std::vector<double> box = object.numbers("box");
    if (box.size() != 4) throw JsonFailure{object.at("box"), "should be four numbers"};
    face.left = box[0];
    face.top = box[1];
    face.width = box[2];
    face.height = box[3];
    face.score = object.number("score", 0.0);
    face.presence = object.number("presence", 0.0);
    face.turnDegrees = object.number("turnDegrees", 0.0);
    face.atSeconds = object.number("atSeconds", 0.0);
    if (const Json* eye = object.child("leftEye"))
        face.leftEye = readPoint(*eye, object.at("leftEye"));
    if (const Json* eye = object.child("rightEye"))
        face.rightEye = readPoint(*eye, object.at("rightEye"));
    face.forehead = readSkin(object, "forehead");
    face.leftCheek = readSkin(object, "leftCheek");
    face.rightCheek = readSkin(object, "rightCheek");
    face.background = readSkin(object, "background");
    face.isManual = object.truth("manual", false);
    return face;
}

SkinMark readMark(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    const std::vector<double> box = object.numbers("box");
    if (box.size() != 4) throw JsonFailure{object.at("box"), "should be four numbers"};
    return {box[0], box[1], box[2], box[3], object.number("atSeconds", 0.0)};
}

Json shotJson(const Shot& shot) {
    Json json{{"camera", shot.cameraId},
              {"media", shot.media.generic_string()},
              {"settings", settingsJson(shot.settings)},
              {"isoRecorded", shot.isIsoRecorded},
              {"kelvinRecorded", shot.isKelvinRecorded},
              {"rangeOverride", shot.rangeOverride},
              {"failure", shot.failure}};
    if (!shot.matrixOverride.empty()) json["matrixOverride"] = shot.matrixOverride;
    if (!shot.primariesOverride.empty()) json["primariesOverride"] = shot.primariesOverride;
    if (shot.manualCorners) json["manualCorners"] = quadJson(*shot.manualCorners);
    if (shot.cornersAtSeconds) json["cornersAtSeconds"] = *shot.cornersAtSeconds;
    for (const SkinMark& mark : shot.skinMarks)
        json["skinMarks"].push_back({{"box", {mark.left, mark.top, mark.width, mark.height}},
                                     {"atSeconds", mark.atSeconds}});
    if (shot.reading) json["reading"] = readingJson(*shot.reading);
    return withUnknown(std::move(json), shot.unknownFields);
}

Shot readShot(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Shot shot;
    shot.cameraId = object.text("camera");
    shot.media = object.text("media");
    if (const Json* settings = object.child("settings")) {
        shot.settings = readSettings(*settings, object.at("settings"));
    }
    shot.isIsoRecorded = object.truth("isoRecorded", false);
    shot.isKelvinRecorded = object.truth("kelvinRecorded", false);
    shot.rangeOverride = object.text("rangeOverride");
    shot.matrixOverride = object.text("matrixOverride");
    shot.primariesOverride = object.text("primariesOverride");
    shot.failure = object.text("failure");
    if (object.child("cornersAtSeconds") != nullptr)
        shot.cornersAtSeconds = object.number("cornersAtSeconds", 0.0);
    shot.skinMarks = readList(object, "skinMarks", readMark);
    if (const Json* quad = object.child("manualCorners")) {
        shot.manualCorners = readQuad(*quad, object.at("manualCorners"));
    }
    if (const Json* reading = object.child("reading")) {
        shot.reading = readReading(*reading, object.at("reading"));
    }
    shot.unknownFields = object.rest();
    return shot;
}

}  // namespace

Json quadJson(const PictureQuad& quad) {
    Json list = Json::array();
    for (const PicturePoint& p : quad) list.push_back({p.x, p.y});
    return list;
}

PictureQuad readQuad(const Json& json, const std::string& place) {
    if (!json.is_array() || json.size() != 4) throw JsonFailure{place, "should be four points"};
    PictureQuad quad;
    for (std::size_t i = 0; i < 4; ++i)
        quad[i] = readPoint(json[i], place + "[" + std::to_string(i) + "]");
    return quad;
}

Json readingJson(const Reading& r) {
    Json warnings = Json::array();
    for (const base::Warning& w : r.warnings) {
        warnings.push_back({{"code", w.code}, {"text", w.text}, {"hint", w.hint}});
    }
    return {{"still", r.isStill},
            {"widthPx", r.width},
            {"heightPx", r.height},
            {"bitDepth", r.bitDepth},
            {"range", r.range},
            {"matrix", r.matrix},
            {"primaries", r.primaries},
            {"transfer", r.transfer},
            {"frameRate", r.frameRate},
            {"durationSeconds", r.durationSeconds},
            {"elapsedMs", r.elapsedMs},
            {"warnings", warnings},
            {"chart", chartJson(r)},
            {"faces", facesJson(r)}};
}

Reading readReading(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Reading r;
    r.isStill = object.truth("still", false);
    r.width = object.whole("widthPx", 0);
    r.height = object.whole("heightPx", 0);
    r.bitDepth = object.whole("bitDepth", 8);
    r.range = object.text("range");
    r.matrix = object.text("matrix");
    r.primaries = object.text("primaries", r.primaries);
    r.transfer = object.text("transfer");
    r.frameRate = object.number("frameRate", 0.0);
    r.durationSeconds = object.number("durationSeconds", 0.0);
    r.elapsedMs = object.number("elapsedMs", 0.0);
    r.warnings = readList(object, "warnings", readWarning);
    if (const Json* chart = object.child("chart")) readChart(*chart, object.at("chart"), r);
    r.faces = readList(object, "faces", readFace);
    return r;
}

Json takeJson(const Take& take) {
    Json shots = Json::array();
    for (const Shot& shot : take.shots) shots.push_back(shotJson(shot));
    return withUnknown(
        {{"id", take.id}, {"number", take.number}, {"startedAt", take.startedAt}, {"shots", shots}},
        take.unknownFields);
}

Take readTake(const Json& json, const std::string& place) {
    ObjectReader object(json, place);
    Take take;
    take.id = object.text("id");
    if (take.id.empty()) throw JsonFailure{object.at("id"), "is missing"};
    take.number = object.whole("number", 1);
    take.startedAt = object.text("startedAt");
    take.shots = readList(object, "shots", readShot);
    take.unknownFields = object.rest();
    return take;
}

}  // namespace rigmatch::rig
