// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "base/text.h"

namespace rigmatch::base {

/// Something the user should know that did not stop the work. `code` is stable for scripts.
struct Warning {
    std::string code;             ///< "RangeTagMissing"
    Text text;                    ///< what was seen and how it was taken
    Text hint;                    ///< what to do about it
    std::string unknownFields{};  ///< of a later program's file; kept as they are

    bool operator==(const Warning&) const = default;
};

}  // namespace rigmatch::base
