// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Dense>
#include <array>
#include <cmath>
#include <vector>

#include "chart/chart_definition.h"
#include "support/own_take.h"

namespace rigmatch::support {

/// Spectra from 400 to 700 nm by 10.
inline constexpr int kBands = 31;
using Spectrum = std::array<double, kBands>;
[[nodiscard]] inline double bandNm(int band) { return 400.0 + 10.0 * band; }

/// The CIE 1931 observer in the fit of Wyman, Sloan and Shirley (2013), "Simple Analytic
/// Approximations to the CIE XYZ Color Matching Functions", from memory.
inline std::array<double, 3> observer(double nm) {
    const auto lobe = [nm](double weight, double centre, double below, double above) {
        const double t = (nm - centre) * (nm < centre ? below : above);
        return weight * std::exp(-0.5 * t * t);
    };
    return {lobe(1.056, 599.8, 0.0264, 0.0323) + lobe(0.362, 442.0, 0.0624, 0.0374) -
                lobe(0.065, 501.1, 0.0490, 0.0382),
            lobe(0.821, 568.8, 0.0213, 0.0247) + lobe(0.286, 530.9, 0.0613, 0.0322),
            lobe(1.217, 437.0, 0.0845, 0.0278) + lobe(0.681, 459.0, 0.0385, 0.0725)};
}

/// Planck's law, of any height.
inline Spectrum planckLight(double kelvin) {
    Spectrum s{};
    for (int i = 0; i < kBands; ++i) {
        const double m = bandNm(i) * 1e-9;
        s[static_cast<std::size_t>(i)] =
            1e-12 / (std::pow(m * 1e6, 5.0) * (std::exp(1.4388e-2 / (m * kelvin)) - 1.0));
    }
    return s;
}
/// A white LED: a blue line and a broad phosphor (own).
inline Spectrum ledLight(double phosphor, double centre) {
    Spectrum s{};
    for (int i = 0; i < kBands; ++i) {
        const double nm = bandNm(i);
        s[static_cast<std::size_t>(i)] =
            std::exp(-0.5 * std::pow((nm - 452.0) / 10.0, 2.0)) +
            phosphor * std::exp(-0.5 * std::pow((nm - centre) / 55.0, 2.0));
    }
    return s;
}

/// A smooth reflectance: a few broad bumps about a level.
inline Spectrum smoothReflectance(OwnRandom& random) {
    Spectrum s{};
    const double base = random.between(0.05, 0.5);
    std::array<double, 3> centre{}, width{}, height{};
    for (std::size_t k = 0; k < 3; ++k) {
        centre[k] = random.between(400.0, 700.0);
        width[k] = random.between(40.0, 90.0);
        height[k] = random.between(-0.4, 0.5);
    }
    for (int i = 0; i < kBands; ++i) {
        double value = base;
        for (std::size_t k = 0; k < 3; ++k)
            value += height[k] * std::exp(-0.5 * std::pow((bandNm(i) - centre[k]) / width[k], 2.0));
        s[static_cast<std::size_t>(i)] = std::clamp(value, 0.03, 0.9);
    }
    return s;
}
/// Skin: rising toward red, with the two dips of blood near 545 and 575 nm (own).
inline Spectrum skinReflectance(OwnRandom& random) {
    Spectrum s{};
    const double dark = random.between(0.25, 1.0);
    const double blood = random.between(0.04, 0.1);
    for (int i = 0; i < kBands; ++i) {
        const double nm = bandNm(i);
        const double rise =
            0.22 + 0.38 / (1.0 + std::exp(-(nm - 590.0) / 22.0)) + 0.0004 * (nm - 400.0);
        const double dips = std::exp(-0.5 * std::pow((nm - 545.0) / 12.0, 2.0)) +
                            std::exp(-0.5 * std::pow((nm - 577.0) / 9.0, 2.0));
        s[static_cast<std::size_t>(i)] = std::max(0.02, dark * (rise - blood * dips));
    }
    return s;
}
inline Spectrum greyReflectance(double level) {
    Spectrum s{};
    s.fill(level);
    return s;
}

/// A camera by its spectral sensitivities, balanced for the light, with the matrix that its maker
/// would fit for it.
class SpectralCamera {
public:
    SpectralCamera(OwnRandom& random, const Spectrum& light) : m_light(light) {
        const std::array<double, 3> centre{
            602.0 + random.normal(9.0), 538.0 + random.normal(7.0), 455.0 + random.normal(6.0)};
        for (std::size_t c = 0; c < 3; ++c) {
            const double width = 34.0 + random.normal(5.0);
            const double tail = 0.06 * std::abs(random.normal(1.0));
            for (int i = 0; i < kBands; ++i)
                m_sensor[c][static_cast<std::size_t>(i)] =
                    std::exp(-0.5 * std::pow((bandNm(i) - centre[c]) / width, 2.0)) + tail;
        }
        m_matrix.setIdentity();
        m_gains.setOnes();
        const Eigen::Vector3d white = raw(greyReflectance(1.0));
        m_gains = white.cwiseInverse();
        // The maker's matrix: least squares over everyday colours, neutrals kept.
        Eigen::MatrixXd seen(3, 120), wanted(3, 120);
        for (int i = 0; i < 120; ++i) {
            const Spectrum colour = smoothReflectance(random);
            seen.col(i) = raw(colour);
            wanted.col(i) = linear709(colour, light);
        }
        m_matrix = wanted * seen.transpose() * (seen * seen.transpose()).inverse();
        const Eigen::Vector3d rows = m_matrix.rowwise().sum();
        for (int row = 0; row < 3; ++row) m_matrix.row(row) /= rows[row];
    }

