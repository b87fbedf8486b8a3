// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/text.h"

#include <algorithm>

namespace rigmatch::base {

Text::Text() = default;
Text::Text(Saying saying) { m_sayings.push_back(std::move(saying)); }
Text::Text(const Text& other) = default;
Text::Text(Text&& other) noexcept = default;
Text& Text::operator=(const Text& other) = default;
Text& Text::operator=(Text&& other) noexcept = default;
Text::~Text() = default;

bool Text::empty() const { return m_sayings.empty(); }

bool Text::has(const std::string& code) const {
    return std::any_of(m_sayings.begin(), m_sayings.end(), [&](const Saying& saying) {
        return saying.code == code ||
               std::any_of(
                   saying.arguments.begin(), saying.arguments.end(), [&](const auto& argument) {
                       const auto* text = std::get_if<Text>(&argument.second);
                       return text != nullptr && text->has(code);
                   });
    });
}

Text& Text::operator+=(const Text& more) {
    m_sayings.insert(m_sayings.end(), more.m_sayings.begin(), more.m_sayings.end());
    return *this;
}

bool Text::operator==(const Text& other) const { return m_sayings == other.m_sayings; }

Text operator+(Text first, const Text& second) {
    first += second;
    return first;
}

Text say(std::string code, std::initializer_list<std::pair<std::string, Argument>> arguments) {
    return Saying{std::move(code), arguments};
}

Text asIs(std::string name) { return say("asIs", {{"name", std::move(name)}}); }

Text joined(const std::vector<Text>& texts, const Text& between) {
    Text all;
    for (const Text& text : texts) {
        if (!all.empty()) all += between;
        all += text;
    }
    return all;
}

}  // namespace rigmatch::base
