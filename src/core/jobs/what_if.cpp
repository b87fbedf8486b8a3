// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/what_if.h"

#include <algorithm>
#include <cmath>

#include "base/format.h"
#include "jobs/match_job.h"
#include "optics/exposure.h"

namespace rigmatch::jobs {
namespace {

using rig::Control;

/// A dial of the sheet: its setting and the values it may take.
struct Dial {
    Control control;
    base::Told<double> rig::Settings::*setting;
    std::vector<double> rig::ControlSheet::*values;
};
constexpr std::array<Dial, 7> kDialsOfSheet{
    Dial{Control::Nd, &rig::Settings::ndStops, &rig::ControlSheet::ndStops},
    Dial{Control::Aperture, &rig::Settings::fNumber, &rig::ControlSheet::fNumbers},
    Dial{Control::Shutter, &rig::Settings::shutterSeconds, &rig::ControlSheet::shutterSeconds},
    Dial{Control::Iso, &rig::Settings::isoValue, &rig::ControlSheet::isoValues},
    Dial{Control::Gain, &rig::Settings::gainDb, &rig::ControlSheet::gainsDb},
    Dial{Control::WhiteBalance, &rig::Settings::whiteBalanceKelvin, &rig::ControlSheet::kelvins},
    Dial{Control::Tint, &rig::Settings::tintSteps, &rig::ControlSheet::tintSteps}};

const Dial* dialOf(Control control) {
    for (const Dial& dial : kDialsOfSheet) {
        if (dial.control == control) return &dial;
    }
    return nullptr;
}

/// Index of `value` among rising values, put there where it is not.
std::size_t placeOf(double value, std::vector<double>& values) {
    const auto at = std::lower_bound(values.begin(), values.end(), value - 1e-9);
    const auto index = static_cast<std::size_t>(at - values.begin());
    if (at == values.end() || std::abs(*at - value) > 1e-9) values.insert(at, value);
    return index;
}

TryControl amount(Control control, double step, int reach) {
    TryControl made;
    made.control = control;
    made.isAmount = true;
    for (int i = -reach; i <= reach; ++i) made.values.push_back(step * i);
    made.shot = static_cast<std::size_t>(reach);
    return made;
}

double* amountOf(Control control, Tried& tried) {
    switch (control) {
        case Control::Exposure:
            return &tried.exposureStops;
        case Control::WhiteBalance:
            return &tried.whiteBalanceMired;
        default:
            return &tried.tintDuv;
    }
}

/// The model of a camera in the take that was measured; nothing without a chart.
std::shared_ptr<const match::BodyModel> bodyOf(const match::MatchReport& report,
                                               const std::string& cameraId) {
    const match::CameraMatch* match = report.find(cameraId);
    if (match == nullptr) return nullptr;
    if (match->body) return match->body;
    if (!match->compared || !match->differences.fit) return nullptr;
    return std::make_shared<const match::BodyModel>(*match->compared, *match->differences.fit);
}

constexpr double kFullSignal = 1.0;

/// The same spot of skin as it would be recorded.
void put(const match::BodyModel::Map& map, std::optional<rig::SkinReading>& skin) {
    if (!skin) return;
    skin->signal = map.apply(skin->signal);
    if (*std::max_element(skin->signal.begin(), skin->signal.end()) > kFullSignal)
        skin->clippedShare = 1.0;
}

rig::Reading readingAsTried(const rig::Reading& measured,
                            const rig::Reading& compared,
                            const match::BodyModel& body,
                            const match::Change& dial) {
    rig::Reading reading = measured;
    const match::PatchSignals before = match::signalsOf(compared),
                              after = body.predicted(compared, dial);
    const std::size_t count = std::min({reading.patches.size(), before.size(), after.size()});
    for (std::size_t i = 0; i < count; ++i) {
        // What was compared had uneven light taken out: the change is put on what was measured.
        auto& signal = reading.patches[i].signal;
        for (std::size_t c = 0; c < 3; ++c) signal[c] += after[i][c] - before[i][c];
        if (*std::max_element(signal.begin(), signal.end()) > kFullSignal)
            reading.patches[i].clippedShare = 1.0;
    }
    const match::BodyModel::Map map(body, dial);
    for (rig::FaceReading& face : reading.faces) {
        for (auto* spot : {&face.forehead, &face.leftCheek, &face.rightCheek, &face.background})
            put(map, *spot);
    }
    return reading;
}

}  // namespace

std::vector<TryControl> tryControls(const rig::Camera& camera, const rig::Settings& shot) {
    std::vector<TryControl> controls;
    bool isExposureTold = false, isKelvinTold = false, isTintTold = false;
    for (const Dial& dial : kDialsOfSheet) {
        const base::Told<double>& setting = shot.*dial.setting;
        TryControl made;
        made.control = dial.control;
        made.values = camera.sheet.*dial.values;
        if (!setting.isTold() || made.values.empty()) continue;
        std::sort(made.values.begin(), made.values.end());
        made.shot = placeOf(setting, made.values);
        isExposureTold |= dial.control == Control::Iso || dial.control == Control::Gain;
        isKelvinTold |= dial.control == Control::WhiteBalance;
        isTintTold |= dial.control == Control::Tint;
        controls.push_back(made);
    }
    constexpr double kThird = 1.0 / 3.0;
    if (!isExposureTold) controls.insert(controls.begin(), amount(Control::Exposure, kThird, 9));
    if (!isKelvinTold) controls.push_back(amount(Control::WhiteBalance, 5.0, 24));
    if (!isTintTold) controls.push_back(amount(Control::Tint, 0.0005, 30));
    for (const rig::Knob& knob : camera.sheet.knobs) {
        const auto present = shot.knobs.find(knob.name);
        if (present == shot.knobs.end() || knob.steps.empty()) continue;
        TryControl made;
        made.control = Control::Knob;
        made.knob = knob.name;
        made.values = knob.steps;
        made.shot = placeOf(present->second, made.values);
        controls.push_back(made);
    }
    return controls;
}

std::size_t triedIndex(const TryControl& control, const Tried& tried) {
    double value = control.values[control.shot];
    if (control.isAmount) {
        Tried copy = tried;
        value = *amountOf(control.control, copy);
    } else if (control.control == Control::Knob) {
        const auto found = tried.settings.knobs.find(control.knob);
        if (found != tried.settings.knobs.end()) value = found->second;
    } else if (const Dial* dial = dialOf(control.control)) {
        value = tried.settings.*dial->setting;
    }
    const auto nearest =
        std::min_element(control.values.begin(), control.values.end(), [&](double a, double b) {
            return std::abs(a - value) < std::abs(b - value);
        });
    return static_cast<std::size_t>(nearest - control.values.begin());
}

void turnTo(const TryControl& control, std::size_t index, Tried& tried) {
    const double value = control.values[std::min(index, control.values.size() - 1)];
    if (control.isAmount)
        *amountOf(control.control, tried) = value;
    else if (control.control == Control::Knob)
        tried.settings.knobs[control.knob] = value;
    else if (const Dial* dial = dialOf(control.control))
        tried.settings.*dial->setting = value;
}

match::Change triedDial(const rig::Rig& rig,
                        const rig::Take& take,
                        const std::string& cameraId,
                        const Tried& tried) {
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    const rig::Shot* shot = rig::findShot(take, cameraId);
    if (camera == nullptr || shot == nullptr) return {};
    match::Moves moves = match::movesBetween(camera->sheet, shot->settings, tried.settings);
    moves[0] += tried.exposureStops;
    moves[1] += tried.whiteBalanceMired;
    moves[2] += tried.tintDuv;
    return match::learnControls(rig, take, cameraId).answer(moves);
}

rig::Take takeAsTried(const rig::Rig& rig,
                      const rig::Take& take,
                      const match::MatchReport& report,
                      const TriedByHand& tried) {
    rig::Take result = take;
    for (rig::Shot& shot : result.shots) {
        const auto by = tried.find(shot.cameraId);
        const match::CameraMatch* match = report.find(shot.cameraId);
        if (by == tried.end() || match == nullptr || !match->compared || !shot.reading) continue;
        const auto body = bodyOf(report, shot.cameraId);
        if (!body) continue;
        const match::Change dial = triedDial(rig, take, shot.cameraId, by->second);
        const rig::Reading measured = *shot.reading;
        shot.reading = readingAsTried(measured, *match->compared, *body, dial);
        shot.settings = by->second.settings;
    }
    return result;
}

StageMap stageAsTried(const rig::Rig& rig,
                      const rig::Take& take,
                      const match::MatchReport& report,
                      const std::string& cameraId,
                      const Tried& tried) {
    const auto body = bodyOf(report, cameraId);
    return body ? StageMap::turned(*body, triedDial(rig, take, cameraId, tried)) : StageMap();
}

void keepTried(const TriedByHand& tried, const rig::Take& take, rig::Rig& rig) {
    for (const auto& [id, one] : tried) {
        rig::Camera* camera = rig::findCamera(rig, id);
        const rig::Shot* shot = rig::findShot(take, id);
        if (camera == nullptr || shot == nullptr) continue;
        for (const Dial& dial : kDialsOfSheet) {
            const base::Told<double>& to = one.settings.*dial.setting;
            if (!(to == shot->settings.*dial.setting)) camera->settings.*dial.setting = to;
        }
        for (const auto& [knob, value] : one.settings.knobs) {
            const auto before = shot->settings.knobs.find(knob);
            if (before == shot->settings.knobs.end() || before->second != value)
                camera->settings.knobs[knob] = value;
        }
    }
}

}  // namespace rigmatch::jobs
