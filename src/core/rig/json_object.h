// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cstddef>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>
#include <type_traits>
#include <vector>

#include "base/text.h"

namespace rigmatch::rig {

using Json = nlohmann::json;

/// A document that is no valid rig; carries the place in it. Caught in rig_json.cpp, never leaves
/// the module.
struct JsonFailure {
    std::string place;  ///< "cameras[2].settings.isoValue"
    base::Text reason;  ///< "should be a number"
};
/// The two as a sentence.
[[nodiscard]] inline base::Text textOf(const JsonFailure& failure) {
    return base::say("json.failure", {{"place", failure.place}, {"reason", failure.reason}});
}

/// Where a value stands in the document, told only when something is wrong there.
struct StoredPlace {
    const StoredPlace* parent = nullptr;
    std::string key{};          ///< in its object, or the whole place of an outermost value
    std::ptrdiff_t index = -1;  ///< in a list
    Json unknown{};             ///< what of the value nobody read; null: nothing

    [[nodiscard]] std::string path() const {
        const std::string above = parent == nullptr ? std::string() : parent->path();
        if (index >= 0) return above + "[" + std::to_string(index) + "]";
        return above.empty() || key.empty() ? above + key : above + "." + key;
    }
    [[nodiscard]] StoredPlace at(const char* child) const { return {this, child}; }
    [[nodiscard]] StoredPlace at(std::size_t i) const {
        return {this, {}, static_cast<std::ptrdiff_t>(i)};
    }
};

/// Reads one JSON object key by key and keeps what it was not asked for, so that fields of a later
/// program survive a round trip.
class ObjectReader {
public:
    ObjectReader(const Json& object, std::string place)
        : ObjectReader(object, StoredPlace{nullptr, std::move(place)}) {}
    /// What `place` stands in must outlive the reader.
    ObjectReader(const Json& object, const StoredPlace& place)
        : m_object(object), m_place{place.parent, place.key, place.index} {
        if (!object.is_object()) throw JsonFailure{m_place.path(), base::say("json.shouldObject")};
    }

    [[nodiscard]] double number(const char* key, double fallback) {
        return typed<double>(key, fallback, "json.aNumber");
    }
    [[nodiscard]] int whole(const char* key, int fallback) {
        const double value = number(key, fallback);
        if (!(value > -2e9 && value < 2e9))
            throw JsonFailure{at(key), base::say("json.shouldWholeNumber")};
        return static_cast<int>(value);
    }
    [[nodiscard]] bool truth(const char* key, bool fallback) {
        return typed<bool>(key, fallback, "json.trueOrFalse");
    }
    [[nodiscard]] std::string text(const char* key, const std::string& fallback = {}) {
        return typed<std::string>(key, fallback, "json.aText");
    }
    [[nodiscard]] std::vector<double> numbers(const char* key) {
        return typed<std::vector<double>>(key, {}, "json.listOfNumbers");
    }
    [[nodiscard]] std::vector<std::string> texts(const char* key) {
        return typed<std::vector<std::string>>(key, {}, "json.listOfTexts");
    }

    /// A nested value, or nullptr where it is missing or null.
    [[nodiscard]] const Json* child(const char* key) {
        const auto found = m_object.find(key);
        if (found == m_object.end()) return nullptr;
        if (std::find(m_read.begin(), m_read.end(), std::string_view(key)) == m_read.end())
            m_read.emplace_back(key);
        return found->is_null() ? nullptr : &*found;
    }

    [[nodiscard]] const StoredPlace& place() const { return m_place; }
    [[nodiscard]] std::string at(const std::string& key) const {
        return m_place.at(key.c_str()).path();
    }

    /// Keys that nobody read, here or in the objects handed to keep(); null where there are none.
    [[nodiscard]] Json unknown() const {
        Json unknown = m_kept;
        if (m_read.size() == m_object.size()) return unknown;
        for (const auto& [key, value] : m_object.items()) {
            if (std::find(m_read.begin(), m_read.end(), key) == m_read.end()) unknown[key] = value;
        }
        return unknown;
    }
    /// The same as JSON text; empty where there are none.
    [[nodiscard]] std::string rest() const {
        const Json all = unknown();
        return all.is_null() ? std::string() : all.dump();
    }
    /// Keeps what nobody read of the object under `key`.
    void keep(const char* key, Json unknown) {
        if (unknown.is_object() && !unknown.empty()) m_kept[key] = std::move(unknown);
    }

private:
    template <class T>
    T typed(const char* key, T fallback, const char* what) {
        const Json* value = child(key);
        if (value == nullptr) return fallback;
        try {
            // get<bool>() of a number and get<double>() of a bool would pass quietly.
            if constexpr (std::is_same_v<T, double>) {
                if (!value->is_number())
                    throw JsonFailure{at(key),
                                      base::say("json.shouldBe", {{"kind", base::say(what)}})};
            }
            return value->get<T>();
        } catch (const Json::exception&) {
            throw JsonFailure{at(key), base::say("json.shouldBe", {{"kind", base::say(what)}})};
        }
    }

    const Json& m_object;
    StoredPlace m_place;
    std::vector<std::string_view> m_read;
    Json m_kept;  ///< null until something is kept
};

/// Lays kept unknown fields under written ones, in nested objects as well.
inline void layUnder(Json& object, const Json& unknown) {
    for (const auto& [key, value] : unknown.items()) {
        const auto found = object.find(key);
        if (found == object.end()) {
            object[key] = value;
        } else if (found->is_object() && value.is_object()) {
            layUnder(*found, value);
        }
    }
}
inline Json withUnknown(Json object, const std::string& unknownFields) {
    if (unknownFields.empty()) return object;
    const Json unknown = Json::parse(unknownFields, nullptr, false);
    if (unknown.is_object()) layUnder(object, unknown);
    return object;
}

}  // namespace rigmatch::rig
