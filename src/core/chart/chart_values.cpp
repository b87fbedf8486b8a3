// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/chart_values.h"

#include <lcms2.h>
#include <libfccp/csv.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <map>
#include <memory>
#include <optional>
#include <tuple>

#include "base/format.h"
#include "chart/chart_text.h"

namespace rigmatch::chart {
namespace {

using base::ErrorCode;
using Triple = std::array<double, 3>;

constexpr double kNeutralChroma = 4.0;  // C*: papers and paints called neutral stay under it

enum class Space { Lab, Xyz };

struct Row {
    std::string name;
    Triple value{};
    std::string place;  ///< "line 4", "set 12"
};

/// Name of a column in one word: "LAB_L", "L*" and "l" are all the same.
std::string columnKey(std::string name) {
    std::transform(name.begin(), name.end(), name.begin(), [](unsigned char c) {
        return static_cast<char>(std::tolower(c));
    });
    std::erase_if(name, [](char c) { return c == '*' || c == '"' || c == ' ' || c == '\r'; });
    static const std::map<std::string, std::string> kKeys{{"lab_l", "l"},
                                                          {"lab_a", "a"},
                                                          {"lab_b", "b"},
                                                          {"l", "l"},
                                                          {"a", "a"},
                                                          {"b", "b"},
                                                          {"xyz_x", "x"},
                                                          {"xyz_y", "y"},
                                                          {"xyz_z", "z"},
                                                          {"x", "x"},
                                                          {"y", "y"},
                                                          {"z", "z"},
                                                          {"sample_name", "name"},
                                                          {"name", "name"},
                                                          {"patch", "name"},
                                                          {"sample_id", "id"},
                                                          {"id", "id"},
                                                          {"sampleid", "id"},
                                                          {"samplename", "name"},
                                                          {"sample", "name"}};
    const auto found = kKeys.find(name);
    return found == kKeys.end() ? std::string() : found->second;
}

/// Which columns hold the name and the three values.
struct Columns {
    std::optional<std::size_t> name;
    std::array<std::size_t, 3> value{};
    Space space = Space::Lab;
};

std::optional<Columns> columnsOf(const std::vector<std::string>& head) {
    std::map<std::string, std::size_t> at;
    for (std::size_t i = 0; i < head.size(); ++i) at.emplace(columnKey(head[i]), i);
    Columns columns;
    for (const char* key : {"name", "id"}) {
        if (!columns.name && at.count(key) > 0) columns.name = at[key];
    }
    for (const auto& [space, keys] : {std::pair{Space::Lab, std::array{"l", "a", "b"}},
                                      std::pair{Space::Xyz, std::array{"x", "y", "z"}}}) {
        if (!std::all_of(keys.begin(), keys.end(), [&](const char* k) { return at.count(k) > 0; }))
            continue;
        columns.space = space;
        for (std::size_t i = 0; i < 3; ++i) columns.value[i] = at[keys[i]];
        return columns;
    }
    return std::nullopt;
}

tl::unexpected<base::Error> refused(const std::string& file,
                                    ErrorCode code,
                                    const base::Text& detail) {
    return base::fail(code,
                      base::say("patchValues.cannotReadValues", {{"file", file}}),
                      detail,
                      base::say("patchValues.giveNames"));
}

tl::unexpected<base::Error> noColumns(const std::string& file,
                                      const std::vector<std::string>& head) {
    std::string list;
    for (const std::string& name : head) list += (list.empty() ? "" : ", ") + name.substr(0, 24);
    return refused(file,
                   ErrorCode::UnsupportedFormat,
                   base::say("patchValues.columnsNeitherL",
                             {{"columns",
                               list.empty() ? base::say("patchValues.none")
                                            : base::asIs(list.substr(0, 200))}}));
}

std::optional<double> numberOf(std::string text, bool hasDecimalComma) {
    if (hasDecimalComma) std::replace(text.begin(), text.end(), ',', '.');
    const char* first = text.data();
    const char* last = first + text.size();
    if (first != last && *first == '+') ++first;
    double value = 0.0;
    const auto [end, code] = std::from_chars(first, last, value);
    if (code != std::errc() || end != last || !std::isfinite(value)) return std::nullopt;
    return value;
}

/// CIE 15:2004, table T.3, 2 degree observer.
struct NamedWhite {
    const char* name;
    colour::Chromaticity white;
};
constexpr std::array<NamedWhite, 4> kWhites{{{"D50", colour::kD50},
                                             {"D55", {0.33243, 0.34744}},
                                             {"D65", colour::kD65},
                                             {"D75", {0.29903, 0.31488}}}};

/// The white that the words before the values name; nothing where none or several are named.
const NamedWhite* statedWhite(const std::string& text) {
    const std::string head = text.substr(0, std::min(text.find("BEGIN_DATA"), text.size()));
    const NamedWhite* stated = nullptr;
    for (const NamedWhite& white : kWhites) {
        const std::size_t at = head.find(white.name);
        const auto isLetter = [&](std::size_t i) {
            return i < head.size() && std::isalnum(static_cast<unsigned char>(head[i])) != 0;
        };
        if (at == std::string::npos || (at > 0 && isLetter(at - 1)) || isLetter(at + 3)) continue;
        if (stated != nullptr) return nullptr;
        stated = &white;
    }
    return stated;
}

colour::Lab labUnder(const Row& row, double unit, const colour::Chromaticity& white) {
    const colour::Vector3 xyz = unit * colour::Vector3(row.value[0], row.value[1], row.value[2]);
    return colour::labOf(colour::bradford(white, colour::kD50) * xyz, colour::kD50);
}

/// How many patches are neutral under a white.
long neutralsUnder(const std::vector<Row>& rows, double unit, const colour::Chromaticity& white) {
    return std::count_if(rows.begin(), rows.end(), [&](const Row& row) {
        const colour::Lab lab = labUnder(row, unit, white);
        return std::hypot(lab.a, lab.b) < kNeutralChroma;
    });
}

/// Which white XYZ values are for, and the sentence that says so.
std::pair<colour::Chromaticity, std::string> whiteOf(const std::vector<Row>& rows,
                                                     double unit,
                                                     const std::string& text) {
    if (const NamedWhite* stated = statedWhite(text))
        return {stated->white,
                "XYZ values taken for " + std::string(stated->name) + ", as the file says."};
    const NamedWhite* best = &kWhites[0];
    for (const NamedWhite& white : kWhites) {
        if (neutralsUnder(rows, unit, white.white) > neutralsUnder(rows, unit, best->white))
            best = &white;
    }
    const long count = neutralsUnder(rows, unit, best->white);
    if (count == 0)
        return {colour::kD50, "XYZ values taken for D50: the file does not say its white."};
    return {best->white,
            "XYZ values taken for " + std::string(best->name) +
                ": the file does not say its white, and under this one " + std::to_string(count) +
                " patches are neutral."};
}

base::Result<PatchValues> patchesOf(std::vector<Row> rows,
                                    Space space,
                                    const std::string& file,
                                    const std::string& text) {
    if (rows.empty())
        return refused(file, ErrorCode::OutOfRange, base::say("patchValues.holdsNoValues"));
    if (rows.size() > kMostPatches)
        return refused(file,
                       ErrorCode::OutOfRange,
                       base::say("patchValues.holdsPatchesMost",
                                 {{"patches", base::whole(rows.size())},
                                  {"most", base::whole(kMostPatches)}}));
    double brightest = 0.0;
    for (const Row& row : rows) brightest = std::max(brightest, row.value[1]);
    // Tables give the perfect white as 1 or as 100.
    const double unit = brightest > 1.5 ? 0.01 : 1.0;
    PatchValues values;
    colour::Chromaticity white = colour::kD50;
    if (space == Space::Xyz) std::tie(white, values.white) = whiteOf(rows, unit, text);
    for (Row& row : rows) {
        colour::Lab lab{row.value[0], row.value[1], row.value[2]};
        if (space == Space::Xyz) lab = labUnder(row, unit, white);
        const bool isColour = lab.lightness >= 0.0 && lab.lightness <= 105.0 &&
                              std::abs(lab.a) <= 150.0 && std::abs(lab.b) <= 150.0;
        if (!isColour)
            return refused(file,
                           ErrorCode::OutOfRange,
                           base::say("patchValues.noColourSurface",
                                     {{"name", row.name.substr(0, 40)},
                                      {"place", row.place},
                                      {"lightness", base::Number{lab.lightness, 1}},
                                      {"a", base::Number{lab.a, 1}},
                                      {"b", base::Number{lab.b, 1}}}));
        values.patches.push_back(patchOfLab(std::move(row.name), lab));
    }
    return values;
}

struct ContextDeleter {
    void operator()(cmsContext context) const { cmsDeleteContext(context); }
};
struct TableDeleter {
    void operator()(void* table) const { cmsIT8Free(table); }
};

base::Result<PatchValues> fromCgats(const std::string& text, const std::string& file) {
    const std::unique_ptr<std::remove_pointer_t<cmsContext>, ContextDeleter> context(
        cmsCreateContext(nullptr, nullptr));
    cmsSetLogErrorHandlerTHR(context.get(), [](cmsContext, cmsUInt32Number, const char*) {});
    const std::unique_ptr<void, TableDeleter> table(
        cmsIT8LoadFromMem(context.get(), text.data(), static_cast<cmsUInt32Number>(text.size())));
    if (!table)
        return refused(file, ErrorCode::UnsupportedFormat, base::say("patchValues.noCgatsText"));
    char** names = nullptr;
    const int declared = cmsIT8EnumDataFormat(table.get(), &names);
    // A table may count its columns without ever naming them.
    const int count = names != nullptr ? declared : 0;
    std::vector<std::string> head;
    head.reserve(static_cast<std::size_t>(std::max(count, 0)));
    for (int i = 0; i < count; ++i) head.emplace_back(names[i] != nullptr ? names[i] : "");
    const auto columns = columnsOf(head);
    if (!columns) return noColumns(file, head);
    const double stated = cmsIT8GetPropertyDbl(table.get(), "NUMBER_OF_SETS");
    const int sets =
        stated > 0.0 ? static_cast<int>(std::min(stated, double(kMostPatches) + 1.0)) : 0;
    std::vector<Row> rows;
    for (int set = 0; set < sets && set <= static_cast<int>(kMostPatches); ++set) {
        const auto cell = [&](std::size_t column) {
            const char* value = cmsIT8GetDataRowCol(table.get(), set, static_cast<int>(column));
            return std::string(value != nullptr ? value : "");
        };
        Row row{columns->name ? cell(*columns->name) : "patch " + std::to_string(set + 1),
                {},
                "set " + std::to_string(set + 1)};
        for (std::size_t i = 0; i < 3; ++i) {
            const auto value = numberOf(cell(columns->value[i]), false);
            if (!value)
                return refused(file,
                               ErrorCode::OutOfRange,
                               base::say("patchValues.noNumber",
                                         {{"cell", cell(columns->value[i]).substr(0, 24)},
                                          {"place", row.place}}));
            row.value[i] = *value;
        }
        rows.push_back(std::move(row));
    }
    return patchesOf(std::move(rows), columns->space, file, text);
}

template <char Separator>
base::Result<std::vector<Row>> rowsOf(const std::string& text,
                                      const std::string& file,
                                      const Columns& columns,
                                      std::size_t headFields) {
    // The library finds columns by name: the head is written anew with names of our own.
    std::vector<std::string> names(headFields);
    for (std::size_t i = 0; i < headFields; ++i) names[i] = "other" + std::to_string(i);
    if (columns.name) names[*columns.name] = "name";
    for (std::size_t i = 0; i < 3; ++i) names[columns.value[i]] = "value" + std::to_string(i);
    std::string head;
    for (const std::string& name : names)
        head += (head.empty() ? "" : std::string(1, Separator)) + name;
    const std::string plain = head + text.substr(std::min(text.find('\n'), text.size()));
    std::vector<Row> rows;
    try {
        io::CSVReader<4, io::trim_chars<' '>, io::double_quote_escape<Separator, '"'>> reader(
            file, plain.data(), plain.data() + plain.size());
        reader.read_header(io::ignore_extra_column | io::ignore_missing_column,
                           "name",
                           "value0",
                           "value1",
                           "value2");
        Row row;
        std::array<std::string, 3> cells;
        while (rows.size() <= kMostPatches &&
               reader.read_row(row.name, cells[0], cells[1], cells[2])) {
            row.place = "line " + std::to_string(reader.get_file_line());
            if (!columns.name) row.name = "patch " + std::to_string(rows.size() + 1);
            for (std::size_t i = 0; i < 3; ++i) {
                const auto value = numberOf(cells[i], Separator == ';');
                if (!value)
                    return refused(
                        file,
                        ErrorCode::OutOfRange,
                        base::say("patchValues.noNumber",
                                  {{"cell", cells[i].substr(0, 24)}, {"place", row.place}}));
                row.value[i] = *value;
            }
            rows.push_back(row);
        }
    } catch (const std::exception& error) {
        return refused(file, ErrorCode::UnsupportedFormat, base::asIs(error.what()));
    }
    return rows;
}

base::Result<PatchValues> fromColumns(const std::string& text, const std::string& file) {
    const std::string headLine = text.substr(0, std::min(text.find('\n'), text.size()));
    char separator = ',';
    for (const char candidate : {'\t', ';'}) {
        if (std::count(headLine.begin(), headLine.end(), candidate) >
            std::count(headLine.begin(), headLine.end(), separator))
            separator = candidate;
    }
    std::vector<std::string> head;
    std::size_t from = 0;
    while (from <= headLine.size()) {
        const std::size_t to = std::min(headLine.find(separator, from), headLine.size());
        head.push_back(headLine.substr(from, to - from));
        from = to + 1;
    }
    const auto columns = columnsOf(head);
    if (!columns) return noColumns(file, head);
    const auto rows = separator == ','   ? rowsOf<','>(text, file, *columns, head.size())
                      : separator == ';' ? rowsOf<';'>(text, file, *columns, head.size())
                                         : rowsOf<'\t'>(text, file, *columns, head.size());
    if (!rows) return tl::unexpected(rows.error());
    return patchesOf(*rows, columns->space, file, headLine);
}

}  // namespace

ReferencePatch patchOfLab(std::string name, const colour::Lab& lab) {
    return {std::move(name), linearOfLab(lab), std::hypot(lab.a, lab.b) < kNeutralChroma};
}

base::Result<PatchValues> readPatchValues(const std::filesystem::path& path) {
    auto text = readChartText(path);
    if (!text) return tl::unexpected(text.error());
    const std::string file = path.filename().string();
    const bool isCgats = text->find("BEGIN_DATA") != std::string::npos;
    return isCgats ? fromCgats(*text, file) : fromColumns(*text, file);
}

}  // namespace rigmatch::chart
