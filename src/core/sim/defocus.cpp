// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/defocus.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>

namespace rigmatch::sim {
namespace {

constexpr double kSharpPx = 0.35;   // radius below which nothing is blurred
constexpr double kSliceStep = 1.2;  // of radius, that is blurred in one go
constexpr double kWidestPx = 60.0;
constexpr float kLeastCover = 1e-3F;
constexpr double kOpaque = 0.995;

/// Rows of some planes as running sums, side by side, so that any run of them costs two readings.
template <std::size_t kPlanes>
class RunningSums {
public:
    using Sums = std::array<double, kPlanes>;

    RunningSums(const std::array<const std::vector<float>*, kPlanes>& planes,
                int width,
                image::PixelRect part)
        : m_part(part), m_sums(stride() * static_cast<std::size_t>(part.height)) {
        for (int y = 0; y < part.height; ++y) {
            const std::size_t from =
                static_cast<std::size_t>(part.y + y) * static_cast<std::size_t>(width) +
                static_cast<std::size_t>(part.x);
            Sums* to = &m_sums[static_cast<std::size_t>(y) * stride()];
            for (std::size_t x = 0; x < static_cast<std::size_t>(part.width); ++x)
                for (std::size_t i = 0; i < kPlanes; ++i)
                    to[x + 1][i] = to[x][i] + static_cast<double>((*planes[i])[from + x]);
        }
    }

    /// Adds what lies from `first` to `last` of a row of the part, both as places between its
    /// pixels.
    void addRun(int y, double first, double last, Sums& to) const {
        const Place from = placeOf(y, first), until = placeOf(y, last);
        for (std::size_t i = 0; i < kPlanes; ++i) to[i] += until.sum(i) - from.sum(i);
    }

private:
    struct Place {
        const Sums* sums;
        double share;
        [[nodiscard]] double sum(std::size_t i) const {
            return sums[0][i] + share * (sums[1][i] - sums[0][i]);
        }
    };
    [[nodiscard]] std::size_t stride() const { return static_cast<std::size_t>(m_part.width) + 1; }
    [[nodiscard]] Place placeOf(int y, double place) const {
        const double kept = std::clamp(place, 0.0, static_cast<double>(m_part.width));
        const int whole = std::min(static_cast<int>(kept), m_part.width - 1);
        return {&m_sums[static_cast<std::size_t>(y) * stride() + static_cast<std::size_t>(whole)],
                kept - whole};
    }

    image::PixelRect m_part;
    std::vector<Sums> m_sums;
};

/// How many pixels of a part are covered, anywhere in a box.
class CoveredPixels {
public:
    CoveredPixels(const std::vector<float>& cover, int width, image::PixelRect part)
        : m_part(part), m_counts(stride() * (static_cast<std::size_t>(part.height) + 1)) {
        for (int y = 0; y < part.height; ++y) {
            const float* from =
                &cover[static_cast<std::size_t>(part.y + y) * static_cast<std::size_t>(width) +
                       static_cast<std::size_t>(part.x)];
            int row = 0;
            for (int x = 0; x < part.width; ++x) {
                row += from[x] > 0.0F ? 1 : 0;
                m_counts[at(x + 1, y + 1)] = m_counts[at(x + 1, y)] + row;
            }
        }
    }
    /// True where none lies within `reach` of a pixel, across or down.
    [[nodiscard]] bool areNoneAbout(int x, int y, int reach) const {
        const int left = std::max(x - reach, 0), right = std::min(x + reach + 1, m_part.width),
                  top = std::max(y - reach, 0), bottom = std::min(y + reach + 1, m_part.height);
        return m_counts[at(right, bottom)] - m_counts[at(left, bottom)] - m_counts[at(right, top)] +
                   m_counts[at(left, top)] ==
               0;
    }

private:
    [[nodiscard]] std::size_t stride() const { return static_cast<std::size_t>(m_part.width) + 1; }
    [[nodiscard]] std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * stride() + static_cast<std::size_t>(x);
    }

