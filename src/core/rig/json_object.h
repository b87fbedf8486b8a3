// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <initializer_list>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>
#include <string>

namespace rigmatch::rig {

using Json = nlohmann::json;

/// A document that is no valid rig; carries the place in it. Caught in rig_json.cpp, never leaves
/// the module.
struct JsonFailure {
    std::string place;   ///< "cameras[2].settings.isoValue"
    std::string reason;  ///< "should be a number"
};

/// Reads one JSON object key by key and keeps what it was not asked for, so that fields of a later
/// program survive a round trip.
class ObjectReader {
public:
    ObjectReader(const Json& object, std::string place)
        : m_object(object), m_place(std::move(place)) {
        if (!object.is_object()) throw JsonFailure{m_place, "should be an object"};
    }

    [[nodiscard]] double number(const char* key, double fallback) {
        return typed<double>(key, fallback, "a number");
    }
    [[nodiscard]] int whole(const char* key, int fallback) {
        const double value = number(key, fallback);
        if (!(value > -2e9 && value < 2e9)) throw JsonFailure{at(key), "should be a whole number"};
        return static_cast<int>(value);
    }
    [[nodiscard]] bool truth(const char* key, bool fallback) {
        return typed<bool>(key, fallback, "true or false");
    }
    [[nodiscard]] std::string text(const char* key, const std::string& fallback = {}) {
        return typed<std::string>(key, fallback, "a text");
    }
    [[nodiscard]] std::vector<double> numbers(const char* key) {
        return typed<std::vector<double>>(key, {}, "a list of numbers");
    }
    [[nodiscard]] std::vector<std::string> texts(const char* key) {
        return typed<std::vector<std::string>>(key, {}, "a list of texts");
    }

    /// A nested value, or nullptr where it is missing or null.
    [[nodiscard]] const Json* child(const char* key) {
        m_known.insert(key);
        const auto found = m_object.find(key);
        return found == m_object.end() || found->is_null() ? nullptr : &*found;
    }

    [[nodiscard]] std::string at(const std::string& key) const {
        return m_place.empty() ? key : m_place + "." + key;
    }

    /// JSON text of the keys that nobody read; empty where there are none.
    [[nodiscard]] std::string rest() const {
        Json unknown = Json::object();
        for (const auto& [key, value] : m_object.items()) {
            if (m_known.count(key) == 0) unknown[key] = value;
        }
        return unknown.empty() ? std::string() : unknown.dump();
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
                    throw JsonFailure{at(key), std::string("should be ") + what};
            }
            return value->get<T>();
        } catch (const Json::exception&) {
            throw JsonFailure{at(key), std::string("should be ") + what};
        }
    }

    const Json& m_object;
    std::string m_place;
    std::set<std::string> m_known;
};

/// Lays the kept unknown fields under the written ones.
inline Json withUnknown(Json object, const std::string& unknownFields) {
    if (unknownFields.empty()) return object;
    const Json unknown = Json::parse(unknownFields, nullptr, false);
    if (!unknown.is_object()) return object;
    for (const auto& [key, value] : unknown.items()) {
        if (!object.contains(key)) object[key] = value;
    }
    return object;
}

}  // namespace rigmatch::rig
