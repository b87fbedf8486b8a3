// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/text_size.h"

#include <QSettings>

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr const char* kScaleVariable = "QT_SCALE_FACTOR";

}  // namespace

int chosenTextSize(const QSettings& settings) {
    const int percent = settings.value(u"view/textSize"_s, 100).toInt();
    return kTextSizes.contains(percent) ? percent : 100;
}

void chooseTextSize(QSettings& settings, int percent) {
    settings.setValue(u"view/textSize"_s, percent);
}

void applyTextSize(const QSettings& settings) {
    const int percent = chosenTextSize(settings);
    if (percent == 100 || qEnvironmentVariableIsSet(kScaleVariable)) return;
    qputenv(kScaleVariable, QByteArray::number(percent / 100.0));
}

}  // namespace rigmatch::app
