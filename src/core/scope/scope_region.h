// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "scope/scope_data.h"

namespace rigmatch::scope {

/// The region and columns of a scope after they were checked.
struct ScopeArea {
    image::PixelRect region;
    int columns = 0;

    /// Column of the scope that a column of the region falls into.
    [[nodiscard]] int binOf(int x) const {
        return static_cast<int>(static_cast<long long>(x) * columns / region.width);
    }
};

/// Fails with OutOfRange, naming the value and what is allowed.
[[nodiscard]] base::Result<ScopeArea> areaOf(const image::CodedFrame& frame,
                                             const ScopeOptions& options);

/// A row of code values of a plane.
template <class Sample>
[[nodiscard]] const Sample* rowOf(const image::Plane& plane, int y) {
    return reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y);
}

/// True where the planes hold Y', Cb and Cr codes (not R'G'B', not grey, not floating point).
[[nodiscard]] inline bool isCodedYcc(const image::CodedFrame& frame) {
    return frame.tags.matrix != image::Matrix::None && frame.planeCount == 3 &&
           frame.samples != image::SampleKind::Float32;
}

}  // namespace rigmatch::scope
