// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/ray_scene.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <map>
#include <thread>

#include "base/constants.h"
#include "sim/prepared_scene.h"
#include "sim/shading.h"

namespace rigmatch::sim {
namespace {

constexpr int kEdgeSamples = 3;  // per side of a pixel on an edge

/// The lens: direction of any point of the picture.
class Lens {
public:
    explicit Lens(const View& view) : m_view(view) {
        m_forward = (view.aim - view.position).normalized();
        const Vec up = std::abs(m_forward.y()) > 0.98 ? Vec(0, 0, -1) : Vec(0, 1, 0);
        const Vec right = m_forward.cross(up).normalized();
        const Vec above = right.cross(m_forward);
        const double roll = view.rollDegrees * base::kRadiansPerDegree;
        m_right = std::cos(roll) * right + std::sin(roll) * above;
        m_up = std::cos(roll) * above - std::sin(roll) * right;
        m_focalPx = view.focalPx();
        const double halfDiagonal = 0.5 * std::hypot(view.width, view.height);
        m_bend = view.glass.distortion / (halfDiagonal * halfDiagonal);
    }

    [[nodiscard]] Ray through(double x, double y) const {
        double dx = x - 0.5 * (m_view.width - 1);
        double dy = y - 0.5 * (m_view.height - 1);
        if (m_bend != 0.0) {
            // Where a straight-lined lens would have it: some steps of the fixed point.
            const double bentX = dx, bentY = dy;
            constexpr int kSteps = 6;
            for (int i = 0; i < kSteps; ++i) {
                const double share = 1.0 + m_bend * (dx * dx + dy * dy);
                dx = bentX / share;
                dy = bentY / share;
            }
        }
        return {m_view.position, (m_forward * m_focalPx + m_right * dx - m_up * dy).normalized()};
    }

    [[nodiscard]] image::Point project(const Vec& point) const {
        const Vec from = point - m_view.position;
        const double depth = std::max(from.dot(m_forward), 1e-6);
        const double x = m_focalPx * from.dot(m_right) / depth;
        const double y = m_focalPx * from.dot(m_up) / depth;
        const double share = 1.0 + m_bend * (x * x + y * y);
        return {0.5 * (m_view.width - 1) + share * x, 0.5 * (m_view.height - 1) - share * y};
    }
    [[nodiscard]] double depthOf(const Ray& ray, const Hit& hit) const {
        return hit.distance * ray.direction.dot(m_forward);
    }

private:
    View m_view;
    Vec m_forward, m_right, m_up;
    double m_focalPx = 1.0;
    double m_bend = 0.0;  ///< of distance from the middle, per px²
};

class Picture {
public:
    /// `margin`: px about the picture proper, in which only what moves is drawn.
    Picture(const PreparedScene& scene,
            const View& view,
            const RenderOptions& options,
            bool isLayered,
            int margin = 0)
        : m_scene(scene),
          m_view(view),
          m_lens(view),
          m_options(options),
          m_isLayered(isLayered),
          m_margin(margin),
          m_frame(image::blankFrame(view.width, view.height)),
          m_objects(static_cast<std::size_t>(view.width) * static_cast<std::size_t>(view.height),
                    -1),
          m_depths(m_objects.size(), 0.0F),
          m_metres(view.glass.apertureMetres > 0.0 ? m_objects.size() : 0),
          m_pieces(static_cast<std::size_t>(view.height)),
          m_plainParts(m_pieces.size()),
          m_edgeParts(m_pieces.size()) {}

