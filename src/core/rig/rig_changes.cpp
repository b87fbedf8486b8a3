// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/rig_changes.h"

#include <algorithm>
#include <array>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "rig/json_document.h"
#include "rig/json_values.h"

namespace rigmatch::rig {
namespace {

constexpr const char* kHeadKey = "head";         ///< all of the document but its lists
constexpr const char* kOf = "of";                ///< the take before that a take goes on from
constexpr const char* kTake = "take";            ///< all of a take but its shots
constexpr const char* kShots = "shots";          ///< a take's
constexpr const char* kReading = "reading";      ///< a shot's
constexpr const char* kReadingOf = "readingOf";  ///< the shot before that has the same reading
constexpr std::array kLists{"cameras", "sources", "takes"};

/// Where `list` holds the very value, or an equal one; nothing where it does not.
template <class T>
std::optional<std::size_t> placeOf(const base::SharedList<T>& list,
                                   const std::shared_ptr<const T>& value,
                                   std::vector<bool>& taken) {
    for (std::size_t i = 0; i < list.size(); ++i) {
        if (taken[i] || (list.share(i) != value && !(list[i] == *value))) continue;
        taken[i] = true;
        return i;
    }
    return std::nullopt;
}

/// `after` as a list of places in `before`, and of `jsonOf(element)` where there is none.
template <class T, class JsonOf>
Json listChanges(const base::SharedList<T>& before,
                 const base::SharedList<T>& after,
                 const JsonOf& jsonOf) {
    Json list = Json::array();
    std::vector<bool> taken(before.size(), false);
    for (std::size_t i = 0; i < after.size(); ++i) {
        if (const auto place = placeOf(before, after.share(i), taken))
            list.push_back(*place);
        else
            list.push_back(jsonOf(after[i]));
    }
    return list;
}

/// A shot without its reading, where one of those before has the very same.
Json shotChanges(const base::SharedList<Shot>& before, const Shot& shot) {
    if (shot.reading) {
        for (std::size_t i = 0; i < before.size(); ++i) {
            if (!before[i].reading.isSame(shot.reading)) continue;
            Shot bare = shot;
            bare.reading.reset();
            Json json = shotJson(bare);
            json[kReadingOf] = i;
            return json;
        }
    }
    return shotJson(shot);
}

Json takeChanges(const base::SharedList<Take>& before, const Take& take) {
    Take bare = take;
    bare.shots.clear();
    Json json{{kTake, takeJson(bare)}};
    for (std::size_t i = 0; i < before.size(); ++i) {
        if (before[i].id != take.id) continue;
        const base::SharedList<Shot>& shots = before[i].shots;
        json[kOf] = i;
        json[kShots] = listChanges(
            shots, take.shots, [&](const Shot& shot) { return shotChanges(shots, shot); });
        return json;
    }
    json[kTake] = takeJson(take);
    return json;
}

Rig withoutLists(Rig rig) {
    rig.cameras.clear();
    rig.sources.clear();
    rig.takes.clear();
    return rig;
}

/// Elements of a list while changes are taken on it: those that stay are shared, not copied.
using Elements = std::vector<std::shared_ptr<const Json>>;

Elements elementsOf(Json&& list) {
    Elements elements;
    for (Json& element : list) elements.push_back(std::make_shared<const Json>(std::move(element)));
    return elements;
}

/// A document in its parts.
struct OpenDocument {
    explicit OpenDocument(Json&& document) {
        for (std::size_t i = 0; i < kLists.size(); ++i) {
            const auto list = document.find(kLists[i]);
            if (list == document.end() || !list->is_array()) continue;
            lists[i] = elementsOf(std::move(*list));
            document.erase(list);
        }
        head = std::move(document);
    }

