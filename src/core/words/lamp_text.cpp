// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/lamp_text.h"

#include <algorithm>

#include "base/text.h"
#include "words/english.h"

namespace rigmatch::words {

using base::Number;
using base::say;

std::string lampTurnText(const plan::LampAdvice& advice) {
    const rig::LampTurn& turn = advice.turn;
    const Number from{turn.from}, to{turn.to};
    switch (turn.control) {
        case rig::LampControl::Dimmer:
            return inEnglish(
                say("lampTurn.dimmer", {{"lamp", advice.name}, {"from", from}, {"to", to}}));
        case rig::LampControl::Kelvin:
            return inEnglish(
                say("lampTurn.kelvin", {{"lamp", advice.name}, {"from", from}, {"to", to}}));
        case rig::LampControl::Film:
            break;
    }
    return inEnglish(say("lampTurn.film", {{"window", advice.name}, {"from", from}, {"to", to}}));
}

std::string lampControlText(rig::LampControl control) {
    switch (control) {
        case rig::LampControl::Dimmer:
            return inEnglish(say("lampControl.dimmer"));
        case rig::LampControl::Kelvin:
            return inEnglish(say("lampControl.kelvin"));
        case rig::LampControl::Film:
            break;
    }
    return inEnglish(say("lampControl.film"));
}

std::string lampValueText(rig::LampControl control, double value) {
    const Number number{value};
    switch (control) {
        case rig::LampControl::Dimmer:
            return inEnglish(say("lampValue.percent", {{"value", number}}));
        case rig::LampControl::Kelvin:
            return inEnglish(say("lampValue.kelvin", {{"value", number}}));
        case rig::LampControl::Film:
            break;
    }
    return inEnglish(say("lampValue.stop", {{"value", number}}));
}

std::string lampEffectText(const plan::LampAdvice& advice) {
    const Number share{100.0 * advice.share};
    if (advice.turn.control == rig::LampControl::Kelvin)
        return inEnglish(say("lampTurn.miredOnChart",
                             {{"mired", Number{advice.mired, 0, true}},
                              {"uncertainty", Number{std::max(advice.uncertainty, 1.0)}},
                              {"share", share}}));
    return inEnglish(say("lampTurn.stopOnChart",
                         {{"stops", Number{advice.stops, 2, true}},
                          {"uncertainty", Number{std::max(advice.uncertainty, 0.01), 2}},
                          {"share", share}}));
}

}  // namespace rigmatch::words