    void drawRow(int y) {
        for (int x = 0; x < m_frame.width; ++x) {
            const Seen seen = look(x, y);
            m_objects[at(x, y)] = seen.object;
            m_depths[at(x, y)] = static_cast<float>(seen.distance);
            if (!m_metres.empty()) m_metres[at(x, y)] = static_cast<float>(seen.metres);
            put(x, y, seen.colour);
            for (const PartSeen& part : seen.parts)
                m_plainParts[static_cast<std::size_t>(y)].push_back(pixelOf(at(x, y), part, 1.0));
        }
    }
    /// Pixels on the border of two things are drawn anew from nine places within.
    void smoothRow(int y) {
        for (int x = 0; x < m_frame.width; ++x) {
            if (!isEdge(x, y)) continue;
            Samples samples;
            for (int s = 0; s < kEdgeSamples * kEdgeSamples; ++s) {
                const int column = s % kEdgeSamples, row = s / kEdgeSamples;
                const double dx = (column + 0.5) / kEdgeSamples - 0.5;
                const double dy = (row + 0.5) / kEdgeSamples - 0.5;
                samples[static_cast<std::size_t>(s)] = look(x + dx, y + dy);
            }
            if (m_metres.empty())
                put(x, y, meanOf(samples, -1.0, 1e12).colour);
            else
                putPieces(x, y, samples);
            if (m_isLayered) putParts(x, y, samples);
        }
    }
    /// What moves is not in it where the picture is a layered one.
    [[nodiscard]] image::Frame take() {
        if (m_metres.empty()) return std::move(m_frame);
        std::vector<Fragment> fragments;
        std::vector<bool> isInPieces(m_depths.size(), false);
        for (const auto& row : m_pieces) {
            for (const Fragment& one : row) {
                isInPieces[one.pixel] = true;
                if (!isBeside(one.pixel)) fragments.push_back(one);
            }
        }
        for (std::size_t i = 0; i < m_depths.size(); ++i) {
            if (isInPieces[i] || isBeside(i)) continue;
            fragments.push_back(
                {i,
                 m_metres[i],
                 1.0F,
                 {m_frame.channels[0][i], m_frame.channels[1][i], m_frame.channels[2][i]}});
        }
        return defocused(fragments, m_frame.width, m_frame.height, m_view.glass, m_view.focalPx());
    }
    [[nodiscard]] std::vector<MovingPart> takeParts() {
        std::map<std::pair<int, int>, std::vector<PartPixel>> all;
        for (std::size_t y = 0; y < m_plainParts.size(); ++y) {
            std::vector<bool> isDrawnAnew(static_cast<std::size_t>(m_frame.width), false);
            const auto column = [&](const PartPixel& one) {
                return one.pixel % static_cast<std::size_t>(m_frame.width);
            };
            for (const std::size_t x : m_anew[y]) isDrawnAnew[x] = true;
            for (const PartPixel& one : m_plainParts[y])
                if (!isDrawnAnew[column(one)]) all[{one.person, one.part}].push_back(one);
            for (const PartPixel& one : m_edgeParts[y]) all[{one.person, one.part}].push_back(one);
        }
        std::vector<MovingPart> parts;
        parts.reserve(all.size());
        for (const auto& [key, pixels] : all) parts.push_back(partOf(key, pixels));
        return parts;
    }
    [[nodiscard]] int height() const { return m_frame.height; }

private:
    struct PartSeen {
        int person = 0, part = 0;
        Vec colour = Vec::Zero();
        double metres = 0.0, height = 0.0;
    };
    /// What one ray meets: the nearest thing, or what does not move and before it what does.
    struct Seen {
        Vec colour = Vec::Zero();
        double metres = 0.0;
        int object = -1;
        double distance = 0.0;
        std::vector<PartSeen> parts;
    };
    struct PartPixel {
        std::size_t pixel = 0;
        int person = 0, part = 0;
        float cover = 1.0F, metres = 0.0F, height = 0.0F;
        std::array<float, 3> colour{};
    };
    using Samples = std::array<Seen, std::size_t{kEdgeSamples} * kEdgeSamples>;
    struct Piece {
        Vec colour = Vec::Zero();
        double metres = 0.0;
        double share = 0.0;
    };

