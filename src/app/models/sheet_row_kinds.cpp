// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/sheet_row_kinds.h"

#include <QCoreApplication>

#include "app/services/texts.h"
#include "rig/turn.h"

namespace rigmatch::app {

using rig::Camera;
using rig::ControlSheet;
using rig::Settings;

QString words(const char* text) { return QCoreApplication::translate("CameraSheet", text); }

SheetRow group(const char* title) {
    SheetRow row;
    row.kind = SheetRow::Kind::Group;
    row.title = words(title);
    return row;
}

SheetRow fact(const char* key, const char* title) {
    SheetRow row;
    row.kind = SheetRow::Kind::Fact;
    row.key = QString::fromUtf8(key);
    row.title = words(title);
    return row;
}

SheetRow settingCalled(const char* key, const QString& title) {
    SheetRow row;
    row.key = QString::fromUtf8(key);
    row.title = title;
    row.step = title;
    return row;
}
SheetRow setting(const char* key, const char* title) { return settingCalled(key, words(title)); }

QList<SheetChoice> withUnknown(QList<SheetChoice> list) {
    if (list.size() > 1) list << SheetChoice{words("unknown"), QVariant()};
    return list;
}
/// A control with a list of allowed numbers.
SheetRow listed(
    const char* key, const char* title, Number number, Values values, const Words& text) {
    SheetRow row = setting(key, title);
    row.value = [number](const Camera& c) {
        return valueOf(c.settings.*number, (c.settings.*number).value());
    };
    row.text = [number, values, text](const Camera& c) {
        return (c.sheet.*values).empty() ? words("no such control")
                                         : textOf(c.settings.*number, text(c.settings.*number));
    };
    row.choices = [values, text](const Camera& c) {
        QList<SheetChoice> list;
        for (double value : c.sheet.*values) list << SheetChoice{text(value), value};
        return withUnknown(list);
    };
    row.apply = [number, values](Camera& c, const QVariant& value) -> base::Result<void> {
        if (isForgotten(c.settings.*number, value)) return {};
        if (!(c.sheet.*values).empty()) {
            c.settings.*number = rig::nearestAllowed(c.sheet.*values, value.toDouble());
        }
        return {};
    };
    return row;
}

SheetRow flag(const char* key,
              const char* title,
              const char* step,
              Setting<bool> member,
              bool ControlSheet::*exists) {
    SheetRow row = setting(key, title);
    row.step = words(step);
    row.value = [member](const Camera& c) {
        return valueOf(c.settings.*member, (c.settings.*member).value());
    };
    row.text = [member, exists](const Camera& c) {
        if (exists != nullptr && !(c.sheet.*exists)) return words("no such control");
        return textOf(c.settings.*member, c.settings.*member ? words("on") : words("off"));
    };
    row.choices = [exists](const Camera& c) {
        if (exists != nullptr && !(c.sheet.*exists)) return QList<SheetChoice>{};
        return withUnknown({{words("off"), false}, {words("on"), true}});
    };
    row.apply = [member, exists](Camera& c, const QVariant& value) -> base::Result<void> {
        if (isForgotten(c.settings.*member, value)) return {};
        if (exists == nullptr || c.sheet.*exists) c.settings.*member = value.toBool();
        return {};
    };
    return row;
}

namespace {

const rig::Knob* knobOf(const ControlSheet& sheet, rig::KnobKind kind) {
    for (const rig::Knob& knob : sheet.knobs) {
        if (knob.kind == kind) return &knob;
    }
    return nullptr;
}

QString stepText(double value) { return fromCore(rig::valueText(rig::Control::Knob, value)); }

}  // namespace

SheetRow knobRow(rig::KnobKind kind, const char* key, const char* title) {
    SheetRow row = setting(key, title);
    row.isRare = true;
    row.value = [kind](const Camera& c) {
        const rig::Knob* knob = knobOf(c.sheet, kind);
        if (knob == nullptr) return QVariant();
        const auto found = c.settings.knobs.find(knob->name);
        return found == c.settings.knobs.end() ? QVariant() : QVariant(found->second);
    };
    row.text = [kind](const Camera& c) {
        const rig::Knob* knob = knobOf(c.sheet, kind);
        if (knob == nullptr) return words("no such control");
        const auto found = c.settings.knobs.find(knob->name);
        return found == c.settings.knobs.end() ? words("unknown") : stepText(found->second);
    };
    row.choices = [kind](const Camera& c) {
        QList<SheetChoice> list;
        if (const rig::Knob* knob = knobOf(c.sheet, kind)) {
            for (const double value : knob->steps) list << SheetChoice{stepText(value), value};
        }
        return withUnknown(list);
    };
    row.apply = [kind](Camera& c, const QVariant& value) -> base::Result<void> {
        const rig::Knob* knob = knobOf(c.sheet, kind);
        if (knob == nullptr) return {};
        if (value.isValid())
            c.settings.knobs[knob->name] = rig::nearestAllowed(knob->steps, value.toDouble());
        else
            c.settings.knobs.erase(knob->name);
        return {};
    };
    return row;
}

}  // namespace rigmatch::app
