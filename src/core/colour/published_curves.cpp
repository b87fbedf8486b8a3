// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/published_curves.h"

#include <OpenColorIO/OpenColorIO.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <string_view>

#include "colour/transfer.h"

namespace rigmatch::colour {
namespace {

namespace OCIO = OCIO_NAMESPACE;

constexpr double kDiffuseWhite = 203.0;  // cd/m², ITU-R BT.2408
constexpr std::string_view kCameraEnding = "_to_ACES2065-1";

/// True for the transforms that take a camera's recording apart, not for working spaces and film.
bool isCameraStyle(std::string_view style) {
    return style.size() > kCameraEnding.size() && style.ends_with(kCameraEnding) &&
           !style.starts_with("ACES") && !style.starts_with("ADX");
}

bool isSameCurve(const PublishedCurve& a, const PublishedCurve& b) {
    const std::array<double, 5> lights{0.01, 0.05, 0.18, 0.5, 1.0};
    return std::all_of(lights.begin(), lights.end(), [&](double light) {
        return std::abs(a.encode(light) - b.encode(light)) < 1e-3;
    });
}

/// The curve as a table over stops, straight between its points: fits ask for it ten thousand
/// times. From 14 stops under diffuse white to 6 above.
template <class Encode>
std::function<double(double)> sampled(const Encode& encode) {
    constexpr double kLowestStops = -14.0;
    constexpr double kHighestStops = 6.0;
    constexpr int kPerStop = 48;
    constexpr int kCount = static_cast<int>(kHighestStops - kLowestStops) * kPerStop;
    std::vector<double> table;
    for (int i = 0; i <= kCount; ++i)
        table.push_back(encode(std::exp2(kLowestStops + static_cast<double>(i) / kPerStop)));
    return [table](double linear) {
        const double stops = std::log2(std::max(linear, 1e-9));
        const double place = std::clamp((stops - kLowestStops) * kPerStop, 0.0, double(kCount));
        const auto index = std::min(static_cast<std::size_t>(place), std::size_t{kCount - 1});
        const double share = place - static_cast<double>(index);
        return table[index] * (1.0 - share) + table[index + 1] * share;
    };
}

/// The camera curves that the library carries; several colour spaces of one curve count once.
void addLibraryCurves(std::vector<PublishedCurve>& curves) {
    for (const std::string& style : cameraTransformStyles()) {
        try {
            const auto transform = OCIO::BuiltinTransform::Create();
            transform->setStyle(style.c_str());
            transform->setDirection(OCIO::TRANSFORM_DIR_INVERSE);
            const OCIO::ConstCPUProcessorRcPtr processor =
                OCIO::Config::CreateRaw()->getProcessor(transform)->getDefaultCPUProcessor();
            PublishedCurve curve;
            curve.name = cameraTransformName(style);
            curve.isCodeValue = true;
            curve.encode = sampled([&](double linear) {
                const auto light = static_cast<float>(linear);
                std::array<float, 3> pixel{light, light, light};
                processor->applyRGB(pixel.data());
                return double(pixel[1]);
            });
            const bool isKnown = std::any_of(curves.begin(), curves.end(), [&](const auto& other) {
                return isSameCurve(curve, other);
            });
            if (!isKnown) curves.push_back(std::move(curve));
        } catch (const std::exception&) {
            // A transform that this version of the library cannot turn round is no candidate.
        }
    }
}

std::vector<PublishedCurve> made() {
    std::vector<PublishedCurve> curves;
    for (const CurveKind kind :
         {CurveKind::Bt709, CurveKind::Srgb, CurveKind::Bt1886, CurveKind::Hlg}) {
        const TransferCurve curve = curveOf(kind);
        curves.push_back(
            {curveName(curve), [curve](double linear) { return curve.encode(linear); }, false});
    }
    curves.push_back({"PQ", [](double linear) { return pqSignal(kDiffuseWhite * linear); }, false});
    const TransferCurve log = curveOf(CurveKind::Log);
    curves.push_back({curveName(log), [log](double linear) { return log.encode(linear); }, false});
    addLibraryCurves(curves);
    return curves;
}

}  // namespace

std::vector<std::string> cameraTransformStyles() {
    std::vector<std::string> styles;
    const auto registry = OCIO::BuiltinTransformRegistry::Get();
    for (std::size_t i = 0; i < registry->getNumBuiltins(); ++i) {
        const std::string style = registry->getBuiltinStyle(i);
        if (isCameraStyle(style)) styles.push_back(style);
    }
    return styles;
}

std::string cameraTransformName(const std::string& style) {
    return style.substr(0, style.size() - std::min(style.size(), kCameraEnding.size()));
}

double PublishedCurve::signalAt(double linear, bool isLimited) const {
    const double value = encode(linear);
    return isCodeValue && isLimited ? (1023.0 * value - 64.0) / 876.0 : value;
}

double pqSignal(double luminance) {
    constexpr double kM1 = 2610.0 / 16384.0;
    constexpr double kM2 = 2523.0 / 32.0;
    constexpr double kC1 = 3424.0 / 4096.0;
    constexpr double kC2 = 2413.0 / 128.0;
    constexpr double kC3 = 2392.0 / 128.0;
    const double y = std::pow(std::max(0.0, luminance) / 10000.0, kM1);
    return std::pow((kC1 + kC2 * y) / (1.0 + kC3 * y), kM2);
}

const std::vector<PublishedCurve>& publishedCurves() {
    static const std::vector<PublishedCurve> kCurves = made();
    return kCurves;
}

}  // namespace rigmatch::colour
