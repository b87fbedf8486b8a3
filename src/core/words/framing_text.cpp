// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/framing_text.h"
#include "words/english.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "jobs/frame_job.h"
#include "rig/framing_goals.h"
#include "words/frame_text.h"

namespace rigmatch::words {
namespace {

using base::Finding;
using base::fixed;
using base::signedFixed;

std::string percent(double share, int decimals = 0) {
    return fixed(100.0 * share, decimals) + " %";
}

/// "of the person on the left " where a picture holds more than one.
std::string whose(const Finding& finding, const rig::Take& take) {
    const rig::Shot* shot = rig::findShot(take, finding.subject);
    if (finding.person < 0 || shot == nullptr || !shot->reading || !shot->reading->framing)
        return "";
    const std::size_t count = shot->reading->framing->people.size();
    if (count < 2) return "";
    if (count == 2) return finding.person == 0 ? "left: " : "right: ";
    return "person " + std::to_string(finding.person + 1) + ": ";
}

std::string movedHeadline(const Finding& finding, const rig::Rig& rig) {
    const rig::Camera* camera = rig::findCamera(rig, finding.subject);
    std::string since = "the framing was saved";
    if (camera != nullptr && camera->savedFraming)
        since = camera->savedFraming->savedAt.substr(0, 10);
    if (!finding.value) return "not told whether it moved";
    if (finding.verdict == base::Verdict::Good) return "stands as saved";
    return "moved since " + since + ": " + fixed(*finding.value, *finding.value < 10.0 ? 1 : 0) +
           " px";
}

/// What stands around the people; empty for all else.
std::string surroundingsHeadline(const Finding& finding) {
    const double value = finding.value.value_or(0.0);
    const std::string& what = finding.quantity;
    const bool isGood = finding.verdict == base::Verdict::Good;
    if (what == "spotOverHead") return "a bright thing stands over the head";
    if (what == "spotAtLeft") return "a bright spot at the left edge";
    if (what == "spotAtRight") return "a bright spot at the right edge";
    if (what == "spotAtTop") return "a bright spot at the upper edge";
    if (what == "spotAtBottom") return "a bright spot at the lower edge";
    if (what == "lineOverHead") return "a line runs down into the head";
    if (what == "focusHunts") {
        if (isGood) return "focus keeps still";
        if (finding.advice.arguments.contains("stayed")) return "focus moved during the take";
        return value < 1.5 ? "focus hunted once" : "focus hunted " + fixed(value, 0) + " times";
    }
    if (what == "keyEvenness")
        return isGood ? "key screen lit evenly"
                      : "key screen uneven by " + fixed(value, 1) + " stops";
    if (what == "keyLevel") {
        if (isGood) return "key screen at " + percent(value);
        return std::string("key screen too ") + (value < finding.low ? "dark: " : "bright: ") +
               percent(value);
    }
    if (what == "keySaturation")
        return isGood ? "key screen's colour is clean" : "key screen's colour is pale";
    if (what == "veil" || what == "veilSince") {
        const std::string than =
            what == "veil" ? "over the other cameras'" : "over the last take's";
        if (isGood) return value > finding.high ? "a veil is not sure" : "no veil seen";
        return "its darkest stands " + percent(value) + " " + than;
    }
    if (what == "keySpill")
        return isGood ? "no spill of the key screen" : "the key screen colours the person's edge";
    return "";
}

std::string headlineOf(const Finding& finding, const rig::Rig& rig) {
    if (auto text = surroundingsHeadline(finding); !text.empty()) return text;
    const double value = finding.value.value_or(0.0);
    const std::string other = rig::letterOf(rig, finding.other);
    const std::string& what = finding.quantity;
    if (what == "cut") {
        if (finding.verdict == base::Verdict::Good) return "nothing is cut";
        return value < 0.02 ? "the edge cuts the head" : "the edge runs through chin or neck";
    }
    if (what == "headroom") return "headroom " + percent(value);
    if (what == "eyeLine") return "eyes at " + percent(value) + " of the height";
    if (what == "across") {
        const double away = value - 0.5 * (finding.low + finding.high);
        return percent(std::abs(away)) + (away > 0.0 ? " right" : " left") + " of its place";
    }
    if (what == "lookRoom") return "look room " + fixed(value, 1) + " : 1";
    if (what == "punchIn")
        return percent(value) + " headroom at × " + fixed(rig.choices.largestZoom, 2);
    if (what == "smallFace") return "a smaller face, not judged";
    if (what == "roll")
        return finding.verdict == base::Verdict::Good
                   ? "level to " + fixed(std::max(std::abs(value), 0.1), 1) + "°"
                   : "rolled " + fixed(std::abs(value), 1) + "°";
    if (what == "focusBefore") return "the focus lies before the eyes";
    if (what == "looksMeet")
        return finding.verdict == base::Verdict::Good ? "looks meet " + other + "'s"
                                                      : "looks the same way as " + other + "'s";
    if (what == "lookFlips")
        return finding.verdict == base::Verdict::Good
                   ? "looks the same way as in " + other
                   : "looks one way here, the other way in " + other;
    if (what == "looksAlike") return "faces as " + other + "'s does";
    if (what == "anglesAlike") return fixed(value, 0) + "° apart from " + other;
    if (what == "focus")
        return finding.verdict == base::Verdict::Good ? "eyes as sharp as the rest"
                                                      : "the eyes are not the sharpest";
    if (what == "moved") return movedHeadline(finding, rig);
    if (what == "pairLevel") return percent(std::abs(value)) + " between the two pairs of eyes";
    if (what == "pairSpacing")
        return "the two stand " + percent(std::abs(value - 0.5)) +
               (value > 0.5 ? " right" : " left") + " of the middle";
    if (what == "headSize")
        return "head " + percent(std::abs(value - 1.0)) + (value > 1.0 ? " larger" : " smaller") +
               " than " + other + "'s";
    if (what == "eyesAlike")
        return "eyes " + percent(std::abs(value)) + (value > 0.0 ? " lower" : " higher") +
               " than " + other + "'s";
    return "stands " + percent(std::abs(value)) + " off " + other + "'s mirror";
}

std::string numbersOf(const Finding& finding) {
    if (!finding.value) return inEnglish(finding.reason);
    const double value = *finding.value, doubt = finding.uncertainty;
    if (finding.quantity.starts_with("spot"))
        return fixed(100.0 * value, 2) + " % of the picture's area";
    if (finding.quantity == "lineOverHead") return "as far as the picture tells";
    if (finding.quantity == "focusHunts") {
        const auto& arguments = finding.advice.arguments;
        if (!arguments.contains("seconds")) return "watched five times a second";
        std::string text = "first at " + fixed(arguments.at("seconds"), 1) + " s";
        if (arguments.contains("breathing"))
            text += ", the picture's size changes by " +
                    fixed(100.0 * std::abs(arguments.at("breathing")), 1) + " %";
        return text;
    }
    if (finding.unit == "stops")
        return fixed(value, 2) + " ± " + fixed(std::max(doubt, 0.01), 2) + " stops, good to " +
               fixed(finding.high, 2);
    if (finding.unit == "px")
        return fixed(value, 1) + " ± " + fixed(std::max(doubt, 0.1), 1) + " px";
    if (finding.quantity == "anglesAlike")
        return fixed(value, 0) + " ± " + fixed(doubt, 0) + "°, good from " + fixed(finding.low, 0) +
               "°";
    if (finding.unit == "degrees")
        return signedFixed(value, 2) + " ± " + fixed(std::max(doubt, 0.01), 2) + "°, good to " +
               fixed(finding.high, 1) + "°";
    if (finding.quantity == "smallFace")
        return percent(value) + " as high as the largest: " + inEnglish(finding.reason);
    if (finding.unit == "ratio")
        return "× " + fixed(value, 2) + " ± " + fixed(std::max(doubt, 0.01), 2) + ", wanted " +
               fixed(finding.low, 2) + " to " + fixed(finding.high, 2);
    if (finding.unit == "turn")
        return "faces turned " + fixed(value, 0) + " ± " + fixed(doubt, 0) + "° apart";
    if (finding.quantity.starts_with("veil"))
        return signedFixed(100.0 * value, 1) + " ± " + fixed(std::max(100.0 * doubt, 0.1), 1) +
               " % of signal, good to " + percent(finding.high);
    const bool isDifference = finding.low < 0.0;
    const std::string mean = isDifference ? signedFixed(100.0 * value, 1) : fixed(100.0 * value, 1);
    std::string text = mean + " ± " + fixed(std::max(100.0 * doubt, 0.1), 1) + " %";
    if (finding.quantity == "cut") return text + " below the chin";
    if (isDifference) return text + ", good to ± " + percent(finding.high);
    return text + ", wanted " + fixed(100.0 * finding.low, 0) + " to " + percent(finding.high);
}

/// Numbers of an advice as they stand in words.
class Words {
public:
    Words(const base::Advice& advice, bool isInFeet) : m_advice(advice), m_isInFeet(isInFeet) {}

