// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/settings_text.h"

#include "app/services/texts.h"
#include "optics/exposure.h"
#include "rig/turn.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

const QString& dot() {
    static const QString kDot = u" · "_s;
    return kDot;
}

}  // namespace

QString exposureText(const rig::Settings& s) {
    QStringList parts;
    if (s.isAutoExposure) {
        parts << QCoreApplication::translate("Settings", "automatic exposure");
    } else if (s.isoValue.isTold()) {
        parts << fromCore(rig::valueText(rig::Control::Iso, s.isoValue));
    }
    if (s.fNumber.isTold()) parts << fromCore(rig::valueText(rig::Control::Aperture, s.fNumber));
    if (s.shutterSeconds.isTold()) parts << plain(optics::shutterText(s.shutterSeconds));
    if (s.gainDb.isTold()) parts << fromCore(rig::valueText(rig::Control::Gain, s.gainDb));
    if (s.ndStops.isTold() && s.ndStops > 0.0)
        parts << fromCore(rig::valueText(rig::Control::Nd, s.ndStops));
    if (parts.isEmpty()) return QCoreApplication::translate("Settings", "exposure not known");
    return parts.join(dot());
}

QString colourText(const rig::Settings& s) {
    QStringList parts;
    if (s.isAutoWhiteBalance) {
        parts << QCoreApplication::translate("Settings", "automatic white balance");
    } else if (s.whiteBalanceKelvin.isTold()) {
        parts << fromCore(rig::valueText(rig::Control::WhiteBalance, s.whiteBalanceKelvin));
    }
    if (s.tintSteps.isTold()) {
        parts << QCoreApplication::translate("Settings", "tint %1")
                     .arg(fromCore(rig::valueText(rig::Control::Tint, s.tintSteps)));
    }
    if (s.profile.isTold()) parts << plain(s.profile);
    if (parts.isEmpty()) return QCoreApplication::translate("Settings", "colour not known");
    return parts.join(dot());
}

}  // namespace rigmatch::app
