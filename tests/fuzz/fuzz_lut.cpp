// SPDX-License-Identifier: GPL-3.0-or-later
// Curves and look-up tables: .cube where the first byte is even, else CLF; as a curve and as a
// viewing LUT.
#include <cstdlib>

#include "colour/curve_file.h"
#include "colour/viewing_lut.h"
#include "fuzz_file.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size == 0) return 0;
    const auto file =
        rigmatch::fuzz::fileOf(data + 1, size - 1, data[0] % 2 == 0 ? ".cube" : ".clf");
    const auto curve = rigmatch::colour::curveFromFile(file);
    if (!curve && curve.error().hint.empty()) std::abort();
    const auto lut = rigmatch::colour::ViewingLut::read(file);
    if (!lut && lut.error().hint.empty()) std::abort();
    return 0;
}
