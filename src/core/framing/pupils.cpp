// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/pupils.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "base/luma.h"

namespace rigmatch::framing {
namespace {

constexpr double kLeastEye = 7.0;                     // px from corner to corner
constexpr double kEyeAcross = 0.36, kEyeDown = 0.36;  // of that, to both sides
constexpr int kGrid = 33;
constexpr double kPupilShare = 0.22;      // of the window that is taken as dark
constexpr double kLeastDepth = 0.12;      // of the window's own level
constexpr double kPupilsTogether = 0.12;  // of the eye's width
constexpr double kFarthest = 0.35;        // of the eye's width from the mesh's place

std::optional<image::Point> pupilOf(const image::CodedFrame& frame,
                                    const image::Point& outer,
                                    const image::Point& inner) {
    const double width = std::hypot(outer.x - inner.x, outer.y - inner.y);
    if (width < kLeastEye) return std::nullopt;
    const image::Point middle{0.5 * (outer.x + inner.x), 0.5 * (outer.y + inner.y)};
    const image::SignalSampler sampler(frame);
    std::vector<double> values;
    std::vector<image::Point> places;
    for (int y = 0; y < kGrid; ++y) {
        for (int x = 0; x < kGrid; ++x) {
            const double u = 2.0 * x / (kGrid - 1) - 1.0, v = 2.0 * y / (kGrid - 1) - 1.0;
            if (u * u + v * v > 1.0) continue;
            const image::Point at{middle.x + kEyeAcross * width * u,
                                  middle.y + kEyeDown * width * v};
            const int px = static_cast<int>(std::lround(at.x)),
                      py = static_cast<int>(std::lround(at.y));
            if (px < 0 || py < 0 || px >= frame.width || py >= frame.height) return std::nullopt;
            values.push_back(base::lumaOf(sampler.at(px, py)));
            places.push_back(at);
        }
    }
    std::vector<double> sorted = values;
    std::sort(sorted.begin(), sorted.end());
    const double limit =
        sorted[static_cast<std::size_t>(kPupilShare * static_cast<double>(sorted.size()))];
    const double least = sorted[sorted.size() / 50], usual = sorted[sorted.size() * 6 / 10];
    if (usual - least < kLeastDepth * std::max(usual, 0.05)) return std::nullopt;
    double sum = 0.0, x = 0.0, y = 0.0;
    for (std::size_t i = 0; i < values.size(); ++i) {
        const double weight = std::max(0.0, limit - values[i]);
        sum += weight;
        x += weight * places[i].x;
        y += weight * places[i].y;
    }
    if (sum <= 0.0) return std::nullopt;
    const image::Point pupil{x / sum, y / sum};
    if (std::hypot(pupil.x - middle.x, pupil.y - middle.y) > kFarthest * width) return std::nullopt;
    return pupil;
}

}  // namespace

image::Point betweenPupils(const image::CodedFrame& frame, const face::Face& face) {
    if (face.eyeCorners.size() != 4) return face.eyes;
    const auto right = pupilOf(frame, face.eyeCorners[0], face.eyeCorners[1]);
    const auto left = pupilOf(frame, face.eyeCorners[2], face.eyeCorners[3]);
    if (!right || !left) return face.eyes;
    const image::Point dark{0.5 * (right->x + left->x), 0.5 * (right->y + left->y)};
    const double width = std::hypot(face.eyeCorners[0].x - face.eyeCorners[1].x,
                                    face.eyeCorners[0].y - face.eyeCorners[1].y);
    // Lashes pull the dark up, the lower lid the mesh down; where they are far apart something else
    // is dark there: rims of glasses, a shadow.
    if (std::hypot(dark.x - face.eyes.x, dark.y - face.eyes.y) > kPupilsTogether * width)
        return face.eyes;
    return {0.5 * (dark.x + face.eyes.x), 0.5 * (dark.y + face.eyes.y)};
}

}  // namespace rigmatch::framing
