// SPDX-License-Identifier: GPL-3.0-or-later
#include <cmath>
#include <optional>

#include "base/text.h"
#include "rig/stored.h"

namespace rigmatch::rig {
namespace {

constexpr int kDeepest = 6;  // texts in texts
constexpr int kMostDecimals = 9;
constexpr const char* kLater = "later.value";  // what a later program put there, kept as it is

/// The JSON of an argument that only a later program understands; nothing: it is none, or none that
/// can be written.
std::optional<Json> laterJson(const base::Text& text) {
    if (text.sayings().size() != 1) return std::nullopt;
    const base::Saying& only = text.sayings().front();
    if (only.code != kLater || only.arguments.size() != 1) return std::nullopt;
    const auto* kept = std::get_if<std::string>(&only.arguments.front().second);
    Json json =
        kept == nullptr ? Json(Json::value_t::discarded) : Json::parse(*kept, nullptr, false);
    if (json.is_discarded()) return std::nullopt;
    return json;
}

Json sayingsJson(const base::Text& text) {
    Json list = Json::array();
    for (const base::Saying& saying : text.sayings()) {
        Json arguments = Json::object();
        for (const auto& [name, argument] : saying.arguments) {
            if (const auto* word = std::get_if<std::string>(&argument)) {
                arguments[name] = *word;
            } else if (const auto* number = std::get_if<base::Number>(&argument)) {
                if (std::isfinite(number->value))
                    arguments[name] =
                        Json::array({number->value, number->decimals, number->isSigned});
                else
                    arguments[name] = "?";
            } else {
                const auto& inner = std::get<base::Text>(argument);
                const auto later = laterJson(inner);
                arguments[name] = later ? *later : sayingsJson(inner);
            }
        }
        list.push_back(Json::array({saying.code, arguments}));
    }
    return list;
}

base::Text sayingsOf(const Json& json, const std::string& path, int depth);

base::Argument argumentOf(const Json& json, const std::string& path, int depth) {
    if (json.is_string()) return json.get<std::string>();
    const bool isNumber = json.is_array() && json.size() == 3 && json[0].is_number() &&
                          json[1].is_number() && json[2].is_boolean();
    if (!json.is_array()) return base::say(kLater, {{"json", json.dump()}});
    if (!isNumber) return sayingsOf(json, path, depth + 1);
    const auto decimals = json[1].get<double>();
    if (!(decimals >= 0.0 && decimals <= kMostDecimals))
        throw JsonFailure{path, base::say("json.shouldDecimals")};
    return base::Number{json[0].get<double>(), static_cast<int>(decimals), json[2].get<bool>()};
}

base::Text sayingsOf(const Json& json, const std::string& path, int depth) {
    if (!json.is_array() || depth > kDeepest)
        throw JsonFailure{path, base::say("json.shouldTextList")};
    base::Text text;
    for (const Json& each : json) {
        const bool isSaying =
            each.is_array() && each.size() == 2 && each[0].is_string() && each[1].is_object();
        if (!isSaying) throw JsonFailure{path, base::say("json.shouldHoldCodes")};
        base::Saying saying{each[0].get<std::string>()};
        for (const auto& [name, argument] : each[1].items())
            saying.arguments.emplace_back(name, argumentOf(argument, path, depth));
        text += saying;
    }
    return text;
}

}  // namespace

Json storedJson(const base::Text& text) {
    if (text.empty()) return "";
    const base::Saying& first = text.sayings().front();
    if (text.sayings().size() == 1 && first.code == "asIs" && first.arguments.size() == 1) {
        if (const auto* name = std::get_if<std::string>(&first.arguments.front().second))
            return *name;
    }
    return sayingsJson(text);
}

void readStored(const Json& json, StoredPlace& place, base::Text& into) {
    if (!json.is_string()) {
        into = sayingsOf(json, place.path(), 0);
        return;
    }
    const auto words = json.get<std::string>();
    into = words.empty() ? base::Text{} : base::asIs(words);
}

}  // namespace rigmatch::rig
