// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCoreApplication>
#include <algorithm>
#include <cmath>

#include "app/models/sheet_row_kinds.h"
#include "app/services/texts.h"
#include "base/format.h"
#include "optics/exposure.h"
#include "rig/bodies.h"
#include "rig/plan_fields.h"
#include "rig/turn.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using rig::Camera;
using rig::ControlSheet;
using rig::Settings;

SheetRow equipment(std::size_t index) {
    const auto& field = rig::equipmentFields().numbers[index];
    SheetRow row = settingCalled(field.key, fromCore(field.title));
    row.takesTyping = true;
    row.value = [&field](const Camera& c) { return QVariant(c.equipment.*field.value); };
    row.text = [&field](const Camera& c) {
        const double value = c.equipment.*field.value;
        if (value == 0.0) return words("none");
        return QStringLiteral("%1 %2")
            .arg(value, 0, 'f', field.decimals)
            .arg(QString::fromUtf8(field.unit));
    };
    row.apply = [&field](Camera& c, const QVariant& value) -> base::Result<void> {
        if (auto valid = rig::checkField(field, value.toDouble()); !valid) return valid;
        c.equipment.*field.value = value.toDouble();
        return {};
    };
    return row;
}

constexpr int kMostWornStops = 10;  // of ND filters that are sold (from memory)

SheetRow equipmentTruth(std::size_t index) {
    const auto& field = rig::equipmentFields().truths[index];
    SheetRow row = settingCalled(field.key, fromCore(field.title));
    row.value = [&field](const Camera& c) { return QVariant(c.equipment.*field.value); };
    row.text = [&field](const Camera& c) {
        return c.equipment.*field.value ? words("yes") : words("no");
    };
    row.choices = [](const Camera&) {
        return QList<SheetChoice>{{words("no"), false}, {words("yes"), true}};
    };
    row.apply = [&field](Camera& c, const QVariant& value) -> base::Result<void> {
        c.equipment.*field.value = value.toBool();
        return {};
    };
    return row;
}

base::Result<void> checkedNumber(const char* title,
                                 double value,
                                 double lowest,
                                 double highest,
                                 const char* unit,
                                 double& into) {
    if (std::isfinite(value) && value >= lowest && value <= highest) {
        into = value;
        return {};
    }
    return base::fail(base::ErrorCode::OutOfRange,
                      base::say("planChecks.cannotSet", {{"title", title}}),
                      base::say("lens.givenAllowed",
                                {{"given", base::shortest(value)},
                                 {"unit", std::string(" ") + unit},
                                 {"lowest", base::shortest(lowest)},
                                 {"highest", base::shortest(highest)}}),
                      base::say("planChecks.typeValueRange"));
}

SheetRow nameRow() {
    SheetRow row = setting("role", "Name");
    row.takesTyping = true;
    row.value = [](const Camera& c) { return QVariant(plain(c.role)); };
    row.text = [](const Camera& c) { return plain(c.role); };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        c.role = value.toString().trimmed().left(60).toStdString();
        return {};
    };
    return row;
}

SheetRow bodyRow() {
    SheetRow row = setting("body", "Body");
    row.value = [](const Camera& c) { return QVariant(plain(c.body)); };
    row.text = [](const Camera& c) { return fromCore(c.body); };
    row.choices = [](const Camera&) {
        QList<SheetChoice> list;
        for (const rig::BodyKind& kind : rig::bodyKinds())
            list << SheetChoice{fromCore(kind.name), plain(kind.name)};
        return list;
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        for (const rig::BodyKind& kind : rig::bodyKinds()) {
            if (plain(kind.name) == value.toString()) rig::applyBodyKind(c, kind);
        }
        return {};
    };
    return row;
}

SheetRow sensorRow() {
    SheetRow row = setting("sensorWidthMm", "Sensor width, mm");
    row.takesTyping = true;
    row.value = [](const Camera& c) { return QVariant(c.sensorWidthMm); };
    row.text = [](const Camera& c) {
        return QStringLiteral("%1 × %2 mm")
            .arg(c.sensorWidthMm, 0, 'f', 1)
            .arg(c.sensorHeightMm, 0, 'f', 1);
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        const double aspect = c.sensorHeightMm / c.sensorWidthMm;
        auto done =
            checkedNumber("Sensor width", value.toDouble(), 2.0, 100.0, "mm", c.sensorWidthMm);
        c.sensorHeightMm = aspect * c.sensorWidthMm;
        return done;
    };
    return row;
}

