// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <concepts>
#include <initializer_list>
#include <string>
#include <utility>
#include <variant>
#include <vector>

namespace rigmatch::base {

/// A number as it is to be said: with how many decimals, with its plus or not.
struct Number {
    double value = 0.0;
    int decimals = 0;
    bool isSigned = false;

    bool operator==(const Number&) const = default;
};

/// A whole number, as it is to be said.
template <std::integral T>
[[nodiscard]] Number whole(T value) {
    return {static_cast<double>(value)};
}

struct Saying;

/// Something to be said, as codes with arguments: a sentence, several, or a part of one. It has no
/// language; its words are made in one place (words/english.h), and nothing decides by them.
class Text {
public:
    Text();
    Text(Saying saying);  // NOLINT(google-explicit-constructor): one sentence is a text
    // Where a saying is not complete yet, neither is a list of them.
    Text(const Text& other);
    Text(Text&& other) noexcept;
    Text& operator=(const Text& other);
    Text& operator=(Text&& other) noexcept;
    ~Text();

    [[nodiscard]] bool empty() const;
    [[nodiscard]] const std::vector<Saying>& sayings() const { return m_sayings; }
    /// True where that code is said, in an argument too.
    [[nodiscard]] bool has(const std::string& code) const;

    Text& operator+=(const Text& more);
    bool operator==(const Text& other) const;

private:
    std::vector<Saying> m_sayings;
};

/// What stands in a sentence: a name as it is, a number, or another text.
using Argument = std::variant<std::string, Number, Text>;

/// A sentence or a part of one: its code, and what stands in it by name.
struct Saying {
    std::string code;  ///< "softness.seenFrom"
    std::vector<std::pair<std::string, Argument>> arguments{};

    bool operator==(const Saying&) const = default;
};

[[nodiscard]] Text operator+(Text first, const Text& second);

/// `say("length.metres", {{"metres", Number{2.31, 2}}})`.
[[nodiscard]] Text say(std::string code,
                       std::initializer_list<std::pair<std::string, Argument>> arguments = {});
/// A name, or what a library or a file says, as it is.
[[nodiscard]] Text asIs(std::string name);
/// Texts with `between` in between.
[[nodiscard]] Text joined(const std::vector<Text>& texts, const Text& between);

}  // namespace rigmatch::base
