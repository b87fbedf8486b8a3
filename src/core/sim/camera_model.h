// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>

#include "image/frame.h"
#include "rig/rig.h"

namespace rigmatch::sim {

/// Colour temperature of the simulated key light.
inline constexpr double kLightKelvin = 5600.0;

/// The settings at which an unmodified body records 18 % grey at linear 0.18 (by convention of this
/// simulator).
[[nodiscard]] rig::Settings nominalSettings();

/// The linear gains that a body applies to a neutral, from its dial, its hidden warmth and its
/// tint. Green is 1: cameras keep the green gain fixed (sources 6.2).
[[nodiscard]] std::array<double, 3> neutralGains(const rig::SimulatedBody& body,
                                                 const rig::Settings& settings);

/// Stops by which this body at these settings records brighter than nominal, before its tone curve.
[[nodiscard]] double exposureStops(const rig::SimulatedBody& body, const rig::Settings& settings);

/// The curve the body records with: its profile's declared one, or its own.
[[nodiscard]] colour::TransferCurve recordedCurve(const rig::Camera& camera);

/// What the knobs of a body's profile do where they stand: by what its sheet says of a step, else
/// by what is usual of such knobs.
struct ProfileLook {
    double contrast = 1.0;  ///< about 42 % of signal
    double black = 0.0;     ///< added to the signal
    double saturation = 1.0;
    double hueDegrees = 0.0;
    double whiteBalanceMired = 0.0;  ///< + warmer, on top of the Kelvin dial
    double knee = 1.0;               ///< slope above 70 % of signal, against the profile's
};
[[nodiscard]] ProfileLook profileLook(const rig::Camera& camera);

/// A picture as a body would record it without noise, and how strong its noise is where.
struct Exposed {
    image::Frame signal;
    image::Frame sigma;  ///< standard deviation of the noise, signal
};

/// Turns scene light into recorded signal: vignette, crosstalk, white balance, tone curve, the
/// profile's knobs, saturation, noise, sharpening.
class CameraModel {
public:
    /// `camera.simulated` must be set.
    explicit CameraModel(const rig::Camera& camera);

    /// Exposes the part of a frame that begins at `origin`; `linear` is that part: BT.709 scene
    /// light, 1 = diffuse white under the key. `frameWidth` and `frameHeight` place the vignette.
    [[nodiscard]] Exposed expose(const image::Frame& linear,
                                 image::PixelRect part,
                                 int frameWidth,
                                 int frameHeight) const;

    /// A whole frame with noise. The same seed gives the same noise.
    [[nodiscard]] image::Frame develop(const image::Frame& linear, std::uint64_t seed) const;

    /// In-camera sharpening, as the body's detail stands (0: none, below: softer): unsharp masking
    /// of luma. A whole frame.
    void sharpen(image::Frame& frame) const;

private:
    struct Coded {
        float signal;
        float slope;
    };
    [[nodiscard]] Coded encoded(float linear) const;

    rig::SimulatedBody m_body;
    std::array<float, 3> m_gains{};
    float m_exposure = 1.0F;
    float m_readNoise = 0.0F;
    float m_photonNoise = 0.0F;
    float m_saturation = 1.0F;
    float m_sharpening = 0.0F;
    float m_hueCos = 1.0F, m_hueSin = 0.0F;
    std::vector<float> m_curve;  ///< sampled on the square root of light
};

/// `exposed` with fresh noise, clipped to what a file can hold.
[[nodiscard]] image::Frame withNoise(const Exposed& exposed, std::uint64_t seed);

}  // namespace rigmatch::sim
