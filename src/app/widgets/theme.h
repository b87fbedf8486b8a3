// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;
class QPainter;
class QRectF;

namespace rigmatch::app::theme {

// The surround is neutral (R = G = B), so that the eye judges pictures, not paint.
inline const QColor kWindow(38, 38, 38);
inline const QColor kPanel(48, 48, 48);
inline const QColor kField(58, 58, 58);
inline const QColor kLine(68, 68, 68);
inline const QColor kText(232, 232, 232);
inline const QColor kDim(165, 165, 165);
inline const QColor kFaint(120, 120, 120);
// The only colours beside camera identity: attention.
inline const QColor kNear(222, 170, 84);
inline const QColor kOff(236, 122, 98);
inline const QColor kFocus(214, 210, 176);

/// Identity colour of a camera letter.
[[nodiscard]] QColor cameraColour(const QString& letter);

/// Loads the program's own font, sets palette, style and style sheet.
void apply(QApplication& application);

[[nodiscard]] QFont font(int pixels, int weight = QFont::Normal);

/// A camera's letter on its colour, in a rounded square.
void paintBadge(QPainter& painter, const QRectF& rect, const QString& letter);

}  // namespace rigmatch::app::theme
