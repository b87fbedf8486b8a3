// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/take_job.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <set>
#include <sstream>

#include "jobs/match_job.h"
#include "jobs/measure_job.h"
#include "jobs/sync_job.h"
#include "rig/bodies.h"

namespace rigmatch::jobs {
namespace {

rig::Camera* byLetter(rig::Rig& rig, const std::string& letter) {
    for (std::size_t i = 0; i < rig.cameras.size(); ++i) {
        if (std::as_const(rig.cameras)[i].letter == letter) return &rig.cameras[i];
    }
    return nullptr;
}

tl::unexpected<base::Error> noSteps(const std::string& control, const std::string& values) {
    return base::fail(base::ErrorCode::OutOfRange,
                      base::say("takeJob.cannotTakeSteps", {{"control", control}}),
                      base::say("takeJob.givenAllowedRising", {{"values", values}}),
                      base::say("takeJob.exampleStepsIso"));
}

bool isNumber(const std::string& text, double& value) {
    const char* end = text.data() + text.size();
    const auto [at, code] = std::from_chars(text.data(), end, value);
    return code == std::errc() && at == end && std::isfinite(value);
}

/// "100,125,160" or "-9..9:1"; empty where it is neither.
std::vector<double> valuesIn(const std::string& text) {
    constexpr double kMost = 2000.0;
    std::vector<double> values;
    const auto dots = text.find("..");
    const auto colon = text.find(':');
    if (dots != std::string::npos) {
        double low = 0.0, high = 0.0, step = 0.0;
        if (colon == std::string::npos || colon < dots || !isNumber(text.substr(0, dots), low) ||
            !isNumber(text.substr(dots + 2, colon - dots - 2), high) ||
            !isNumber(text.substr(colon + 1), step) || step <= 0.0 || high < low ||
            (high - low) / step > kMost)
            return {};
        const auto count = static_cast<int>(std::floor((high - low) / step + 1e-9));
        for (int i = 0; i <= count; ++i) values.push_back(low + step * i);
        return values;
    }
    std::istringstream list(text);
    for (std::string one; std::getline(list, one, ',');) {
        double value = 0.0;
        const auto bar = one.find('/');
        double below = 1.0;
        const bool isGood = bar == std::string::npos
                                ? isNumber(one, value)
                                : isNumber(one.substr(0, bar), value) &&
                                      isNumber(one.substr(bar + 1), below) && below != 0.0;
        if (!isGood || static_cast<double>(values.size()) > kMost) return {};
        values.push_back(value / below);
    }
    std::sort(values.begin(), values.end());
    return values;
}

/// The list of a control or a knob on the sheet, or nullptr.
std::vector<double>* listOf(const std::string& control, rig::ControlSheet& sheet) {
    if (control == "iso") return &sheet.isoValues;
    if (control == "shutter") return &sheet.shutterSeconds;
    if (control == "fNumber") return &sheet.fNumbers;
    if (control == "ndStops") return &sheet.ndStops;
    if (control == "kelvin") return &sheet.kelvins;
    if (control == "tint") return &sheet.tintSteps;
    if (control == "frameRate") return &sheet.frameRates;
    if (control == "gainDb") return &sheet.gainsDb;
    if (control == "sharpness") return &sheet.detailSteps;
    for (rig::Knob& knob : sheet.knobs) {
        if (knob.name == control) return &knob.steps;
    }
    return nullptr;
}

}  // namespace

base::Result<std::string> cameraOfLetter(const std::string& letter, rig::Rig& rig) {
    const int index = letter.size() == 1 ? letter[0] - 'A' : -1;
    if (index < 0 || index >= static_cast<int>(rig::kMostCameras)) {
        return base::fail(
            base::ErrorCode::OutOfRange,
            base::say("takeJob.noCamera", {{"letter", letter}}),
            base::say("takeJob.camerasLettered",
                      {{"last", std::string(1, static_cast<char>('A' + rig::kMostCameras - 1))}}),
            base::say("takeJob.exampleCameraB"));
    }
    if (const rig::Camera* there = byLetter(rig, letter)) return there->id;
    // Letters without a gap go on without one; where a camera was removed, only this one is made.
    const auto count = static_cast<int>(rig.cameras.size());
    const bool isGapless =
        count == 0 || byLetter(rig, std::string(1, static_cast<char>('A' + count - 1))) != nullptr;
    for (int before = count; isGapless && before < index; ++before)
        makeCamera(std::string(1, static_cast<char>('A' + before)), rig);
    return makeCamera(letter, rig);
}

std::string makeCamera(const std::string& letter, rig::Rig& rig) {
    rig::Camera made;
    made.id = rig::freshCameraId(rig);
    made.letter = letter;
    made.role = "camera " + letter;
    rig::applyBodyKind(made, rig::bodyKinds().front());
    made.isLensTold = false;
    made.settings = rig::unknownSettings();
    const auto& cameras = std::as_const(rig.cameras);
    const auto after = std::find_if(
        cameras.begin(), cameras.end(), [&](const auto& each) { return each.letter > letter; });
    std::string id = made.id;
    rig.cameras.insert(after, std::move(made));
    rig::giveLetters(rig);
    return id;
}

namespace {

/// A control that was ticked to one value and is given another one for the next take.
void tellContradictions(const rig::Camera& camera,
                        const rig::Settings& lastShot,
                        const rig::Settings& ticked,
                        const rig::Settings& given,
                        std::vector<base::Text>& notes) {
    const auto tell = [&](const base::Text& name, const base::Text& was, const base::Text& is) {
        notes.push_back(
            base::say("takeJob.contradicts",
                      {{"camera", camera.letter}, {"control", name}, {"was", was}, {"is", is}}));
    };
    const auto compare = [&](rig::Control control,
                             const char* code,
                             const base::Told<double> rig::Settings::*setting) {
        const auto last = (lastShot.*setting).told(), was = (ticked.*setting).told(),
                   is = (given.*setting).told();
        if (last && was && is && *last != *was && *is != *was)
            tell(base::say(code), rig::valueText(control, *was), rig::valueText(control, *is));
    };
    compare(rig::Control::Iso, "control.iso", &rig::Settings::isoValue);
    compare(rig::Control::Gain, "control.gain", &rig::Settings::gainDb);
    compare(rig::Control::Aperture, "control.aperture", &rig::Settings::fNumber);
    compare(rig::Control::Shutter, "control.shutter", &rig::Settings::shutterSeconds);
    compare(rig::Control::Sharpness, "control.sharpness", &rig::Settings::detailSteps);
    compare(rig::Control::Nd, "control.nd", &rig::Settings::ndStops);
    compare(rig::Control::WhiteBalance, "control.whiteBalance", &rig::Settings::whiteBalanceKelvin);
    compare(rig::Control::Tint, "control.tint", &rig::Settings::tintSteps);
    for (const auto& [name, was] : ticked.knobs) {
        const auto last = lastShot.knobs.find(name);
        const auto is = given.knobs.find(name);
        if (last != lastShot.knobs.end() && is != given.knobs.end() && last->second != was &&
            is->second != was)
            tell(base::asIs(name),
                 rig::valueText(rig::Control::Knob, was),
                 rig::valueText(rig::Control::Knob, is->second));
    }
}

/// The newest shot of a camera, or nullptr.
const rig::Shot* newestShot(const rig::Rig& rig, const std::string& cameraId) {
    const rig::Shot* newest = nullptr;
    for (const rig::Take& take : rig.takes) {
        if (const rig::Shot* shot = rig::findShot(take, cameraId)) newest = shot;
    }
    return newest;
}

base::Error noCameraError(const std::string& letter, base::Text why, base::Text hint) {
    return {base::ErrorCode::OutOfRange,
            base::say("takeJob.noCamera", {{"letter", letter}}),
            std::move(why),
            std::move(hint)};
}

/// Cameras, reference and settings as they are asked for.
base::Result<void> prepare(const TakeRequest& request, rig::Rig& rig) {
    for (const auto& [letter, file] : request.files) {
        if (auto id = cameraOfLetter(letter, rig); !id) return tl::unexpected(id.error());
    }
    if (!request.referenceLetter.empty()) {
        const rig::Camera* reference = byLetter(rig, request.referenceLetter);
        if (reference == nullptr) {
            return tl::unexpected(noCameraError(request.referenceLetter,
                                                base::say("takeJob.referenceOneRigs"),
                                                base::say("takeJob.giveLetterReference")));
        }
        rig.referenceId = reference->id;
    }
    for (const GivenSetting& given : request.settings) {
        rig::Camera* camera = byLetter(rig, given.letter);
        if (camera == nullptr) {
            return tl::unexpected(noCameraError(
                given.letter,
                base::say("takeJob.given", {{"camera", given.letter}, {"key", given.key}}),
                base::say("takeJob.giveLetterOne")));
        }
        if (auto put = rig::putSetting(given.key, given.value, camera->settings); !put)
            return tl::unexpected(put.error());
    }
    return {};
}

/// Measures one file of a take and gives its camera the settings that it was shot with.
base::Result<rig::Shot> shotOf(const TakeRequest& request,
                               const std::string& letter,
                               const std::filesystem::path& file,
                               const rig::Take& take,
                               const rig::Observations& known,
                               rig::Rig& rig,
                               const base::Progress& progress) {
    rig::Camera* camera = byLetter(rig, letter);
    rig::Shot shot;
    shot.cameraId = camera->id;
    shot.media = std::filesystem::absolute(file).lexically_normal();
    shot.settings = camera->settings;
    shot.isWholeWanted = request.isWholeWanted;
    const LookFor what = lookFor(rig, take, camera->id);
    MeasuredShot measured =
        measureShot(shot, what, progress, known.correctedAlike(shot, what.asked));
    if (measured.isCancelled) return tl::unexpected(base::cancelledError());
    // What the file tells fills in; what was given by hand stands.
    rig::putTold(observationOf(measured, rig.chart), measured.shot.settings);
    for (const GivenSetting& given : request.settings) {
        if (given.letter == letter)
            (void)rig::putSetting(given.key, given.value, measured.shot.settings);
    }
    camera->settings = measured.shot.settings;
    return std::move(measured.shot);
}

/// Where the files of a take lie on each other. Fewer than two lie nowhere: that is no failure.
void putTiming(const rig::Rig& rig, rig::Take& take) {
    const auto synced = syncTake(rig, take, {});
    if (!synced) return;
    for (std::size_t i = 0; i < take.shots.size(); ++i) {
        if (auto reading = withSync(std::as_const(take.shots)[i], *synced))
            take.shots[i].reading = std::move(*reading);
    }
}

}  // namespace

base::Result<AddedTake> addTake(const TakeRequest& request,
                                rig::Rig& rig,
                                const base::Progress& progress) {
    rig::Rig next = rig;
    rig::Take take;
    take.id = rig::freshTakeId(next);
    take.number = next.takes.empty() ? 1 : std::as_const(next.takes).back().number + 1;
    take.startedAt = request.startedAt;
    take.purposes = request.purposes;
    if (auto prepared = prepare(request, next); !prepared) return tl::unexpected(prepared.error());
    rig::Observations known;
    known.addAll(rig);
    double done = 0.0;
    for (const auto& [letter, file] : request.files) {
        const double end = done + 1.0 / static_cast<double>(request.files.size());
        auto shot = shotOf(request, letter, file, take, known, next, progress.part(done, end));
        if (!shot) return tl::unexpected(shot.error());
        done = end;
        take.shots.push_back(std::move(*shot));
    }
    if (rig::isTimingAsked(take)) putTiming(next, take);
    AddedTake added;
    for (const rig::Camera& camera : std::as_const(next).cameras) {
        const rig::Camera* before = rig::findCamera(std::as_const(rig), camera.id);
        const rig::Shot* last = newestShot(rig, camera.id);
        if (before != nullptr && last != nullptr)
            tellContradictions(
                camera, last->settings, before->settings, camera.settings, added.notes);
    }
    next.takes.push_back(take);
    rig = std::move(next);
    added.index = rig.takes.size() - 1;
    return added;
}

std::vector<rig::Turn> carryOutTurns(rig::Rig& rig, const std::string& cameraId) {
    const rig::Take* take = rig::newestTake(rig, rig::Purpose::Match);
    std::vector<rig::Turn> done;
    if (take == nullptr) return done;
    const match::MatchReport report = matchReport(rig, *take);
    for (const rig::Turn& turn : report.turns()) {
        rig::Camera* camera = rig::findCamera(rig, turn.cameraId);
        const bool isMeant = cameraId.empty() || turn.cameraId == cameraId;
        if (!isMeant || camera == nullptr || turn.isAmount || rig::isDone(camera->settings, turn))
            continue;
        const rig::Shot* shot = rig::findShot(*take, turn.cameraId);
        camera->settings = shot == nullptr ? rig::applied(camera->settings, turn)
                                           : rig::applied(camera->settings, turn, shot->settings);
        done.push_back(turn);
    }
    return done;
}

base::Result<void> putSteps(const std::string& control,
                            const std::string& values,
                            rig::ControlSheet& sheet) {
    const std::vector<double> list = valuesIn(values);
    static const std::set<std::string> kAboveZero{
        "iso", "shutter", "fNumber", "kelvin", "frameRate"};
    const bool isSigned = kAboveZero.count(control) == 0;
    if (list.empty() || (!isSigned && list.front() <= 0.0)) return noSteps(control, values);
    if (std::vector<double>* own = listOf(control, sheet)) {
        *own = list;
        if (control == "iso") sheet.nativeIsoValues.clear();
        return {};
    }
    if (!isKnobName(control)) return noSteps(control, values);
    sheet.knobs.push_back({control, rig::knobKindOf(control), list});
    return {};
}

std::vector<double> stepsOf(const std::string& control, const rig::ControlSheet& sheet) {
    rig::ControlSheet copy = sheet;
    const std::vector<double>* own = listOf(control, copy);
    return own != nullptr ? *own : std::vector<double>{};
}

bool isKnobName(const std::string& name) {
    rig::Settings probe;
    return rig::putSetting(name, "0", probe).has_value() && probe.knobs.count(name) > 0;
}

base::Result<void> putPerStep(const std::string& name,
                              const std::string& value,
                              rig::ControlSheet& sheet) {
    const auto knob = std::find_if(sheet.knobs.begin(),
                                   sheet.knobs.end(),
                                   [&](const rig::Knob& one) { return one.name == name; });
    double number = 0.0;
    if (name == "tint" && isNumber(value, number) && std::abs(number) <= 0.05) {
        sheet.tintDuvPerStep = number;
        return {};
    }
    if (knob == sheet.knobs.end() || !isNumber(value, number) || std::abs(number) > 100.0) {
        return base::fail(base::ErrorCode::OutOfRange,
                          base::say("takeJob.cannotSayWhat", {{"name", name}}),
                          base::say("takeJob.givenAllowedNumber", {{"value", value}}),
                          base::say("takeJob.exampleStepsSaturation"));
    }
    knob->perStep = number;
    return {};
}

}  // namespace rigmatch::jobs
