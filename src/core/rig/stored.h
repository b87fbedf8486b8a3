// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <filesystem>
#include <optional>
#include <span>
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
[[nodiscard]] Json storedJson(const std::map<std::string, double>& values);
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

namespace stored {
void checkList(const Json& json, const StoredPlace& place);
void checkListOf(std::size_t count, const Json& json, const StoredPlace& place);
/// Calls `read` for every element of a list, with the element's place and `into`.
void readElements(const Json& list,
                  const StoredPlace& place,
                  void* into,
                  void (*read)(const Json& element, StoredPlace& at, void* into));
}  // namespace stored

void readStored(const Json& json, StoredPlace& place, double& into);
void readStored(const Json& json, StoredPlace& place, int& into);
void readStored(const Json& json, StoredPlace& place, bool& into);
void readStored(const Json& json, StoredPlace& place, std::string& into);
void readStored(const Json& json, StoredPlace& place, std::filesystem::path& into);
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
    stored::checkListOf(N, json, place);
    stored::readElements(
        json, place, into.data(), [](const Json& element, StoredPlace& at, void* values) {
            readStored(element, at, static_cast<T*>(values)[at.index]);
        });
}
template <class T>
void readStored(const Json& json, StoredPlace& place, std::vector<T>& into) {
    stored::checkList(json, place);
    into.clear();
    into.reserve(json.size());
    stored::readElements(
        json, place, &into, [](const Json& element, StoredPlace& at, void* values) {
            T value{};
            readStored(element, at, value);
            static_cast<std::vector<T>*>(values)->push_back(std::move(value));
        });
}
void readStored(const Json& json, StoredPlace& place, std::map<std::string, double>& into);
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

/// How a value of one type stands in a file: the same code for every field of that type.
struct ValueType {
    Json (*write)(const void* value);
    void (*read)(const Json& json, StoredPlace& place, const Range& range, void* into);
    bool (*isSame)(const void* one, const void* other);
    bool (*isTold)(const void* value);  ///< null where unknown is no value of the type
    void (*forget)(void* value);        ///< null likewise
};

void checkRange(double value, const Range& range, const StoredPlace& place);

template <class Value>
void readChecked(const Json& json, StoredPlace& place, const Range& range, void* into) {
    auto& value = *static_cast<Value*>(into);
    readStored(json, place, value);
    if constexpr (std::is_same_v<Value, base::Told<double>>)
        checkRange(value.value(), range, place);
    else if constexpr (std::is_same_v<Value, double> || std::is_same_v<Value, int>)
        checkRange(value, range, place);
    else if constexpr (std::is_same_v<Value, std::vector<double>>)
        for (const double each : value) checkRange(each, range, place);
}

template <class Value>
[[nodiscard]] constexpr ValueType typeOf() {
    ValueType type{[](const void* value) { return storedJson(*static_cast<const Value*>(value)); },
                   &readChecked<Value>,
                   [](const void* one, const void* other) {
                       return *static_cast<const Value*>(one) == *static_cast<const Value*>(other);
                   },
                   nullptr,
                   nullptr};
    if constexpr (base::kIsTold<Value>) {
        type.isTold = [](const void* value) { return static_cast<const Value*>(value)->isTold(); };
        type.forget = [](void* value) { static_cast<Value*>(value)->forget(); };
    }
    return type;
}
template <class Value>
inline constexpr ValueType kTypeOf = typeOf<Value>();

/// Nothing is written of a value that is unknown, or like `standard`; null: written always.
void writeValue(
    Json& json, const char* key, const ValueType& type, const void* value, const void* standard);
void readValue(ObjectReader& object,
               const char* key,
               const ValueType& type,
               const Range& range,
               bool isNeeded,
               void* into);
/// Which of the names stands under the key; nothing where the key is missing.
[[nodiscard]] std::optional<std::size_t> readName(ObjectReader& object,
                                                  const char* key,
                                                  std::span<const char* const> names);
/// Lays what a struct kept of unknown keys under what was written of it. Of its own `keys` nothing
/// comes back: a part that is not written any more would, as the shell of its unknown keys.
void layUnknown(Json& json, const std::string& unknownFields, std::span<const char* const> keys);

/// What an owner is without a file; apart from its users, so that not every field makes one anew.
template <class Owner>
[[nodiscard, gnu::noinline]] const Owner& defaultOf() {
    static const Owner kDefault{};
    return kDefault;
}

template <class Owner, class Value>
void writeField(Json& json, const Owner& owner, const StoredField<Owner, Value>& field) {
    writeValue(json,
               field.key,
               kTypeOf<Value>,
               &(owner.*field.member),
               field.isSparse ? &(defaultOf<Owner>().*field.member) : nullptr);
}
template <class Owner>
void writeField(Json& json, const Owner& owner, const PackedField<Owner>& field) {
    std::array<double, 4> values{};
    for (std::size_t i = 0; i < values.size(); ++i) values[i] = owner.*field.members[i];
    json[field.key] = values;
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

template <class Owner, class Value>
void readField(ObjectReader& object, Owner& owner, const StoredField<Owner, Value>& field) {
    readValue(
        object, field.key, kTypeOf<Value>, field.range, field.isNeeded, &(owner.*field.member));
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
    if (const auto name = readName(object, field.key, field.names))
        owner.*field.member = static_cast<Value>(*name);
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
    std::apply(
        [&](const auto&... each) {
            (stored::writeField(json, value, each), ...);
            if constexpr (requires { value.unknownFields; })
                stored::layUnknown(json, value.unknownFields, std::array{each.key...});
        },
        Stored<T>::fields());
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
