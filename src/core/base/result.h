// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <tl/expected.hpp>

#include "base/text.h"

namespace rigmatch::base {

/// What kind of failure it is: decides the exit path, never the wording.
enum class ErrorCode {
    OutOfRange,         ///< a value lies outside what is allowed
    NotFound,           ///< a file or folder is not there
    Unreadable,         ///< it is there, but cannot be read (rights, device)
    UnsupportedFormat,  ///< the bytes are not of a format we read
    NoPicture,          ///< a readable file without a video stream
    NoSound,            ///< a readable file without sound
    Truncated,          ///< the file ends before its content does
    TooLarge,           ///< more pixels or bytes than we accept
    TooFewPixels,       ///< a region is too small to be measured
    ChartNotFound,      ///< no chart in the picture or clip
    Unmeasurable,       ///< a quantity that this material does not tell
    WriteFailed,        ///< disk full, folder not writable
    CorruptDocument,    ///< a rig file that is no valid document
    NewerVersion,       ///< a rig file from a later program
    Cancelled,          ///< the user stopped the work
};

/// A failure: what failed, with which value and what is allowed, and what to do now; in codes,
/// whose words are made elsewhere (words/english.h).
struct Error {
    ErrorCode code = ErrorCode::OutOfRange;
    Text what;    ///< "Cannot read b.mov", without a full stop
    Text detail;  ///< "The file is 0 bytes long."
    Text hint;    ///< "Copy it from the card again."

    bool operator==(const Error&) const = default;
};

/// The three sentences in one line, for logs and standard error.
[[nodiscard]] Text fullText(const Error& error);

template <class T>
using Result = tl::expected<T, Error>;

/// Shorthand for a failed Result.
[[nodiscard]] inline tl::unexpected<Error> fail(ErrorCode code, Text what, Text detail, Text hint) {
    return tl::unexpected<Error>(Error{code, std::move(what), std::move(detail), std::move(hint)});
}

/// The error every cancelled job returns.
[[nodiscard]] Error cancelledError();

}  // namespace rigmatch::base