    image::PixelRect m_part;
    std::vector<int> m_counts;
};

/// Half the width of a disc at every row of it, from the middle on.
std::vector<double> halfWidths(double radius) {
    std::vector<double> widths;
    for (int dy = 0; dy < radius + 0.5; ++dy) {
        // The mean over the row, so that discs of any size have the right area.
        constexpr int kSteps = 8;
        double sum = 0.0;
        for (int i = 0; i < kSteps; ++i) {
            const double at = dy + (i + 0.5) / kSteps - 0.5;
            sum += std::sqrt(std::max(0.0, radius * radius - at * at));
        }
        widths.push_back(sum / kSteps);
    }
    return widths;
}

/// Mean under a disc about a pixel of the part; `area` is what of the disc lies in it.
template <typename Sums>
void sumDisc(const std::vector<double>& widths,
             image::PixelRect part,
             int x,
             int y,
             const Sums& add,
             double& area) {
    const auto reach = static_cast<int>(widths.size()) - 1;
    for (int dy = -reach; dy <= reach; ++dy) {
        if (y + dy < 0 || y + dy >= part.height) continue;
        const double half = widths[static_cast<std::size_t>(std::abs(dy))];
        const double first = x + 0.5 - half, last = x + 0.5 + half;
        area += std::min(last, static_cast<double>(part.width)) - std::max(first, 0.0);
        add(y + dy, first, last);
    }
}

/// All that lies within one step of blur.
struct Slice {
    double radius = 0.0;
    bool isNear = false;  ///< before the plane in focus
    std::vector<const Fragment*> fragments;
    int left = 1 << 30, top = 1 << 30, right = -1, bottom = -1;
};

int sliceOf(double radius) {
    if (std::abs(radius) < kSharpPx) return 0;
    const int steps =
        1 + static_cast<int>(std::floor(std::log(std::min(std::abs(radius), kWidestPx) / kSharpPx) /
                                        std::log(kSliceStep)));
    return radius > 0.0 ? steps : -steps;
}

double radiusOf(int slice) {
    return slice == 0 ? 0.0 : kSharpPx * std::pow(kSliceStep, std::abs(slice) - 0.5);
}

/// Slices are laid over each other, the farthest first. Each also covers what nearer ones will
/// cover, so that a surface that crosses slices has no seams.
class Pile {
public:
    Pile(int width, int height)
        : m_width(width),
          m_height(height),
          m_left(static_cast<std::size_t>(width) * static_cast<std::size_t>(height), 1.0F),
          m_known(m_left.size(), 0.0F),
          m_cover(m_left.size(), 0.0F),
          m_picture(image::blankFrame(width, height)) {
        for (auto& plane : m_own) plane.assign(m_left.size(), 0.0F);
    }

    void lay(const Slice& slice) {
        for (const Fragment* one : slice.fragments) {
            m_cover[one->pixel] += one->cover;
            for (std::size_t c = 0; c < 3; ++c) m_own[c][one->pixel] += one->cover * one->colour[c];
        }
        if (slice.radius <= 0.0)
            laySharp(slice);
        else
            layBlurred(slice);
        for (const Fragment* one : slice.fragments) {
            m_left[one->pixel] = std::max(0.0F, m_left[one->pixel] - one->cover);
            m_cover[one->pixel] = 0.0F;
            for (auto& plane : m_own) plane[one->pixel] = 0.0F;
        }
    }
    [[nodiscard]] image::Frame take() { return std::move(m_picture); }

private:
    /// What was laid so far, where it is known, under a disc: share, red, green, blue.
    using Known = RunningSums<4>;
    [[nodiscard]] Known knownIn(image::PixelRect part) const {
        const auto& planes = m_picture.channels;  // nothing is in them where nothing is known
        return Known({&m_known, &planes[0], &planes[1], &planes[2]}, m_width, part);
    }
    /// A place that nothing was laid on yet, because a near thing hides it: as what is beside it.
    void fill(const Known& known,
              const std::vector<double>& widths,
              image::PixelRect part,
              int x,
              int y,
              std::size_t pixel) {
        double area = 0.0;
        Known::Sums sums{};
        sumDisc(
            widths,
            part,
            x,
            y,
            [&](int row, double first, double last) { known.addRun(row, first, last, sums); },
            area);
        if (sums[0] <= double(kLeastCover) * area) return;
        for (std::size_t c = 0; c < 3; ++c)
            m_picture.channels[c][pixel] = static_cast<float>(sums[c + 1] / sums[0]);
        m_known[pixel] = 1.0F;
    }

    void put(std::size_t pixel, float alpha, const std::array<float, 3>& colour) {
        const float under = (1.0F - alpha) * m_known[pixel];
        for (std::size_t c = 0; c < 3; ++c) {
            float& value = m_picture.channels[c][pixel];
            value = (alpha * colour[c] + under * value) / (alpha + under);
        }
        m_known[pixel] = 1.0F;
    }

    void laySharp(const Slice& slice) {
        for (const Fragment* one : slice.fragments) {
            const float cover = m_cover[one->pixel];
            if (cover <= kLeastCover) continue;
            std::array<float, 3> colour{};
            for (std::size_t c = 0; c < 3; ++c) colour[c] = m_own[c][one->pixel] / cover;
            // A second piece of the same pixel would lay it twice.
            m_cover[one->pixel] = 0.0F;
            put(one->pixel, std::min(1.0F, m_left[one->pixel]), colour);
        }
    }

