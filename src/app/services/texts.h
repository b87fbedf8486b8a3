// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QCoreApplication>
#include <QString>
#include <string>

#include "words/english.h"

namespace rigmatch::app {

/// A text made by the core, in the user's language where the catalogue has it.
[[nodiscard]] inline QString fromCore(const std::string& text) {
    return QCoreApplication::translate("core", text.c_str());
}
/// The same of a text in codes.
[[nodiscard]] inline QString fromCore(const base::Text& text) {
    return fromCore(words::inEnglish(text));
}

/// "1 frame" or "7 frames": `one` as it stands, or `many` with the number for %1.
[[nodiscard]] inline QString counted(int number, const QString& one, const QString& many) {
    return number == 1 ? one : many.arg(number);
}

/// A name or path that is never translated.
[[nodiscard]] inline QString plain(const std::string& text) { return QString::fromStdString(text); }

}  // namespace rigmatch::app
