// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/match_text.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"

namespace rigmatch::words {
namespace {

using match::Quality;

struct QualityWords {
    const char* title;
    const char* help;
    const char* unit;
    int decimals;
    double scale;  ///< from the stored to the shown number
};

const QualityWords& technicalWords(Quality quality) {
    static const std::array<QualityWords, match::kQualityCount> kWords{{
        {"Exposure", "stops, + is brighter", "stop", 2, 1.0},
        {"White balance", "mired, + is warmer", "mired", 0, 1.0},
        {"Tint", "Duv × 1000, + is greener", "× 0.001 Duv", 1, 1000.0},
        {"Contrast", "slope at grey, ratio", "", 2, 1.0},
        {"Black level", "% signal, exposure removed", "%", 1, 1.0},
        {"Saturation", "ratio, tone removed", "", 2, 1.0},
        {"Hue", "degrees, + is anticlockwise", "°", 1, 1.0},
        {"Colour ΔE2000", "mean of all patches", "", 1, 1.0},
        {"Skin level", "% signal, forehead", "%", 1, 1.0},
        {"Skin hue", "degrees, + is anticlockwise", "°", 1, 1.0},
    }};
    return kWords[static_cast<std::size_t>(quality)];
}

}  // namespace

std::string keySideText(const match::SkinValues& values) {
    if (!values.keyFillStops) return {};
    if (values.keySideInPicture.empty()) return "Both cheeks are lit alike.";
    return std::string("Key from the own ") + (values.isLeftBrighter ? "left" : "right") + ", " +
           values.keySideInPicture + " in the picture.";
}

std::string commonLightText(const match::MatchReport& report) {
    if (!report.commonLight) return {};
    const match::CommonLight& light = *report.commonLight;
    std::string off, turn;
    const auto add = [](std::string& text, const std::string& part) {
        text += (text.empty() ? "" : " and ") + part;
    };
    if (light.stops) {
        const std::string by = base::fixed(std::abs(*light.stops), 2);
        add(off,
            by + " ± " + base::fixed(std::max(light.stopsUncertainty, 0.01), 2) + " stop " +
                (*light.stops > 0.0 ? "brighter" : "darker"));
        add(turn,
            *light.stops > 0.0 ? "dim it by " + by + " stop (ND on a window)"
                               : "raise it by " + by + " stop");
    }
    if (light.mired) {
        const std::string by = base::fixed(std::abs(*light.mired), 0);
        add(off,
            by + " ± " + base::fixed(std::max(light.miredUncertainty, 1.0), 0) + " mired " +
                (*light.mired > 0.0 ? "warmer" : "cooler"));
        add(turn,
            "make it " + by + " mired " + (*light.mired > 0.0 ? "cooler" : "warmer") +
                " (its own dial, or a gel)");
    }
    const std::string all = light.cameras == 2 ? "Both" : "All " + std::to_string(light.cameras);
    return all + " cameras are " + off + " than " + report.targetWords +
           ". One turn of the light serves all of them, unless a setting was changed on each: " +
           turn + ", shoot again, and turn the cameras by what is left.";
}

std::string judgeText(const match::MatchReport& report, const rig::Rig& rig) {
    std::string text = match::judgingText(report.judging);
    std::vector<std::pair<std::string, std::string>> groups;  // conversion, letters
    for (const match::CameraMatch& match : report.cameras) {
        const rig::Camera* camera = rig::findCamera(rig, match.cameraId);
        if (match.conversion.empty() || camera == nullptr ||
            report.judging == match::Judging::Linear)
            continue;
        const auto group = std::find_if(groups.begin(), groups.end(), [&](const auto& one) {
            return one.first == match.conversion;
        });
        if (group == groups.end())
            groups.push_back({match.conversion, camera->letter});
        else
            group->second += ", " + camera->letter;
    }
    for (const auto& [conversion, letters] : groups) {
        text += "; ";
        text += letters;
        text += ": ";
        text += conversion;
    }
    return text;
}

CellText cellText(Quality quality, const match::Difference& difference) {
    const QualityWords& words = technicalWords(quality);
    CellText text;
    text.unit = words.unit;
    if (!difference.value) {
        text.value = "unknown";
        return text;
    }
    const double value = *difference.value * words.scale;
    const int decimals = shownDecimals(quality, difference);
    if (match::isRatio(quality)) {
        text.value = "×" + base::fixed(value, decimals);
    } else if (quality == Quality::DeltaE) {
        text.value = base::fixed(value, decimals);
    } else {
        text.value = base::signedFixed(value, decimals);
    }
    // At least one unit of the last place: a number is never surer than it is written.
    const double least = std::pow(10.0, -words.decimals);
    text.uncertainty =
        base::fixed(std::max(difference.uncertainty * words.scale, least), words.decimals);
    return text;
}

int shownDecimals(Quality quality, const match::Difference& difference) {
    const QualityWords& words = technicalWords(quality);
    if (!difference.value) return words.decimals;
    match::Difference shown = difference;
    const double size = std::abs(*difference.value) * words.scale;
    shown.value = std::copysign(std::stod(base::fixed(size, words.decimals)) / words.scale,
                                *difference.value);
    const bool isSame = match::verdictOf(shown, match::isRatio(quality)) == difference.verdict;
    return difference.verdict == match::Verdict::Unknown || isSame ? words.decimals
                                                                   : words.decimals + 1;
}

std::string qualityTitle(Quality quality) { return technicalWords(quality).title; }

std::string qualityHelp(Quality quality) { return technicalWords(quality).help; }

std::string effectText(const rig::Turn& turn) {
    const auto both = [&](double error, int decimals, const char* unit) {
        // At least one unit of the last place; none where nothing is promised.
        const double least = std::pow(10.0, -decimals);
        return base::signedFixed(turn.before, decimals) + " → " +
               base::signedFixed(turn.after, decimals) +
               (error > 0.0 ? " ± " + base::fixed(std::max(error, least), decimals) : "") + unit;
    };
    if (turn.control == rig::Control::LockExposure ||
        turn.control == rig::Control::LockWhiteBalance)
        return "stays put";
    if (turn.effect == "exposureStops")
        return both(turn.changeUncertainty.exposureStops, 2, " stop");
    if (turn.effect == "whiteBalanceMired")
        return both(turn.changeUncertainty.whiteBalanceMired, 0, " mired");
    if (turn.effect == "tintDuv") return both(turn.changeUncertainty.tintDuv, 4, " Duv");
    if (turn.effect == "blackLevelPercent")
        return both(turn.changeUncertainty.blackPercent, 1, " % black");
    if (turn.effect == "hueDegrees") return both(turn.changeUncertainty.hueDegrees, 1, "°");
    if (turn.effect == "overshootPercent")
        return both(turn.changeUncertainty.overshootPercent, 0, " % overshoot");
    const auto ratios = [&](double share, const char* what) {
        return "×" + base::fixed(turn.before, 2) + " → ×" + base::fixed(turn.after, 2) + " ± " +
               base::fixed(std::max(share * turn.after, 0.01), 2) + what;
    };
    if (turn.effect == "contrastRatio") return ratios(turn.changeUncertainty.contrast, " contrast");
    if (turn.effect == "saturationRatio")
        return ratios(turn.changeUncertainty.saturation, " saturation");
    return "colours nearer";
}

std::string controlTitle(const rig::Turn& turn) {
    switch (turn.control) {
        case rig::Control::LockExposure:
            return "Exposure";
        case rig::Control::LockWhiteBalance:
            return "White balance";
        case rig::Control::Nd:
            return "ND";
        case rig::Control::Aperture:
            return "Aperture";
        case rig::Control::Shutter:
            return "Shutter";
        case rig::Control::Sharpness:
            return "Sharpness";
        case rig::Control::Iso:
            return "ISO";
        case rig::Control::Gain:
            return "Gain";
        case rig::Control::Knob: {
            std::string title = turn.knob;
            if (!title.empty())
                title[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(title[0])));
            return title;
        }
        case rig::Control::Exposure:
            return "Exposure";
        case rig::Control::WhiteBalance:
            return "White balance";
        case rig::Control::Tint:
            return "Tint";
    }
    return {};
}

std::string historyText(const std::vector<jobs::HistoryPoint>& points, match::Quality quality) {
    std::string text;
    int known = 0;
    const match::Difference* last = nullptr;
    std::string unit;
    for (const jobs::HistoryPoint& point : points) {
        const match::Difference& difference = point.qualities[static_cast<std::size_t>(quality)];
        if (!difference.value) continue;
        const CellText cell = cellText(quality, difference);
        text += (text.empty() ? "take " : " → take ") + std::to_string(point.takeNumber) + " " +
                cell.value;
        unit = cell.unit;
        last = &difference;
        ++known;
    }
    if (known < 2) return {};
    if (!unit.empty()) text += " " + unit;
    const double neutral = match::isRatio(quality) ? 1.0 : 0.0;
    if (std::abs(*last->value - neutral) <= 2.0 * last->uncertainty &&
        quality != match::Quality::DeltaE)
        return text + ": no more than can be told, stop here";
    if (last->verdict == match::Verdict::Good) return text + ": below what is seen, stop here";
    return text;
}

}  // namespace rigmatch::words
