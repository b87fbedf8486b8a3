// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/rig_json.h"

#include <algorithm>
#include <set>

#include "rig/json_document.h"
#include "rig/json_plan.h"
#include "rig/json_values.h"

namespace rigmatch::rig {
namespace {

using base::ErrorCode;

base::Error corrupt(base::Text detail) {
    return {ErrorCode::CorruptDocument,
            base::say("rigFile.notValid"),
            std::move(detail),
            base::say("rigFile.openEarlier")};
}

void checkIds(const Rig& rig) {
    std::set<std::string> ids;
    for (const Camera& camera : rig.cameras) {
        if (!ids.insert(camera.id).second) {
            throw JsonFailure{"cameras", base::say("json.twoCamerasId", {{"id", camera.id}})};
        }
    }
    for (const Source& source : rig.sources) {
        if (!ids.insert(source.id).second)
            throw JsonFailure{"sources", base::say("json.twoSourcesId", {{"id", source.id}})};
    }
    if (rig.sources.size() > kMostSources) {
        throw JsonFailure{"sources",
                          base::say("json.tooMany",
                                    {{"count", base::whole(rig.sources.size())},
                                     {"most", base::whole(kMostSources)}})};
    }
    if (rig.cameras.size() > kMostCameras) {
        throw JsonFailure{"cameras",
                          base::say("json.tooMany",
                                    {{"count", base::whole(rig.cameras.size())},
                                     {"most", base::whole(kMostCameras)}})};
    }
}

ParsedRig readDocument(const Json& json) {
    ObjectReader object(json, "");
    if (object.text("format") != "rigmatch")
        throw JsonFailure{"format", base::say("json.shouldRigmatch")};
    ParsedRig parsed;
    parsed.version = object.whole("version", 0);
    if (parsed.version < 1) throw JsonFailure{"version", base::say("json.shouldMore")};
    if (parsed.isNewer()) parsed.rig.laterVersion = parsed.version;
    parsed.rig.name = object.text("name", parsed.rig.name);
    parsed.rig.referenceId = object.text("reference");
    parsed.rig.judge = object.text("judge", parsed.rig.judge);
    parsed.rig.target = object.text("target");
    parsed.rig.chart = object.text("chart", parsed.rig.chart);
    parsed.rig.cameras = readList(object, "cameras", readCamera);
    parsed.rig.sources = readList(object, "sources", readSource);
    parsed.rig.takes = readList(object, "takes", readTake);
    if (const Json* plan = object.child("plan")) parsed.rig.plan = readPlan(*plan, "plan");
    if (const Json* choices = object.child("choices")) {
        parsed.rig.choices = readChoices(*choices, "choices");
    }
    parsed.rig.unknownFields = object.rest();
    checkIds(parsed.rig);
    giveLetters(parsed.rig);
    return parsed;
}

}  // namespace

std::string textOf(const Json& json) {
    return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

Json headJson(const Rig& rig) {
    Json document{{"format", "rigmatch"},
                  {"version", std::max(kStoreVersion, rig.laterVersion)},
                  {"name", rig.name},
                  {"reference", rig.referenceId},
                  {"judge", rig.judge},
                  {"chart", rig.chart},
                  {"choices", choicesJson(rig.choices)}};
    if (!rig.target.empty()) document["target"] = rig.target;
    if (rig.plan) document["plan"] = planJson(*rig.plan);
    document = withUnknown(std::move(document), rig.unknownFields);
    document.erase("cameras");
    document.erase("sources");
    document.erase("takes");
    return document;
}

std::string jsonText(const Rig& rig) {
    const Json document = headJson(rig);
    // One line for each camera and take: a large rig is written in pieces and stays readable.
    std::string text = "{\n";
    for (const auto& [key, value] : document.items())
        text += Json(key).dump() + ": " + textOf(value) + ",\n";
    const auto append = [&](const char* key, const auto& list, const auto& jsonOf) {
        text += "\"" + std::string(key) + "\": [";
        const char* between = "\n";
        for (const auto& each : list) {
            text += between + textOf(jsonOf(each));
            between = ",\n";
        }
        text += "]";
    };
    append("cameras", rig.cameras, cameraJson);
    text += ",\n";
    if (!rig.sources.empty()) {
        append("sources", rig.sources, sourceJson);
        text += ",\n";
    }
    append("takes", rig.takes, takeJson);
    return text + "\n}\n";
}

base::Result<ParsedRig> parseRig(std::string_view text) {
    return parseDocument(text, [](Json&) {});
}

base::Result<ParsedRig> parseDocument(std::string_view text,
                                      const std::function<void(Json&)>& change) {
    try {
        Json json = Json::parse(text);
        change(json);
        return readDocument(json);
    } catch (const JsonFailure& failure) {
        return tl::unexpected(corrupt(textOf(failure)));
    } catch (const Json::parse_error& failure) {
        return tl::unexpected(corrupt(
            base::say("json.breaksOffDamaged",
                      {{"byte", base::whole(failure.byte)}, {"bytes", base::whole(text.size())}})));
    } catch (const Json::exception&) {
        return tl::unexpected(corrupt(base::say("json.contentNotExpected")));
    }
}

}  // namespace rigmatch::rig
