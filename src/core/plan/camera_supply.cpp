// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/camera_supply.h"

#include <cmath>

#include "optics/supply.h"
#include "plan/camera_sheet.h"

namespace rigmatch::plan {

using base::Number;
using base::say;
using rig::Camera;
using rig::Rig;

namespace {

base::Text minutesText(double minutes) {
    const long whole = std::lround(minutes);
    if (whole < 100) return say("common.minutes", {{"minutes", base::whole(whole)}});
    const long hours = whole / 60, rest = whole % 60;
    return say("common.hoursMinutes",
               {{"hours", base::whole(hours)}, {"minutes", base::whole(rest)}});
}

}  // namespace

std::vector<Fact> storageFacts(const Rig& rig, const Camera& camera) {
    const rig::Equipment& equipment = camera.equipment;
    const double rate = camera.settings.bitRateMbps;
    const double minutes = optics::cardMinutes(equipment.cardGigabytes, rate);
    Fact card{"cardTime", say("cardTime.recordingTimePer"), minutesText(minutes)};
    card.number = minutes;
    card.unit = "min";
    card.why = say("cardTime.gbMbS",
                   {{"cardGigabytes", Number{equipment.cardGigabytes}},
                    {"rate", Number{rate}},
                    {"perHour", Number{0.45 * rate, 1}}});
    if (!optics::isCardFastEnough(equipment.cardMegabytesPerSecond, rate)) {
        card.verdict = base::Verdict::Off;
        card.why += say("cardTime.cardWritesMb",
                        {{"cardMegabytesPerSecond", Number{equipment.cardMegabytesPerSecond}},
                         {"rate", Number{rate / 4.0}}});
        card.change = say("cardTime.takeFasterCard");
    }
    if (equipment.longestTakeMinutes > 0.0) {
        card.why += say("cardTime.bodyStopsAfter",
                        {{"longestTakeMinutes", Number{equipment.longestTakeMinutes}}});
        if (equipment.longestTakeMinutes < minutes && equipment.longestTakeMinutes < 60.0) {
            card.verdict = std::max(card.verdict, base::Verdict::Near);
            if (card.change.empty()) card.change = say("cardTime.restartPausesBefore");
        }
    }
    const double gigabytes = optics::gigabytesFor(rate, rig.choices.dayMinutes);
    const int cards = optics::cardsNeeded(equipment.cardGigabytes, rate, rig.choices.dayMinutes);
    Fact day{"day",
             say("day.daysRecording"),
             say("day.gb",
                 {{"gigabytes", Number{gigabytes}},
                  {"cards", base::whole(cards)},
                  {"word", cards == 1 ? say("day.card") : say("day.cards")}})};
    day.number = gigabytes;
    day.unit = "GB";
    day.why =
        say("day.minCopyingOnce",
            {{"dayMinutes", Number{rig.choices.dayMinutes}},
             {"copyMegabytesPerSecond", Number{rig.choices.copyMegabytesPerSecond}},
             {"copyTime",
              minutesText(optics::copyMinutes(gigabytes, rig.choices.copyMegabytesPerSecond))},
             {"copies", Number{rig.choices.copies}}});
    if (cards > 1) {
        day.verdict = base::Verdict::Near;
        day.change =
            say("day.changeCardPause", {{"gigabytes", Number{std::ceil(gigabytes / 0.95)}}});
    }
    return {card, day};
}

Fact powerFact(const Rig& rig, const Camera& camera) {
    const rig::Equipment& equipment = camera.equipment;
    const double hours =
        equipment.batteryWattHours > 0.0
            ? optics::batteryHours(equipment.batteryWattHours, equipment.powerWatts)
            : 0.0;
    Fact fact{"power", say("power.power")};
    fact.number = equipment.powerWatts;
    fact.unit = "W";
    fact.value = say(
        "power.w",
        {{"powerWatts", Number{equipment.powerWatts, 1}}, {"powerSource", equipment.powerSource}});
    fact.why = equipment.batteryWattHours > 0.0
                   ? say("power.batteryWhLasts",
                         {{"batteryWattHours", Number{equipment.batteryWattHours}},
                          {"hours", minutesText(60.0 * hours)}})
                   : say("power.noBatteryStops");
    if (equipment.powerSource == "battery" && 60.0 * hours < rig.choices.dayMinutes) {
        const double count = equipment.batteryWattHours > 0.0
                                 ? std::ceil(rig.choices.dayMinutes / (60.0 * hours))
                                 : 0.0;
        fact.verdict = base::Verdict::Near;
        fact.change = count > 0.0 ? say("power.chargeBatteriesRun", {{"count", Number{count}}})
                                  : say("power.runMains");
    }
    if (equipment.hasSharedPort && equipment.isFeedNeeded &&
        equipment.powerSource == "power over the data port") {
        fact.verdict = base::Verdict::Off;
        fact.why += say("power.powerDataShare");
        fact.change = say("power.useDummyBattery");
    }
    return fact;
}

Fact soundFact(const Rig& rig, const Camera& camera) {
    Fact fact{"sound", say("sound.sound"), base::asIs(camera.settings.soundInput)};
    const bool isApart = rig.choices.sound == "apart";
    const bool isOff = camera.settings.soundInput == "off";
    fact.why = isApart ? say("sound.masterRecordedApart") : say("sound.masterGoesInto");
    if (isOff) {
        fact.verdict = base::Verdict::Off;
        fact.change = say("sound.switchMicrophoneWithout");
    } else if (!isApart && camera.settings.isAutoSoundLevel) {
        fact.verdict = base::Verdict::Near;
        fact.change = say("sound.setLevelHand");
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
