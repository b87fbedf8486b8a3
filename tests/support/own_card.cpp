// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/own_card.h"

namespace rigmatch::support {

std::array<std::vector<double>, 3> ownPicture(const OwnCard& card, const OwnCamera& camera) {
    using namespace own;
    std::array<std::vector<double>, 3> picture;
    const Triple wall = signalOf(camera, {0.12, 0.12, 0.12});
    const Triple border = signalOf(camera, {0.045, 0.045, 0.045});
    const auto quad = [&](double left, double top, double right, double bottom) {
        return std::array<image::Point, 4>{
            card.at(left, top), card.at(right, top), card.at(right, bottom), card.at(left, bottom)};
    };
    struct Area {
        std::array<image::Point, 4> corners;
        Triple signal;
    };
    std::vector<Area> patches;
    for (std::size_t i = 0; i < 24; ++i) {
        const double x = static_cast<double>(i % 6) - 2.5, y = static_cast<double>(i / 6) - 1.5;
        const double h = 0.5 * kPatchShare;
        patches.push_back({quad(x - h, y - h, x + h, y + h), signalOf(camera, lightOf(i))});
    }
    const Area whole{quad(-3.35, -2.35, 3.35, 2.35), border};
    // Product of the steps over opposite sides: exact along straight sides.
    const auto share = [&](const std::array<image::Point, 4>& c, double x, double y) {
        std::array<double, 4> d{};
        for (std::size_t i = 0; i < 4; ++i) {
            const image::Point a = c[i], b = c[(i + 1) % 4];
            const double length = std::hypot(b.x - a.x, b.y - a.y);
            d[i] = -((x - a.x) * -(b.y - a.y) + (y - a.y) * (b.x - a.x)) / length;
        }
        return (card.step(d[0]) + card.step(d[2]) - 1.0) *
               (card.step(d[1]) + card.step(d[3]) - 1.0);
    };
    for (auto& plane : picture)
        plane.reserve(static_cast<std::size_t>(OwnCard::kWidth * OwnCard::kHeight));
    for (int y = 0; y < OwnCard::kHeight; ++y) {
        for (int x = 0; x < OwnCard::kWidth; ++x) {
            const double onCard = share(whole.corners, x, y);
            Triple signal{};
            for (std::size_t c = 0; c < 3; ++c)
                signal[c] = wall[c] + onCard * (border[c] - wall[c]);
            if (onCard > 0.0) {
                for (const Area& patch : patches) {
                    if (std::abs(x - patch.corners[0].x) + std::abs(y - patch.corners[0].y) >
                        5.0 * card.patchPx)
                        continue;
                    const double part = share(patch.corners, x, y);
                    for (std::size_t c = 0; c < 3; ++c)
                        signal[c] += part * (patch.signal[c] - border[c]);
                }
            }
            for (std::size_t c = 0; c < 3; ++c) picture[c].push_back(signal[c]);
        }
    }
    return picture;
}

}  // namespace rigmatch::support