SheetRow lensRow() {
    SheetRow row = setting("lens", "Lens");
    row.value = [](const Camera& c) { return QVariant(plain(c.lens.name)); };
    row.text = [](const Camera& c) { return fromCore(c.lens.name); };
    row.choices = [](const Camera&) {
        QList<SheetChoice> list;
        for (const rig::Lens& lens : rig::genericLenses())
            list << SheetChoice{fromCore(lens.name), plain(lens.name)};
        return list;
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        for (const rig::Lens& lens : rig::genericLenses()) {
            if (plain(lens.name) == value.toString()) rig::applyLens(c, lens);
        }
        return {};
    };
    return row;
}

SheetRow focalRow() {
    SheetRow row = setting("focalLength", "Focal length");
    row.takesTyping = true;
    row.value = [](const Camera& c) { return QVariant(c.lens.focalLengthMm); };
    row.text = [](const Camera& c) {
        const QString focal = QStringLiteral("%1 mm").arg(
            c.lens.focalLengthMm, 0, 'f', c.lens.focalLengthMm < 12.0 ? 1 : 0);
        return c.lens.isZoom() ? focal + u" ("_s + words("zoom") + u")"_s : focal;
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        rig::Lens lens = c.lens;
        const double lowest = lens.isZoom() ? lens.shortFocalMm : 1.0;
        const double highest = lens.isZoom() ? lens.longFocalMm : 2000.0;
        if (auto done = checkedNumber(
                "Focal length", value.toDouble(), lowest, highest, "mm", lens.focalLengthMm);
            !done) {
            return done;
        }
        if (!lens.isZoom()) {
            lens.name = QStringLiteral("%1 mm f/%2")
                            .arg(lens.focalLengthMm)
                            .arg(lens.largestAperture)
                            .toStdString();
        }
        rig::applyLens(c, lens);
        return {};
    };
    return row;
}

SheetRow lossRow(const char* key, const char* title, const std::function<double&(Camera&)>& of) {
    SheetRow row = setting(key, title);
    row.takesTyping = true;
    row.value = [of](const Camera& c) {
        Camera copy = c;
        return QVariant(of(copy));
    };
    row.text = [of](const Camera& c) {
        Camera copy = c;
        const double loss = of(copy);
        return loss == 0.0 ? words("none")
                           : QStringLiteral("%1 %2").arg(loss, 0, 'f', 2).arg(words("stop"));
    };
    row.apply = [of, title](Camera& c, const QVariant& value) {
        return checkedNumber(title, value.toDouble(), 0.0, 10.0, "stops", of(c));
    };
    return row;
}

SheetRow profileRow() {
    SheetRow row = setting("profile", "Profile");
    row.value = [](const Camera& c) {
        return valueOf(c.settings.profile, plain(c.settings.profile));
    };
    row.text = [](const Camera& c) {
        return textOf(c.settings.profile, fromCore(c.settings.profile));
    };
    row.choices = [](const Camera& c) {
        QList<SheetChoice> list;
        for (const rig::Profile& profile : c.sheet.profiles)
            list << SheetChoice{fromCore(profile.name), plain(profile.name)};
        return withUnknown(list);
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        if (isForgotten(c.settings.profile, value)) return {};
        if (rig::findProfile(c.sheet, value.toString().toStdString()) != nullptr) {
            c.settings.profile = value.toString().toStdString();
        }
        return {};
    };
    return row;
}

SheetRow sizeRow() {
    SheetRow row = setting("size", "Size");
    row.value = [](const Camera& c) {
        return valueOf(
            c.settings.width,
            QStringLiteral("%1x%2").arg(c.settings.width.value()).arg(c.settings.height.value()));
    };
    row.text = [](const Camera& c) {
        return textOf(
            c.settings.width,
            QStringLiteral("%1 × %2").arg(c.settings.width.value()).arg(c.settings.height.value()));
    };
    row.choices = [](const Camera& c) {
        QList<SheetChoice> list;
        for (const std::string& size : c.sheet.sizes)
            list << SheetChoice{plain(size).replace(u'x', u" × "_s), plain(size)};
        return withUnknown(list);
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        if (isForgotten(c.settings.width, value)) {
            c.settings.height.forget();
            return {};
        }
        const std::string wanted = value.toString().toStdString();
        if (std::find(c.sheet.sizes.begin(), c.sheet.sizes.end(), wanted) == c.sheet.sizes.end())
            return {};
        const QStringList parts = value.toString().split(u'x');
        c.settings.width = parts.value(0).toInt();
        c.settings.height = parts.value(1).toInt();
        return {};
    };
    return row;
}

