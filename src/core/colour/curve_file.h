// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "base/result.h"
#include "colour/transfer.h"

namespace rigmatch::colour {

/// The transfer curve of a look-up table that turns a recording into linear light (18 % grey comes
/// out as 0.18): its grey axis, read at 401 signals from -5 to 109 %. .cube, CLF and what else
/// OpenColorIO reads. Fails as ViewingLut::read, or with OutOfRange where the table does not rise
/// or never reaches mid-grey: such a table is a look, not a linearisation.
[[nodiscard]] base::Result<TransferCurve> curveFromFile(const std::filesystem::path& file);

}  // namespace rigmatch::colour
