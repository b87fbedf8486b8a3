// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>

#include "colour/lab.h"
#include "colour/white_point.h"
#include "support/own_chart.h"

namespace rigmatch::support {

/// What docs/measurement.md defines, worked out on how a camera answers to neutral light, whatever
/// is in it: no patch, no spline, no fit. White points and colour differences are those of the
/// colour library, which test_colour_reference holds to published values.
class NeutralTruth {
public:
    /// `answer`: the noise-free signal of a neutral of that light (1: white that reflects all).
    explicit NeutralTruth(std::function<own::Triple(double)> answer) : m_answer(std::move(answer)) {
        const own::Triple grey = neutral(0.0);
        for (std::size_t c = 0; c < 3; ++c) m_shift[c] = stopsAt(grey[c]);
        m_luminance = std::log2(0.2126 * std::exp2(m_shift[0]) + 0.7152 * std::exp2(m_shift[1]) +
                                0.0722 * std::exp2(m_shift[2]));
    }

    /// Green's signal of a neutral of that light, stops against 18 %: the curve.
    [[nodiscard]] double green(double stops) const { return neutral(stops)[1]; }
    /// Its inverse.
    [[nodiscard]] double stopsAt(double signal) const {
        double low = -14.0, high = 6.0;
        for (int i = 0; i < 60; ++i) {
            const double middle = 0.5 * (low + high);
            (green(middle) < signal ? low : high) = middle;
        }
        return 0.5 * (low + high);
    }
    [[nodiscard]] double greySignal(double stops) const { return green(stops + m_luminance); }
    [[nodiscard]] double slope(double stops) const {
        return (green(stops + 1e-3) - green(stops - 1e-3)) / 2e-3;
    }
    [[nodiscard]] double luminance() const { return m_luminance; }
    [[nodiscard]] colour::WhitePoint white() const {
        const colour::Vector3 linear(
            std::exp2(m_shift[0]), std::exp2(m_shift[1]), std::exp2(m_shift[2]));
        return colour::whitePointOf(colour::chromaticityOf(
                                        colour::Vector3(colour::rgbToXyz(colour::kBt709) * linear)))
            .value();
    }

private:
    [[nodiscard]] own::Triple neutral(double stops) const {
        return m_answer(0.18 * std::exp2(stops));
    }

    std::function<own::Triple(double)> m_answer;
    own::Triple m_shift{};
    double m_luminance = 0.0;
};

/// The same of OwnCamera, with what is told by its patches.
class OwnTruth : public NeutralTruth {
public:
    explicit OwnTruth(const OwnCamera& camera)
        : NeutralTruth([camera](double light) {
              return own::signalOf(camera, {light, light, light});
          }),
          m_camera(camera) {}

    /// Signals of the patches in even light.
    [[nodiscard]] own::Triple patch(std::size_t i) const {
        return own::signalOf(m_camera, own::lightOf(i));
    }
    /// Signals of the patches as they stand on the chart, in its uneven light.
    [[nodiscard]] own::Triple placed(std::size_t i) const {
        return own::signalOf(m_camera, own::placedLight(m_camera, i));
    }
    /// Light of a display that shows a signal: ITU-R BT.1886 (power 2.4), or for HLG the inverse
    /// OETF and the OOTF of system gamma 1.2 of ITU-R BT.2100-2, diffuse white at 1.
    [[nodiscard]] own::Triple shown(const own::Triple& signal) const {
        own::Triple light{};
        if (m_camera.curve != OwnCamera::Curve::Hlg) {
            for (std::size_t c = 0; c < 3; ++c) light[c] = std::pow(std::max(signal[c], 0.0), 2.4);
            return light;
        }
        for (std::size_t c = 0; c < 3; ++c) {
            const double s = std::max(signal[c], 0.0);
            light[c] = (s <= 0.5 ? s * s / 3.0
                                 : (std::exp((s - 0.55991073) / 0.17883277) + 0.28466892) / 12.0) /
                       0.26496;
        }
        const double y = 0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2];
        for (double& value : light) value *= std::pow(std::max(y, 1e-9), 0.2);
        return light;
    }
    /// Signals of the patches after every channel's light is moved.
    [[nodiscard]] own::Triple moved(std::size_t i, const own::Triple& stops) const {
        own::Triple signal = patch(i);
        for (std::size_t c = 0; c < 3; ++c) {
            const double light = stopsAt(signal[c]);
            if (light > -11.9) signal[c] = std::min(green(light + stops[c]), 1.09);
        }
        return signal;
    }

private:
    OwnCamera m_camera;
};

/// Cast of some greys of the chart against the middle ones, mired, through the exact curve (66
/// mired a stop of red against blue).
inline double ownCast(const OwnTruth& truth, const std::vector<std::size_t>& patches) {
    const auto shift = [&](const std::vector<std::size_t>& list) {
        double sum = 0.0;
        for (const std::size_t i : list) {
            const own::Triple signal = truth.patch(i);
            sum += truth.stopsAt(signal[0]) - truth.stopsAt(signal[2]);
        }
        return sum / static_cast<double>(list.size());
    };
    // Their own nominal tint is taken out as the chart's values have it.
    const auto nominal = [](const std::vector<std::size_t>& list) {
        double sum = 0.0;
        for (const std::size_t i : list) {
            const own::Triple light = own::lightOf(i);
            sum += std::log2(light[0] / light[2]);
        }
        return sum / static_cast<double>(list.size());
    };
    const std::vector<std::size_t> middle{20, 21, 22};
    return 66.0 * (shift(patches) - nominal(patches) - shift(middle) + nominal(middle));
}

