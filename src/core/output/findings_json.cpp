// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/findings_json.h"

#include <nlohmann/json.hpp>

#include "output/json_parts.h"
#include "output/json_tidy.h"
#include "words/english.h"

namespace rigmatch::output {
namespace {

/// A camera's letter; other subjects (a source, an object of the plan) by their ids.
std::string subjectOf(const rig::Rig& rig, const std::string& id) {
    const rig::Camera* camera = rig::findCamera(rig, id);
    return camera != nullptr ? camera->letter : id;
}

Json findingJson(const rig::Rig& rig, const words::ToldFinding& told) {
    const base::Finding& finding = told.finding;
    Json json{{"area", words::nameOf(told.area)},
              {"quantity", finding.quantity},
              {"subject", subjectOf(rig, finding.subject)},
              {"verdict", base::nameOf(finding.verdict)},
              {"value", finding.value ? Json(exactly(*finding.value)) : Json(nullptr)},
              {"uncertainty", exactly(finding.uncertainty)},
              {"unit", finding.unit},
              {"headline", told.headline},
              {"why", told.why},
              {"change", told.change}};
    if (!finding.other.empty()) json["other"] = subjectOf(rig, finding.other);
    if (finding.person >= 0) json["person"] = finding.person + 1;
    if (finding.low != finding.high) json["good"] = {exactly(finding.low), exactly(finding.high)};
    if (finding.nearBy > 0.0) json["nearBy"] = exactly(finding.nearBy);
    if (!finding.reason.empty()) json["reason"] = words::inEnglish(finding.reason);
    if (!finding.advice.code.empty()) {
        Json arguments = Json::object();
        for (const auto& [name, value] : finding.advice.arguments) arguments[name] = exactly(value);
        json["advice"] = {{"code", finding.advice.code}, {"arguments", arguments}};
    }
    return json;
}

}  // namespace

std::string findingsJson(const rig::Rig& rig, const std::vector<words::ToldFinding>& findings) {
    Json list = Json::array();
    for (const words::ToldFinding& told : findings) list.push_back(findingJson(rig, told));
    return Json{{"version", 1}, {"rig", rig.name}, {"findings", list}}.dump(
               1, ' ', false, Json::error_handler_t::replace) +
           "\n";
}

}  // namespace rigmatch::output
