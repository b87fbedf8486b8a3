// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "rig/json_object.h"
#include "rig/rig.h"

namespace rigmatch::rig {

// One pair of functions per value of the document; readers throw JsonFailure with the place.
[[nodiscard]] Json sheetJson(const ControlSheet& sheet);
[[nodiscard]] Json cameraJson(const Camera& camera);
[[nodiscard]] Camera readCamera(const Json& json, const std::string& place);
[[nodiscard]] Json sourceJson(const Source& source);
[[nodiscard]] Source readSource(const Json& json, const std::string& place);
[[nodiscard]] Json shotJson(const Shot& shot);
[[nodiscard]] Json takeJson(const Take& take);
[[nodiscard]] Take readTake(const Json& json, const std::string& place);

/// Reads a list with `read(element, place)`; nothing where the key is missing.
template <class Read>
auto readList(ObjectReader& object, const char* key, Read read) {
    std::vector<decltype(read(std::declval<const Json&>(), std::string()))> values;
    const Json* list = object.child(key);
    if (list == nullptr) return values;
    if (!list->is_array()) throw JsonFailure{object.at(key), base::say("json.shouldBeList")};
    for (std::size_t i = 0; i < list->size(); ++i) {
        values.push_back(read((*list)[i], object.at(key) + "[" + std::to_string(i) + "]"));
    }
    return values;
}

}  // namespace rigmatch::rig
