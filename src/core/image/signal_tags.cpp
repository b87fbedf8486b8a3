// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/signal_tags.h"

#include "base/luma.h"

namespace rigmatch::image {

LumaWeights lumaWeights(Matrix matrix) {
    switch (matrix) {
        case Matrix::Bt601:
            return {0.299, 0.587, 0.114};
        case Matrix::Bt2020:
            return {0.2627, 0.6780, 0.0593};
        case Matrix::Bt709:
        case Matrix::None:
            break;
    }
    return {base::kLumaBt709[0], base::kLumaBt709[1], base::kLumaBt709[2]};
}

std::string nameOf(Range range) { return range == Range::Limited ? "limited" : "full"; }

std::string nameOf(Matrix matrix) {
    switch (matrix) {
        case Matrix::None:
            return "rgb";
        case Matrix::Bt601:
            return "bt601";
        case Matrix::Bt709:
            return "bt709";
        case Matrix::Bt2020:
            return "bt2020";
    }
    return "unknown";
}

std::string nameOf(TransferTag transfer) {
    switch (transfer) {
        case TransferTag::Unknown:
            return "unknown";
        case TransferTag::Bt709:
            return "bt709";
        case TransferTag::Srgb:
            return "srgb";
        case TransferTag::Hlg:
            return "hlg";
        case TransferTag::Pq:
            return "pq";
        case TransferTag::Linear:
            return "linear";
        case TransferTag::Gamma:
            return "gamma";
    }
    return "unknown";
}

std::string nameOf(PrimariesTag primaries) {
    switch (primaries) {
        case PrimariesTag::Bt709:
            return "bt709";
        case PrimariesTag::Bt2020:
            return "bt2020";
        case PrimariesTag::Bt601:
            return "bt601";
        case PrimariesTag::Bt601Lines625:
            return "bt601-625";
        case PrimariesTag::P3D65:
            return "p3-d65";
        case PrimariesTag::Unknown:
            break;
    }
    return "unknown";
}

std::optional<Range> rangeNamed(const std::string& name) {
    for (const Range range : {Range::Limited, Range::Full}) {
        if (nameOf(range) == name) return range;
    }
    return std::nullopt;
}

std::optional<Matrix> matrixNamed(const std::string& name) {
    for (const Matrix matrix : {Matrix::None, Matrix::Bt601, Matrix::Bt709, Matrix::Bt2020}) {
        if (nameOf(matrix) == name) return matrix;
    }
    return std::nullopt;
}

}  // namespace rigmatch::image