    [[nodiscard]] bool isBeside(double x, double y) const {
        return x < m_margin - 0.5 || y < m_margin - 0.5 || x > m_frame.width - m_margin - 0.5 ||
               y > m_frame.height - m_margin - 0.5;
    }
    [[nodiscard]] bool isBeside(std::size_t pixel) const {
        const auto columns = static_cast<std::size_t>(m_frame.width);
        const std::size_t column = pixel % columns, row = pixel / columns;
        return isBeside(static_cast<double>(column), static_cast<double>(row));
    }

    [[nodiscard]] Seen look(double x, double y) const {
        Ray ray = m_lens.through(x, y);
        Hit hit = m_scene.nearest(ray);
        Seen seen;
        seen.object = hit.object;
        seen.distance = hit.distance;
        const Ray straight = ray;
        // Through everything that moves, each part once.
        constexpr int kMostParts = 8;
        for (int i = 0; m_isLayered && hit.person >= 0 && i < kMostParts; ++i) {
            // What somebody's trunk hides stays hidden: limbs are laid over it.
            const bool isHidden =
                std::any_of(seen.parts.begin(), seen.parts.end(), [&](const PartSeen& one) {
                    return one.person == hit.person && (one.part == hit.part || one.part == 0);
                });
            if (!isHidden) {
                seen.parts.push_back({hit.person,
                                      hit.part,
                                      shade(m_scene, straight, hit, m_options),
                                      m_lens.depthOf(straight, hit),
                                      straight.origin.y() + hit.distance * straight.direction.y()});
            }
            constexpr double kOn = 2e-3;  // m
            const double gone = hit.distance + kOn;
            ray.origin = straight.origin + gone * straight.direction;
            hit = m_scene.nearest(ray);
            hit.distance += gone;
        }
        seen.metres = m_lens.depthOf(straight, hit);
        if (!isBeside(x, y)) seen.colour = shade(m_scene, straight, hit, m_options);
        return seen;
    }

    static PartPixel pixelOf(std::size_t pixel, const PartSeen& part, double cover) {
        return {pixel,
                part.person,
                part.part,
                static_cast<float>(cover),
                static_cast<float>(part.metres),
                static_cast<float>(part.height),
                {static_cast<float>(part.colour.x()),
                 static_cast<float>(part.colour.y()),
                 static_cast<float>(part.colour.z())}};
    }

