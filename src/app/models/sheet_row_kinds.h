// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/models/camera_sheet_model.h"

namespace rigmatch::app {

/// Words of the sheet in the user's language.
[[nodiscard]] QString words(const char* text);

// Rows by their kind.
[[nodiscard]] SheetRow group(const char* title);
[[nodiscard]] SheetRow fact(const char* key, const char* title);
/// A setting whose functions are still to be given.
[[nodiscard]] SheetRow setting(const char* key, const char* title);
/// The same under a title that is in the user's language already.
[[nodiscard]] SheetRow settingCalled(const char* key, const QString& title);

template <class T>
using Setting = base::Told<T> rig::Settings::*;
using Number = Setting<double>;
using Values = std::vector<double> rig::ControlSheet::*;
using Words = std::function<QString(double)>;

/// A setting that nobody told: an empty value, and these words.
template <class T>
QVariant valueOf(const base::Told<T>& setting, const QVariant& value) {
    return setting.isTold() ? value : QVariant();
}
template <class T>
QString textOf(const base::Told<T>& setting, const QString& text) {
    return setting.isTold() ? text : words("unknown");
}
/// With the choice that nobody knows.
[[nodiscard]] QList<SheetChoice> withUnknown(QList<SheetChoice> list);
/// Forgets the setting where no value is given; true where that was it.
template <class T>
bool isForgotten(base::Told<T>& setting, const QVariant& value) {
    if (!value.isValid()) setting.forget();
    return !value.isValid();
}

/// A control with a list of allowed numbers.
[[nodiscard]] SheetRow listed(
    const char* key, const char* title, Number number, Values values, const Words& text);
/// One that is on or off, where the body has it.
[[nodiscard]] SheetRow flag(const char* key,
                            const char* title,
                            const char* step,
                            Setting<bool> member,
                            bool rig::ControlSheet::*exists = nullptr);
/// The first knob of that kind on a camera's sheet, whatever it is called there.
[[nodiscard]] SheetRow knobRow(rig::KnobKind kind, const char* key, const char* title);

}  // namespace rigmatch::app
