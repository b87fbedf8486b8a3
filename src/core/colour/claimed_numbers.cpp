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

/// The largest number behind a word that begins a line; 0 where there is none.
double after(const std::string& text, const std::string& word) {
    double largest = 0.0;
    for (auto at = text.find(word); at != std::string::npos; at = text.find(word, at + 1)) {
        const auto before = at == 0 ? 0 : text.find_last_not_of(" \t", at - 1);
        const bool isFirst =
            at == 0 || before == std::string::npos || text[before] == '\n' || text[before] == '\r';
        if (!isFirst) continue;
        std::istringstream rest(text.substr(at + word.size(), 64));
        double number = 0.0;
        if (rest >> number) largest = std::max(largest, number);
    }
    return largest;
}

double product(const std::string& numbers) {
    std::istringstream all(numbers);
    double number = 0.0, made = 1.0;
    bool isAny = false;
    while (all >> number) {
        made *= std::max(number, 0.0);
        isAny = true;
        if (made == 0.0) return 0.0;  // nothing, however many times
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

double claimedNumbers(const std::string& content) {
    constexpr std::size_t kHead = 1U << 16U;
    const std::string head = inSmallLetters(content.substr(0, kHead));
    const double side = after(head, "lut_3d_size");
    double most = kColours * (side * side * side + after(head, "lut_1d_size"));
    if (head.find('<') != std::string::npos) most = std::max(most, ofDimensions(content));
    if (head.find("spilut") != std::string::npos) most = std::max(most, ofThirdLine(head));
    if (head.find("components") != std::string::npos) most = std::max(most, after(head, "length"));
    return most;
}

}  // namespace rigmatch::colour