SheetRow codecRow() {
    SheetRow row = setting("codec", "Codec");
    row.value = [](const Camera& c) { return valueOf(c.settings.codec, plain(c.settings.codec)); };
    row.text = [](const Camera& c) { return textOf(c.settings.codec, fromCore(c.settings.codec)); };
    row.choices = [](const Camera& c) {
        QList<SheetChoice> list;
        for (const rig::RecordingMode& mode : c.sheet.codecs)
            list << SheetChoice{fromCore(mode.name), plain(mode.name)};
        return withUnknown(list);
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        if (isForgotten(c.settings.codec, value)) return {};
        if (rig::findCodec(c.sheet, value.toString().toStdString()) != nullptr)
            c.settings.codec = value.toString().toStdString();
        return {};
    };
    return row;
}

SheetRow soundRow() {
    SheetRow row = setting("soundInput", "Input");
    row.value = [](const Camera& c) {
        return valueOf(c.settings.soundInput, plain(c.settings.soundInput));
    };
    row.text = [](const Camera& c) {
        return textOf(c.settings.soundInput, fromCore(c.settings.soundInput));
    };
    row.choices = [](const Camera& c) {
        QList<SheetChoice> list;
        for (const std::string& input : c.sheet.soundInputs)
            list << SheetChoice{fromCore(input), plain(input)};
        return withUnknown(list);
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        if (isForgotten(c.settings.soundInput, value)) return {};
        const auto& inputs = c.sheet.soundInputs;
        const std::string wanted = value.toString().toStdString();
        if (std::find(inputs.begin(), inputs.end(), wanted) != inputs.end())
            c.settings.soundInput = wanted;
        return {};
    };
    return row;
}

SheetRow sourceRow() {
    const auto& field = rig::equipmentFields().texts.front();
    SheetRow row = settingCalled(field.key, fromCore(field.title));
    row.value = [](const Camera& c) { return QVariant(plain(c.equipment.powerSource)); };
    row.text = [](const Camera& c) { return fromCore(c.equipment.powerSource); };
    row.choices = [&field](const Camera&) {
        QList<SheetChoice> list;
        for (const std::string& source : field.allowed)
            list << SheetChoice{fromCore(source), plain(source)};
        return list;
    };
    row.apply = [](Camera& c, const QVariant& value) -> base::Result<void> {
        c.equipment.powerSource = value.toString().toStdString();
        return {};
    };
    return row;
}

Words controlWords(rig::Control control) {
    return [control](double value) { return fromCore(rig::valueText(control, value)); };
}

SheetRow gainRow() {
    SheetRow row = listed("gain",
                          "Gain",
                          &Settings::gainDb,
                          &ControlSheet::gainsDb,
                          controlWords(rig::Control::Gain));
    row.isRare = true;
    return row;
}

/// Of a body without ND of its own: what it wears before the lens.
SheetRow ndRow() {
    SheetRow row = listed(
        "nd", "ND", &Settings::ndStops, &ControlSheet::ndStops, controlWords(rig::Control::Nd));
    const Words text = controlWords(rig::Control::Nd);
    const auto own = row;
    row.text = [own, text](const Camera& c) {
        return rig::hasOwnNd(c.sheet) ? own.text(c)
                                      : textOf(c.settings.ndStops, text(c.settings.ndStops));
    };
    row.choices = [own, text](const Camera& c) {
        if (rig::hasOwnNd(c.sheet)) return own.choices(c);
        QList<SheetChoice> list;
        for (int stops = 0; stops <= kMostWornStops; ++stops)
            list << SheetChoice{stops == 0 ? text(0.0) : words("worn: ") + text(stops),
                                double(stops)};
        return withUnknown(list);
    };
    row.apply = [own](Camera& c, const QVariant& value) -> base::Result<void> {
        if (rig::hasOwnNd(c.sheet)) return own.apply(c, value);
        if (isForgotten(c.settings.ndStops, value)) return {};
        double stops = 0.0;
        auto done = checkedNumber("ND", value.toDouble(), 0.0, kMostWornStops, "stops", stops);
        if (done) c.settings.ndStops = stops;
        return done;
    };
    return row;
}

