// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <filesystem>
#include <memory>
#include <vector>

#include "base/result.h"

namespace rigmatch::colour {

/// A look-up table that turns a camera's recorded signal into what is viewed: .cube, CLF, a
/// decision list of the ASC (of a collection its first), and every other format that OpenColorIO
/// reads (1D, 3D, with shaper). Values are interpolated linearly (1D)
/// and tetrahedrally (3D). Cheap to copy; thread-safe.
class ViewingLut {
public:
    /// Fails with NotFound, or UnsupportedFormat with the library's own words; names the file.
    [[nodiscard]] static base::Result<ViewingLut> read(const std::filesystem::path& path);

    [[nodiscard]] std::array<double, 3> apply(const std::array<double, 3>& signal) const;
    /// In place; the planes must be equally long.
    void apply(std::array<std::vector<float>, 3>& planes) const;

private:
    struct State;
    std::shared_ptr<const State> m_state;
};

}  // namespace rigmatch::colour
