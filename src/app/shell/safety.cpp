// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/safety.h"

#include <QCoreApplication>

namespace rigmatch::app {

QString safetyText() {
    return QCoreApplication::translate(
        "Safety",
        "• Hot lamps burn and start fires: let them cool, keep gels, cloth and paper at the rated "
        "distance.\n"
        "• Everything overhead gets a rated primary fixing and a separate safety bond; nobody "
        "stands below while rigging.\n"
        "• Stands: widest base, tall leg toward the load, weight low; none on risers or edges.\n"
        "• Mains: stay within the circuit's continuous load, no damaged cables, nothing near "
        "water.\n"
        "• Cables: along walls, taped flat at crossings, exits free.\n"
        "• Do not look into lamps; ask before light or a reflector goes into anyone's eyes.\n"
        "• Flashing light can trigger seizures: three flashes a second or fewer, and warn the "
        "people on the set.\n\n"
        "These cautions do not replace local codes, the makers' manuals, or licensed electricians "
        "and riggers.");
}

}  // namespace rigmatch::app
