// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "rig/stored.h"

namespace rigmatch::rig {

template <>
struct Stored<Doubted> {
    static constexpr auto fields() {
        return std::tuple{kept("value", &Doubted::value),
                          kept("uncertainty", &Doubted::uncertainty)};
    }
};

template <>
struct Stored<FramedPerson> {
    using P = FramedPerson;
    static constexpr auto fields() {
        return std::tuple{PackedField<P>{"box", {&P::left, &P::top, &P::width, &P::height}},
                          kept("headroom", &P::headroom),
                          kept("eyeLine", &P::eyeLine),
                          kept("headHeight", &P::headHeight),
                          kept("faceHeight", &P::faceHeight),
                          kept("across", &P::across),
                          sparse("lookRoom", &P::lookRoom),
                          kept("turnDegrees", &P::turnDegrees),
                          sparse("crownEstimate", &P::isCrownEstimate),
                          sparse("cut", &P::isCut),
                          kept("sway", &P::swayShare),
                          kept("lean", &P::leanShare),
                          kept("frames", &P::frames)};
    }
};

template <>
struct Stored<RollReading> {
    static constexpr auto fields() {
        return std::tuple{kept("degrees", &RollReading::degrees),
                          kept("uncertaintyDegrees", &RollReading::uncertaintyDegrees),
                          kept("tiltDegrees", &RollReading::tiltDegrees),
                          kept("source", &RollReading::source)};
    }
};

template <>
struct Stored<FocusReading> {
    static constexpr auto fields() {
        return std::tuple{sparse("eyesPx", &FocusReading::eyes),
                          sparse("earPx", &FocusReading::ear),
                          sparse("hairPx", &FocusReading::hair),
                          sparse("backgroundPx", &FocusReading::background),
                          sparse("sharpest", &FocusReading::sharpest)};
    }
};

template <>
struct Stored<FrameDrift> {
    using D = FrameDrift;
    static constexpr auto fields() {
        return std::tuple{kept("shiftPx", &D::shiftPx),
                          kept("rollDegrees", &D::rollDegrees),
                          kept("scale", &D::scale, kAboveZero),
                          kept("shiftUncertaintyPx", &D::shiftUncertaintyPx),
                          kept("rollUncertaintyDegrees", &D::rollUncertaintyDegrees),
                          kept("scaleUncertainty", &D::scaleUncertainty),
                          kept("cause", &D::cause),
                          kept("points", &D::points),
                          kept("sharpness", &D::sharpness),
                          kept("against", &D::against),
                          sparse("reason", &D::reason)};
    }
};

template <>
struct Stored<FramingReading> {
    using F = FramingReading;
    static constexpr auto fields() {
        return std::tuple{kept("atSeconds", &F::atSeconds),
                          kept("frames", &F::frames),
                          sparse("roll", &F::roll),
                          sparse("people", &F::people),
                          kept("focus", &F::focus),
                          sparse("drift", &F::drift)};
    }
};

}  // namespace rigmatch::rig
