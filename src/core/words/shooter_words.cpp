// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/shooter_words.h"
#include "match/sharpness_turn.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/format.h"

namespace rigmatch::words {
namespace {

using match::Quality;
using match::Verdict;

struct PlainWords {
    const char* title;
    const char* help;
    const char* more;  ///< the camera has more of it than the reference
    const char* less;
};

const PlainWords& plainWordsOf(Quality quality) {
    static const std::array<PlainWords, match::kQualityCount> kWords{{
        {"Brightness", "of the greys, stops", "brighter", "darker"},
        {"White balance", "kelvin at this setting; mired", "too warm", "too cool"},
        {"Tint", "green to pink; Duv × 1000", "greener", "pinker"},
        {"Contrast", "of the mid greys", "harder", "flatter"},
        {"Blacks", "% of signal", "milky", "deeper"},
        {"Colourfulness", "saturation", "more colourful", "paler"},
        {"Hue", "of all colours, degrees", "turned to green", "turned to red"},
        {"Visible difference", "below 1 unseen, 2 good, 5 seen", "", ""},
        {"Skin brightness", "forehead, % of signal", "brighter", "darker"},
        {"Skin hue", "degrees", "yellower", "redder"},
    }};
    return kWords[static_cast<std::size_t>(quality)];
}

/// How far from neutral, as a share of what is good; ratios by their logarithm.
double ofGood(Quality quality, const match::Difference& difference) {
    if (!match::isRatio(quality)) return std::abs(*difference.value) / difference.good;
    return std::abs(std::log(std::max(*difference.value, 1e-6))) / std::log1p(difference.good);
}

std::string kelvinText(double mired, double kelvin) {
    const double shift = std::abs(kelvin * kelvin * mired * 1e-6);
    const double step = shift < 275.0 ? 25.0 : shift < 1000.0 ? 50.0 : 100.0;
    return base::fixed(std::max(step, std::round(shift / step) * step), 0) + " K";
}

}  // namespace

DialWords dialWords(const rig::Rig& rig, const rig::Take& take, const std::string& cameraId) {
    DialWords dials;
    const auto toldBy = [&](const std::string& id) -> std::optional<double> {
        const rig::Shot* shot = rig::findShot(take, id);
        if (shot == nullptr || !shot->settings.whiteBalanceKelvin.isTold()) return std::nullopt;
        return shot->settings.whiteBalanceKelvin.value();
    };
    if (const auto own = toldBy(cameraId))
        dials.kelvin = *own;
    else if (const auto reference = toldBy(rig.referenceId))
        dials.kelvin = *reference;
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    const rig::Shot* shot = rig::findShot(take, cameraId);
    if (camera != nullptr && shot != nullptr && shot->settings.tintSteps.isTold() &&
        camera->sheet.tintSteps.size() > 1 && camera->sheet.tintDuvPerStep != 0.0)
        dials.duvPerStep = std::abs(camera->sheet.tintDuvPerStep);
    return dials;
}

std::string shooterTitle(Quality quality) { return plainWordsOf(quality).title; }
std::string shooterHelp(Quality quality) { return plainWordsOf(quality).help; }

std::string stepText(double stops) {
    const double size = std::abs(stops);
    // Thirds and halves, as dials have them; a sixth where it is less.
    double best = 1.0 / 6.0;
    for (const double part : {1.0 / 3.0, 0.5, 2.0 / 3.0, 1.0}) {
        for (int whole = 0; whole < 12; ++whole) {
            const double step = whole + part;
            if (std::abs(step - size) < std::abs(best - size)) best = step;
        }
    }
    const int whole = static_cast<int>(std::floor(best + 1e-6));
    const double rest = best - whole;
    const char* part = rest < 0.1   ? ""
                       : rest < 0.2 ? "1/6"
                       : rest < 0.4 ? "1/3"
                       : rest < 0.6 ? "1/2"
                                    : "2/3";
    std::string text = whole > 0 ? std::to_string(whole) : "";
    if (*part != '\0') text += (text.empty() ? "" : " ") + std::string(part);
    return text + (best > 1.01 ? " stops" : " stop");
}

std::string seenText(double deltaE) {
    if (deltaE < 1.0) return "not seen";
    if (deltaE < 2.0) return "hardly seen";
    return deltaE < 5.0 ? "seen in a cut" : "seen at once";
}

std::string shooterWords(Quality quality,
                         const match::Difference& difference,
                         const DialWords& dials) {
    if (!difference.value) return {};
    const double value = *difference.value;
    if (quality == Quality::DeltaE) return seenText(value);
    const PlainWords& words = plainWordsOf(quality);
    const bool isMore = match::isRatio(quality) ? value > 1.0 : value > 0.0;
    std::string way = isMore ? words.more : words.less;
    if (difference.verdict == Verdict::Good) {
        constexpr double kNoticed = 0.6;
        return ofGood(quality, difference) < kNoticed ? "same" : "a little " + way;
    }
    switch (quality) {
        case Quality::Exposure:
            return stepText(value) + " " + way;
        case Quality::WhiteBalance:
            return kelvinText(value, dials.kelvin) + " " + way;
        case Quality::Tint: {
            if (!dials.duvPerStep) return way;
            const int steps =
                std::max(1, static_cast<int>(std::lround(std::abs(value) / *dials.duvPerStep)));
            return way + ", " + std::to_string(steps) + (steps == 1 ? " step" : " steps");
        }
        default:
            return way;
    }
}

std::string shooterEffect(const rig::Turn& turn, const DialWords& dials) {
    if (turn.control == rig::Control::LockExposure ||
        turn.control == rig::Control::LockWhiteBalance)
        return "stops wandering";
    if (turn.effect == "overshootPercent") {
        if (std::abs(turn.after) <= match::kOvershootGood) return "edges then the same";
        return turn.after > 0.0 ? "edges then still harder" : "edges then still softer";
    }
    constexpr std::array<std::pair<const char*, Quality>, 7> kEffects{
        {{"exposureStops", Quality::Exposure},
         {"whiteBalanceMired", Quality::WhiteBalance},
         {"tintDuv", Quality::Tint},
         {"contrastRatio", Quality::Contrast},
         {"blackLevelPercent", Quality::BlackLevel},
         {"saturationRatio", Quality::Saturation},
         {"hueDegrees", Quality::Hue}}};
    for (const auto& [name, quality] : kEffects) {
        if (turn.effect != name) continue;
        match::Difference left = match::toleranceOf(quality);
        match::setValue(left, quality, turn.after, 0.0);
        const std::string words = shooterWords(quality, left, dials);
        return words == "same" ? "then the same" : "then " + words;
    }
    return "colours nearer";
}

}  // namespace rigmatch::words
