// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

namespace rigmatch::image {

/// Where black and white lie in the code values (sources 5.3): limited 16..235, full 0..255 in 8
/// bit.
enum class Range { Limited, Full };
/// How luma and chroma were made from R'G'B'; None: the planes are R'G'B' already.
enum class Matrix { None, Bt601, Bt709, Bt2020 };
enum class PrimariesTag { Unknown, Bt709, Bt2020, Bt601, Bt601Lines625, P3D65 };
enum class TransferTag { Unknown, Bt709, Srgb, Hlg, Pq, Linear, Gamma };

/// What a stream says about its code values; `is…Tagged` tells saying from assuming.
struct SignalTags {
    Range range = Range::Limited;
    bool isRangeTagged = false;
    Matrix matrix = Matrix::Bt709;
    bool isMatrixTagged = false;
    PrimariesTag primaries = PrimariesTag::Unknown;
    TransferTag transfer = TransferTag::Unknown;

    bool operator==(const SignalTags&) const = default;
};

/// Luma weights of a matrix (ITU-R BT.601, BT.709, BT.2020). Matrix::None answers those of BT.709.
struct LumaWeights {
    double red;
    double green;
    double blue;
};
[[nodiscard]] LumaWeights lumaWeights(Matrix matrix);

/// Names for files and screens: "limited", "bt709", "hlg", …
[[nodiscard]] std::string nameOf(Range range);
[[nodiscard]] std::string nameOf(Matrix matrix);
[[nodiscard]] std::string nameOf(TransferTag transfer);
[[nodiscard]] std::string nameOf(PrimariesTag primaries);
/// The other way; nothing for any other word.
[[nodiscard]] std::optional<Range> rangeNamed(const std::string& name);
[[nodiscard]] std::optional<Matrix> matrixNamed(const std::string& name);

}  // namespace rigmatch::image
