// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/analysis.h"

#include <algorithm>
#include <cmath>

#include "plan/sight.h"

namespace rigmatch::plan {
namespace {

using rig::PlanKind;
using rig::PlanObject;

constexpr double kNeutralDegrees = 5.0;  // a camera this near to the axis belongs to neither side

}  // namespace

const FaceSeen* PlacedCamera::subjectSeen() const {
    if (subject == nullptr) return nullptr;
    const auto found = faces.find(subject->id);
    return found == faces.end() || !found->second.isInPicture ? nullptr : &found->second;
}

SetAnalysis::SetAnalysis(const rig::Rig& rig) : m_rig(rig), m_field(*rig.plan) {
    const rig::SetPlan& plan = *rig.plan;
    const auto people = objectsOf(plan, PlanKind::Person);
    for (const PlanObject* person : people) m_faces.push_back(faceLight(m_field, *person));
    for (const PlanObject* place : objectsOf(plan, PlanKind::Camera)) {
        PlacedCamera placed;
        placed.place = place;
        placed.camera = rig::findCamera(rig, place->cameraId);
        placed.subject = subjectOf(plan, *place);
        if (placed.camera == nullptr) continue;
        auto view = CameraView::of(plan, *placed.camera, *place);
        if (view) {
            placed.view = *view;
            for (std::size_t i = 0; i < people.size(); ++i) {
                placed.faces[people[i]->id] =
                    faceSeen(plan, m_field, m_faces[i], *people[i], *view);
            }
        } else {
            placed.failure = view.error();
        }
        m_cameras.push_back(std::move(placed));
    }
}

const FaceLight* SetAnalysis::faceOf(const std::string& personId) const {
    for (const FaceLight& face : m_faces) {
        if (face.personId == personId) return &face;
    }
    return nullptr;
}

const PlacedCamera* SetAnalysis::cameraOf(const std::string& objectId) const {
    for (const PlacedCamera& camera : m_cameras) {
        if (camera.place->id == objectId) return &camera;
    }
    return nullptr;
}

const PlacedCamera* SetAnalysis::reference() const {
    for (const PlacedCamera& camera : m_cameras) {
        if (camera.camera->id == m_rig.referenceId) return &camera;
    }
    return m_cameras.empty() ? nullptr : &m_cameras.front();
}

std::vector<Fact> SetAnalysis::facts(const std::string& objectId) const {
    const PlanObject* object = rig::findObject(plan(), objectId);
    if (object == nullptr) return roomFacts(*this);
    switch (object->kind) {
        case PlanKind::Camera: {
            const PlacedCamera* camera = cameraOf(objectId);
            return camera == nullptr ? std::vector<Fact>{} : cameraFacts(*this, *camera);
        }
        case PlanKind::Person:
            return personFacts(*this, *object);
        case PlanKind::Light:
            return lightFacts(*this, *object);
        default:
            return surfaceFacts(*this, *object);
    }
}

int SetAnalysis::sideOfAxis(const PlacedCamera& camera) const {
    const auto people = objectsOf(plan(), PlanKind::Person);
    if (people.size() < 2) return 0;
    const Vec from = placeOf(*people[0]);
    const Vec axis = placeOf(*people[1]) - from;
    const Vec toCamera = placeOf(*camera.place) - from;
    const Vec flatAxis(axis.x(), 0.0, axis.z());
    const Vec middle = placeOf(*camera.place) - 0.5 * (from + placeOf(*people[1]));
    const double angle = angleBetween(flatAxis, Vec(middle.x(), 0.0, middle.z()));
    if (std::min(angle, 180.0 - angle) < kNeutralDegrees) return 0;
    const double cross = axis.x() * toCamera.z() - axis.z() * toCamera.x();
    return cross > 0.0 ? 1 : -1;
}

const std::vector<SpotLight>& SetAnalysis::backgroundSpots() const {
    if (!m_backgroundSpots.empty()) return m_backgroundSpots;
    for (const PlacedCamera& camera : m_cameras) {
        if (!camera.view) continue;
        for (const double x : {0.1, 0.3, 0.7, 0.9}) {
            const SurfaceHit hit =
                surfaceHit(plan(), camera.view->position(), camera.view->direction({x, 0.35}));
            m_backgroundSpots.push_back(
                m_field.at(hit.point + 0.01 * hit.normal, hit.normal, hit.objectId));
        }
    }
    return m_backgroundSpots;
}

optics::CircuitLoad SetAnalysis::loadOf(const rig::Circuit& circuit) const {
    std::vector<optics::Consumer> consumers{{circuit.otherWatts, 1.0}};
    for (const PlanObject* light : objectsOf(plan(), PlanKind::Light)) {
        if (light->circuitId == circuit.id && light->isOn) {
            consumers.push_back({light->powerWatts, light->powerFactor});
        }
    }
    // Cameras on mains hang on the first circuit: nobody plans them apart.
    if (!plan().circuits.empty() && circuit.id == plan().circuits.front().id) {
        for (const PlacedCamera& placed : m_cameras) {
            const rig::Equipment& equipment = placed.camera->equipment;
            if (equipment.powerSource != "battery") {
                consumers.push_back({equipment.powerWatts, 0.6});
            }
        }
    }
    return optics::circuitLoad(circuit.volts, circuit.amps, consumers);
}

double glassLossStops(const rig::Rig& rig, const rig::Camera& camera) {
    double loss = camera.filterStops + camera.lens.transmissionStops;
    if (rig.plan) {
        if (const PlanObject* place = rig::findPlanCamera(*rig.plan, camera.id)) {
            loss += place->glassStops;
        }
    }
    return loss;
}

double plannedDifferenceStops(const rig::Rig& rig,
                              const rig::Camera& camera,
                              const rig::Camera& reference) {
    return optics::exposureChange(rig::exposureOf(reference.settings),
                                  rig::exposureOf(camera.settings))
               .value() -
           (glassLossStops(rig, camera) - glassLossStops(rig, reference));
}

}  // namespace rigmatch::plan
