// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/result.h"

namespace rigmatch::base {

Text fullText(const Error& error) {
    Text text = say("error.what", {{"what", error.what}});
    for (const Text* part : {&error.detail, &error.hint}) {
        if (!part->empty()) text += say("error.more", {{"sentence", *part}});
    }
    return text;
}

Error cancelledError() {
    return Error{ErrorCode::Cancelled,
                 say("cancelled.stopped"),
                 say("cancelled.workCancelled"),
                 say("cancelled.nothingChanged")};
}

}  // namespace rigmatch::base
