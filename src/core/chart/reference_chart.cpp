// SPDX-License-Identifier: GPL-3.0-or-later
#include "chart/reference_chart.h"

#include <algorithm>
#include <cmath>

#include "base/constants.h"
#include "chart/chart_definition.h"
#include "colour/primaries.h"

namespace rigmatch::chart {
namespace {
constexpr std::size_t kFewestSearchable = 12;
constexpr std::size_t kFewestColours = 4;

double lightOf(const ReferencePatch& patch) { return std::max(patch.linear.y(), 1e-4); }

}  // namespace

bool ReferenceChart::isSearchable() const {
    const auto colours = std::count_if(
        patches.begin(), patches.end(), [](const auto& patch) { return !patch.isNeutral; });
    return patches.size() >= kFewestSearchable && columns >= 2 && rows >= 2 &&
           static_cast<std::size_t>(colours) >= kFewestColours;
}

std::optional<std::size_t> ReferenceChart::greyPatch() const {
    std::optional<std::size_t> best;
    const auto away = [&](std::size_t i) {
        return std::abs(std::log2(lightOf(patches[i]) / base::kMidGrey));
    };
    for (std::size_t i = 0; i < patches.size(); ++i) {
        if (patches[i].isNeutral && (!best || away(i) < away(*best))) best = i;
    }
    return best;
}

std::optional<std::size_t> ReferenceChart::darkestPatch() const {
    std::optional<std::size_t> best;
    for (std::size_t i = 0; i < patches.size(); ++i) {
        if (patches[i].isNeutral && (!best || lightOf(patches[i]) < lightOf(patches[*best])))
            best = i;
    }
    return best;
}

std::vector<std::size_t> ReferenceChart::edgePatches() const {
    constexpr std::size_t kMost = 3;
    std::vector<std::size_t> edge;
    if (!isSearchable()) return edge;
    for (std::size_t i = (rows - 1) * columns; i < patches.size(); ++i) {
        if (patches[i].isNeutral && lightOf(patches[i]) > base::kMidGrey) edge.push_back(i);
    }
    std::sort(edge.begin(), edge.end(), [&](std::size_t a, std::size_t b) {
        return lightOf(patches[a]) > lightOf(patches[b]);
    });
    if (edge.size() > kMost) edge.resize(kMost);
    return edge;
}

const ReferenceChart& classicChart() {
    static const ReferenceChart kChart = [] {
        ReferenceChart chart;
        chart.id = std::string(kLayoutName);
        chart.name = "24-patch chart";
        chart.source = "Nominal values of the classic 24-patch chart, formulation before 2014.";
        for (std::size_t i = 0; i < kPatchCount; ++i) {
            chart.patches.push_back(
                {std::string(patchNames()[i]), nominalLinear()[i], i >= kFirstNeutral});
        }
        return chart;
    }();
    return kChart;
}

colour::Vector3 linearOfXyz(const colour::Vector3& xyz) {
    static const colour::Matrix3 kToRgb =
        colour::xyzToRgb(colour::kBt709) * colour::bradford(colour::kD50, colour::kD65);
    return kToRgb * xyz;
}

colour::Vector3 linearOfLab(const colour::Lab& lab) {
    return linearOfXyz(colour::xyzOf(lab, colour::kD50));
}

}  // namespace rigmatch::chart
