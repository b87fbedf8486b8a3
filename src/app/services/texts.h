// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QCoreApplication>
#include <QString>
#include <string>

namespace rigmatch::app {

/// A text made by the core, in the user's language where the catalogue has it.
[[nodiscard]] inline QString fromCore(const std::string& text) {
    return QCoreApplication::translate("core", text.c_str());
}

/// A name or path that is never translated.
[[nodiscard]] inline QString plain(const std::string& text) { return QString::fromStdString(text); }

}  // namespace rigmatch::app
