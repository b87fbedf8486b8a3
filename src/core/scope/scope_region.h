// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <future>
#include <vector>

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

/// The area cut into strips of whole chroma rows, one per processor for large pictures, so that
/// they can be counted side by side; together they hold every pixel once.
[[nodiscard]] std::vector<ScopeArea> stripsOf(const image::CodedFrame& frame,
                                              const ScopeArea& area);

/// Counts the strips side by side and adds the counts up.
template <class Count, class Add>
[[nodiscard]] auto inStrips(const image::CodedFrame& frame,
                            const ScopeArea& area,
                            const Count& count,
                            const Add& add) {
    const std::vector<ScopeArea> strips = stripsOf(frame, area);
    using Scope = decltype(count(area));
    std::vector<std::future<Scope>> others;
    for (std::size_t i = 1; i < strips.size(); ++i)
        others.push_back(std::async(std::launch::async, count, strips[i]));
    Scope total = count(strips.front());
    for (auto& other : others) add(total, other.get());
    return total;
}

/// Adds counts to others of the same length.
inline void addCounts(std::vector<std::uint32_t>& total, const std::vector<std::uint32_t>& more) {
    for (std::size_t i = 0; i < total.size(); ++i) total[i] += more[i];
}

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
