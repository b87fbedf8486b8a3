// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <optional>
#include <string>
#include <vector>

#include "optics/lens.h"
#include "rig/rig.h"

namespace rigmatch::plan {

/// A point of the set, m: x from the left wall, y up from the floor, z from the back wall.
using Vec = Eigen::Vector3d;

/// A place in a picture as shares of its width and height: (0, 0) top left, (1, 1) bottom right.
struct PicturePoint {
    double x = 0.5;
    double y = 0.5;

    [[nodiscard]] bool isInside(double margin = 0.0) const {
        return x >= margin && x <= 1.0 - margin && y >= margin && y <= 1.0 - margin;
    }
};

/// Direction of an angle on the plan: 0° from the back wall to the camera side, + to the right.
[[nodiscard]] Vec facingVector(double degrees);
/// The angle of a direction on the plan, -180..180°.
[[nodiscard]] double facingOf(const Vec& direction);
/// Angle between two directions, 0..180°.
[[nodiscard]] double angleBetween(const Vec& first, const Vec& second);

[[nodiscard]] Vec placeOf(const rig::PlanObject& object);
[[nodiscard]] Vec aimOf(const rig::PlanObject& object);

/// Where the face of a chart looks, leaning back included.
[[nodiscard]] Vec chartNormal(const rig::PlanObject& chart);

/// Points of a person's head in the proportions of the stand-ins (chin to crown = headMetres).
struct Head {
    Vec centre{0, 1.3, 0};
    Vec eyes{0, 1.3, 0};
    Vec forward{0, 0, 1};
    Vec left{1, 0, 0};   ///< the person's own left
    double scale = 1.0;  ///< against a head of 0.26 m

    /// A point given in the head's own axes at scale 1, m: x to its left, y up, z out of the face.
    [[nodiscard]] Vec at(double x, double y, double z) const {
        return centre + scale * (x * left + y * Vec::UnitY() + z * forward);
    }
};
[[nodiscard]] Head headOf(const rig::PlanObject& person);

/// A spot of skin and where it faces.
struct SkinSpot {
    Vec point;
    Vec normal;
};
enum class FaceSide { Left, Right };  ///< the person's own
/// Middle of a cheek, turned 45° from where the face looks.
[[nodiscard]] SkinSpot cheekOf(const rig::PlanObject& person, FaceSide side);
/// Middle of the face, at the brow.
[[nodiscard]] SkinSpot foreheadOf(const rig::PlanObject& person);
/// The nose stands between a spot of the same face and a point.
[[nodiscard]] bool isBehindNose(const Head& head, const Vec& spot, const Vec& point);

/// What a camera sees: an ideal rectilinear lens focused at the person or point it is aimed at.
class CameraView {
public:
    /// Fails with OutOfRange where lens, sensor or aim make no picture.
    [[nodiscard]] static base::Result<CameraView> of(const rig::SetPlan& plan,
                                                     const rig::Camera& camera,
                                                     const rig::PlanObject& place);

    /// Where a point falls in the picture (also beside it); nothing behind the lens.
    [[nodiscard]] std::optional<PicturePoint> project(const Vec& point) const;
    /// Direction of a place in the picture, of length 1.
    [[nodiscard]] Vec direction(const PicturePoint& at) const;
    /// Size of the frame at a distance along the axis, m.
    [[nodiscard]] double widthAt(double distanceMetres) const {
        return 2.0 * m_halfWidth * distanceMetres;
    }
    [[nodiscard]] double heightAt(double distanceMetres) const {
        return 2.0 * m_halfHeight * distanceMetres;
    }
    [[nodiscard]] double depthOf(const Vec& point) const {
        return (point - m_position).dot(m_forward);
    }

    [[nodiscard]] const Vec& position() const { return m_position; }
    [[nodiscard]] const Vec& forward() const { return m_forward; }
    [[nodiscard]] const Vec& up() const { return m_up; }
    [[nodiscard]] double focusMetres() const { return m_focusMetres; }
    [[nodiscard]] double horizontalDegrees() const;
    [[nodiscard]] double verticalDegrees() const;
    [[nodiscard]] const optics::LensState& lens() const { return m_lens; }

private:
    Vec m_position{0, 1, 3}, m_forward{0, 0, -1}, m_right{1, 0, 0}, m_up{0, 1, 0};
    double m_halfWidth = 0.36;  ///< tangent of half the view
    double m_halfHeight = 0.2;
    double m_focusMetres = 2.0;
    optics::LensState m_lens;
};

/// A head in a picture: the edges of what is seen of hair and chin, whatever the lens height.
struct HeadBox {
    PicturePoint crown, chin, eyes;
    [[nodiscard]] double height() const { return chin.y - crown.y; }
};
/// Nothing for a head behind the lens.
[[nodiscard]] std::optional<HeadBox> headBox(const CameraView& view, const rig::PlanObject& person);

/// The person a camera is for: the one it follows, else the head nearest to its axis in front of
/// it.
[[nodiscard]] const rig::PlanObject* subjectOf(const rig::SetPlan& plan,
                                               const rig::PlanObject& camera);
[[nodiscard]] std::vector<const rig::PlanObject*> objectsOf(const rig::SetPlan& plan,
                                                            rig::PlanKind kind);
/// The other person of a talk: the nearest one; nothing where someone sits alone.
[[nodiscard]] const rig::PlanObject* partnerOf(const rig::SetPlan& plan,
                                               const rig::PlanObject& person);

}  // namespace rigmatch::plan
