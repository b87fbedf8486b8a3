// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/take_frames.h"

#include <algorithm>
#include <cmath>
#include <future>

namespace rigmatch::sim {
namespace {

ChartCard heldCard(const Scene& scene, const View& view, const ChartPlace& place) {
    const auto& c = place.corners;
    const Vec middle = 0.25 * (c[0] + c[1] + c[2] + c[3]);
    const auto greenAt = [&](const Vec& point) {
        return irradiance(scene, point, place.normal).y();
    };
    ChartCard card;
    card.isHeld = true;
    // A box as wide as a disc of that radius is on average.
    constexpr double kBoxOfDisc = 1.73;
    const double metres = (middle - view.position).dot((view.aim - view.position).normalized());
    card.blurPx = kBoxOfDisc * std::abs(blurRadiusPx(view.glass, view.focalPx(), metres));
    const Vec light = irradiance(scene, middle, place.normal);
    card.light = {light.x(), light.y(), light.z()};
    card.fallStopsAcross = std::log2(greenAt(0.5 * (c[0] + c[3])) / greenAt(0.5 * (c[1] + c[2])));
    card.fallStopsDown = std::log2(greenAt(0.5 * (c[0] + c[1])) / greenAt(0.5 * (c[2] + c[3])));
    return card;
}

image::Frame cutOut(const image::Frame& frame, image::PixelRect part) {
    image::Frame piece = image::blankFrame(part.width, part.height);
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = 0; y < part.height; ++y) {
            const auto from =
                frame.channels[c].begin() + static_cast<long>(part.y + y) * frame.width + part.x;
            std::copy_n(
                from, part.width, piece.channels[c].begin() + static_cast<long>(y) * part.width);
        }
    }
    return piece;
}

void putBack(image::Frame& frame, const image::Frame& piece, image::PixelRect part) {
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = 0; y < part.height; ++y) {
            std::copy_n(
                piece.channels[c].begin() + static_cast<long>(y) * part.width,
                part.width,
                frame.channels[c].begin() + static_cast<long>(part.y + y) * frame.width + part.x);
        }
    }
}

bool isSame(const image::Frame& one, const image::Frame& other, image::PixelRect part) {
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = part.y; y < part.y + part.height; ++y) {
            const auto from = static_cast<long>(y) * one.width + part.x;
            if (!std::equal(one.channels[c].begin() + from,
                            one.channels[c].begin() + from + part.width,
                            other.channels[c].begin() + from))
                return false;
        }
    }
    return true;
}

}  // namespace

std::array<image::Point, 4> cornersOf(const View& view, const ChartPlace& place) {
    std::array<image::Point, 4> corners;
    for (std::size_t i = 0; i < 4; ++i) corners[i] = view.project(place.corners[i]);
    return corners;
}

TakeFrames::TakeFrames(const image::Frame& set,
                       const CameraModel& model,
                       const Scene& scene,
                       const View& view,
                       const MovingPeople* people)
    : m_set(set),
      m_model(model),
      m_scene(scene),
      m_view(view),
      m_people(people),
      m_light(set),
      m_exposedLight(set),
      m_exposed(model.expose(set, {0, 0, set.width, set.height}, set.width, set.height)) {}

image::Frame TakeFrames::frame(double seconds,
                               const std::optional<ChartPlace>& place,
                               std::uint64_t seed) {
    const image::PixelRect before = m_chartPart;
    if (before.width > 0) putBack(m_light, cutOut(m_set, before), before);
    image::PixelRect moving{};
    if (m_people != nullptr) moving = joined(m_people->region(), before);
    // Two bands of rows at once.
    const auto inBands = [](image::PixelRect part, const auto& work) {
        if (part.width <= 0 || part.height <= 0) return;
        image::PixelRect upper = part, lower = part;
        upper.height = part.height / 2;
        lower.y += upper.height;
        lower.height -= upper.height;
        auto other = std::async(std::launch::async, [&] { work(upper); });
        work(lower);
        other.get();
    };
    inBands(moving, [&](image::PixelRect band) {
        image::Frame piece = cutOut(m_set, band);
        m_people->lay(seconds, band, piece);
        putBack(m_light, piece, band);
    });
    m_chartPart = {};
    if (place) layChart(*place);
    const image::PixelRect changed = joined(joined(moving, before), m_chartPart);
    inBands(changed, [&](image::PixelRect band) { expose(band); });
    image::Frame frame = withNoise(m_exposed, seed);
    m_model.sharpen(frame);
    return frame;
}

/// Painted once over black and once over white for every place it is held at: what is between is
/// how much of what is behind shines through.
void TakeFrames::layChart(const ChartPlace& place) {
    const std::array<image::Point, 4> corners = cornersOf(m_view, place);
    const ChartCard card = heldCard(m_scene, m_view, place);
    m_chartPart = chartRegion(corners, card, m_set.width, m_set.height);
    if (m_chartPart.width <= 0 || m_chartPart.height <= 0) {
        m_chartPart = {};
        return;
    }
    if (m_paintedAt != place.corners) {
        m_paintedAt = place.corners;
        std::array<image::Point, 4> shifted = corners;
        for (image::Point& p : shifted) p = {p.x - m_chartPart.x, p.y - m_chartPart.y};
        m_onBlack = image::blankFrame(m_chartPart.width, m_chartPart.height);
        m_onWhite = m_onBlack;
        for (auto& plane : m_onWhite.channels) std::fill(plane.begin(), plane.end(), 1.0F);
        paintChart(m_onBlack, shifted, card);
        paintChart(m_onWhite, shifted, card);
    }
    image::Frame piece = cutOut(m_light, m_chartPart);
    for (std::size_t c = 0; c < 3; ++c) {
        for (std::size_t i = 0; i < piece.channels[c].size(); ++i) {
            const float through = m_onWhite.channels[c][i] - m_onBlack.channels[c][i];
            piece.channels[c][i] = piece.channels[c][i] * through + m_onBlack.channels[c][i];
        }
    }
    putBack(m_light, piece, m_chartPart);
}

/// By tiles, and only those in which something changed.
void TakeFrames::expose(image::PixelRect part) {
    constexpr int kTile = 48;
    for (int y = part.y; y < part.y + part.height; y += kTile) {
        for (int x = part.x; x < part.x + part.width; x += kTile) {
            const image::PixelRect tile{x,
                                        y,
                                        std::min(kTile, part.x + part.width - x),
                                        std::min(kTile, part.y + part.height - y)};
            if (isSame(m_light, m_exposedLight, tile)) continue;
            const image::Frame light = cutOut(m_light, tile);
            putBack(m_exposedLight, light, tile);
            const Exposed piece = m_model.expose(light, tile, m_set.width, m_set.height);
            putBack(m_exposed.signal, piece.signal, tile);
            putBack(m_exposed.sigma, piece.sigma, tile);
        }
    }
}

}  // namespace rigmatch::sim
