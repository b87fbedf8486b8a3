// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace rigmatch::framing {

/// A head in a picture, from hair to chin, px.
struct HeadBox {
    double left = 0.0, top = 0.0, right = 0.0, bottom = 0.0;

    [[nodiscard]] double width() const { return right - left; }
    [[nodiscard]] double height() const { return bottom - top; }
};

}  // namespace rigmatch::framing
