// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/english.h"

#include <string_view>
#include <unordered_map>

#include "base/format.h"
#include "words/english_phrases.h"

namespace rigmatch::words {
namespace {

using Book = std::unordered_map<std::string_view, std::string_view>;

const Book& book() {
    static const Book kBook = [] {
        Book made;
        for (const Phrase& phrase : englishPhrases()) made.emplace(phrase.code, phrase.words);
        return made;
    }();
    return kBook;
}

std::string said(const base::Argument& argument) {
    if (const auto* name = std::get_if<std::string>(&argument)) return *name;
    if (const auto* text = std::get_if<base::Text>(&argument)) return inEnglish(*text);
    const auto& number = std::get<base::Number>(argument);
    if (number.isSigned || number.value < 0.0) {
        const std::string text = base::signedFixed(number.value, number.decimals);
        return text.starts_with('+') && !number.isSigned ? text.substr(1) : text;
    }
    return base::fixed(number.value, number.decimals);
}

/// The argument of that name, or the name in its braces.
std::string argumentOf(const base::Saying& saying, std::string_view name) {
    for (const auto& [own, argument] : saying.arguments) {
        if (own == name) return said(argument);
    }
    return "{" + std::string(name) + "}";
}

std::string said(const base::Saying& saying) {
    const auto found = book().find(saying.code);
    if (found == book().end()) return "[" + saying.code + "]";
    std::string_view rest = found->second;
    std::string text;
    while (!rest.empty()) {
        const std::size_t open = rest.find('{');
        const std::size_t close = open == rest.npos ? rest.npos : rest.find('}', open);
        if (close == rest.npos) break;
        text += rest.substr(0, open);
        text += argumentOf(saying, rest.substr(open + 1, close - open - 1));
        rest.remove_prefix(close + 1);
    }
    return text += rest;
}

}  // namespace

std::vector<Phrase> englishPhrases() {
    std::vector<Phrase> all;
    for (const auto part : {cameraPhrases(),
                            sheetPhrases(),
                            setPhrases(),
                            commonPhrases(),
                            picturePhrases(),
                            timingPhrases(),
                            matchPhrases(),
                            filePhrases(),
                            refusalPhrases(),
                            fieldPhrases()})
        all.insert(all.end(), part.begin(), part.end());
    return all;
}

std::vector<std::string> inEnglish(const std::vector<base::Text>& texts) {
    std::vector<std::string> all;
    all.reserve(texts.size());
    for (const base::Text& text : texts) all.push_back(inEnglish(text));
    return all;
}

std::string inEnglish(const base::Error& error) { return inEnglish(base::fullText(error)); }

std::string inEnglish(const base::Text& text) {
    std::string all;
    for (const base::Saying& saying : text.sayings()) all += said(saying);
    return all;
}

}  // namespace rigmatch::words
