// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <tuple>
#include <type_traits>
#include <vector>

#include "rig/json_object.h"
#include "rig/rig.h"

namespace rigmatch::rig {

/// Persistence by declaration: Stored<T>::fields() lists what of a struct is kept in files, and
/// under which keys. Reader, writer and checks follow from it. Keys that no field names are kept in
/// T::unknownFields, or, where a struct has none, in that of the struct around it.
template <class T>
struct Stored;

template <class T>
concept IsStored = requires {
    Stored<T>::fields();
};

/// What a number may be.
struct Range {
    double lowest = -1e12;
    double highest = 1e12;
    const char* reason = "json.shouldSensible";  ///< a code
    bool isLowestOut = false;
};
inline constexpr Range kAnyNumber{};
inline constexpr Range kAboveZero{0.0, 1e9, "json.shouldAboveZero", true};

template <class Owner, class Value>
struct StoredField {
    const char* key;
    Value Owner::*member;
    bool isSparse;  ///< left out where it has its default
    Range range;
    bool isNeeded = false;  ///< a document without it is refused
};
/// A field that is always written.
template <class Owner, class Value>
constexpr StoredField<Owner, Value> kept(const char* key,
                                         Value Owner::*member,
                                         Range range = kAnyNumber) {
    return {key, member, false, range};
}
/// A field that is left out where it has its default.
template <class Owner, class Value>
constexpr StoredField<Owner, Value> sparse(const char* key,
                                           Value Owner::*member,
                                           Range range = kAnyNumber) {
    return {key, member, true, range};
}

/// A field without which a document is refused.
template <class Owner, class Value>
constexpr StoredField<Owner, Value> needed(const char* key, Value Owner::*member) {
    return {key, member, false, kAnyNumber, true};
}

/// Four numbers of a struct in one list.
template <class Owner>
struct PackedField {
    const char* key;
    std::array<double Owner::*, 4> members;
};

/// An enumeration by names.
template <class Owner, class Value, std::size_t N>
struct NamedField {
    const char* key;
    Value Owner::*member;
    std::array<const char*, N> names;
};

/// Some fields of a struct that stand in an object of their own.
template <class... Fields>
struct FieldGroup {
    const char* key;
    std::tuple<Fields...> fields;
};
template <class... Fields>
constexpr FieldGroup<Fields...> group(const char* key, Fields... fields) {
    return {key, {fields...}};
}

[[nodiscard]] inline Json storedJson(double value) { return value; }
[[nodiscard]] inline Json storedJson(int value) { return value; }
[[nodiscard]] inline Json storedJson(bool value) { return value; }
[[nodiscard]] inline Json storedJson(const std::string& value) { return value; }
[[nodiscard]] inline Json storedJson(const std::filesystem::path& value) {
    return value.generic_string();
}
/// A text is a list of sayings, each its code and what stands in it; a name alone, and what older
/// programs wrote in words, is a string.
[[nodiscard]] Json storedJson(const base::Text& text);
[[nodiscard]] Json storedJson(Purpose purpose);
[[nodiscard]] Json storedJson(const PicturePoint& point);
[[nodiscard]] Json storedJson(const colour::TransferCurve& curve);
[[nodiscard]] Json storedJson(const Settings& settings);
[[nodiscard]] Json storedJson(const Equipment& equipment);
template <IsStored T>
[[nodiscard]] Json storedJson(const T& value);
template <class T, std::size_t N>
[[nodiscard]] Json storedJson(const std::array<T, N>& values) {
    Json list = Json::array();
    for (const T& value : values) list.push_back(storedJson(value));
    return list;
}
template <class T>
[[nodiscard]] Json storedJson(const std::vector<T>& values) {
    Json list = Json::array();
    for (const T& value : values) list.push_back(storedJson(value));
    return list;
}
[[nodiscard]] inline Json storedJson(const std::map<std::string, double>& values) {
    Json json = Json::object();
    for (const auto& [name, value] : values) json[name] = value;
    return json;
}
template <class T>
[[nodiscard]] Json storedJson(const base::Told<T>& value) {
    return value.isTold() ? storedJson(value.value()) : Json();
}
template <class T>
[[nodiscard]] Json storedJson(const base::SharedList<T>& values) {
    Json list = Json::array();
    for (const T& value : values) list.push_back(storedJson(value));
    return list;
}
template <class T>
[[nodiscard]] Json storedJson(const std::optional<T>& value) {
    return value ? storedJson(*value) : Json();
}
template <class T>
[[nodiscard]] Json storedJson(const base::Shared<T>& value) {
    return value ? storedJson(*value) : Json();
}

inline void readStored(const Json& json, StoredPlace& place, double& into) {
    if (!json.is_number()) throw JsonFailure{place.path(), base::say("json.shouldNumber")};
    into = json.get<double>();
}
inline void readStored(const Json& json, StoredPlace& place, int& into) {
    if (!json.is_number()) throw JsonFailure{place.path(), base::say("json.shouldNumber")};
    const auto value = json.get<double>();
    if (!(value > -2e9 && value < 2e9))
        throw JsonFailure{place.path(), base::say("json.shouldWholeNumber")};
    into = static_cast<int>(value);
}
inline void readStored(const Json& json, StoredPlace& place, bool& into) {
    if (!json.is_boolean()) throw JsonFailure{place.path(), base::say("json.shouldTrueFalse")};
    into = json.get<bool>();
}
inline void readStored(const Json& json, StoredPlace& place, std::string& into) {
    if (!json.is_string()) throw JsonFailure{place.path(), base::say("json.shouldText")};
    into = json.get<std::string>();
}
inline void readStored(const Json& json, StoredPlace& place, std::filesystem::path& into) {
    if (!json.is_string()) throw JsonFailure{place.path(), base::say("json.shouldText")};
    into = json.get<std::string>();
}
void readStored(const Json& json, StoredPlace& place, base::Text& into);
void readStored(const Json& json, StoredPlace& place, Purpose& into);
void readStored(const Json& json, StoredPlace& place, PicturePoint& into);
void readStored(const Json& json, StoredPlace& place, colour::TransferCurve& into);
void readStored(const Json& json, StoredPlace& place, Settings& into);
void readStored(const Json& json, StoredPlace& place, Equipment& into);
template <IsStored T>
void readStored(const Json& json, StoredPlace& place, T& into);
template <class T, std::size_t N>
void readStored(const Json& json, StoredPlace& place, std::array<T, N>& into) {
    if (!json.is_array() || json.size() != N)
        throw JsonFailure{place.path(),
                          base::say("json.shouldBeListOf", {{"count", base::whole(N)}})};
    for (std::size_t i = 0; i < N; ++i) {
        StoredPlace at = place.at(i);
        readStored(json[i], at, into[i]);
    }
}
template <class T>
void readStored(const Json& json, StoredPlace& place, std::vector<T>& into) {
    if (!json.is_array()) throw JsonFailure{place.path(), base::say("json.shouldBeList")};
    into.clear();
    into.reserve(json.size());
    for (std::size_t i = 0; i < json.size(); ++i) {
        StoredPlace at = place.at(i);
        T value{};
        readStored(json[i], at, value);
        into.push_back(std::move(value));
    }
}
inline void readStored(const Json& json, StoredPlace& place, std::map<std::string, double>& into) {
    if (!json.is_object()) throw JsonFailure{place.path(), base::say("json.shouldObjectNumbers")};
    into.clear();
    for (const auto& [name, value] : json.items()) {
        if (value.is_number())
            into[name] = value.get<double>();
        else
            place.unknown[name] = value;
    }
}
template <class T>
void readStored(const Json& json, StoredPlace& place, base::Told<T>& into) {
    T value{};
    readStored(json, place, value);
    into = std::move(value);
}
template <class T>
void readStored(const Json& json, StoredPlace& place, base::SharedList<T>& into) {
    std::vector<T> values;
    readStored(json, place, values);
    into = std::move(values);
}
template <class T>
void readStored(const Json& json, StoredPlace& place, std::optional<T>& into) {
    readStored(json, place, into.emplace());
}
template <class T>
void readStored(const Json& json, StoredPlace& place, base::Shared<T>& into) {
    readStored(json, place, into.emplace());
}

namespace stored {

template <class Owner, class Value>
void writeField(Json& json, const Owner& owner, const StoredField<Owner, Value>& field) {
    static const Owner kDefault{};
    if (field.isSparse && owner.*field.member == kDefault.*field.member) return;
    if constexpr (base::kIsTold<Value>) {
        if (!(owner.*field.member).isTold()) return;
    }
    json[field.key] = storedJson(owner.*field.member);
}
template <class Owner>
void writeField(Json& json, const Owner& owner, const PackedField<Owner>& field) {
    Json list = Json::array();
    for (const auto member : field.members) list.push_back(owner.*member);
    json[field.key] = std::move(list);
}
template <class Owner, class Value, std::size_t N>
void writeField(Json& json, const Owner& owner, const NamedField<Owner, Value, N>& field) {
    json[field.key] = field.names.at(static_cast<std::size_t>(owner.*field.member));
}
template <class Owner, class... Fields>
void writeField(Json& json, const Owner& owner, const FieldGroup<Fields...>& field) {
    Json part = Json::object();
    std::apply([&](const auto&... each) { (writeField(part, owner, each), ...); }, field.fields);
    json[field.key] = std::move(part);
}

inline void checkRange(double value, const Range& range, const StoredPlace& place) {
    const bool isHighEnough = range.isLowestOut ? value > range.lowest : value >= range.lowest;
    if (!(isHighEnough && value <= range.highest))
        throw JsonFailure{place.path(), base::say(range.reason)};
}

template <class Owner, class Value>
void readField(ObjectReader& object, Owner& owner, const StoredField<Owner, Value>& field) {
    const Json* json = object.child(field.key);
    if (json == nullptr && field.isNeeded)
        throw JsonFailure{object.at(field.key), base::say("json.missing")};
    if constexpr (base::kIsTold<Value>) {
        if (json == nullptr || json->is_null()) (owner.*field.member).forget();
        if (json != nullptr && json->is_null()) return;
    }
    if (json == nullptr) return;
    StoredPlace place = object.place().at(field.key);
    readStored(*json, place, owner.*field.member);
    if constexpr (std::is_same_v<Value, base::Told<double>>)
        checkRange((owner.*field.member).value(), field.range, place);
    if constexpr (std::is_same_v<Value, double> || std::is_same_v<Value, int>)
        checkRange(owner.*field.member, field.range, place);
    if constexpr (std::is_same_v<Value, std::vector<double>>) {
        for (const double value : owner.*field.member) checkRange(value, field.range, place);
    }
    object.keep(field.key, std::move(place.unknown));
}
template <class Owner>
void readField(ObjectReader& object, Owner& owner, const PackedField<Owner>& field) {
    const Json* json = object.child(field.key);
    if (json == nullptr) return;
    StoredPlace place = object.place().at(field.key);
    std::array<double, 4> values{};
    readStored(*json, place, values);
    for (std::size_t i = 0; i < values.size(); ++i) owner.*field.members[i] = values[i];
}
template <class Owner, class Value, std::size_t N>
void readField(ObjectReader& object, Owner& owner, const NamedField<Owner, Value, N>& field) {
    const Json* json = object.child(field.key);
    if (json == nullptr) return;
    StoredPlace place = object.place().at(field.key);
    std::string name;
    readStored(*json, place, name);
    std::string all;
    for (std::size_t i = 0; i < N; ++i) {
        if (name == field.names[i]) {
            owner.*field.member = static_cast<Value>(i);
            return;
        }
        all += (i == 0 ? "" : i + 1 == N ? " or " : ", ") + std::string(field.names[i]);
    }
    throw JsonFailure{place.path(), base::say("json.shouldBeNamed", {{"names", all}})};
}
template <class Owner, class... Fields>
void readField(ObjectReader& object, Owner& owner, const FieldGroup<Fields...>& field) {
    const Json* json = object.child(field.key);
    if (json == nullptr) return;
    const StoredPlace place = object.place().at(field.key);
    ObjectReader part(*json, place);
    std::apply([&](const auto&... each) { (readField(part, owner, each), ...); }, field.fields);
    object.keep(field.key, part.unknown());
}

}  // namespace stored

template <IsStored T>
Json storedJson(const T& value) {
    Json json = Json::object();
    std::apply([&](const auto&... each) { (stored::writeField(json, value, each), ...); },
               Stored<T>::fields());
    if constexpr (requires { value.unknownFields; }) {
        if (value.unknownFields.empty()) return json;
        Json unknown = Json::parse(value.unknownFields, nullptr, false);
        if (!unknown.is_object()) return json;
        // A part that is not written any more must not come back as the shell of its unknown keys.
        std::apply(
            [&](const auto&... each) {
                ((json.contains(each.key) ? void() : void(unknown.erase(each.key))), ...);
            },
            Stored<T>::fields());
        layUnder(json, unknown);
    }
    return json;
}

template <IsStored T>
void readStored(const Json& json, StoredPlace& place, T& into) {
    ObjectReader object(json, place);
    std::apply([&](const auto&... each) { (stored::readField(object, into, each), ...); },
               Stored<T>::fields());
    if constexpr (requires { into.unknownFields; })
        into.unknownFields = object.rest();
    else
        place.unknown = object.unknown();
    if constexpr (requires { Stored<T>::check(into, object); }) Stored<T>::check(into, object);
}

/// One value of the document; fails with JsonFailure, which names the place.
template <IsStored T>
[[nodiscard]] T readAt(const Json& json, const std::string& path) {
    StoredPlace place{nullptr, path};
    T value{};
    readStored(json, place, value);
    return value;
}

}  // namespace rigmatch::rig