std::vector<SheetRow> exposureRows() {
    return {group("Exposure"),
            listed("iso",
                   "ISO",
                   &Settings::isoValue,
                   &ControlSheet::isoValues,
                   controlWords(rig::Control::Iso)),
            listed("shutter",
                   "Shutter",
                   &Settings::shutterSeconds,
                   &ControlSheet::shutterSeconds,
                   [](double s) { return plain(optics::shutterText(s)); }),
            listed("aperture",
                   "Aperture",
                   &Settings::fNumber,
                   &ControlSheet::fNumbers,
                   controlWords(rig::Control::Aperture)),
            gainRow(),
            ndRow(),
            flag("autoExposure", "Automatic", "automatic exposure", &Settings::isAutoExposure),
            lossRow("filterStops",
                    "Filter takes, stops",
                    [](Camera& c) -> double& { return c.filterStops; }),
            fact("plannedExposure", "Against the reference"),
            fact("nativeIso", "ISO against native"),
            fact("shutter", "Shutter and mains"),
            fact("automatics", "Automatics on")};
}

std::vector<SheetRow> colourRows() {
    return {group("Colour"),
            listed("kelvin",
                   "White balance",
                   &Settings::whiteBalanceKelvin,
                   &ControlSheet::kelvins,
                   controlWords(rig::Control::WhiteBalance)),
            listed("tint",
                   "Tint, + is greener",
                   &Settings::tintSteps,
                   &ControlSheet::tintSteps,
                   controlWords(rig::Control::Tint)),
            knobRow(rig::KnobKind::Amber, "amber", "Amber, + is warmer"),
            flag("autoWhiteBalance",
                 "Automatic",
                 "automatic white balance",
                 &Settings::isAutoWhiteBalance),
            fact("whiteBalance", "Against the light"),
            group("Picture"),
            profileRow(),
            knobRow(rig::KnobKind::Contrast, "contrast", "Contrast knob"),
            knobRow(rig::KnobKind::Black, "black", "Black knob"),
            knobRow(rig::KnobKind::Knee, "knee", "Knee knob"),
            knobRow(rig::KnobKind::Saturation, "saturation", "Saturation knob"),
            knobRow(rig::KnobKind::Hue, "hue", "Hue knob"),
            listed("detail",
                   "Detail, steps",
                   &Settings::detailSteps,
                   &ControlSheet::detailSteps,
                   controlWords(rig::Control::Sharpness)),
            fact("profile", "Profile mix")};
}

std::vector<SheetRow> recordingRows() {
    return {group("Recording"),
            listed("frameRate",
                   "Frame rate",
                   &Settings::frameRate,
                   &ControlSheet::frameRates,
                   [](double f) { return words("%1 fps").arg(f); }),
            sizeRow(),
            codecRow(),
            listed("bitRate",
                   "Bit rate",
                   &Settings::bitRateMbps,
                   &ControlSheet::bitRatesMbps,
                   [](double r) { return words("%1 Mb/s").arg(r); }),
            equipment(0),
            equipment(1),
            equipment(4),
            fact("frameRate", "Against the delivery"),
            fact("cardTime", "Time per card"),
            fact("day", "A day's recording")};
}

std::vector<SheetRow> otherRows() {
    return {
        group("Focus and lens"),
        lensRow(),
        focalRow(),
        lossRow("transmission",
                "Lens takes, stops",
                [](Camera& c) -> double& { return c.lens.transmissionStops; }),
        flag("autoFocus",
             "Automatic focus",
             "automatic focus",
             &Settings::isAutoFocus,
             &ControlSheet::hasAutoFocus),
        flag("stabilised",
             "Digital stabiliser",
             "stabiliser",
             &Settings::isStabilised,
             &ControlSheet::hasStabiliser),
        fact("equivalent", "As on full frame"),
        fact("depthOfField", "Depth of field"),
        group("Power"),
        sourceRow(),
        equipment(2),
        equipment(3),
        equipmentTruth(0),
        equipmentTruth(1),
        fact("power", "Power"),
        group("Sound"),
        soundRow(),
        flag("autoSoundLevel", "Automatic level", "automatic level", &Settings::isAutoSoundLevel),
        fact("sound", "Sound")};
}

}  // namespace

const std::vector<SheetRow>& sheetRows() {
    static const std::vector<SheetRow> kRows = [] {
        std::vector<SheetRow> rows{group("Camera"), nameRow(), bodyRow(), sensorRow()};
        for (const auto& more : {exposureRows(), colourRows(), recordingRows(), otherRows()}) {
            rows.insert(rows.end(), more.begin(), more.end());
        }
        return rows;
    }();
    return kRows;
}

}  // namespace rigmatch::app
