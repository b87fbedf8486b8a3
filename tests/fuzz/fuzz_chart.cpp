// SPDX-License-Identifier: GPL-3.0-or-later
// Charts as JSON.
#include <cstdlib>

#include "chart/chart_file.h"
#include "fuzz_file.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto chart = rigmatch::chart::readChartFile(rigmatch::fuzz::fileOf(data, size, ".json"));
    if (!chart && chart.error().hint.empty()) std::abort();
    return 0;
}
