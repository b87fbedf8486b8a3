// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/json_output.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "output/json_parts.h"
#include "output/json_tidy.h"
#include "words/english.h"
#include "words/reading_facts.h"
#include "words/rest_reasons.h"

namespace rigmatch::output {
namespace {

Json chartJson(const rig::Reading& reading) {
    if (!reading.hasChart)
        return {{"found", false},
                {"reason", words::inEnglish(reading.reason)},
                {"hint", words::inEnglish(reading.hint)}};
    Json corners = Json::array();
    for (const rig::PicturePoint& p : reading.corners)
        corners.push_back({exactly(p.x), exactly(p.y)});
    Json patches = Json::array();
    for (const rig::PatchReading& patch : reading.patches) {
        patches.push_back({{"name", patch.name},
                           {"centre", {exactly(patch.centre.x), exactly(patch.centre.y)}},
                           {"signal", triple(patch.signal)},
                           {"noise", triple(patch.noise)},
                           {"standardError", triple(patch.standardError)},
                           {"clippedShare", exactly(patch.clippedShare)},
                           {"glareShare", exactly(patch.glareShare)}});
    }
    return {{"found", true},
            {"layout", reading.layout},
            {"confidence", exactly(reading.confidence)},
            {"corners", corners},
            {"cornersManual", reading.areCornersManual},
            {"coloursDoubtful", reading.areColoursDoubtful},
            {"span",
             {{"startSeconds", exactly(reading.spanStartSeconds)},
              {"endSeconds", exactly(reading.spanEndSeconds)},
              {"framesUsed", reading.framesUsed}}},
            {"patches", patches}};
}

Json skinJson(const std::optional<rig::SkinReading>& skin) {
    if (!skin) return nullptr;
    return {{"signal", triple(skin->signal)},
            {"standardError", triple(skin->standardError)},
            {"clippedShare", exactly(skin->clippedShare)},
            {"pixels", skin->pixels}};
}

Json facesJson(const rig::Reading& reading) {
    Json faces = Json::array();
    for (const rig::FaceReading& face : reading.faces) {
        faces.push_back(
            {{"box",
              {exactly(face.left), exactly(face.top), exactly(face.width), exactly(face.height)}},
             {"score", exactly(face.score)},
             {"presence", exactly(face.presence)},
             {"turnDegrees", exactly(face.turnDegrees)},
             {"atSeconds", exactly(face.atSeconds)},
             {"skin",
              {{"forehead", skinJson(face.forehead)},
               {"leftCheek", skinJson(face.leftCheek)},
               {"rightCheek", skinJson(face.rightCheek)}}}});
    }
    return faces;
}

/// Levels of the sound, dBFS; null where there is none.
Json soundJson(const rig::Reading& reading) {
    if (!reading.sound) return nullptr;
    Json channels = Json::array();
    for (const rig::ChannelLevel& channel : reading.sound->channels) {
        channels.push_back({{"peakDbfs", channel.peakDbfs},
                            {"meanDbfs", channel.meanDbfs},
                            {"clippedShare", channel.clippedShare}});
    }
    return {{"sampleRateHz", reading.sound->sampleRate}, {"channels", channels}};
}

Json factJson(const words::FactRow& row, const words::FactCell& cell) {
    Json json{{"key", row.key}, {"group", row.group}};
    json["value"] = cell.value ? Json(exactly(*cell.value)) : Json(nullptr);
    if (cell.value && cell.uncertainty > 0.0) json["uncertainty"] = exactly(cell.uncertainty);
    json["unit"] = row.unit;
    json["text"] = cell.text;
    json["why"] = cell.why;
    return json;
}

/// What one camera's column of the table tells.
Json fileJson(const MeasuredFile& file) {
    if (!file.shot.reading)
        return {{"file", file.file}, {"error", words::inEnglish(file.shot.failure)}};
    const rig::Reading& reading = *file.shot.reading;
    Json warnings = Json::array();
    for (const base::Warning& w : reading.warnings)
        warnings.push_back({{"code", w.code},
                            {"text", words::inEnglish(w.text)},
                            {"hint", words::inEnglish(w.hint)}});
    return {{"file", file.file},
            {"kind", reading.isStill ? "still" : "clip"},
            {"width", reading.width},
            {"height", reading.height},
            {"bitDepth", reading.bitDepth},
            {"range", reading.range},
            {"matrix", reading.matrix},
            {"primaries", reading.primaries},
            {"transfer", reading.transfer},
            {"frameRate", exactly(reading.frameRate)},
            {"durationSeconds", exactly(reading.durationSeconds)},
            {"elapsedMs", exactly(reading.elapsedMs)},
            {"warnings", warnings},
            {"chart", chartJson(reading)},
            {"faces", facesJson(reading)},
            {"sound", soundJson(reading)},
            {"details", factsJson(words::readingFacts(reading), 0)}};
}

}  // namespace

Json orNull(const std::optional<double>& value) {
    return value ? Json(tidy(*value)) : Json(nullptr);
}

Json triple(const std::array<double, 3>& values) {
    return Json::array({exactly(values[0]), exactly(values[1]), exactly(values[2])});
}

Json factsJson(const words::FactTable& table, std::size_t column) {
    Json facts = Json::array();
    for (const words::FactRow& row : table.rows) {
        if (column < row.cells.size()) facts.push_back(factJson(row, row.cells[column]));
    }
    return facts;
}

std::string measureJson(const std::vector<MeasuredFile>& files) {
    Json results = Json::array();
    for (const MeasuredFile& file : files) results.push_back(fileJson(file));
    return Json{{"version", 1}, {"results", results}}.dump(
               1, ' ', false, Json::error_handler_t::replace) +
           "\n";
}

std::string takeJson(const rig::Rig& rig,
                     const rig::Take& take,
                     const std::vector<MeasuredFile>& files) {
    Json results = Json::array();
    for (const MeasuredFile& file : files) {
        Json json = fileJson(file);
        const rig::Camera* camera = rig::findCamera(rig, file.shot.cameraId);
        if (camera != nullptr) json["camera"] = camera->letter;
        results.push_back(json);
    }
    Json purposes = Json::array();
    for (const rig::Purpose purpose : take.purposes) purposes.push_back(rig::nameOf(purpose));
    return Json{{"version", 1},
                {"take", {{"id", take.id}, {"number", take.number}, {"purposes", purposes}}},
                {"results", results}}
               .dump(1, ' ', false, Json::error_handler_t::replace) +
           "\n";
}

}  // namespace rigmatch::output
