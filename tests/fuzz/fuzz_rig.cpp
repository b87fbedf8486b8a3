// SPDX-License-Identifier: GPL-3.0-or-later
// Rig files: what is read is written again, and reads as the same rig.
#include <cstdlib>

#include "rig/rig_json.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace rigmatch;
    const auto parsed = rig::parseRig({reinterpret_cast<const char*>(data), size});
    if (!parsed) {
        if (parsed.error().what.empty() || parsed.error().hint.empty()) std::abort();
        return 0;
    }
    const auto again = rig::parseRig(rig::jsonText(parsed->rig));
    if (!again) std::abort();
    return 0;
}
