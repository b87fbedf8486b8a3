// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "base/result.h"

namespace rigmatch::card {

/// 8-bit R G B, row by row.
struct SheetPicture {
    int width = 0, height = 0;
    std::vector<unsigned char> rgb;
};

/// Pictures side by side under one heading.
struct SheetRow {
    std::string heading;
    std::vector<SheetPicture> pictures;  ///< as many as there are columns; empty ones stay blank
};

struct PictureSheet {
    std::string title;
    std::string note;
    std::vector<std::string> columns;
    std::vector<SheetRow> rows;
};

/// The sheet as a PNG on neutral grey, pictures up to 380 × 260 px. Fails with WriteFailed where
/// the library cannot make it, OutOfRange without a row.
[[nodiscard]] base::Result<std::string> sheetPng(const PictureSheet& sheet);

}  // namespace rigmatch::card
