// SPDX-License-Identifier: GPL-3.0-or-later
#include "words/try_text.h"

#include <algorithm>

#include "base/format.h"
#include "optics/exposure.h"
#include "words/match_text.h"

namespace rigmatch::words {
namespace {

using rig::Control;

}  // namespace

std::string tryTitle(const jobs::TryControl& control) {
    rig::Turn turn;
    turn.control = control.control;
    turn.knob = control.knob;
    return controlTitle(turn);
}

std::string tryText(const jobs::TryControl& control, std::size_t index) {
    const double value = control.values[std::min(index, control.values.size() - 1)];
    if (!control.isAmount) return inEnglish(rig::valueText(control.control, value));
    if (index == control.shot) return "as shot";
    switch (control.control) {
        case Control::Exposure:
            return inEnglish(optics::thirdsText(base::Stops(value)));
        case Control::WhiteBalance:
            return base::signedFixed(value, 0) + " mired";
        default:
            return base::signedFixed(value, 4) + " Duv";
    }
}

}  // namespace rigmatch::words