/// True differences of two cameras in what neutrals tell.
struct NeutralDifference {
    double exposureStops = 0.0, mired = 0.0, duv = 0.0;
};

inline NeutralDifference neutralDifference(const NeutralTruth& mine, const NeutralTruth& theirs) {
    const colour::WhitePoint here = mine.white(), there = theirs.white();
    return {mine.luminance() - mine.stopsAt(theirs.greySignal(0.0)),
            (here.mired - there.mired).value(),
            (here.duv - there.duv).value()};
}

/// True differences of two cameras.
struct OwnDifference : NeutralDifference {
    double contrast = 1.0, blackPercent = 0.0;
    double saturation = 1.0, hueDegrees = 0.0;
    double deltaE = 0.0;
    std::array<double, 6> sectorSaturation{},
        sectorHue{};  ///< red, yellow, green, cyan, blue, magenta
    std::array<int, 6> sectorPatches{};
};

inline OwnDifference ownDifference(const OwnCamera& camera, const OwnCamera& reference) {
    const OwnTruth mine(camera);
    const OwnTruth theirs(reference);
    OwnDifference d{neutralDifference(mine, theirs)};
    const double needed = -d.exposureStops;
    const colour::WhitePoint here = mine.white(), there = theirs.white();
    d.contrast = mine.slope(needed + mine.luminance()) / theirs.slope(theirs.luminance());
    const double black = std::log2(0.0311 / 0.18);
    d.blackPercent = 100.0 * (mine.greySignal(black + needed) - theirs.greySignal(black));
    // Gains that bring the neutral onto the reference's white, green held.
    const auto gains = [](const colour::WhitePoint& white) {
        const colour::Vector3 rgb =
            colour::xyzToRgb(colour::kBt709) * colour::xyzOf(colour::chromaticityOf(white).value());
        return own::Triple{rgb.x() / rgb.y(), 1.0, rgb.z() / rgb.y()};
    };
    const own::Triple before = gains(here), after = gains(there);
    own::Triple stops{};
    for (std::size_t c = 0; c < 3; ++c) stops[c] = needed + std::log2(after[c] / before[c]);
    double along = 0.0, across = 0.0, norm = 0.0;
    std::array<double, 6> alongs{}, acrosses{}, norms{};
    const auto chroma = [](const own::Triple& s) {
        const double luma = 0.2126 * s[0] + 0.7152 * s[1] + 0.0722 * s[2];
        return std::array<double, 2>{(s[2] - luma) / 1.8556, (s[0] - luma) / 1.5748};
    };
    constexpr std::size_t kCyan = 17;  // outside BT.709
    for (std::size_t i = 0; i < 18; ++i) {
        if (i == kCyan) continue;
        const auto a = chroma(mine.moved(i, stops));
        const auto b = chroma(theirs.patch(i));
        along += a[0] * b[0] + a[1] * b[1];
        across += b[0] * a[1] - b[1] * a[0];
        norm += b[0] * b[0] + b[1] * b[1];
        // Sixths of the circle about the hues of BT.709's primaries and secondaries.
        static constexpr std::array<double, 6> kHues{102.9, 174.8, 229.7, 282.9, 354.8, 49.7};
        const double degrees = std::atan2(b[1], b[0]) * 180.0 / std::numbers::pi;
        std::size_t nearest = 0;
        for (std::size_t s = 1; s < 6; ++s) {
            if (std::abs(std::remainder(degrees - kHues[s], 360.0)) <
                std::abs(std::remainder(degrees - kHues[nearest], 360.0)))
                nearest = s;
        }
        alongs[nearest] += a[0] * b[0] + a[1] * b[1];
        acrosses[nearest] += b[0] * a[1] - b[1] * a[0];
        norms[nearest] += b[0] * b[0] + b[1] * b[1];
        ++d.sectorPatches[nearest];
    }
    for (std::size_t s = 0; s < 6; ++s) {
        if (d.sectorPatches[s] == 0) continue;
        d.sectorSaturation[s] = std::hypot(alongs[s], acrosses[s]) / norms[s];
        d.sectorHue[s] = std::atan2(acrosses[s], alongs[s]) * 180.0 / std::numbers::pi;
    }
    d.saturation = std::hypot(along, across) / norm;
    d.hueDegrees = std::atan2(across, along) * 180.0 / std::numbers::pi;
    const auto lab = [](const OwnTruth& truth, std::size_t patch) {
        const own::Triple light = truth.shown(truth.placed(patch));
        return colour::labOf(colour::rgbToXyz(colour::kBt709) * colour::Vector3(light.data()),
                             colour::kD65);
    };
    for (std::size_t i = 0; i < 24; ++i)
        d.deltaE += colour::deltaE2000(lab(mine, i), lab(theirs, i)) / 24.0;
    return d;
}

}  // namespace rigmatch::support