    [[nodiscard]] bool has(const char* name) const { return m_advice.arguments.contains(name); }
    [[nodiscard]] double of(const char* name) const {
        const auto found = m_advice.arguments.find(name);
        return found == m_advice.arguments.end() ? 0.0 : found->second;
    }
    [[nodiscard]] std::string length() const {
        constexpr double kInch = 2.54;
        const double centimetres = of("centimetres");
        if (m_isInFeet) return fixed(std::max(centimetres / kInch, 0.5), 1) + " in";
        return fixed(std::max(centimetres, 1.0), 0) + " cm";
    }
    /// "Tilt up 1.2°, or raise the camera 6 cm"; in shares where the lens is not told.
    [[nodiscard]] std::string turn(const std::string& how,
                                   const std::string& way,
                                   const std::string& side,
                                   bool isWayHandy) const {
        if (!has("degrees")) return how + " by " + percent(of("share")) + " of the " + side;
        std::string text = how + " " + fixed(std::max(of("degrees"), 0.1), 1) + "°";
        if (has("centimetres") && isWayHandy) text += ", or " + way + " " + length();
        return text;
    }

private:
    const base::Advice& m_advice;
    bool m_isInFeet;
};

std::string resizeText(const Words& words, bool isNearer) {
    std::string text =
        (isNearer ? "Make it " + fixed(words.of("percent"), 0) + " % larger: step nearer"
                  : "Make it " + fixed(words.of("percent"), 0) + " % smaller: step back");
    if (words.has("centimetres"))
        text = std::string(isNearer ? "Step nearer " : "Step back ") + words.length();
    if (words.has("focalTo") && !words.has("isPrime"))
        text += ", or zoom " + fixed(words.of("focalFrom"), 0) + " → " +
                fixed(words.of("focalTo"), 0) + " mm";
    return text;
}

/// What to do about what stands around; empty for all else.
std::string surroundingsTurn(const Finding& finding) {
    const std::string& code = finding.advice.code;
    if (code == "hideSpot")
        return "Move the frame or the thing, or dim it, unless it is meant to show";
    if (code == "moveOffSpot" || code == "moveOffLine")
        return "Move the camera or the seat a hand's width sideways, so that it stands clear of "
               "the head";
    if (code == "wipeLens")
        return "Look into the lens: wipe it, flag the lamp that shines into it; if nothing dark is "
               "in its picture, this is no fault";
    if (code == "lockFocus")
        return "Focus by hand on the eyes, or set the automatic to one face and slow";
    if (code == "evenScreen")
        return "Light the screen from both sides with soft lamps of its own, each as far from it "
               "as it is wide";
    if (code == "brightenScreen") return "Give the screen more light of its own";
    if (code == "dimScreen") return "Take light off the screen: a bright one spills on people";
    if (code == "cleanScreen")
        return "Keep the key and fill off the screen: other light makes its colour pale";
    if (code == "awayFromScreen")
        return "Seat the person further from the screen, 2 m and more, or dim it";
    return "";
}

std::string turnOf(const Finding& finding, const rig::Rig& rig, const rig::Take& take) {
    const Words words(finding.advice, rig.plan && rig.plan->isInFeet);
    const std::string& code = finding.advice.code;
    if (auto text = surroundingsTurn(finding); !text.empty()) return text;
    // Moving the tripod by a hand or two is handy, more changes the perspective.
    const bool isHandy = words.of("centimetres") <= 40.0;
    if (code == "tiltUp") return words.turn("Tilt up", "raise the camera", "height", isHandy);
    if (code == "tiltDown") return words.turn("Tilt down", "lower the camera", "height", isHandy);
    if (code == "panLeft") return words.turn("Pan left", "", "width", false);
    if (code == "panRight") return words.turn("Pan right", "", "width", false);
    if (code == "stepNearer" || code == "stepBack") return resizeText(words, code == "stepNearer");
    if (code == "rollClockwise" || code == "rollAnticlockwise")
        return "Level it: turn the head " + fixed(std::max(words.of("degrees"), 0.1), 1) + "° " +
               (code == "rollClockwise" ? "clockwise" : "anticlockwise") + ", seen from behind";
    if (code == "focusFurther")
        return words.has("centimetres") ? "Focus " + words.length() + " further, on the eyes"
                                        : std::string("Focus further, on the eyes");
    if (code == "otherSide")
        return "Of two in talk: move one camera beside the other's shoulder, so that one looks "
               "left "
               "and one right. Of one person: 30° apart, or a third larger";
    if (code == "oneSide") return "Bring both cameras to one side of where the person looks";
    if (code == "widenAngle")
        return "Set the two 30° apart or more, or make one a third larger: a cut would jump";
    if (code == "focusNearer")
        return words.has("centimetres") ? "Focus " + words.length() + " nearer, on the eyes"
                                        : std::string("Focus nearer, on the eyes");
    if (code == "raiseSeat")
        return std::string("Raise the seat of who sits ") +
               (words.of("person") > 0.5 ? "right" : "left") + ", or lower the other";
    if (code == "putBack") {
        const rig::Shot* shot = rig::findShot(take, finding.subject);
        const rig::Camera* camera = rig::findCamera(rig, finding.subject);
        if (shot == nullptr || !shot->reading || !shot->reading->framing ||
            !shot->reading->framing->drift || camera == nullptr)
            return "";
        std::string text =
            driftText(*shot->reading->framing->drift, jobs::lensOf(*camera), shot->reading->width);
        if (!text.empty()) text[0] = static_cast<char>(std::toupper(text[0]));
        return text;
    }
    return "";
}

}  // namespace

FramingWords framingWords(const Finding& finding, const rig::Rig& rig, const rig::Take& take) {
    return {whose(finding, take) + headlineOf(finding, rig),
            turnOf(finding, rig, take),
            numbersOf(finding)};
}

std::string cropText(const jobs::CropWindow& crop) {
    std::string text = crop.name + ": " + std::to_string(crop.widthPx) + " × " +
                       std::to_string(crop.heightPx) + " px";
    text += ", headroom " + base::fixed(100.0 * crop.headroom, 0) + " %";
    if (crop.headroom < rig::kLeastHeadroom) text += " (looks cut)";
    if (!crop.holdsPerson) text += ", the person sways out of it";
    if (crop.isUpscaled) text += ", to be enlarged";
    return text;
}

std::string cropTrackText(const jobs::CropTrack& track) {
    std::string text = track.shape + " window of " + std::to_string(track.width) + " × " +
                       std::to_string(track.height) + " px at " +
                       std::to_string(track.moments.size()) + " moments; the eyes stay within " +
                       fixed(std::max(1.0, track.farthestPx), 0) + " px of its middle";
    if (track.seenShare < 0.995)
        text += "; in " + fixed(100.0 * (1.0 - track.seenShare), 0) +
                " % of them no face was found, and it goes on in between";
    return text + ".";
}

}  // namespace rigmatch::words
