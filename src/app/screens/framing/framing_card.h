// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace rigmatch::app {

class FramingController;

/// Writes a page per camera: its picture with marks, the measures with their uncertainties, lens,
/// distances of the plan, and room for tape distances by hand. False where the file cannot be
/// written.
[[nodiscard]] bool writeFramingCard(FramingController& controller, const QString& file);

}  // namespace rigmatch::app
