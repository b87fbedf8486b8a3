// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_supply.h"

#include <cmath>

#include "base/format.h"
#include "optics/supply.h"
#include "plan/camera_sheet.h"

namespace rigmatch::plan {

using base::fixed;
using rig::Camera;
using rig::Rig;

namespace {

std::string minutesText(double minutes) {
    const long whole = std::lround(minutes);
    if (whole < 100) return std::to_string(whole) + " min";
    return std::to_string(whole / 60) + " h " + std::to_string(whole % 60) + " min";
}

}  // namespace

std::vector<Fact> storageFacts(const Rig& rig, const Camera& camera) {
    const rig::Equipment& equipment = camera.equipment;
    const double rate = camera.settings.bitRateMbps;
    const double minutes = optics::cardMinutes(equipment.cardGigabytes, rate);
    Fact card{"cardTime", "Recording time per card", minutesText(minutes)};
    card.number = minutes;
    card.unit = "min";
    card.why = fixed(equipment.cardGigabytes, 0) + " GB at " + fixed(rate, 0) +
               " Mb/s, 5 % kept free; " + fixed(0.45 * rate, 1) + " GB an hour.";
    if (!optics::isCardFastEnough(equipment.cardMegabytesPerSecond, rate)) {
        card.verdict = base::Verdict::Off;
        card.why += " The card writes " + fixed(equipment.cardMegabytesPerSecond, 0) +
                    " MB/s; twice the bit rate is " + fixed(rate / 4.0, 0) + " MB/s.";
        card.change = "Take a faster card or a lower bit rate.";
    }
    if (equipment.longestTakeMinutes > 0.0) {
        card.why += " The body stops after " + fixed(equipment.longestTakeMinutes, 0) + " min.";
        if (equipment.longestTakeMinutes < minutes && equipment.longestTakeMinutes < 60.0) {
            card.verdict = std::max(card.verdict, base::Verdict::Near);
            if (card.change.empty())
                card.change = "Restart it at pauses, before it stops by itself.";
        }
    }
    const double gigabytes = optics::gigabytesFor(rate, rig.choices.dayMinutes);
    const int cards = optics::cardsNeeded(equipment.cardGigabytes, rate, rig.choices.dayMinutes);
    Fact day{
        "day",
        "A day's recording",
        fixed(gigabytes, 0) + " GB, " + std::to_string(cards) + (cards == 1 ? " card" : " cards")};
    day.number = gigabytes;
    day.unit = "GB";
    day.why = fixed(rig.choices.dayMinutes, 0) + " min; copying once at " +
              fixed(rig.choices.copyMegabytesPerSecond, 0) + " MB/s takes " +
              minutesText(optics::copyMinutes(gigabytes, rig.choices.copyMegabytesPerSecond)) +
              ", " + fixed(rig.choices.copies, 0) + " copies are planned.";
    if (cards > 1) {
        day.verdict = base::Verdict::Near;
        day.change = "Change the card at a pause, or take one of " +
                     fixed(std::ceil(gigabytes / 0.95), 0) + " GB.";
    }
    return {card, day};
}

Fact powerFact(const Rig& rig, const Camera& camera) {
    const rig::Equipment& equipment = camera.equipment;
    const double hours =
        equipment.batteryWattHours > 0.0
            ? optics::batteryHours(equipment.batteryWattHours, equipment.powerWatts)
            : 0.0;
    Fact fact{"power", "Power"};
    fact.number = equipment.powerWatts;
    fact.unit = "W";
    fact.value = fixed(equipment.powerWatts, 1) + " W, " + equipment.powerSource;
    fact.why = equipment.batteryWattHours > 0.0
                   ? "A battery of " + fixed(equipment.batteryWattHours, 0) + " Wh lasts " +
                         minutesText(60.0 * hours) + "."
                   : "No battery: it stops when the mains does.";
    if (equipment.powerSource == "battery" && 60.0 * hours < rig.choices.dayMinutes) {
        const double count = equipment.batteryWattHours > 0.0
                                 ? std::ceil(rig.choices.dayMinutes / (60.0 * hours))
                                 : 0.0;
        fact.verdict = base::Verdict::Near;
        fact.change = count > 0.0 ? "Charge " + fixed(count, 0) + " batteries, or run it on mains."
                                  : "Run it on mains.";
    }
    if (equipment.hasSharedPort && equipment.isFeedNeeded &&
        equipment.powerSource == "power over the data port") {
        fact.verdict = base::Verdict::Off;
        fact.why +=
            " Power and data share its one port: it cannot be fed and send its picture at once.";
        fact.change = "Use a dummy battery, or a hub that passes power.";
    }
    return fact;
}

Fact soundFact(const Rig& rig, const Camera& camera) {
    Fact fact{"sound", "Sound", camera.settings.soundInput};
    const bool isApart = rig.choices.sound == "apart";
    const bool isOff = camera.settings.soundInput == "off";
    fact.why =
        isApart ? "The master is recorded apart; every camera needs a guide track to be aligned by."
                : "The master goes into a camera: its level must be manual.";
    if (isOff) {
        fact.verdict = base::Verdict::Off;
        fact.change =
            "Switch a microphone on: without sound the takes cannot be aligned by the clap.";
    } else if (!isApart && camera.settings.isAutoSoundLevel) {
        fact.verdict = base::Verdict::Near;
        fact.change = "Set the level by hand, with a safety track.";
    }
    return fact;
}

DayNeeds dayNeeds(const Rig& rig) {
    DayNeeds needs;
    for (const Camera& camera : rig.cameras) {
        needs.gigabytes +=
            optics::gigabytesFor(camera.settings.bitRateMbps, rig.choices.dayMinutes);
        needs.cards += optics::cardsNeeded(
            camera.equipment.cardGigabytes, camera.settings.bitRateMbps, rig.choices.dayMinutes);
        needs.watts += camera.equipment.powerWatts;
    }
    needs.copyMinutes = rig.choices.copies *
                        optics::copyMinutes(needs.gigabytes, rig.choices.copyMegabytesPerSecond);
    return needs;
}

}  // namespace rigmatch::plan
