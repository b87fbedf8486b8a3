// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/json_object.h"

#include <algorithm>
#include <type_traits>

namespace rigmatch::rig {

base::Text textOf(const JsonFailure& failure) {
    return base::say("json.failure", {{"place", failure.place}, {"reason", failure.reason}});
}

std::string StoredPlace::path() const {
    const std::string above = parent == nullptr ? std::string() : parent->path();
    if (index >= 0) return above + "[" + std::to_string(index) + "]";
    return above.empty() || key.empty() ? above + key : above + "." + key;
}
StoredPlace StoredPlace::at(const char* child) const { return {this, child}; }
StoredPlace StoredPlace::at(std::size_t i) const {
    return {this, {}, static_cast<std::ptrdiff_t>(i)};
}

ObjectReader::ObjectReader(const Json& object, std::string place)
    : ObjectReader(object, StoredPlace{nullptr, std::move(place)}) {}
ObjectReader::ObjectReader(const Json& object, const StoredPlace& place)
    : m_object(object), m_place{place.parent, place.key, place.index} {
    if (!object.is_object()) throw JsonFailure{m_place.path(), base::say("json.shouldObject")};
}
ObjectReader::~ObjectReader() = default;

double ObjectReader::number(const char* key, double fallback) {
    return typed<double>(key, fallback, "json.aNumber");
}
int ObjectReader::whole(const char* key, int fallback) {
    const double value = number(key, fallback);
    if (!(value > -2e9 && value < 2e9))
        throw JsonFailure{at(key), base::say("json.shouldWholeNumber")};
    return static_cast<int>(value);
}
bool ObjectReader::truth(const char* key, bool fallback) {
    return typed<bool>(key, fallback, "json.trueOrFalse");
}
std::string ObjectReader::text(const char* key, const std::string& fallback) {
    return typed<std::string>(key, fallback, "json.aText");
}
std::vector<double> ObjectReader::numbers(const char* key) {
    return typed<std::vector<double>>(key, {}, "json.listOfNumbers");
}
std::vector<std::string> ObjectReader::texts(const char* key) {
    return typed<std::vector<std::string>>(key, {}, "json.listOfTexts");
}

const Json* ObjectReader::child(const char* key) {
    const auto found = m_object.find(key);
    if (found == m_object.end()) return nullptr;
    if (std::find(m_read.begin(), m_read.end(), std::string_view(key)) == m_read.end())
        m_read.emplace_back(key);
    return found->is_null() ? nullptr : &*found;
}

std::string ObjectReader::at(const std::string& key) const {
    return m_place.at(key.c_str()).path();
}

Json ObjectReader::unknown() const {
    Json unknown = m_kept;
    if (m_read.size() == m_object.size()) return unknown;
    for (const auto& [key, value] : m_object.items()) {
        if (std::find(m_read.begin(), m_read.end(), key) == m_read.end()) unknown[key] = value;
    }
    return unknown;
}
std::string ObjectReader::rest() const {
    const Json all = unknown();
    return all.is_null() ? std::string() : all.dump();
}
void ObjectReader::keep(const char* key, Json unknown) {
    if (unknown.is_object() && !unknown.empty()) m_kept[key] = std::move(unknown);
}

template <class T>
T ObjectReader::typed(const char* key, T fallback, const char* what) {
    const Json* value = child(key);
    if (value == nullptr) return fallback;
    try {
        // get<bool>() of a number and get<double>() of a bool would pass quietly.
        if constexpr (std::is_same_v<T, double>) {
            if (!value->is_number())
                throw JsonFailure{at(key), base::say("json.shouldBe", {{"kind", base::say(what)}})};
        }
        return value->get<T>();
    } catch (const Json::exception&) {
        throw JsonFailure{at(key), base::say("json.shouldBe", {{"kind", base::say(what)}})};
    }
}

void layUnder(Json& object, const Json& unknown) {
    for (const auto& [key, value] : unknown.items()) {
        const auto found = object.find(key);
        if (found == object.end()) {
            object[key] = value;
        } else if (found->is_object() && value.is_object()) {
            layUnder(*found, value);
        }
    }
}
Json withUnknown(Json object, const std::string& unknownFields) {
    if (unknownFields.empty()) return object;
    const Json unknown = Json::parse(unknownFields, nullptr, false);
    if (unknown.is_object()) layUnder(object, unknown);
    return object;
}

}  // namespace rigmatch::rig
