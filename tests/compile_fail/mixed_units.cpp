// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/units.h"

using namespace rigmatch::base;

int main() {
    const Kelvin sound = Kelvin(5600.0) + Kelvin(100.0);
#ifdef KELVIN_PLUS_MIRED
    (void)(sound + Mired(10.0));
#endif
#ifdef STOPS_FROM_DOUBLE
    const Stops stops = 1.0;
    (void)stops;
#endif
#ifdef SECONDS_LESS_THAN_STOPS
    (void)(Seconds(1.0) < Stops(2.0));
#endif
    return sound.value() > 0.0 ? 0 : 1;
}
