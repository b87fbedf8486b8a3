// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <compare>

namespace rigmatch::base {

/// A number that knows its unit. Made explicitly, read with value(); only like units add up,
/// so that kelvin plus mired does not compile. Conversions are named functions (see
/// colour/mired.h).
template <class Tag>
class Quantity {
public:
    constexpr Quantity() = default;
    constexpr explicit Quantity(double value) : m_value(value) {}

    [[nodiscard]] constexpr double value() const { return m_value; }

    constexpr Quantity operator-() const { return Quantity(-m_value); }
    constexpr Quantity operator+(Quantity other) const { return Quantity(m_value + other.m_value); }
    constexpr Quantity operator-(Quantity other) const { return Quantity(m_value - other.m_value); }
    constexpr Quantity operator*(double factor) const { return Quantity(m_value * factor); }
    constexpr auto operator<=>(const Quantity&) const = default;

private:
    double m_value = 0.0;
};

/// Correlated colour temperature, K.
using Kelvin = Quantity<struct KelvinTag>;
/// Reciprocal megakelvin, 10^6 / K.
using Mired = Quantity<struct MiredTag>;
/// Factor of two of light; + is brighter.
using Stops = Quantity<struct StopsTag>;
/// CIE 1960 u,v distance from the Planckian locus; + is greener.
using Duv = Quantity<struct DuvTag>;
/// Time, s.
using Seconds = Quantity<struct SecondsTag>;

}  // namespace rigmatch::base
