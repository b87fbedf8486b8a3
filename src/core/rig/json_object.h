// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>
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
[[nodiscard]] base::Text textOf(const JsonFailure& failure);

/// Where a value stands in the document, told only when something is wrong there.
struct StoredPlace {
    const StoredPlace* parent = nullptr;
    std::string key{};          ///< in its object, or the whole place of an outermost value
    std::ptrdiff_t index = -1;  ///< in a list
    Json unknown{};             ///< what of the value nobody read; null: nothing

    [[nodiscard]] std::string path() const;
    [[nodiscard]] StoredPlace at(const char* child) const;
    [[nodiscard]] StoredPlace at(std::size_t i) const;
};

/// Reads one JSON object key by key and keeps what it was not asked for, so that fields of a later
/// program survive a round trip.
class ObjectReader {
public:
    ObjectReader(const Json& object, std::string place);
    /// What `place` stands in must outlive the reader.
    ObjectReader(const Json& object, const StoredPlace& place);
    ~ObjectReader();
    ObjectReader(const ObjectReader&) = delete;
    ObjectReader& operator=(const ObjectReader&) = delete;

    [[nodiscard]] double number(const char* key, double fallback);
    [[nodiscard]] int whole(const char* key, int fallback);
    [[nodiscard]] bool truth(const char* key, bool fallback);
    [[nodiscard]] std::string text(const char* key, const std::string& fallback = {});
    [[nodiscard]] std::vector<double> numbers(const char* key);
    [[nodiscard]] std::vector<std::string> texts(const char* key);

    /// A nested value, or nullptr where it is missing or null.
    [[nodiscard]] const Json* child(const char* key);

    [[nodiscard]] const StoredPlace& place() const { return m_place; }
    [[nodiscard]] std::string at(const std::string& key) const;

    /// Keys that nobody read, here or in the objects handed to keep(); null where there are none.
    [[nodiscard]] Json unknown() const;
    /// The same as JSON text; empty where there are none.
    [[nodiscard]] std::string rest() const;
    /// Keeps what nobody read of the object under `key`.
    void keep(const char* key, Json unknown);

private:
    template <class T>
    [[nodiscard]] T typed(const char* key, T fallback, const char* what);

    const Json& m_object;
    StoredPlace m_place;
    std::vector<std::string_view> m_read;
    Json m_kept;  ///< null until something is kept
};

/// Lays kept unknown fields under written ones, in nested objects as well.
void layUnder(Json& object, const Json& unknown);
[[nodiscard]] Json withUnknown(Json object, const std::string& unknownFields);

}  // namespace rigmatch::rig
