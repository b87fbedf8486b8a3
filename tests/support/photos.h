// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace rigmatch::support {

/// Photographs of faces with free licences (docs/sources.md 15).
inline const QString kPhotos = QStringLiteral(RIGMATCH_SOURCE_DIR "/tests/data/faces/");

}  // namespace rigmatch::support
