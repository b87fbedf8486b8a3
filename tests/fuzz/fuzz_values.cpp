// SPDX-License-Identifier: GPL-3.0-or-later
// Values of patches: CGATS where the first byte is even, else CSV.
#include <cstdlib>

#include "chart/chart_values.h"
#include "fuzz_file.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size == 0) return 0;
    const bool isTable = data[0] % 2 == 0;
    const auto values = rigmatch::chart::readPatchValues(
        rigmatch::fuzz::fileOf(data + 1, size - 1, isTable ? ".txt" : ".csv"));
    if (!values && values.error().hint.empty()) std::abort();
    return 0;
}