    Json head;
    std::array<Elements, kLists.size()> lists;
};

Json closed(OpenDocument&& open) {
    Json document = std::move(open.head);
    for (std::size_t i = 0; i < kLists.size(); ++i) {
        if (open.lists[i].empty()) continue;
        Json list = Json::array();
        for (const auto& element : open.lists[i]) list.push_back(*element);
        document[kLists[i]] = std::move(list);
    }
    return document;
}

std::optional<std::size_t> indexIn(const Json& json, std::size_t size) {
    if (!json.is_number_unsigned() || json.get<std::size_t>() >= size) return std::nullopt;
    return json.get<std::size_t>();
}

/// Gives a changed shot the reading it shares with one of `shots`. False where there is none.
bool completeShot(const Json& shots, Json& shot) {
    const auto named = shot.find(kReadingOf);
    if (named == shot.end()) return true;
    const auto place = indexIn(*named, shots.size());
    if (!place || !shots[*place].is_object() || !shots[*place].contains(kReading)) return false;
    shot.erase(named);
    shot[kReading] = shots[*place][kReading];
    return true;
}

bool completeShots(const Json& changes, const Json& before, Json& after) {
    if (!changes.is_array() || !before.is_array()) return false;
    after = Json::array();
    for (const Json& change : changes) {
        if (change.is_object()) {
            after.push_back(change);
            if (!completeShot(before, after.back())) return false;
            continue;
        }
        const auto place = indexIn(change, before.size());
        if (!place) return false;
        after.push_back(before[*place]);
    }
    return true;
}

/// The take that a changed one of the journal stands for; null where it is none.
Json completeTake(const Elements& takes, const Json& json) {
    const auto head = json.find(kTake);
    if (head == json.end() || !head->is_object()) return {};
    Json take = *head;
    const auto of = json.find(kOf);
    if (of == json.end()) return take;
    const auto place = indexIn(*of, takes.size());
    const auto shots = json.find(kShots);
    if (!place || shots == json.end() || !takes[*place]->is_object() ||
        !takes[*place]->contains(kShots))
        return {};
    if (!completeShots(*shots, (*takes[*place])[kShots], take[kShots])) return {};
    return take;
}

/// Puts together a list: elements of `before` where `changes` names their places. Nothing where it
/// names one that is not there.
std::optional<Elements> putTogether(const Json& changes, const Elements& before, bool areTakes) {
    if (!changes.is_array()) return std::nullopt;
    Elements after;
    for (const Json& change : changes) {
        if (!change.is_object()) {
            const auto place = indexIn(change, before.size());
            if (!place) return std::nullopt;
            after.push_back(before[*place]);
            continue;
        }
        Json made = areTakes ? completeTake(before, change) : change;
        if (made.is_null()) return std::nullopt;
        after.push_back(std::make_shared<const Json>(std::move(made)));
    }
    return after;
}

/// Takes one line of changes on `document`, or leaves it as it is.
bool takeOn(const Json& changes, OpenDocument& document) {
    if (!changes.is_object()) return false;
    const auto head = changes.find(kHeadKey);
    if (head != changes.end() && !head->is_object()) return false;
    auto lists = document.lists;
    for (std::size_t i = 0; i < kLists.size(); ++i) {
        const auto change = changes.find(kLists[i]);
        if (change == changes.end()) continue;
        auto after = putTogether(*change, document.lists[i], i + 1 == kLists.size());
        if (!after) return false;
        lists[i] = std::move(*after);
    }
    document.lists = std::move(lists);
    if (head != changes.end()) document.head = *head;
    return true;
}

/// Takes every line on the document, to the first that is no whole change.
void applyAll(std::string_view lines, Json& document) {
    if (!document.is_object() || lines.empty()) return;
    OpenDocument open(std::move(document));
    for (auto end = lines.find('\n'); end != std::string_view::npos; end = lines.find('\n')) {
        if (!takeOn(Json::parse(lines.substr(0, end), nullptr, false), open)) break;
        lines.remove_prefix(end + 1);
    }
    document = closed(std::move(open));
}

}  // namespace

std::string changesText(const Rig& before, const Rig& after) {
    Json changes = Json::object();
    if (!(withoutLists(before) == withoutLists(after))) changes[kHeadKey] = headJson(after);
    if (!(before.cameras == after.cameras))
        changes["cameras"] = listChanges(before.cameras, after.cameras, cameraJson);
    if (!(before.sources == after.sources))
        changes["sources"] = listChanges(before.sources, after.sources, sourceJson);
    if (!(before.takes == after.takes)) {
        changes["takes"] = listChanges(before.takes, after.takes, [&](const Take& take) {
            return takeChanges(before.takes, take);
        });
    }
    return changes.empty() ? std::string() : textOf(changes);
}

base::Result<ParsedRig> parseChanged(std::string_view text, std::size_t documentBytes) {
    const std::string_view lines = text.substr(std::min(documentBytes, text.size()));
    return parseDocument(text.substr(0, documentBytes),
                         [lines](Json& document) { applyAll(lines, document); });
}

}  // namespace rigmatch::rig