    /// Of the samples from one depth on, up to another.
    static Piece meanOf(const Samples& samples, double from, double to) {
        Piece piece;
        for (const Seen& sample : samples) {
            if (sample.metres < from || sample.metres >= to) continue;
            piece.colour += sample.colour;
            piece.metres += sample.metres;
            piece.share += 1.0;
        }
        if (piece.share <= 0.0) return piece;
        piece.colour /= piece.share;
        piece.metres /= piece.share;
        piece.share /= static_cast<double>(samples.size());
        return piece;
    }
    /// What stands in front, and what is seen beside it of what stands behind.
    void putPieces(int x, int y, const Samples& samples) {
        constexpr double kApart = 1.02;  // of the depth, from which they blur apart
        double nearest = 1e12, farthest = 0.0;
        for (const Seen& sample : samples) {
            nearest = std::min(nearest, sample.metres);
            farthest = std::max(farthest, sample.metres);
        }
        const double between =
            farthest > kApart * nearest ? std::sqrt(nearest * farthest) : 2.0 * farthest + 1.0;
        for (const Piece& piece :
             {meanOf(samples, -1.0, between), meanOf(samples, between, 1e15)}) {
            if (piece.share <= 0.0) continue;
            m_pieces[static_cast<std::size_t>(y)].push_back(
                {at(x, y),
                 static_cast<float>(piece.metres),
                 static_cast<float>(piece.share),
                 {static_cast<float>(piece.colour.x()),
                  static_cast<float>(piece.colour.y()),
                  static_cast<float>(piece.colour.z())}});
        }
    }
    void putParts(int x, int y, const Samples& samples) {
        m_anew[static_cast<std::size_t>(y)].push_back(static_cast<std::size_t>(x));
        std::map<std::pair<int, int>, std::pair<PartSeen, int>> sums;
        for (const Seen& sample : samples) {
            for (const PartSeen& part : sample.parts) {
                auto& [sum, count] = sums[{part.person, part.part}];
                sum.colour += part.colour;
                sum.metres += part.metres;
                sum.height += part.height;
                ++count;
            }
        }
        for (auto& [key, of] : sums) {
            auto& [sum, count] = of;
            sum.person = key.first;
            sum.part = key.second;
            sum.colour /= count;
            sum.metres /= count;
            sum.height /= count;
            m_edgeParts[static_cast<std::size_t>(y)].push_back(
                pixelOf(at(x, y), sum, count / static_cast<double>(samples.size())));
        }
    }
    [[nodiscard]] MovingPart partOf(std::pair<int, int> key,
                                    const std::vector<PartPixel>& pixels) const {
        MovingPart made;
        made.person = key.first;
        made.part = key.second;
        int left = m_frame.width, top = m_frame.height, right = 0, bottom = 0;
        double metres = 0.0, covers = 0.0;
        const auto columns = static_cast<std::size_t>(m_frame.width);
        for (const PartPixel& one : pixels) {
            const auto x = static_cast<int>(one.pixel % columns),
                       y = static_cast<int>(one.pixel / columns);
            left = std::min(left, x);
            right = std::max(right, x);
            top = std::min(top, y);
            bottom = std::max(bottom, y);
            metres += static_cast<double>(one.cover * one.metres);
            covers += static_cast<double>(one.cover);
        }
        made.metres = metres / std::max(covers, 1e-9);
        const double radius = blurRadiusPx(m_view.glass, m_view.focalPx(), made.metres);
        const int room = static_cast<int>(std::ceil(std::abs(radius))) + 1;
        made.box = {
            left - room, top - room, right - left + 1 + 2 * room, bottom - top + 1 + 2 * room};
        made.colour = image::blankFrame(made.box.width, made.box.height);
        made.cover.assign(made.colour.channels[0].size(), 0.0F);
        made.height = made.cover;
        for (const PartPixel& one : pixels) {
            const auto x = static_cast<int>(one.pixel % columns) - made.box.x,
                       y = static_cast<int>(one.pixel / columns) - made.box.y;
            const std::size_t to =
                static_cast<std::size_t>(y) * static_cast<std::size_t>(made.box.width) +
                static_cast<std::size_t>(x);
            made.cover[to] = one.cover;
            made.height[to] = one.cover * one.height;
            for (std::size_t c = 0; c < 3; ++c)
                made.colour.channels[c][to] = one.cover * one.colour[c];
        }
        for (auto& plane : made.colour.channels)
            blurDisc(plane, made.box.width, made.box.height, std::abs(radius));
        blurDisc(made.cover, made.box.width, made.box.height, std::abs(radius));
        return made;
    }

    [[nodiscard]] std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(m_frame.width) +
               static_cast<std::size_t>(x);
    }
    [[nodiscard]] bool isEdge(int x, int y) const {
        // One thing before another, or a part of a figure before another part of it.
        constexpr float kStep = 0.02F;  // m
        const std::size_t own = at(x, y);
        const auto isApart = [&](int nextX, int nextY) {
            if (nextX < 0 || nextY < 0 || nextX >= m_frame.width || nextY >= m_frame.height)
                return false;
            const std::size_t next = at(nextX, nextY);
            return m_objects[next] != m_objects[own] ||
                   std::abs(m_depths[next] - m_depths[own]) > kStep + 0.01F * m_depths[own];
        };
        return isApart(x + 1, y) || isApart(x - 1, y) || isApart(x, y + 1) || isApart(x, y - 1);
    }
    void put(int x, int y, const Vec& colour) {
        for (std::size_t c = 0; c < 3; ++c) {
            m_frame.channels[c][at(x, y)] = static_cast<float>(colour(static_cast<long>(c)));
        }
    }

