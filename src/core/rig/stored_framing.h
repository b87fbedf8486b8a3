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
                          sparse("lineOver", &P::hasLineOver),
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
                          sparse("frontPx", &FocusReading::front),
                          sparse("backgroundPx", &FocusReading::background),
                          sparse("sharpest", &FocusReading::sharpest)};
    }
};

template <>
struct Stored<BrightSpot> {
    using B = BrightSpot;
    static constexpr auto fields() {
        return std::tuple{kept("left", &B::left),
                          kept("top", &B::top),
                          kept("width", &B::width),
                          kept("height", &B::height),
                          kept("level", &B::level),
                          kept("where", &B::where)};
    }
};

template <>
struct Stored<KeyScreen> {
    using K = KeyScreen;
    static constexpr auto fields() {
        return std::tuple{kept("hue", &K::hue),
                          kept("areaShare", &K::areaShare),
                          kept("evennessStops", &K::evennessStops),
                          kept("level", &K::level),
                          kept("saturation", &K::saturation),
                          kept("spillShare", &K::spillShare),
                          sparse("levelDoubt", &K::levelDoubt),
                          sparse("saturationDoubt", &K::saturationDoubt),
                          sparse("spillDoubt", &K::spillDoubt)};
    }
};

template <>
struct Stored<FocusHunt> {
    using H = FocusHunt;
    static constexpr auto fields() {
        return std::tuple{kept("startSeconds", &H::startSeconds),
                          kept("endSeconds", &H::endSeconds),
                          kept("strength", &H::strength),
                          sparse("stayed", &H::hasStayed)};
    }
};

template <>
struct Stored<FocusOverTime> {
    using F = FocusOverTime;
    static constexpr auto fields() {
        return std::tuple{kept("samples", &F::samples),
                          sparse("hunts", &F::hunts),
                          sparse("breathing", &F::breathing)};
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
                          sparse("focusOverTime", &F::focusOverTime),
                          sparse("brightSpots", &F::brightSpots),
                          sparse("keyScreen", &F::keyScreen),
                          sparse("darkest", &F::darkest),
                          sparse("drift", &F::drift)};
    }
};

}  // namespace rigmatch::rig
