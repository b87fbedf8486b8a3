// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/bodies.h"

#include <algorithm>

namespace rigmatch::rig {
namespace {

std::vector<double> evenly(double from, double to, double step) {
    std::vector<double> values;
    for (int i = 0; from + step * i <= to + 1e-9; ++i) values.push_back(from + step * i);
    return values;
}

std::vector<double> usualShutters() {
    std::vector<double> seconds;
    for (double below : {24.0,
                         25.0,
                         30.0,
                         40.0,
                         48.0,
                         50.0,
                         60.0,
                         80.0,
                         100.0,
                         120.0,
                         125.0,
                         160.0,
                         200.0,
                         250.0}) {
        seconds.push_back(1.0 / below);
    }
    return seconds;
}

Profile logProfile() { return {"Working log", colour::curveOf(colour::CurveKind::Log)}; }

Profile hlgProfile() { return {"HLG", colour::curveOf(colour::CurveKind::Hlg)}; }

ControlSheet hybridSheet(double lowestIso, double highestIso, double kelvinStep) {
    ControlSheet sheet;
    sheet.isoValues = optics::isoSeries(lowestIso, highestIso);
    sheet.nativeIsoValues = {lowestIso};
    sheet.shutterSeconds = usualShutters();
    sheet.ndStops = {0.0};
    sheet.kelvins = evenly(2500.0, 9900.0, kelvinStep);
    sheet.tintSteps = evenly(-7.0, 7.0, 1.0);
    sheet.tintDuvPerStep = 0.0015;
    sheet.frameRates = {23.976, 24.0, 25.0, 29.97, 30.0, 50.0, 59.94, 60.0};
    sheet.sizes = {"1920x1080", "3840x2160"};
    sheet.codecs = {{"long-GOP 8 bit 4:2:0", 8, false},
                    {"long-GOP 10 bit 4:2:2", 10, false},
                    {"intra 10 bit 4:2:2", 10, true}};
    sheet.bitRatesMbps = {50.0, 100.0, 150.0, 200.0, 400.0, 600.0};
    sheet.detailSteps = evenly(-7.0, 7.0, 1.0);
    sheet.soundInputs = {"line from recorder", "camera microphone", "microphone plugged in", "off"};
    sheet.profiles = {{"Standard"}, {"Neutral"}, {"Flat"}, logProfile(), hlgProfile()};
    return sheet;
}

BodyKind fullFrameHybrid() {
    BodyKind kind{
        "full-frame hybrid body", "full frame, 36 × 24 mm", {"35 mm f/1.8", 35.0, 1.8, 22.0}, {}};
    kind.sheet = hybridSheet(100.0, 51200.0, 100.0);
    kind.sheet.nativeIsoValues = {100.0, 640.0};
    kind.equipment = {128.0, 90.0, 8.0, 16.0, 0.0, "mains", false, false, {}};
    return kind;
}

BodyKind croppedHybrid() {
    BodyKind kind{
        "1.5× crop hybrid body", "1.5× crop, 23.5 × 15.6 mm", {"50 mm f/1.8", 50.0, 1.8, 16.0}, {}};
    kind.sheet = hybridSheet(100.0, 25600.0, 100.0);
    kind.sheet.rateCrops = {{50.0, 1.25}};
    kind.sensorWidthMm = 23.5;
    kind.sensorHeightMm = 13.22;
    kind.equipment = {128.0, 60.0, 6.0, 16.0, 30.0, "mains", false, true, {}};
    return kind;
}

BodyKind fourThirdsHybrid() {
    BodyKind kind{"four-thirds hybrid body",
                  "four-thirds, 17.3 × 13 mm",
                  {"25 mm f/1.7", 25.0, 1.7, 22.0},
                  {}};
    kind.sheet = hybridSheet(200.0, 12800.0, 50.0);
    kind.sensorWidthMm = 17.3;
    kind.sensorHeightMm = 9.73;
    kind.equipment = {128.0, 60.0, 5.0, 14.0, 0.0, "mains", false, false, {}};
    return kind;
}

BodyKind cinemaCamera() {
    BodyKind kind{"cinema camera with ND wheel",
                  "super 35, 24.9 × 14 mm",
                  {"35 mm T1.5", 35.0, 1.5, 22.0},
                  {}};
    kind.sheet = hybridSheet(160.0, 25600.0, 50.0);
    kind.sheet.nativeIsoValues = {800.0, 3200.0};
    kind.sheet.ndStops = {0.0, 2.0, 4.0, 6.0};
    kind.sheet.codecs = {{"long-GOP 10 bit 4:2:2", 10, false}, {"intra 10 bit 4:2:2", 10, true}};
    kind.sheet.hasStabiliser = false;
    kind.sensorWidthMm = 24.9;
    kind.sensorHeightMm = 14.0;
    kind.equipment = {256.0, 200.0, 25.0, 98.0, 0.0, "mains", false, false, {}};
    kind.sheet.tintSteps = evenly(-50.0, 50.0, 1.0);
    kind.sheet.tintDuvPerStep = 0.0003;
    return kind;
}

BodyKind phone() {
    BodyKind kind{
        "phone, rear main lens", "phone, 9.8 × 7.3 mm", {"6.9 mm f/1.8, fixed", 6.9, 1.8, 1.8}, {}};
    kind.sheet = hybridSheet(50.0, 3200.0, 100.0);
    kind.sheet.fNumbers = {1.8};
    kind.sheet.tintSteps = evenly(-10.0, 10.0, 1.0);
    kind.sheet.tintDuvPerStep = 0.0008;
    kind.sheet.profiles = {{"Standard"}, hlgProfile()};
    kind.sheet.codecs = {{"long-GOP 8 bit 4:2:0", 8, false}, {"long-GOP 10 bit 4:2:0", 10, false}};
    kind.sheet.bitRatesMbps = {24.0, 50.0, 100.0};
    kind.sheet.detailSteps = {};
    kind.sheet.soundInputs = {"camera microphone", "microphone plugged in", "off"};
    kind.sensorWidthMm = 9.8;
    kind.sensorHeightMm = 5.5;
    kind.equipment = {256.0, 100.0, 4.0, 15.0, 0.0, "power over the data port", false, true, {}};
    return kind;
}

BodyKind webCamera() {
    BodyKind kind{
        "web camera", "1/2.8 inch, 5.1 × 2.9 mm", {"4 mm f/2.0, fixed", 4.0, 2.0, 2.0}, {}};
    kind.sheet = hybridSheet(100.0, 1600.0, 100.0);
    kind.sheet.fNumbers = {2.0};
    kind.sheet.kelvins = evenly(2800.0, 6500.0, 100.0);
    kind.sheet.tintSteps = {0.0};
    kind.sheet.frameRates = {25.0, 30.0, 50.0, 60.0};
    kind.sheet.profiles = {{"Standard"}};
    kind.sheet.codecs = {{"long-GOP 8 bit 4:2:0", 8, false}};
    kind.sheet.bitRatesMbps = {12.0, 24.0};
    kind.sheet.detailSteps = {};
    kind.sheet.soundInputs = {"camera microphone", "off"};
    kind.sheet.hasStabiliser = false;
    kind.sensorWidthMm = 5.1;
    kind.sensorHeightMm = 2.87;
    kind.equipment = {256.0, 100.0, 3.0, 0.0, 0.0, "power over the data port", true, true, {}};
    return kind;
}

}  // namespace

const std::vector<BodyKind>& bodyKinds() {
    static const std::vector<BodyKind> kKinds{fullFrameHybrid(),
                                              croppedHybrid(),
                                              fourThirdsHybrid(),
                                              cinemaCamera(),
                                              phone(),
                                              webCamera()};
    return kKinds;
}

const std::vector<Lens>& genericLenses() {
    static const std::vector<Lens> kLenses{
        {"16 mm f/2.8", 16.0, 2.8, 22.0},
        {"24 mm f/1.4", 24.0, 1.4, 16.0},
        {"24 mm f/2.8", 24.0, 2.8, 22.0},
        {"25 mm f/1.7", 25.0, 1.7, 22.0},
        {"35 mm f/1.8", 35.0, 1.8, 22.0},
        {"35 mm T1.5", 35.0, 1.5, 22.0},
        {"50 mm f/1.8", 50.0, 1.8, 16.0},
        {"85 mm f/1.4", 85.0, 1.4, 16.0},
        {"85 mm f/1.8", 85.0, 1.8, 22.0},
        {"zoom 24–70 mm f/2.8", 50.0, 2.8, 22.0, 24.0, 70.0, 2.8, 0.3},
        {"zoom 16–50 mm f/3.5–5.6", 35.0, 3.5, 22.0, 16.0, 50.0, 5.6, 0.3},
        {"kit zoom at 35 mm f/4.5", 35.0, 4.5, 29.0},
        {"kit zoom at 50 mm f/5.6", 50.0, 5.6, 32.0}};
    return kLenses;
}

void applyLens(Camera& camera, const Lens& lens) {
    camera.lens = lens;
    camera.isLensTold = true;
    const double largest = largestApertureAt(lens, lens.focalLengthMm);
    camera.sheet.fNumbers = optics::fNumberSeries(largest, lens.smallestAperture);
    if (camera.sheet.fNumbers.empty() || camera.sheet.fNumbers.front() > largest * 1.001) {
        camera.sheet.fNumbers.insert(camera.sheet.fNumbers.begin(), largest);
    }
    snapSettings(camera);
}

void applyBodyKind(Camera& camera, const BodyKind& kind) {
    camera.body = kind.name;
    camera.sensorFormat = kind.sensorFormat;
    camera.sensorWidthMm = kind.sensorWidthMm;
    camera.sensorHeightMm = kind.sensorHeightMm;
    camera.equipment = kind.equipment;
    const std::string unknown = camera.sheet.unknownFields;
    camera.sheet = kind.sheet;
    camera.sheet.unknownFields = unknown;
    if (kind.sheet.fNumbers.empty()) {
        applyLens(camera, kind.lens);
    } else {
        camera.lens = kind.lens;
        camera.isLensTold = true;
    }
    snapSettings(camera);
}

void snapSettings(Camera& camera) {
    Settings& settings = camera.settings;
    const ControlSheet& sheet = camera.sheet;
    // What nobody told stays untold.
    const auto snap = [](const std::vector<double>& values, base::Told<double>& setting) {
        if (setting.isTold()) setting = nearestAllowed(values, setting);
    };
    snap(sheet.isoValues, settings.isoValue);
    snap(sheet.shutterSeconds, settings.shutterSeconds);
    snap(sheet.fNumbers, settings.fNumber);
    if (hasOwnNd(sheet)) snap(sheet.ndStops, settings.ndStops);
    snap(sheet.kelvins, settings.whiteBalanceKelvin);
    snap(sheet.tintSteps, settings.tintSteps);
    snap(sheet.frameRates, settings.frameRate);
    snap(sheet.bitRatesMbps, settings.bitRateMbps);
    snap(sheet.detailSteps, settings.detailSteps);
    if (settings.profile.isTold() && !sheet.profiles.empty() &&
        findProfile(sheet, settings.profile) == nullptr) {
        settings.profile = sheet.profiles.front().name;
    }
    if (settings.codec.isTold() && !sheet.codecs.empty() &&
        findCodec(sheet, settings.codec) == nullptr) {
        settings.codec = sheet.codecs.front().name;
    }
    if (!sheet.hasAutoFocus) settings.isAutoFocus = false;
    if (!sheet.hasStabiliser) settings.isStabilised = false;
    const auto& inputs = sheet.soundInputs;
    if (settings.soundInput.isTold() && !inputs.empty() &&
        std::find(inputs.begin(), inputs.end(), settings.soundInput.value()) == inputs.end()) {
        settings.soundInput = inputs.front();
    }
}

}  // namespace rigmatch::rig