    void layBlurred(const Slice& slice) {
        const int reach = static_cast<int>(std::ceil(slice.radius)) + 1;
        image::PixelRect part;
        part.x = std::max(0, slice.left - reach);
        part.y = std::max(0, slice.top - reach);
        part.width = std::min(m_width, slice.right + reach + 1) - part.x;
        part.height = std::min(m_height, slice.bottom + reach + 1) - part.y;
        // What the slice covers, what it and nearer ones do, and its red, green and blue.
        const RunningSums<5> own(
            {&m_cover, &m_left, &m_own[0], &m_own[1], &m_own[2]}, m_width, part);
        const CoveredPixels covered(m_cover, m_width, part);
        const std::vector<double> widths = halfWidths(slice.radius);
        // What is farther than the focus blurs far enough to be known behind this by itself.
        std::optional<Known> known;
        if (slice.isNear) known = knownIn(part);
        for (int y = 0; y < part.height; ++y) {
            for (int x = 0; x < part.width; ++x) {
                if (covered.areNoneAbout(x, y, reach)) continue;
                double area = 0.0;
                RunningSums<5>::Sums sums{};
                sumDisc(
                    widths,
                    part,
                    x,
                    y,
                    [&](int row, double first, double last) { own.addRun(row, first, last, sums); },
                    area);
                const double cover = sums[0];
                if (cover <= double(kLeastCover) * area) continue;
                const auto pixel =
                    static_cast<std::size_t>(part.y + y) * static_cast<std::size_t>(m_width) +
                    static_cast<std::size_t>(part.x + x);
                const double alpha = std::clamp(sums[1] / area, double(kLeastCover), 1.0);
                if (known && m_known[pixel] <= 0.0F && alpha < kOpaque)
                    fill(*known, widths, part, x, y, pixel);
                put(pixel,
                    static_cast<float>(alpha),
                    {static_cast<float>(sums[2] / cover),
                     static_cast<float>(sums[3] / cover),
                     static_cast<float>(sums[4] / cover)});
            }
        }
    }

    int m_width, m_height;
    std::vector<float> m_left;   ///< what this slice and all nearer ones cover of a pixel
    std::vector<float> m_known;  ///< 1 where something was laid
    std::vector<float> m_cover;  ///< of the slice at hand
    std::array<std::vector<float>, 3> m_own;
    image::Frame m_picture;
};

}  // namespace

double blurRadiusPx(const Glass& glass, double focalPx, double metres) {
    if (glass.apertureMetres <= 0.0 || glass.focusMetres <= 0.0) return 0.0;
    return 0.5 * glass.apertureMetres * focalPx *
           (1.0 / glass.focusMetres - 1.0 / std::max(metres, 0.01));
}

image::Frame defocused(const std::vector<Fragment>& fragments,
                       int width,
                       int height,
                       const Glass& glass,
                       double focalPx) {
    std::map<int, Slice, std::greater<>> slices;
    for (const Fragment& one : fragments) {
        const int index = sliceOf(blurRadiusPx(glass, focalPx, static_cast<double>(one.metres)));
        Slice& slice = slices[index];
        slice.radius = radiusOf(index);
        slice.isNear = index < 0;
        slice.fragments.push_back(&one);
        const int x = static_cast<int>(one.pixel % static_cast<std::size_t>(width));
        const int y = static_cast<int>(one.pixel / static_cast<std::size_t>(width));
        slice.left = std::min(slice.left, x);
        slice.right = std::max(slice.right, x);
        slice.top = std::min(slice.top, y);
        slice.bottom = std::max(slice.bottom, y);
    }
    Pile pile(width, height);
    for (const auto& [index, slice] : slices) pile.lay(slice);
    return pile.take();
}

void blurDisc(std::vector<float>& plane, int width, int height, double radiusPx) {
    if (radiusPx < kSharpPx || width <= 0 || height <= 0) return;
    const image::PixelRect whole{0, 0, width, height};
    const RunningSums<1> sums({&plane}, width, whole);
    const std::vector<double> widths = halfWidths(std::min(radiusPx, kWidestPx));
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            double area = 0.0;
            RunningSums<1>::Sums sum{};
            sumDisc(
                widths,
                whole,
                x,
                y,
                [&](int row, double first, double last) { sums.addRun(row, first, last, sum); },
                area);
            plane[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                  static_cast<std::size_t>(x)] = static_cast<float>(sum[0] / area);
        }
    }
}

}  // namespace rigmatch::sim