    /// Linear BT.709 as this camera makes it, white at 1.
    [[nodiscard]] own::Triple light(const Spectrum& reflectance) const {
        const Eigen::Vector3d rgb = (m_matrix * raw(reflectance)).cwiseMax(0.0);
        return {rgb[0], rgb[1], rgb[2]};
    }
    /// Linear BT.709 of a reflectance under a light as the observer has it, adapted by scaling to
    /// the light's own white.
    [[nodiscard]] static Eigen::Vector3d linear709(const Spectrum& reflectance,
                                                   const Spectrum& light) {
        Eigen::Vector3d xyz = Eigen::Vector3d::Zero(), white = Eigen::Vector3d::Zero();
        for (int i = 0; i < kBands; ++i) {
            const auto o = observer(bandNm(i));
            const double power = light[static_cast<std::size_t>(i)];
            for (int k = 0; k < 3; ++k) {
                xyz[k] += power * reflectance[static_cast<std::size_t>(i)] *
                          o[static_cast<std::size_t>(k)];
                white[k] += power * o[static_cast<std::size_t>(k)];
            }
        }
        const Eigen::Vector3d d65(0.95047, 1.0, 1.08883);
        const colour::Vector3 adapted = xyz.cwiseQuotient(white).cwiseProduct(d65);
        return colour::xyzToRgb(colour::kBt709) * adapted;
    }

private:
    [[nodiscard]] Eigen::Vector3d raw(const Spectrum& reflectance) const {
        Eigen::Vector3d rgb = Eigen::Vector3d::Zero();
        for (std::size_t c = 0; c < 3; ++c) {
            for (std::size_t i = 0; i < kBands; ++i)
                rgb[static_cast<int>(c)] += m_light[i] * reflectance[i] * m_sensor[c][i];
        }
        return rgb.cwiseProduct(m_gains);
    }

    Spectrum m_light;
    std::array<Spectrum, 3> m_sensor{};
    Eigen::Vector3d m_gains;
    Eigen::Matrix3d m_matrix;
};

}  // namespace rigmatch::support
