// SPDX-License-Identifier: GPL-3.0-or-later
// Rig files: what is read is written again, and reads as the same rig. What stands behind a
// document is read as the changes of a journal.
#include <cstdlib>

#include <string_view>

#include "rig/rig_changes.h"
#include "rig/rig_json.h"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace rigmatch;
    const std::string_view text{reinterpret_cast<const char*>(data), size};
    const auto end = text.find("\n}\n");
    const auto parsed = rig::parseChanged(text, end == std::string_view::npos ? size : end + 3);
    if (!parsed) {
        if (parsed.error().what.empty() || parsed.error().hint.empty()) std::abort();
        return 0;
    }
    const auto again = rig::parseRig(rig::jsonText(parsed->rig));
    if (!again) std::abort();
    return 0;
}
