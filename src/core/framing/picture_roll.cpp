// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/picture_roll.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "base/constants.h"
#include "framing/luma_picture.h"
#include "image/robust.h"

namespace rigmatch::framing {
namespace {

constexpr int kLineWidth = 1920;
constexpr double kMostLean = 12.0;        // degrees from upright or level
constexpr double kUsualLean = 6.0;        // degrees
constexpr double kShortest = 0.05;        // of the picture's height
constexpr double kTogetherDegrees = 0.7;  // degrees that lines may lie off what most say
constexpr double kLeastLength = 0.25;     // of the height, of all lines that agree
constexpr double kMostConverging = 0.35;  // radians over the width: a wide lens, looking down

struct Lean {
    double place = 0.0;    ///< across, -0.5..0.5 (for level lines: down)
    double degrees = 0.0;  ///< clockwise +
    double length = 0.0;   ///< px
};

struct Fit {
    double degrees = 0.0, slope = 0.0, length = 0.0, uncertainty = 0.0;
    int lines = 0;
};

bool liesOn(const Lean& lean, const Fit& fit) {
    return std::abs(lean.degrees - fit.degrees - fit.slope * lean.place) < kTogetherDegrees;
}

/// Total length of the lines that lie on degrees = a + b place, the nearer the more.
double lengthOn(const std::vector<Lean>& leans, double a, double b) {
    double length = 0.0;
    for (const Lean& lean : leans) {
        const double off = std::abs(lean.degrees - a - b * lean.place) / kTogetherDegrees;
        if (off < 1.0) length += lean.length * (1.0 - off * off);
    }
    // Two numbers fit more than one: what bends has to bring some length. And cameras are levelled
    // by eye at least.
    return length * (1.0 - 0.15 * std::min(1.0, std::abs(b) / 4.0)) /
           (1.0 + std::pow(a / kUsualLean, 2.0));
}

/// The longest of those through one line or two.
Fit longest(const std::vector<Lean>& leans, double mostSlope) {
    Fit best;
    for (std::size_t i = 0; i < leans.size(); ++i) {
        for (std::size_t j = i; j < leans.size(); ++j) {
            const double apart = leans[j].place - leans[i].place;
            const bool isPair = std::abs(apart) > 0.15;
            if (j != i && !isPair) continue;
            const double b = isPair ? (leans[j].degrees - leans[i].degrees) / apart : 0.0;
            if (std::abs(b) > mostSlope) continue;
            const double a = leans[i].degrees - b * leans[i].place;
            const double length = lengthOn(leans, a, b);
            if (length > best.length) best = {a, b, length, 0.0, 0};
        }
    }
    return best;
}

/// Least squares over the lines that lie on it; false where none do.
bool refine(const std::vector<Lean>& leans, double mostSlope, Fit& fit) {
    double w = 0, p = 0, d = 0, pp = 0, pd = 0;
    for (const Lean& lean : leans) {
        if (!liesOn(lean, fit)) continue;
        w += lean.length;
        p += lean.length * lean.place;
        d += lean.length * lean.degrees;
        pp += lean.length * lean.place * lean.place;
        pd += lean.length * lean.place * lean.degrees;
    }
    if (w <= 0.0) return false;
    // A prior of no convergence, worth a little length: a level camera is usual.
    const double spread = pp - p * p / w + 0.002 * w;
    fit.slope = std::clamp((pd - p * d / w) / spread, -mostSlope, mostSlope);
    fit.degrees = (d - fit.slope * p) / w;
    fit.length = w;
    return true;
}

void putUncertainty(const std::vector<Lean>& leans, Fit& fit) {
    std::vector<double> off;
    double places = 0.0, squares = 0.0;
    for (const Lean& lean : leans) {
        if (!liesOn(lean, fit)) continue;
        off.push_back(lean.degrees - fit.degrees - fit.slope * lean.place);
        places += lean.place;
        squares += lean.place * lean.place;
    }
    fit.lines = static_cast<int>(off.size());
    const double count = static_cast<double>(off.size());
    const double scatter = std::max(image::meanSigma(off).sigma, 0.06);
    const double mean = places / count, spread = squares / count - mean * mean;
    // Lines all at one side tell the middle's lean through the slope.
    const double lever = spread > 1e-4 ? mean * mean / spread : 0.0;
    fit.uncertainty =
        scatter * std::sqrt((1.0 + std::min(lever, 9.0)) / std::max(count, 1.0)) + 0.03;
}

/// degrees = a + b place for the longest total length of lines; b is held near nothing where the
/// places do not spread.
std::optional<Fit> fitted(const std::vector<Lean>& leans, double mostSlope) {
    Fit best = longest(leans, mostSlope);
    if (best.length <= 0.0) return std::nullopt;
    for (int round = 0; round < 3; ++round) {
        if (!refine(leans, mostSlope, best)) return std::nullopt;
    }
    putUncertainty(leans, best);
    return best;
}

}  // namespace

std::optional<PictureRoll> pictureRoll(const image::CodedFrame& frame) {
    const LumaPicture picture = lumaPicture(frame, kLineWidth);
    std::vector<cv::Vec4f> lines;
    try {
        cv::createLineSegmentDetector(cv::LSD_REFINE_STD)->detect(picture.luma, lines);
    } catch (const cv::Exception&) {
        return std::nullopt;
    }
    const double height = picture.luma.rows, width = picture.luma.cols;
    std::vector<Lean> uprights, levels;
    for (const cv::Vec4f& line : lines) {
        const double dx = line[2] - line[0], dy = line[3] - line[1];
        const double length = std::hypot(dx, dy);
        if (length < kShortest * height) continue;
        // Clockwise on the screen: an upright's top goes to the right, a level line's right end
        // down.
        const double upright =
            std::atan2(-dx * (dy > 0 ? 1.0 : -1.0), std::abs(dy)) * base::kDegreesPerRadian;
        const double level =
            std::atan2(dy * (dx > 0 ? 1.0 : -1.0), std::abs(dx)) * base::kDegreesPerRadian;
        const double across = (0.5 * (line[0] + line[2])) / width - 0.5;
        const double down = (0.5 * (line[1] + line[3])) / height - 0.5;
        if (std::abs(upright) < kMostLean) uprights.push_back({across, upright, length});
        if (std::abs(level) < kMostLean) levels.push_back({down, level, length});
    }
    const auto keepLongest = [](std::vector<Lean>& leans) {
        std::sort(leans.begin(), leans.end(), [](const Lean& a, const Lean& b) {
            return a.length > b.length;
        });
        if (leans.size() > 120) leans.resize(120);
    };
    keepLongest(uprights);
    keepLongest(levels);
    const double mostSlope = kMostConverging * 180.0 / std::numbers::pi;
    const auto standing = fitted(uprights, mostSlope);
    if (standing && standing->length > kLeastLength * height && standing->lines >= 2) {
        // A lens that looks far down sees edges that need not stand upright at all.
        constexpr double kUsualTilt = 2.0, kPerTilt = 0.25;
        const double doubt = kPerTilt * std::max(0.0, std::abs(standing->slope) - kUsualTilt);
        return PictureRoll{standing->degrees,
                           std::hypot(standing->uncertainty, doubt),
                           standing->slope,
                           "uprights"};
    }
    const auto lying = fitted(levels, 4.0);
    // A wall or shelf seen at an angle leans by perspective: level lines alone are less sure.
    if (lying && lying->length > 1.5 * kLeastLength * height && lying->lines >= 3)
        return PictureRoll{lying->degrees, std::max(lying->uncertainty, 0.5), 0.0, "level lines"};
    return std::nullopt;
}

}  // namespace rigmatch::framing
