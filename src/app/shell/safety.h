// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace rigmatch::app {

/// The usual cautions of a set (common practice), shown on demand. They defer to local law, the
/// makers' manuals and licensed people.
[[nodiscard]] QString safetyText();

}  // namespace rigmatch::app
