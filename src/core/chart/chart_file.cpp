// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/chart_file.h"
#include "base/format.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <nlohmann/json.hpp>
#include <sstream>

#include "base/atomic_file.h"
#include "chart/builtin_texts.h"
#include "chart/chart_definition.h"
#include "chart/chart_text.h"
#include "chart/chart_values.h"

namespace rigmatch::chart {
namespace {

using base::ErrorCode;
using Json = nlohmann::json;

constexpr std::size_t kMostBytes = 1 << 20;
constexpr int kVersion = 1;

tl::unexpected<base::Error> refused(const std::string& file, const base::Text& detail) {
    return base::fail(ErrorCode::CorruptDocument,
                      base::say("chartFile.cannotReadChart", {{"file", file}}),
                      detail,
                      base::say("chartFile.compareFormatsDescription"));
}

/// What is wrong, thrown inside the parser only.
struct Wrong {
    base::Text detail;
};

std::string textAt(const Json& json, const char* key, const std::string& fallback) {
    const auto found = json.find(key);
    if (found == json.end()) return fallback;
    if (!found->is_string()) throw Wrong{base::say("chartFile.shouldBeText", {{"key", key}})};
    return found->get<std::string>();
}

double numberAt(const Json& json, const char* key, double fallback, double least, double most) {
    const auto found = json.find(key);
    if (found == json.end()) return fallback;
    if (!found->is_number() || !(found->get<double>() >= least && found->get<double>() <= most)) {
        throw Wrong{base::say("chartFile.outOfRange",
                              {{"key", key},
                               {"value", found->dump().substr(0, 40)},
                               {"least", base::shortest(least)},
                               {"most", base::shortest(most)}})};
    }
    return found->get<double>();
}

std::array<double, 3> threeAt(const Json& json, const char* key, const base::Text& place) {
    const Json& list = json.at(key);
    const bool isGood = list.is_array() && list.size() == 3 &&
                        std::all_of(list.begin(), list.end(), [](const Json& v) {
                            return v.is_number() && std::abs(v.get<double>()) <= 1000.0;
                        });
    if (!isGood)
        throw Wrong{base::say("chartFile.shouldBeThree", {{"place", place}, {"key", key}})};
    return {list[0].get<double>(), list[1].get<double>(), list[2].get<double>()};
}

ReferencePatch patchAt(const Json& json, const base::Text& place) {
    if (!json.is_object()) throw Wrong{base::say("chartFile.shouldBeObject", {{"place", place}})};
    const std::string name = textAt(json, "name", "");
    if (name.empty() || name.size() > 60)
        throw Wrong{base::say("chartFile.badName", {{"place", place}})};
    ReferencePatch patch;
    if (json.contains("lab")) {
        const auto v = threeAt(json, "lab", place);
        patch = patchOfLab(name, {v[0], v[1], v[2]});
    } else if (json.contains("xyz")) {
        const auto v = threeAt(json, "xyz", place);
        patch = patchOfLab(name, colour::labOf({v[0], v[1], v[2]}, colour::kD50));
    } else if (json.contains("linear")) {
        const auto v = threeAt(json, "linear", place);
        patch = {name, {v[0], v[1], v[2]}, v[0] == v[1] && v[1] == v[2]};
    } else {
        throw Wrong{base::say("chartFile.noValue", {{"place", place}})};
    }
    if (patch.linear.y() < -0.1 || patch.linear.y() > 1.3)
        throw Wrong{base::say("chartFile.noSurface", {{"place", place}, {"name", name}})};
    const auto neutral = json.find("neutral");
    if (neutral != json.end()) {
        if (!neutral->is_boolean())
            throw Wrong{base::say("chartFile.badNeutral", {{"place", place}})};
        patch.isNeutral = neutral->get<bool>();
    }
    return patch;
}

base::ValueTrust trustOf(const std::string& word) {
    if (word == "measured") return base::ValueTrust::Measured;
    if (word == "nominal") return base::ValueTrust::Nominal;
    if (word == "printed") return base::ValueTrust::Printed;
    if (word == "found") return base::ValueTrust::Found;
    throw Wrong{base::say("chartFile.badTrust", {{"word", word.substr(0, 40)}})};
}

void requireUsable(const ReferenceChart& chart) {
    const std::size_t count = chart.columns * chart.rows;
    if (count > kMostPatches)
        throw Wrong{
            base::say("chartFile.tooManyPatches",
                      {{"count", base::whole(count)}, {"most", base::whole(kMostPatches)}})};
    if (chart.patches.size() != count)
        throw Wrong{base::say("chartFile.wrongCount",
                              {{"patches", base::whole(chart.patches.size())},
                               {"columns", base::whole(chart.columns)},
                               {"rows", base::whole(chart.rows)},
                               {"count", base::whole(count)}})};
    if (!chart.greyPatch()) throw Wrong{base::say("chartFile.noNeutral")};
}

/// Rows and columns of bare values: by names such as A1 to F4, else by their number.
void layOut(ReferenceChart& chart) {
    struct Cell {
        std::size_t letter = 0, number = 0;
    };
    std::vector<Cell> cells;
    std::size_t letters = 0;
    std::size_t numbers = 0;
    for (const ReferencePatch& patch : chart.patches) {
        const std::string& name = patch.name;
        const bool isCell =
            name.size() >= 2 && name.size() <= 3 && name[0] >= 'A' && name[0] <= 'P' &&
            std::all_of(name.begin() + 1, name.end(), [](char c) { return c >= '0' && c <= '9'; });
        if (!isCell) break;
        const Cell cell{static_cast<std::size_t>(name[0] - 'A'),
                        static_cast<std::size_t>(std::stoi(name.substr(1)))};
        if (cell.number == 0) break;
        letters = std::max(letters, cell.letter + 1);
        numbers = std::max(numbers, cell.number);
        cells.push_back(cell);
    }
    const std::size_t count = chart.patches.size();
    if (cells.size() == count && letters * numbers == count) {
        // The longer run lies across: charts are wider than high.
        const bool isLetterColumn = letters > numbers;
        chart.columns = isLetterColumn ? letters : numbers;
        chart.rows = isLetterColumn ? numbers : letters;
        std::vector<ReferencePatch> sorted(count);
        for (std::size_t i = 0; i < count; ++i) {
            const std::size_t column = isLetterColumn ? cells[i].letter : cells[i].number - 1;
            const std::size_t row = isLetterColumn ? cells[i].number - 1 : cells[i].letter;
            sorted[row * chart.columns + column] = chart.patches[i];
        }
        chart.patches = std::move(sorted);
        return;
    }
    chart.columns = count;
    chart.rows = 1;
    for (const std::size_t rows : {4U, 3U, 2U, 6U, 5U}) {
        if (count >= 12 && count % rows == 0 && count / rows >= rows) {
            chart.columns = count / rows;
            chart.rows = rows;
            return;
        }
    }
}

}  // namespace

base::Result<std::string> readChartText(const std::filesystem::path& path) {
    auto content = base::readWhole(path, kMostBytes);
    if (content && content->starts_with("\xEF\xBB\xBF")) content->erase(0, 3);
    return content;
}

base::Result<ReferenceChart> parseChart(std::string_view text,
                                        const std::string& name,
                                        const std::filesystem::path& folder) {
    const Json json = Json::parse(text, nullptr, false);
    if (!json.is_object()) return refused(name, base::say("chartFile.noJsonObject"));
    try {
        if (numberAt(json, "rigmatchChart", 0.0, 0.0, 1e6) > kVersion)
            throw Wrong{base::say("chartFile.later")};
        if (numberAt(json, "rigmatchChart", 0.0, 0.0, 1e6) < 1.0)
            throw Wrong{base::say("chartFile.noDescription")};
        ReferenceChart chart;
        chart.id = name;
        chart.name = textAt(json, "name", name);
        chart.source = textAt(json, "source", "");
        chart.trust = trustOf(textAt(json, "trust", "nominal"));
        chart.columns = static_cast<std::size_t>(numberAt(json, "columns", 6, 1, kMostColumns));
        chart.rows = static_cast<std::size_t>(numberAt(json, "rows", 4, 1, kMostRows));
        chart.patchShare = numberAt(json, "patchShare", 0.86, 0.5, 1.0);
        const std::string values = textAt(json, "values", "");
        if (!values.empty()) {
            auto patches = readPatchValues(folder / std::filesystem::path(values).filename());
            if (!patches) return tl::unexpected(patches.error());
            chart.patches = std::move(patches->patches);
            if (!patches->white.empty())
                chart.source += (chart.source.empty() ? "" : " ") + patches->white;
        } else if (const auto list = json.find("patches"); list != json.end() && list->is_array()) {
            for (std::size_t i = 0; i < list->size() && i <= kMostPatches; ++i)
                chart.patches.push_back(patchAt(
                    (*list)[i], base::say("chartFile.patch", {{"number", base::whole(i + 1)}})));
        } else {
            throw Wrong{base::say("chartFile.nothingInIt")};
        }
        requireUsable(chart);
        return chart;
    } catch (const Wrong& wrong) {
        return refused(name, wrong.detail);
    }
}

base::Result<ReferenceChart> readChartFile(const std::filesystem::path& file) {
    const std::string name = file.filename().string();
    auto text = readChartText(file);
    if (!text) return tl::unexpected(text.error());
    const std::size_t first = text->find_first_not_of(" \t\r\n");
    base::Result<ReferenceChart> chart = ReferenceChart{};
    if (first != std::string::npos && (*text)[first] == '{') {
        chart = parseChart(*text, name, file.parent_path());
    } else {
        auto patches = readPatchValues(file);
        if (!patches) return tl::unexpected(patches.error());
        chart->name = file.stem().string();
        chart->source = "Measured values of " + name + ".";
        chart->trust = base::ValueTrust::Measured;
        if (!patches->white.empty()) chart->source += " " + patches->white;
        chart->patches = std::move(patches->patches);
        layOut(*chart);
        try {
            requireUsable(*chart);
        } catch (const Wrong& wrong) {
            return refused(name, wrong.detail);
        }
    }
    if (chart) chart->id = file.string();
    return chart;
}

const std::vector<ReferenceChart>& builtinCharts() {
    static const std::vector<ReferenceChart> kCharts = [] {
        std::vector<ReferenceChart> charts{classicChart()};
        for (const auto& [id, text] : kBuiltinTexts) {
            auto chart = parseChart(text, std::string(id), {});
            if (!chart) continue;  // a test reads every one of them
            charts.push_back(std::move(*chart));
        }
        return charts;
    }();
    return kCharts;
}

base::Result<ReferenceChart> chartOf(const std::string& idOrPath) {
    for (const ReferenceChart& chart : builtinCharts()) {
        if (chart.id == idOrPath) return chart;
    }
    return readChartFile(idOrPath);
}

}  // namespace rigmatch::chart
