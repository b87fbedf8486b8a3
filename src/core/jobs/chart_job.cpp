// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/chart_job.h"

#include "chart/chart_file.h"
#include "measure/measure_media.h"

namespace rigmatch::jobs {
namespace {

ReferenceEntry entryOf(const chart::ReferenceChart& chart) {
    return {chart.id,
            chart.name,
            chart.source,
            chart.columns,
            chart.rows,
            chart.patchShare,
            chart.trust,
            chart.isSearchable()};
}

}  // namespace

std::vector<ReferenceEntry> builtinReferences() {
    std::vector<ReferenceEntry> entries;
    for (const chart::ReferenceChart& chart : chart::builtinCharts())
        entries.push_back(entryOf(chart));
    return entries;
}

base::Result<ReferenceEntry> referenceOf(const std::string& idOrPath) {
    const auto chart = chart::chartOf(idOrPath);
    if (!chart) return tl::unexpected(chart.error());
    return entryOf(*chart);
}

base::Result<measure::MeasureOptions> measureOptionsFor(const std::string& idOrPath) {
    auto chart = chart::chartOf(idOrPath);
    if (!chart) return tl::unexpected(chart.error());
    measure::MeasureOptions options;
    options.chart = std::move(*chart);
    return options;
}

}  // namespace rigmatch::jobs
