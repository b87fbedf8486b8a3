// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/stored.h"

namespace rigmatch::rig {

Json storedJson(const std::map<std::string, double>& values) {
    Json json = Json::object();
    for (const auto& [name, value] : values) json[name] = value;
    return json;
}

void readStored(const Json& json, StoredPlace& place, double& into) {
    if (!json.is_number()) throw JsonFailure{place.path(), base::say("json.shouldNumber")};
    into = json.get<double>();
}
void readStored(const Json& json, StoredPlace& place, int& into) {
    double value = 0.0;
    readStored(json, place, value);
    if (!(value > -2e9 && value < 2e9))
        throw JsonFailure{place.path(), base::say("json.shouldWholeNumber")};
    into = static_cast<int>(value);
}
void readStored(const Json& json, StoredPlace& place, bool& into) {
    if (!json.is_boolean()) throw JsonFailure{place.path(), base::say("json.shouldTrueFalse")};
    into = json.get<bool>();
}
void readStored(const Json& json, StoredPlace& place, std::string& into) {
    if (!json.is_string()) throw JsonFailure{place.path(), base::say("json.shouldText")};
    into = json.get<std::string>();
}
void readStored(const Json& json, StoredPlace& place, std::filesystem::path& into) {
    std::string text;
    readStored(json, place, text);
    into = text;
}
void readStored(const Json& json, StoredPlace& place, std::map<std::string, double>& into) {
    if (!json.is_object()) throw JsonFailure{place.path(), base::say("json.shouldObjectNumbers")};
    into.clear();
    for (const auto& [name, value] : json.items()) {
        if (value.is_number())
            into[name] = value.get<double>();
        else
            place.unknown[name] = value;
    }
}

namespace stored {

void checkList(const Json& json, const StoredPlace& place) {
    if (!json.is_array()) throw JsonFailure{place.path(), base::say("json.shouldBeList")};
}
void checkListOf(std::size_t count, const Json& json, const StoredPlace& place) {
    if (!json.is_array() || json.size() != count)
        throw JsonFailure{place.path(),
                          base::say("json.shouldBeListOf", {{"count", base::whole(count)}})};
}
void readElements(const Json& list,
                  const StoredPlace& place,
                  void* into,
                  void (*read)(const Json& element, StoredPlace& at, void* into)) {
    for (std::size_t i = 0; i < list.size(); ++i) {
        StoredPlace at = place.at(i);
        read(list[i], at, into);
    }
}
void checkRange(double value, const Range& range, const StoredPlace& place) {
    const bool isHighEnough = range.isLowestOut ? value > range.lowest : value >= range.lowest;
    if (!(isHighEnough && value <= range.highest))
        throw JsonFailure{place.path(), base::say(range.reason)};
}

void writeValue(
    Json& json, const char* key, const ValueType& type, const void* value, const void* standard) {
    if (standard != nullptr && type.isSame(value, standard)) return;
    if (type.isTold != nullptr && !type.isTold(value)) return;
    json[key] = type.write(value);
}

void readValue(ObjectReader& object,
               const char* key,
               const ValueType& type,
               const Range& range,
               bool isNeeded,
               void* into) {
    const Json* json = object.child(key);
    if (json == nullptr) {
        if (isNeeded) throw JsonFailure{object.at(key), base::say("json.missing")};
        if (type.forget != nullptr) type.forget(into);
        return;
    }
    StoredPlace place = object.place().at(key);
    type.read(*json, place, range, into);
    object.keep(key, std::move(place.unknown));
}

std::optional<std::size_t> readName(ObjectReader& object,
                                    const char* key,
                                    std::span<const char* const> names) {
    const Json* json = object.child(key);
    if (json == nullptr) return std::nullopt;
    StoredPlace place = object.place().at(key);
    std::string name;
    readStored(*json, place, name);
    std::string all;
    for (std::size_t i = 0; i < names.size(); ++i) {
        if (name == names[i]) return i;
        all += (i == 0 ? "" : i + 1 == names.size() ? " or " : ", ") + std::string(names[i]);
    }
    throw JsonFailure{place.path(), base::say("json.shouldBeNamed", {{"names", all}})};
}

void layUnknown(Json& json, const std::string& unknownFields, std::span<const char* const> keys) {
    if (unknownFields.empty()) return;
    Json unknown = Json::parse(unknownFields, nullptr, false);
    if (!unknown.is_object()) return;
    for (const char* key : keys)
        if (!json.contains(key)) unknown.erase(key);
    layUnder(json, unknown);
}

}  // namespace stored

}  // namespace rigmatch::rig
