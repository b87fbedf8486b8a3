// SPDX-License-Identifier: GPL-3.0-or-later
#include "framing/framing_turns.h"

#include <algorithm>
#include <cmath>

#include "base/constants.h"

namespace rigmatch::framing {
namespace {
constexpr double kHeadMetres = 0.23;
// An edge blurred by a disc rises from 10 to 90 % over 0.687 of its diameter (calculated).
constexpr double kOfDisc = 0.687;
constexpr double kInFocusPx = 1.5;  // of a rendered edge (figures, focus)

/// Angle and way that bring a place from one share of a side to another.
void putTurn(const FramedCamera& camera,
             const rig::FramedPerson& person,
             double from,
             double to,
             double sidePx,
             base::Advice& advice) {
    advice.arguments["share"] = std::abs(to - from);
    const auto focal = camera.focalPx();
    if (!focal) return;
    const double a = std::atan((from - 0.5) * sidePx / *focal);
    const double b = std::atan((to - 0.5) * sidePx / *focal);
    advice.arguments["degrees"] = std::abs(a - b) * base::kDegreesPerRadian;
    if (const auto metres = camera.metresTo(person))
        advice.arguments["centimetres"] = 100.0 * *metres * std::abs(to - from) * sidePx / *focal;
}

/// By how much the focus is off: the blur of a thin lens.
base::Advice refocus(const char* code,
                     const FramedCamera& camera,
                     const rig::FramedPerson& person,
                     double eyesPx,
                     double sharpestPx) {
    base::Advice advice{code, {}};
    const auto metres = camera.metresTo(person);
    if (!camera.lens || !camera.lens->fNumber || !metres) return advice;
    const double discPx = std::sqrt(eyesPx * eyesPx - sharpestPx * sharpestPx) / kOfDisc;
    const double focalMm = camera.lens->focalLengthMm;
    const double discMm = discPx * focalMm / *camera.focalPx();
    const double metresOff =
        discMm * *camera.lens->fNumber * *metres * *metres * 1000.0 / (focalMm * focalMm);
    advice.arguments["centimetres"] = 100.0 * metresOff;
    return advice;
}

}  // namespace

std::optional<double> FramedCamera::focalPx() const {
    if (!lens || lens->focalLengthMm <= 0.0 || lens->sensorWidthMm <= 0.0) return std::nullopt;
    return lens->focalLengthMm / lens->sensorWidthMm * std::max(width, height);
}

std::optional<double> FramedCamera::metresTo(const rig::FramedPerson& person) const {
    if (distanceMetres) return distanceMetres;
    const auto focal = focalPx();
    const double headPx = person.headHeight.value * height;
    if (!focal || headPx < 8.0) return std::nullopt;
    return kHeadMetres * *focal / headPx;
}

base::Advice tilt(const FramedCamera& camera,
                  const rig::FramedPerson& person,
                  double from,
                  double to) {
    // What is to stand higher in the picture asks the lens down.
    base::Advice advice{to < from ? "tiltDown" : "tiltUp", {}};
    putTurn(camera, person, from, to, camera.height, advice);
    return advice;
}

base::Advice pan(const FramedCamera& camera,
                 const rig::FramedPerson& person,
                 double from,
                 double to) {
    base::Advice advice{to < from ? "panRight" : "panLeft", {}};
    putTurn(camera, person, from, to, camera.width, advice);
    return advice;
}

base::Advice resize(const FramedCamera& camera, const rig::FramedPerson& person, double ratio) {
    base::Advice advice{ratio > 1.0 ? "stepNearer" : "stepBack", {}};
    advice.arguments["percent"] = 100.0 * std::abs(ratio - 1.0);
    if (const auto metres = camera.metresTo(person))
        advice.arguments["centimetres"] = 100.0 * *metres * std::abs(1.0 - 1.0 / ratio);
    if (!camera.lens) return advice;
    const CameraLens& lens = *camera.lens;
    const double focal = lens.focalLengthMm * ratio;
    const bool isZoom = lens.longFocalMm > lens.shortFocalMm;
    if (isZoom && (focal < lens.shortFocalMm || focal > lens.longFocalMm)) return advice;
    advice.arguments["focalFrom"] = lens.focalLengthMm;
    advice.arguments["focalTo"] = focal;
    if (!isZoom) advice.arguments["isPrime"] = 1.0;
    return advice;
}

base::Advice level(double contentDegrees) {
    return {contentDegrees > 0.0 ? "rollClockwise" : "rollAnticlockwise",
            {{"degrees", std::abs(contentDegrees)}}};
}

base::Advice focusNearer(const FramedCamera& camera,
                         const rig::FramedPerson& person,
                         double eyesPx,
                         double sharpestPx) {
    return refocus("focusNearer", camera, person, eyesPx, sharpestPx);
}

std::optional<EarWidths> earWidths(const FramedCamera& camera,
                                   const rig::FramedPerson& person,
                                   double eyesPx) {
    constexpr double kBehind = 0.096, kBeside = 0.082;  // m
    const auto metres = camera.metresTo(person);
    const auto focal = camera.focalPx();
    if (!camera.lens || !camera.lens->fNumber || !metres || !focal) return std::nullopt;
    const double turn = std::abs(person.turnDegrees) / base::kDegreesPerRadian;
    const double depth = kBehind * std::cos(turn) - kBeside * std::sin(turn);
    if (depth <= 0.0) return std::nullopt;
    const double aperture = 0.001 * camera.lens->focalLengthMm / *camera.lens->fNumber;
    const double step = kOfDisc * aperture * *focal * (1.0 / *metres - 1.0 / (*metres + depth));
    const double blur = std::sqrt(std::max(0.0, eyesPx * eyesPx - kInFocusPx * kInFocusPx));
    return EarWidths{std::hypot(blur + step, kInFocusPx), std::hypot(blur - step, kInFocusPx)};
}

base::Advice focusFurther(const FramedCamera& camera,
                          const rig::FramedPerson& person,
                          double eyesPx) {
    return refocus("focusFurther", camera, person, eyesPx, kInFocusPx);
}

}  // namespace rigmatch::framing
