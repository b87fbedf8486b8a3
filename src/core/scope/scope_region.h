// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <cstddef>
#include <future>
#include <vector>

#include "image/frame.h"
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

/// How many threads are worth their start for an area of that size: one, or one per processor.
[[nodiscard]] int workersFor(const ScopeArea& area);

/// The area cut into strips of whole chroma rows, several for each of `workers`; together they
/// hold every pixel once.
[[nodiscard]] std::vector<ScopeArea> stripsOf(const image::CodedFrame& frame,
                                              const ScopeArea& area,
                                              int workers);

/// Every worker makes a counter of its own and counts pieces with it, whoever is free taking the
/// next: a processor that is busy otherwise holds up nobody. Returns the counters.
template <class Make, class Count>
[[nodiscard]] auto sharedOut(int workers, std::size_t pieces, const Make& make, Count count) {
    std::atomic<std::size_t> next{0};
    const auto work = [&] {
        auto counter = make();
        for (std::size_t piece = next++; piece < pieces; piece = next++) count(counter, piece);
        return counter;
    };
    using Counter = decltype(make());
    std::vector<std::future<Counter>> others;
    for (int i = 1; i < workers; ++i) others.push_back(std::async(std::launch::async, work));
    std::vector<Counter> counters;
    counters.push_back(work());
    for (auto& other : others) counters.push_back(other.get());
    return counters;
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