    const PreparedScene& m_scene;
    View m_view;
    Lens m_lens;
    RenderOptions m_options;
    bool m_isLayered;
    int m_margin;
    image::Frame m_frame;
    std::vector<int> m_objects;
    std::vector<float> m_depths;                  ///< m, of the nearest thing along its ray
    std::vector<float> m_metres;                  ///< m, along the axis; none: everything is sharp
    std::vector<std::vector<Fragment>> m_pieces;  ///< on edges, by rows: before and behind
    std::vector<std::vector<PartPixel>> m_plainParts, m_edgeParts;  ///< by rows
    std::vector<std::vector<std::size_t>> m_anew{m_pieces.size()};  ///< columns drawn nine times
};

}  // namespace

double View::focalPx() const {
    return 0.5 * width / std::tan(0.5 * horizontalViewDegrees * base::kRadiansPerDegree);
}

image::Point View::project(const Vec& point) const { return Lens(*this).project(point); }

namespace {

/// The same picture with px more on every side.
View widened(const View& view, int margin) {
    View wider = view;
    wider.width += 2 * margin;
    wider.height += 2 * margin;
    wider.horizontalViewDegrees =
        2.0 / base::kRadiansPerDegree * std::atan(0.5 * wider.width / view.focalPx());
    const double farther =
        std::hypot(wider.width, wider.height) / std::hypot(view.width, view.height);
    wider.glass.distortion *= farther * farther;
    return wider;
}

/// False where it was cancelled.
bool draw(Picture& picture, const base::Progress& progress, const RenderOptions& options) {
    for (const bool isEdgePass : {false, true}) {
        if (isEdgePass && !options.hasSmoothEdges) break;
        std::atomic<int> nextRow{0};
        const auto work = [&](bool isReporting) {
            for (int y = nextRow++; y < picture.height() && !progress.isCancelled();
                 y = nextRow++) {
                if (isEdgePass) {
                    picture.smoothRow(y);
                } else {
                    picture.drawRow(y);
                }
                const double share = static_cast<double>(y) / picture.height();
                if (isReporting && y % 16 == 0)
                    progress.report(isEdgePass ? 0.8 + 0.2 * share : 0.8 * share,
                                    base::say("progress.lightingTheSet"));
            }
        };
        std::vector<std::thread> helpers;
        for (int i = 1; i < options.threads; ++i) helpers.emplace_back(work, false);
        work(true);
        for (std::thread& helper : helpers) helper.join();
        if (progress.isCancelled()) return false;
    }
    return true;
}

}  // namespace

base::Result<image::Frame> render(const Scene& scene,
                                  const View& view,
                                  const base::Progress& progress,
                                  const RenderOptions& options) {
    const PreparedScene prepared(scene);
    Picture picture(prepared, view, options, false);
    if (!draw(picture, progress, options)) return tl::unexpected(base::cancelledError());
    return picture.take();
}

base::Result<LayeredPicture> renderLayers(const Scene& scene,
                                          const View& view,
                                          const base::Progress& progress,
                                          const RenderOptions& options) {
    const PreparedScene prepared(scene);
    // What may come in from beside the picture is drawn too.
    constexpr int kShareOfWidth = 32;
    const int margin = view.width / kShareOfWidth;
    const View wider = widened(view, margin);
    Picture picture(prepared, wider, options, true, margin);
    if (!draw(picture, progress, options)) return tl::unexpected(base::cancelledError());
    LayeredPicture layered;
    layered.parts = picture.takeParts();
    for (MovingPart& part : layered.parts) {
        part.box.x -= margin;
        part.box.y -= margin;
    }
    const image::Frame whole = picture.take();
    layered.set = image::blankFrame(view.width, view.height);
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = 0; y < view.height; ++y) {
            const auto from =
                whole.channels[c].begin() + static_cast<long>(y + margin) * whole.width + margin;
            std::copy_n(from,
                        view.width,
                        layered.set.channels[c].begin() + static_cast<long>(y) * view.width);
        }
    }
    return layered;
}

}  // namespace rigmatch::sim
