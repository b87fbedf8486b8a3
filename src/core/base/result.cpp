// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/result.h"

namespace rigmatch::base {

std::string fullText(const Error& error) {
    std::string text = error.what;
    if (!text.empty() && text.back() != '.') text += '.';
    for (const std::string* part : {&error.detail, &error.hint}) {
        if (!part->empty()) text += ' ' + *part;
    }
    return text;
}

Error cancelledError() {
    return Error{
        ErrorCode::Cancelled, "Stopped", "The work was cancelled.", "Nothing was changed."};
}

}  // namespace rigmatch::base
