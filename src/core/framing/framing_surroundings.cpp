// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/framing_surroundings.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "image/robust.h"

namespace rigmatch::framing {
namespace {

using base::Finding;

/// A bright thing at the edge or over a head; how much of the picture's area it takes.
Finding spotFinding(const FramedCamera& camera, const rig::BrightSpot& spot) {
    std::string quantity = "spotOverHead";
    if (spot.where != "head") {
        quantity = "spotAt" + spot.where;
        quantity[6] = static_cast<char>(std::toupper(quantity[6]));
    }
    Finding finding = pictureFinding(quantity, camera, spot.width * spot.height, 0.0, "share");
    // It may be meant: the picture cannot tell.
    finding.verdict = base::Verdict::Near;
    finding.advice = {spot.where == "head" ? "moveOffSpot" : "hideSpot", {}};
    return finding;
}

Finding lineFinding(const FramedCamera& camera, int person) {
    Finding finding = pictureFinding("lineOverHead", camera, 1.0, 0.0, "count");
    finding.person = person;
    finding.verdict = base::Verdict::Near;
    finding.advice = {"moveOffLine", {}};
    return finding;
}

std::optional<Finding> huntFinding(const FramedCamera& camera) {
    const auto& focus = camera.reading->focusOverTime;
    if (!focus) return std::nullopt;
    Finding finding = pictureFinding(
        "focusHunts", camera, static_cast<double>(focus->hunts.size()), 0.0, "count");
    finding.nearBy = 2.0;
    base::judge(finding);
    if (finding.verdict != base::Verdict::Good) {
        finding.advice = {"lockFocus", {{"seconds", focus->hunts.front().startSeconds}}};
        if (focus->breathing) finding.advice.arguments["breathing"] = *focus->breathing;
        if (focus->hunts.front().hasStayed) finding.advice.arguments["stayed"] = 1.0;
    }
    return finding;
}

/// What an earlier version measured has no uncertainty of its own.
double doubtOr(double told, double usual) { return told > 0.0 ? told : usual; }

/// How far the darkest is lifted, of signal; good to `high`.
Finding veilFinding(const std::string& quantity,
                    const FramedCamera& camera,
                    const rig::Doubted& than,
                    double high) {
    const rig::Doubted& own = *camera.reading->darkest;
    Finding finding = pictureFinding(quantity,
                                     camera,
                                     own.value - than.value,
                                     std::hypot(own.uncertainty, than.uncertainty),
                                     "share");
    finding.low = -1.0;
    finding.high = high;
    finding.nearBy = high;
    base::judge(finding);
    if (!isSure(finding, high)) finding.verdict = base::Verdict::Good;
    if (finding.verdict != base::Verdict::Good) finding.advice = {"wipeLens", {}};
    return finding;
}

/// A key screen: even to a third of a stop, near to two thirds; neither dim nor glaring; its colour
/// kept off the person (sources 14.8).
void addKeyScreen(const FramedCamera& camera, std::vector<Finding>& findings) {
    const rig::KeyScreen& screen = *camera.reading->keyScreen;
    Finding even = pictureFinding("keyEvenness",
                                  camera,
                                  screen.evennessStops.value,
                                  screen.evennessStops.uncertainty,
                                  "stops");
    even.high = 0.33;
    even.nearBy = 0.34;
    base::judge(even);
    if (isSure(even, even.high)) even.advice = {"evenScreen", {}};
    findings.push_back(even);
    Finding level =
        pictureFinding("keyLevel", camera, screen.level, doubtOr(screen.levelDoubt, 0.01), "share");
    level.low = 0.35;
    level.high = 0.65;
    level.nearBy = 0.12;
    base::judge(level);
    if (isSure(level, std::clamp(screen.level, level.low, level.high)))
        level.advice = {screen.level < level.low ? "brightenScreen" : "dimScreen", {}};
    findings.push_back(level);
    Finding saturation = pictureFinding(
        "keySaturation", camera, screen.saturation, doubtOr(screen.saturationDoubt, 0.02), "share");
    saturation.low = 0.35;
    saturation.high = 1.0;
    saturation.nearBy = 0.1;
    base::judge(saturation);
    if (isSure(saturation, saturation.low)) saturation.advice = {"cleanScreen", {}};
    findings.push_back(saturation);
    Finding spill = pictureFinding(
        "keySpill", camera, screen.spillShare, doubtOr(screen.spillDoubt, 0.03), "share");
    spill.high = 0.12;
    spill.nearBy = 0.13;
    base::judge(spill);
    if (isSure(spill, spill.high)) spill.advice = {"awayFromScreen", {}};
    findings.push_back(spill);
}

}  // namespace

Finding pictureFinding(const std::string& quantity,
                       const FramedCamera& camera,
                       double value,
                       double uncertainty,
                       const std::string& unit) {
    Finding finding;
    finding.quantity = quantity;
    finding.subject = camera.id;
    finding.value = value;
    finding.uncertainty = uncertainty;
    finding.unit = unit;
    return finding;
}

bool isSure(const Finding& finding, double goal) {
    return finding.verdict != base::Verdict::Good &&
           std::abs(*finding.value - goal) > 2.0 * finding.uncertainty;
}

void addSurroundings(const FramedCamera& camera, std::vector<Finding>& findings) {
    const rig::FramingReading& reading = *camera.reading;
    for (std::size_t i = 0; i < reading.people.size(); ++i) {
        if (reading.people[i].hasLineOver)
            findings.push_back(lineFinding(camera, static_cast<int>(i)));
    }
    // The largest of a place stands for all there.
    std::vector<std::string> told;
    for (const rig::BrightSpot& spot : reading.brightSpots) {
        if (std::find(told.begin(), told.end(), spot.where) != told.end()) continue;
        told.push_back(spot.where);
        findings.push_back(spotFinding(camera, spot));
    }
    if (const auto hunts = huntFinding(camera)) findings.push_back(*hunts);
    if (reading.keyScreen) addKeyScreen(camera, findings);
}

void addVeils(const std::vector<FramedCamera>& cameras, std::vector<Finding>& findings) {
    constexpr double kLeastVeilSince = 0.02, kLeastVeilApart = 0.06;  // of signal (own choice)
    for (const FramedCamera& camera : cameras) {
        if (camera.reading == nullptr || !camera.reading->darkest) continue;
        if (camera.darkestBefore)
            findings.push_back(
                veilFinding("veilSince", camera, *camera.darkestBefore, kLeastVeilSince));
        std::vector<double> others;
        for (const FramedCamera& other : cameras) {
            if (&other == &camera || other.reading == nullptr || !other.reading->darkest ||
                camera.profile.empty() || other.profile != camera.profile)
                continue;
            others.push_back(other.reading->darkest->value);
        }
        if (others.size() < 2) continue;
        Finding finding = veilFinding(
            "veil", camera, {image::median(others), 0.5 * kLeastVeilSince}, kLeastVeilApart);
        // Other cameras see other things: it is never more than worth a look.
        if (finding.verdict == base::Verdict::Off) finding.verdict = base::Verdict::Near;
        findings.push_back(finding);
    }
}

}  // namespace rigmatch::framing
