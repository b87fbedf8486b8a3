// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "optics/supply.h"
#include "plan/face_light.h"
#include "plan/fact.h"

namespace rigmatch::plan {

/// A camera of the rig at its place on the plan.
struct PlacedCamera {
    const rig::Camera* camera = nullptr;
    const rig::PlanObject* place = nullptr;
    const rig::PlanObject* subject = nullptr;
    std::optional<CameraView> view;
    base::Error failure;                    ///< why there is no view
    std::map<std::string, FaceSeen> faces;  ///< by person

    [[nodiscard]] const FaceSeen* subjectSeen() const;
};

/// Something in the picture that should not be there.
struct Intruder {
    std::string objectId;
    base::Text text;          ///< "stand of key 2"
    const char* edge = "";    ///< "edge.left", "edge.right", "edge.top", "edge.bottom"
    double share = 0.0;       ///< how far it reaches in from that edge, of width or height
    double moveMetres = 0.0;  ///< how far it must go to be out
    bool isRoom = false;      ///< ceiling, end of a backdrop
};

/// Everything that a plan tells, computed once for one state of the rig. `rig.plan` must be set and
/// outlive it; one thread at a time. Some milliseconds for a set of eight cameras and twenty
/// lights.
class SetAnalysis {
public:
    explicit SetAnalysis(const rig::Rig& rig);

    [[nodiscard]] const rig::Rig& rig() const { return m_rig; }
    [[nodiscard]] const rig::SetPlan& plan() const { return *m_rig.plan; }
    [[nodiscard]] const LightField& field() const { return m_field; }
    [[nodiscard]] const std::vector<FaceLight>& faces() const { return m_faces; }
    [[nodiscard]] const FaceLight* faceOf(const std::string& personId) const;
    [[nodiscard]] const std::vector<PlacedCamera>& cameras() const { return m_cameras; }
    [[nodiscard]] const PlacedCamera* cameraOf(const std::string& objectId) const;
    /// The reference camera's place, or the first placed one.
    [[nodiscard]] const PlacedCamera* reference() const;

    /// Facts of one object, the most important first; the room's where `objectId` is empty.
    [[nodiscard]] std::vector<Fact> facts(const std::string& objectId) const;
    /// What to improve, the most important first.
    [[nodiscard]] std::vector<Note> notes() const;

    [[nodiscard]] std::vector<Intruder> intruders(const PlacedCamera& camera) const;
    /// + or - for the two sides of the line between the two people nearest to the wide camera; 0
    /// within 5° of it or with fewer than two people.
    [[nodiscard]] int sideOfAxis(const PlacedCamera& camera) const;
    /// Light on what the cameras see behind the people, at four spots per camera; made on first
    /// use.
    [[nodiscard]] const std::vector<SpotLight>& backgroundSpots() const;
    [[nodiscard]] optics::CircuitLoad loadOf(const rig::Circuit& circuit) const;

private:
    const rig::Rig& m_rig;
    LightField m_field;
    std::vector<FaceLight> m_faces;
    std::vector<PlacedCamera> m_cameras;
    mutable std::vector<SpotLight> m_backgroundSpots;
};

/// Light that a camera loses in prompter, filter and lens glass, stops.
[[nodiscard]] double glassLossStops(const rig::Rig& rig, const rig::Camera& camera);
/// Planned brightness against the reference for the same light, + is brighter (sources 4.1).
[[nodiscard]] double plannedDifferenceStops(const rig::Rig& rig,
                                            const rig::Camera& camera,
                                            const rig::Camera& reference);

// One file per kind of object.
[[nodiscard]] std::vector<Fact> cameraFacts(const SetAnalysis& set, const PlacedCamera& camera);
[[nodiscard]] std::vector<Fact> pictureFacts(const SetAnalysis& set, const PlacedCamera& camera);
[[nodiscard]] std::vector<Fact> cameraLightFacts(const SetAnalysis& set,
                                                 const PlacedCamera& camera);
[[nodiscard]] std::vector<Fact> personFacts(const SetAnalysis& set, const rig::PlanObject& person);
[[nodiscard]] std::vector<Fact> lightFacts(const SetAnalysis& set, const rig::PlanObject& light);
[[nodiscard]] std::vector<Fact> surfaceFacts(const SetAnalysis& set, const rig::PlanObject& object);
[[nodiscard]] std::vector<Fact> roomFacts(const SetAnalysis& set);

}  // namespace rigmatch::plan
