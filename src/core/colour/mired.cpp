// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/mired.h"

#include "base/format.h"

namespace rigmatch::colour {
namespace {

base::Result<base::Kelvin> checked(base::Kelvin kelvin) {
    if (kelvin.value() >= 1000.0 && kelvin.value() <= 100000.0) return kelvin;
    return base::fail(base::ErrorCode::OutOfRange,
                      base::say("mired.colourTemperatureOut"),
                      base::say("mired.givenAllowed", {{"kelvin", base::Number{kelvin.value()}}}),
                      base::say("mired.enterColourTemperature"));
}

}  // namespace

base::Mired miredOf(base::Kelvin kelvin) { return base::Mired(1e6 / kelvin.value()); }

base::Kelvin kelvinOf(base::Mired mired) { return base::Kelvin(1e6 / mired.value()); }

base::Result<base::Mired> miredShift(base::Kelvin from, base::Kelvin to) {
    return checked(from).and_then([&](base::Kelvin) { return checked(to); }).map([&](base::Kelvin) {
        return miredOf(to) - miredOf(from);
    });
}

base::Result<base::Kelvin> dialFor(base::Kelvin dial, base::Mired tooWarm) {
    if (auto from = checked(dial); !from) return from;
    return checked(kelvinOf(miredOf(dial) + tooWarm));
}

}  // namespace rigmatch::colour
