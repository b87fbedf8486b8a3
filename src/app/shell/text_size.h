// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QList>

class QSettings;

namespace rigmatch::app {

/// Sizes of text and all that goes with it, % of the desktop's.
inline const QList<int> kTextSizes{100, 115, 130, 150, 175};

/// The size that was chosen; 100 where none was, or where a file says something else.
[[nodiscard]] int chosenTextSize(const QSettings& settings);
void chooseTextSize(QSettings& settings, int percent);

/// Has the program drawn in that size. To be called before there is an application; a scale that
/// the user's own environment sets (QT_SCALE_FACTOR) stays.
void applyTextSize(const QSettings& settings);

}  // namespace rigmatch::app
