// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/claimed_numbers.h"

#include <algorithm>
#include <cctype>
#include <sstream>

namespace rigmatch::colour {
namespace {

constexpr double kColours = 3.0;

std::string inSmallLetters(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) {
        return static_cast<char>(std::tolower(c));
    });
    return text;
}

/// The number behind the first place of a word; 0 where there is none.
double after(const std::string& text, const std::string& word) {
    const auto at = text.find(word);
    if (at == std::string::npos) return 0.0;
    std::istringstream rest(text.substr(at + word.size(), 64));
    double number = 0.0;
    return rest >> number ? std::max(number, 0.0) : 0.0;
}

double product(const std::string& numbers) {
    std::istringstream all(numbers);
    double number = 0.0, made = 1.0;
    bool isAny = false;
    while (all >> number) {
        made *= std::max(number, 0.0);
        isAny = true;
    }
    return isAny ? made : 0.0;
}

/// All that is said as dim="17 17 17 3", together.
double ofDimensions(const std::string& content) {
    double sum = 0.0;
    const std::string word = "dim";
    for (auto at = content.find(word); at != std::string::npos; at = content.find(word, at + 1)) {
        const auto open = content.find_first_not_of(" \t\r\n=", at + word.size());
        if (open == std::string::npos || (content[open] != '"' && content[open] != '\'')) continue;
        const auto close = content.find(content[open], open + 1);
        if (close != std::string::npos) sum += product(content.substr(open + 1, close - open - 1));
    }
    return sum;
}

/// The third line that says anything: "32 32 32".
double ofThirdLine(const std::string& content) {
    std::istringstream lines(content);
    std::string line;
    int count = 0;
    while (std::getline(lines, line)) {
        if (line.find_first_not_of(" \t\r") == std::string::npos) continue;
        if (++count == 3) return kColours * product(line);
    }
    return 0.0;
}

}  // namespace

double claimedNumbers(const std::string& content, const std::string& suffix) {
    if (suffix == ".clf" || suffix == ".ctf") return ofDimensions(content);
    if (suffix == ".spi3d") return ofThirdLine(content);
    constexpr std::size_t kHead = 1U << 16U;
    const std::string head = inSmallLetters(content.substr(0, kHead));
    if (suffix == ".spi1d") return after(head, "length");
    if (suffix != ".cube") return 0.0;
    const double side = after(head, "lut_3d_size");
    return kColours * (side * side * side + after(head, "lut_1d_size"));
}

}  // namespace rigmatch::colour
