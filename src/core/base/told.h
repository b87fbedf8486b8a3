// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <concepts>
#include <optional>
#include <utility>

namespace rigmatch::base {

/// A value that somebody told, or one that nobody did: then it holds what is assumed in its place.
/// Reckoning may use either; what states a value, or learns from it, asks isTold() first.
template <class T>
class Told {
public:
    Told() = default;
    template <class U>
    requires std::convertible_to<U, T>
    // A told value reads as the value it is; a Told is no T, so copies are no such call.
    // NOLINTNEXTLINE(google-explicit-constructor, bugprone-forwarding-reference-overload)
    Told(U&& value) : m_value(std::forward<U>(value)) {}
    /// Nobody told it; `value` is assumed where a number is needed.
    [[nodiscard]] static Told assumed(T value) {
        Told made(std::move(value));
        made.m_isTold = false;
        return made;
    }

    // NOLINTNEXTLINE(google-explicit-constructor)
    operator const T&() const { return m_value; }
    [[nodiscard]] const T& value() const { return m_value; }
    [[nodiscard]] bool isTold() const { return m_isTold; }
    [[nodiscard]] std::optional<T> told() const {
        return m_isTold ? std::optional<T>(m_value) : std::nullopt;
    }
    /// From here on nobody told it; the value it had is what is assumed.
    void forget() { m_isTold = false; }

    /// What is unknown is alike, whatever was assumed.
    bool operator==(const Told& other) const {
        return m_isTold == other.m_isTold && (!m_isTold || m_value == other.m_value);
    }
    template <class U>
    requires(std::convertible_to<U, T> && !std::same_as<U, Told>) bool operator==(
        const U& value) const {
        return m_isTold && m_value == value;
    }

private:
    T m_value{};
    bool m_isTold = true;
};

template <class T>
inline constexpr bool kIsTold = false;
template <class T>
inline constexpr bool kIsTold<Told<T>> = true;

}  // namespace rigmatch::base
