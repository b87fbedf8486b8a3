// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/camera_model.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numbers>

#include "base/luma.h"
#include "colour/mired.h"
#include "colour/white_point.h"
#include "sim/random.h"

namespace rigmatch::sim {
namespace {

constexpr std::size_t kCurveSamples = 8192;
constexpr float kCurveTop = 4.0F;        // square root of the brightest light that is told apart
constexpr float kHighestSignal = 1.09F;  // the top of limited range
constexpr std::size_t kNoiseTile = 1U << 16U;
constexpr auto kRed = static_cast<float>(base::kLumaBt709[0]);
constexpr auto kGreen = static_cast<float>(base::kLumaBt709[1]);
constexpr auto kBlue = static_cast<float>(base::kLumaBt709[2]);
constexpr float kRedScale = 2.0F * (1.0F - kRed);  // of Cr, and of Cb
constexpr float kBlueScale = 2.0F * (1.0F - kBlue);

/// One tile of normal noise, drawn once; frames read it from a random start.
const std::vector<float>& noiseTile() {
    static const std::vector<float> kTile = [] {
        std::vector<float> tile(kNoiseTile);
        Random random(20260101);
        for (float& value : tile) value = static_cast<float>(random.normal());
        return tile;
    }();
    return kTile;
}

colour::WhitePoint d65White() {
    return colour::whitePointOf(colour::kD65)
        .value_or(colour::WhitePoint{base::Mired(153.8), base::Duv(0.0032)});
}

}  // namespace

rig::Settings nominalSettings() {
    rig::Settings settings;
    settings.isoValue = 800.0;
    settings.shutterSeconds = 0.02;
    settings.fNumber = 2.8;
    settings.whiteBalanceKelvin = kLightKelvin;
    return settings;
}

std::array<double, 3> neutralGains(const rig::SimulatedBody& body, const rig::Settings& settings) {
    const colour::WhitePoint d65 = d65White();
    const double light = 1e6 / kLightKelvin + body.lightMired;
    const double mired =
        d65.mired.value() + light - 1e6 / settings.whiteBalanceKelvin + body.warmthMired;
    const double duv = d65.duv.value() + body.tintDuv + settings.tintSteps * body.tintDuvPerStep;
    const auto white = colour::chromaticityOf(
        colour::WhitePoint{base::Mired(std::clamp(mired, 20.0, 900.0)), base::Duv(duv)});
    if (!white) return {1.0, 1.0, 1.0};
    const colour::Vector3 rgb = colour::xyzToRgb(colour::kBt709) * colour::xyzOf(*white);
    return {std::max(rgb.x(), 0.01) / rgb.y(), 1.0, std::max(rgb.z(), 0.01) / rgb.y()};
}

double exposureStops(const rig::SimulatedBody& body, const rig::Settings& settings) {
    return optics::exposureChange(rig::exposureOf(nominalSettings()), rig::exposureOf(settings))
               .value() +
           body.sensitivityStops - body.glassStops;
}

colour::TransferCurve recordedCurve(const rig::Camera& camera) {
    const rig::Profile* profile = rig::findProfile(camera.sheet, camera.settings.profile);
    if (profile != nullptr && profile->curve) return *profile->curve;
    return camera.simulated ? camera.simulated->curve : colour::TransferCurve{};
}

ProfileLook profileLook(const rig::Camera& camera) {
    ProfileLook look;
    for (const rig::Knob& knob : camera.sheet.knobs) {
        const auto stands = camera.settings.knobs.find(knob.name);
        if (stands == camera.settings.knobs.end()) continue;
        const auto steps = [&](double usual) {
            return stands->second * (knob.perStep != 0.0 ? knob.perStep : usual);
        };
        switch (knob.kind) {
            case rig::KnobKind::Contrast:
                look.contrast *= std::max(1.0 + steps(0.05), 0.2);
                break;
            case rig::KnobKind::Black:
                look.black += steps(0.8) / 100.0;
                break;
            case rig::KnobKind::Saturation:
                look.saturation *= std::max(1.0 + steps(0.08), 0.0);
                break;
            case rig::KnobKind::Hue:
                look.hueDegrees += steps(3.0);
                break;
            case rig::KnobKind::Amber:
                look.whiteBalanceMired += steps(4.0);
                break;
            case rig::KnobKind::Knee:
                look.knee *= std::max(1.0 + steps(0.08), 0.1);
                break;
            case rig::KnobKind::Other:
                break;
        }
    }
    return look;
}

CameraModel::CameraModel(const rig::Camera& camera) {
    assert(camera.simulated);
    m_body = *camera.simulated;
    const ProfileLook look = profileLook(camera);
    rig::Settings settings = camera.settings;
    settings.whiteBalanceKelvin =
        1e6 / std::max(1e6 / settings.whiteBalanceKelvin - look.whiteBalanceMired, 20.0);
    const std::array<double, 3> gains = neutralGains(m_body, settings);
    for (std::size_t c = 0; c < 3; ++c) m_gains[c] = static_cast<float>(gains[c]);
    m_exposure = static_cast<float>(std::exp2(exposureStops(m_body, camera.settings)));
    // Amplifying by ISO amplifies what the sensor adds; photon noise grows with the root of it
    // (sources 4.4).
    const double amplification = camera.settings.isoValue / 800.0;
    m_readNoise = static_cast<float>(m_body.noiseAtBase * amplification);
    m_photonNoise = static_cast<float>(0.00004 * amplification * m_body.noiseAtBase / 0.002);
    const colour::TransferCurve curve = recordedCurve(camera);
    m_curve.resize(kCurveSamples + 1);
    for (std::size_t i = 0; i <= kCurveSamples; ++i) {
        const double root = double(kCurveTop) * static_cast<double>(i) / kCurveSamples;
        constexpr double kPivot = 0.42;
        const double signal = curve.encode(root * root);
        const double shown = kPivot + look.contrast * (signal - kPivot) + look.black;
        constexpr double kKnee = 0.7;
        m_curve[i] =
            static_cast<float>(shown > kKnee ? kKnee + look.knee * (shown - kKnee) : shown);
    }
    constexpr double kSharpeningPerStep = 0.2;  // of how far the finest detail stands out
    constexpr double kSoftest = -0.9;
    if (camera.settings.detailSteps.isTold())
        m_sharpening = static_cast<float>(
            std::max(kSharpeningPerStep * camera.settings.detailSteps, kSoftest));
    m_saturation = static_cast<float>(m_body.saturation * look.saturation);
    const double angle = look.hueDegrees * std::numbers::pi / 180.0;
    m_hueCos = static_cast<float>(std::cos(angle));
    m_hueSin = static_cast<float>(std::sin(angle));
}

CameraModel::Coded CameraModel::encoded(float linear) const {
    const float root = std::sqrt(std::max(linear, 0.0F));
    const float place = std::min(root / kCurveTop, 0.9999F) * kCurveSamples;
    const auto index = static_cast<std::size_t>(place);
    const float rise = m_curve[index + 1] - m_curve[index];
    // dV/dL = dV/droot / (2 root); near black the root model ends and the first sample's slope
    // stands.
    const float perRoot = rise * kCurveSamples / kCurveTop;
    return {m_curve[index] + (place - static_cast<float>(index)) * rise,
            perRoot / (2.0F * std::max(root, 0.03F))};
}

Exposed CameraModel::expose(const image::Frame& linear,
                            image::PixelRect part,
                            int frameWidth,
                            int frameHeight) const {
    Exposed exposed{image::blankFrame(linear.width, linear.height),
                    image::blankFrame(linear.width, linear.height)};
    const auto leak = static_cast<float>(m_body.crosstalk);
    const float halfWidth = 0.5F * static_cast<float>(frameWidth);
    const float halfHeight = 0.5F * static_cast<float>(frameHeight);
    const float corner = halfWidth * halfWidth + halfHeight * halfHeight;
    const float fall = static_cast<float>(std::exp2(-m_body.vignetteStops)) - 1.0F;
    for (int y = 0; y < linear.height; ++y) {
        const float dy = static_cast<float>(y + part.y) - halfHeight;
        for (int x = 0; x < linear.width; ++x) {
            const std::size_t at =
                static_cast<std::size_t>(y) * static_cast<std::size_t>(linear.width) +
                static_cast<std::size_t>(x);
            const float dx = static_cast<float>(x + part.x) - halfWidth;
            const float radius = (dx * dx + dy * dy) / corner;
            const float gain = m_exposure * (1.0F + fall * radius * radius);
            std::array<float, 3> light{};
            for (std::size_t c = 0; c < 3; ++c) light[c] = linear.channels[c][at] * gain;
            const float mean = (light[0] + light[1] + light[2]) / 3.0F;
            std::array<float, 3> coded{};
            for (std::size_t c = 0; c < 3; ++c) {
                const Coded code =
                    encoded((light[c] + leak * 1.5F * (mean - light[c])) * m_gains[c]);
                const float sigma =
                    std::sqrt(m_readNoise * m_readNoise + m_photonNoise * std::max(light[c], 0.0F));
                coded[c] = code.signal;
                exposed.sigma.channels[c][at] = sigma * m_gains[c] * code.slope;
            }
            const auto luma = static_cast<float>(base::lumaOf(coded));
            // Hue turns in the plane of the BT.709 colour differences; green follows from luma.
            const float cb = m_saturation * (coded[2] - luma) / kBlueScale;
            const float cr = m_saturation * (coded[0] - luma) / kRedScale;
            const float red = luma + kRedScale * (m_hueCos * cr + m_hueSin * cb);
            const float blue = luma + kBlueScale * (m_hueCos * cb - m_hueSin * cr);
            exposed.signal.channels[0][at] = red;
            exposed.signal.channels[1][at] = (luma - kRed * red - kBlue * blue) / kGreen;
            exposed.signal.channels[2][at] = blue;
        }
    }
    return exposed;
}

image::Frame CameraModel::develop(const image::Frame& linear, std::uint64_t seed) const {
    image::Frame frame = withNoise(
        expose(linear, {0, 0, linear.width, linear.height}, linear.width, linear.height), seed);
    sharpen(frame);
    return frame;
}

void CameraModel::sharpen(image::Frame& frame) const {
    if (m_sharpening == 0.0F) return;
    const auto width = static_cast<std::size_t>(frame.width);
    const auto height = static_cast<std::size_t>(frame.height);
    std::vector<float> luma(width * height), across(width * height);
    for (std::size_t i = 0; i < luma.size(); ++i)
        luma[i] = kRed * frame.channels[0][i] + kGreen * frame.channels[1][i] +
                  kBlue * frame.channels[2][i];
    // Binomial weights 1 4 6 4 1, across and down; the border repeats.
    const auto smooth = [](std::size_t at, std::size_t count, const auto& value) {
        const auto near = [&](std::size_t by, bool isBefore) {
            return isBefore ? value(at < by ? 0 : at - by) : value(std::min(at + by, count - 1));
        };
        return (6.0F * value(at) + 4.0F * (near(1, true) + near(1, false)) + near(2, true) +
                near(2, false)) /
               16.0F;
    };
    for (std::size_t y = 0; y < height; ++y) {
        for (std::size_t x = 0; x < width; ++x)
            across[y * width + x] =
                smooth(x, width, [&](std::size_t i) { return luma[y * width + i]; });
    }
    for (std::size_t y = 0; y < height; ++y) {
        for (std::size_t x = 0; x < width; ++x) {
            const std::size_t at = y * width + x;
            const float soft =
                smooth(y, height, [&](std::size_t i) { return across[i * width + x]; });
            for (auto& channel : frame.channels)
                channel[at] = std::clamp(
                    channel[at] + m_sharpening * (luma[at] - soft), -0.07F, kHighestSignal);
        }
    }
}

image::Frame withNoise(const Exposed& exposed, std::uint64_t seed) {
    image::Frame signal = exposed.signal;
    const std::vector<float>& tile = noiseTile();
    Random random(seed);
    const auto width = static_cast<std::size_t>(signal.width);
    for (std::size_t y = 0; y < static_cast<std::size_t>(signal.height); ++y) {
        for (std::size_t c = 0; c < 3; ++c) {
            const float* sigma = exposed.sigma.channels[c].data() + y * width;
            float* out = signal.channels[c].data() + y * width;
            for (std::size_t done = 0; done < width;) {
                const std::size_t start =
                    static_cast<std::size_t>(random.next()) & (kNoiseTile - 1);
                const std::size_t count = std::min(width - done, kNoiseTile - start);
                const float* noise = tile.data() + start;
                for (std::size_t x = 0; x < count; ++x) {
                    out[done + x] = std::clamp(
                        out[done + x] + sigma[done + x] * noise[x], -0.07F, kHighestSignal);
                }
                done += count;
            }
        }
    }
    return signal;
}

}  // namespace rigmatch::sim
