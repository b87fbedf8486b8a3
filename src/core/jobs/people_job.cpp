// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/people_job.h"

#include <algorithm>
#include <cmath>

#include "plan/geometry.h"

namespace rigmatch::jobs {
namespace {

constexpr double kFarthest = 0.25;  // of the picture's width

struct Pair {
    std::size_t person = 0;
    std::size_t face = 0;
    double distance = 0.0;
};

/// Where the plan puts the eyes of every person in a camera's picture, as shares of its size.
std::vector<std::optional<plan::PicturePoint>> expectedEyes(
    const rig::SetPlan& set,
    const rig::Camera& camera,
    const std::vector<const rig::PlanObject*>& persons) {
    std::vector<std::optional<plan::PicturePoint>> eyes(persons.size());
    const rig::PlanObject* place = rig::findPlanCamera(set, camera.id);
    if (place == nullptr) return eyes;
    const auto view = plan::CameraView::of(set, camera, *place);
    if (!view) return eyes;
    for (std::size_t i = 0; i < persons.size(); ++i) {
        if (const auto box = plan::headBox(*view, *persons[i])) eyes[i] = box->eyes;
    }
    return eyes;
}

/// Nearest pairs first; each person and each face once.
void assignByPlan(const std::vector<std::optional<plan::PicturePoint>>& eyes,
                  const rig::Reading& reading,
                  const std::string& cameraId,
                  match::People& people) {
    const double shape = reading.height / std::max(1.0, double(reading.width));
    std::vector<Pair> pairs;
    for (std::size_t p = 0; p < eyes.size(); ++p) {
        for (std::size_t f = 0; eyes[p] && f < reading.faces.size(); ++f) {
            const rig::FaceReading& face = reading.faces[f];
            const double x = 0.5 * (face.leftEye.x + face.rightEye.x) / reading.width;
            const double y = 0.5 * (face.leftEye.y + face.rightEye.y) / reading.height;
            const double distance = std::hypot(x - eyes[p]->x, (y - eyes[p]->y) * shape);
            if (distance < kFarthest) pairs.push_back({p, f, distance});
        }
    }
    std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) {
        return a.distance < b.distance;
    });
    std::vector<bool> isTaken(reading.faces.size());
    for (const Pair& pair : pairs) {
        if (isTaken[pair.face] || people[pair.person].faces.contains(cameraId)) continue;
        people[pair.person].faces[cameraId] = pair.face;
        isTaken[pair.face] = true;
    }
}

match::People countedPeople(const rig::Rig& rig, const rig::Take& take) {
    const auto isMeasured = [&](const rig::Shot& shot) {
        return shot.reading && rig::findCamera(rig, shot.cameraId) != nullptr;
    };
    std::size_t most = 0;
    for (const rig::Shot& shot : take.shots) {
        if (isMeasured(shot)) most = std::max(most, shot.reading->faces.size());
    }
    match::People people(most);
    for (std::size_t i = 0; i < most; ++i) people[i].name = "person " + std::to_string(i + 1);
    for (const rig::Shot& shot : take.shots) {
        if (!isMeasured(shot) || shot.reading->faces.size() != most) continue;
        for (std::size_t i = 0; i < most; ++i) people[i].faces[shot.cameraId] = i;
    }
    return people;
}

}  // namespace

match::People peopleOf(const rig::Rig& rig, const rig::Take& take) {
    if (!rig.plan) return countedPeople(rig, take);
    const auto persons = plan::objectsOf(*rig.plan, rig::PlanKind::Person);
    if (persons.empty()) return countedPeople(rig, take);
    match::People people;
    for (const rig::PlanObject* person : persons) people.push_back({person->name, {}});
    for (const rig::Shot& shot : take.shots) {
        const rig::Camera* camera = rig::findCamera(rig, shot.cameraId);
        if (camera == nullptr || !shot.reading || shot.reading->width <= 0) continue;
        assignByPlan(
            expectedEyes(*rig.plan, *camera, persons), *shot.reading, shot.cameraId, people);
    }
    std::erase_if(people, [](const match::Person& person) { return person.faces.empty(); });
    return people;
}

}  // namespace rigmatch::jobs
