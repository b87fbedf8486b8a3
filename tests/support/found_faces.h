// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "face/face_finder.h"
#include "face/skin_patch.h"
#include "rig/reading.h"

namespace rigmatch::support {

/// One finder for all tests of a program: its networks are loaded once.
inline face::FaceFinder& finder() {
    static face::FaceFinder made = *face::FaceFinder::create();
    return made;
}

/// The skin within an outline; nothing where it cannot be read.
inline std::optional<rig::SkinReading> skinAt(const image::CodedFrame& frame,
                                              const std::vector<image::Point>& outline) {
    const auto patch = face::skinPatch(frame, outline);
    if (!patch) return std::nullopt;
    return rig::SkinReading{
        patch->signal, patch->standardError, patch->clippedShare, patch->pixels};
}

/// Skin of a face that was found.
inline rig::FaceReading readingOf(const image::CodedFrame& frame, const face::Face& face) {
    rig::FaceReading reading;
    reading.turnDegrees = face.turnDegrees;
    reading.forehead = skinAt(frame, face.forehead);
    reading.leftCheek = skinAt(frame, face.leftCheek);
    reading.rightCheek = skinAt(frame, face.rightCheek);
    return reading;
}

}  // namespace rigmatch::support
