// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "base/result.h"
#include "image/frame.h"

namespace rigmatch::face {

/// Where the six key points of the detector lie on a face; left and right are the person's own.
struct KeyPoints {
    image::Point rightEye, leftEye, nose, mouth, rightEar, leftEar;
};

/// How far a head is turned away from the lens, by the detector's key points (uncalibrated).
enum class Turn { Frontal, ThreeQuarter, Side };

/// A face in a frame, px of the frame.
struct Face {
    double left = 0.0, top = 0.0, width = 0.0, height = 0.0;
    double score = 0.0;     ///< of the detector, 0..1
    double presence = 0.0;  ///< of the mesh, 0..1
    KeyPoints points;
    double turnDegrees = 0.0;  ///< + toward the person's own left; ± 90
    /// Outlines of skin that is told apart: forehead, the person's own left and right cheek. A
    /// cheek that is turned away is empty.
    std::vector<image::Point> forehead, leftCheek, rightCheek;
    image::Point chin;
    /// Midway between the pupils; brow: where the hair begins on a bare forehead, on the face's
    /// axis.
    image::Point eyes, brow;
    /// Outer and inner corner of the person's own right, then left eye; empty in profile.
    std::vector<image::Point> eyeCorners;

    [[nodiscard]] Turn turn() const;
    [[nodiscard]] image::Point centre() const { return {left + 0.5 * width, top + 0.5 * height}; }
};

/// Quick: the whole frame and squares of its height; faces from about 8 % of the height. Thorough:
/// where that finds nothing, squares of half the height as well, at five times the cost.
enum class FaceEffort { Quick, Thorough };

struct FaceOptions {
    FaceEffort effort = FaceEffort::Thorough;
    double leastScore = 0.75;     ///< enough by itself …
    double leastPresence = 0.3;   ///< … or the mesh agrees
    double candidateScore = 0.5;  ///< from here on the mesh is asked
    int mostFaces = 8;

    [[nodiscard]] base::Result<void> validate() const;
};

/// Finds faces with two small networks that come with the program (data/models): a detector on the
/// whole frame and on tiles, and a mesh that confirms each face and gives its skin. People are not
/// recognised and nothing about them is kept. One thread at a time; about 120 ms a frame.
class FaceFinder {
public:
    /// Fails with Unreadable where the networks cannot be loaded.
    [[nodiscard]] static base::Result<FaceFinder> create();
    ~FaceFinder();
    FaceFinder(FaceFinder&&) noexcept;
    FaceFinder& operator=(FaceFinder&&) noexcept;

    /// The faces of a frame, from left to right. Log and dark pictures are stretched before; colour
    /// is never measured on the stretched picture. Fails with OutOfRange (options), TooFewPixels
    /// under 64 px.
    [[nodiscard]] base::Result<std::vector<Face>> find(const image::CodedFrame& frame,
                                                       const FaceOptions& options = {});

    /// The same face with its eyes, brow and chin read from the frame's own pixels, which matters
    /// for small ones and where places are measured; unchanged where the mesh does not agree.
    [[nodiscard]] Face refined(const image::CodedFrame& frame, const Face& face);

private:
    struct State;
    explicit FaceFinder(std::unique_ptr<State> state);
    std::unique_ptr<State> m_state;
};

}  // namespace rigmatch::face
