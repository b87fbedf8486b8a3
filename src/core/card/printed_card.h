// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "base/result.h"

namespace rigmatch::card {

enum class Paper { A4, Letter };

/// The card of our own as one landscape page of PDF: the patches of the reference "printed-card" on
/// a dark field, targets in the corners, two focus stars, a scale of 100 mm, and how to print and
/// use it. Colours are device RGB with the sRGB curve (IEC 61966-2-1), as printers take them.
[[nodiscard]] base::Result<std::string> cardPdf(Paper paper);

/// Writes it whole or not at all. Fails with WriteFailed.
[[nodiscard]] base::Result<void> writeCard(const std::filesystem::path& file, Paper paper);

/// Where the field of patches lies on the page, mm from its top left: left, top, width, height.
struct FieldOnPage {
    double left = 0.0, top = 0.0, width = 0.0, height = 0.0;
    double pageWidth = 0.0, pageHeight = 0.0;
};
[[nodiscard]] FieldOnPage fieldOnPage(Paper paper);

}  // namespace rigmatch::card
