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
    parts << (s.isAutoExposure ? QCoreApplication::translate("Settings", "automatic exposure")
                               : plain(rig::valueText(rig::Control::Iso, s.isoValue)));
    parts << plain(rig::valueText(rig::Control::Aperture, s.fNumber))
          << plain(optics::shutterText(s.shutterSeconds));
    if (s.ndStops > 0.0) parts << plain(rig::valueText(rig::Control::Nd, s.ndStops));
    return parts.join(dot());
}

QString colourText(const rig::Settings& s) {
    const QString balance =
        s.isAutoWhiteBalance
            ? QCoreApplication::translate("Settings", "automatic white balance")
            : plain(rig::valueText(rig::Control::WhiteBalance, s.whiteBalanceKelvin));
    return QStringList{balance,
                       QCoreApplication::translate("Settings", "tint %1")
                           .arg(plain(rig::valueText(rig::Control::Tint, s.tintSteps))),
                       plain(s.profile)}
        .join(dot());
}

}  // namespace rigmatch::app
