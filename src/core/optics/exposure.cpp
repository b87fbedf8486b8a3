// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/exposure.h"

#include <array>
#include <cmath>
#include <cstdlib>

#include "base/format.h"

namespace rigmatch::optics {
namespace {

// Printed scale numbers; entry i stands for 2^(i/6) and 100 x 2^((i - 3)/3).
constexpr std::array<double, 31> kFNumbers{1,   1.1, 1.2, 1.4, 1.6, 1.8, 2,   2.2, 2.5, 2.8, 3.2,
                                           3.5, 4,   4.5, 5,   5.6, 6.3, 7.1, 8,   9,   10,  11,
                                           13,  14,  16,  18,  20,  22,  25,  29,  32};
constexpr std::array<double, 31> kIsoNumbers{50,    64,    80,    100,   125,   160,   200,  250,
                                             320,   400,   500,   640,   800,   1000,  1250, 1600,
                                             2000,  2500,  3200,  4000,  5000,  6400,  8000, 10000,
                                             12800, 16000, 20000, 25600, 32000, 40000, 51200};
constexpr double kSameStop = 0.1;

double exactF(std::size_t index) { return std::exp2(static_cast<double>(index) / 6.0); }
double exactIsoAt(std::size_t index) {
    return 100.0 * std::exp2((static_cast<double>(index) - 3.0) / 3.0);
}

template <std::size_t Count>
std::vector<double> between(const std::array<double, Count>& series,
                            double lowest,
                            double highest) {
    std::vector<double> members;
    for (double value : series) {
        if (value >= lowest * 0.999 && value <= highest * 1.001) members.push_back(value);
    }
    return members;
}

}  // namespace

base::Stops exposureChange(const ExposureSettings& from, const ExposureSettings& to) {
    return base::Stops(2.0 * std::log2(exactFNumber(from.fNumber) / exactFNumber(to.fNumber)) +
                       std::log2(to.shutterSeconds / from.shutterSeconds) +
                       std::log2(exactIso(to.isoValue) / exactIso(from.isoValue)) -
                       (to.ndStops - from.ndStops) + (to.gainDb - from.gainDb) / kDecibelsPerStop);
}

double exactFNumber(double nominal) {
    for (std::size_t i = 0; i < kFNumbers.size(); ++i) {
        if (std::abs(2.0 * std::log2(nominal / exactF(i))) < kSameStop) return exactF(i);
    }
    return nominal;
}

double exactIso(double nominal) {
    for (std::size_t i = 0; i < kIsoNumbers.size(); ++i) {
        if (std::abs(std::log2(nominal / exactIsoAt(i))) < kSameStop) return exactIsoAt(i);
    }
    return nominal;
}

std::vector<double> fNumberSeries(double lowest, double highest) {
    return between(kFNumbers, lowest, highest);
}

std::vector<double> isoSeries(double lowest, double highest) {
    return between(kIsoNumbers, lowest, highest);
}

std::string shutterText(double shutterSeconds) {
    if (shutterSeconds >= 0.3) return base::fixed(shutterSeconds, 1) + " s";
    const double denominator = 1.0 / shutterSeconds;
    const bool isWhole = std::abs(denominator - std::round(denominator)) < 0.01;
    return "1/" + base::fixed(denominator, isWhole ? 0 : 1) + " s";
}

base::Text thirdsText(base::Stops stops) {
    const long thirds = std::lround(stops.value() * 3.0);
    if (thirds == 0) return base::say("stops.one", {{"stops", "0"}});
    const long whole = std::labs(thirds) / 3;
    const long part = std::labs(thirds) % 3;
    std::string text = thirds < 0 ? "\u2212" : "+";
    if (whole > 0) text += std::to_string(whole);
    if (whole > 0 && part > 0) text += ' ';
    if (part > 0) text += std::to_string(part) + "/3";
    return base::say(std::labs(thirds) > 3 ? "stops.several" : "stops.one", {{"stops", text}});
}

}  // namespace rigmatch::optics
