// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/curve_job.h"

#include "colour/curve_file.h"
#include "colour/named_primaries.h"
#include "optics/exposure.h"

namespace rigmatch::jobs {

rig::Rig withDeclaredCurve(rig::Rig rig,
                           const std::string& cameraId,
                           const std::string& profile,
                           const std::optional<colour::TransferCurve>& curve) {
    rig::Camera* camera = rig::findCamera(rig, cameraId);
    if (camera == nullptr) return rig;
    for (rig::Profile& known : camera->sheet.profiles) {
        if (known.name != profile) continue;
        known.curve = curve;
        return rig;
    }
    if (curve) camera->sheet.profiles.push_back({profile, curve});
    return rig;
}

std::optional<colour::TransferCurve> declaredFor(const rig::Camera& camera,
                                                 const std::string& profile) {
    const rig::Profile* known = rig::findProfile(camera.sheet, profile);
    return known == nullptr ? std::nullopt : known->curve;
}

rig::Rig withDeclaredPrimaries(rig::Rig rig,
                               const std::string& cameraId,
                               const std::string& profile,
                               const std::string& primaries) {
    rig::Camera* camera = rig::findCamera(rig, cameraId);
    if (camera == nullptr) return rig;
    for (rig::Profile& known : camera->sheet.profiles) {
        if (known.name != profile) continue;
        known.primaries = primaries;
        return rig;
    }
    if (primaries.empty()) return rig;
    rig::Profile made;
    made.name = profile;
    made.primaries = primaries;
    camera->sheet.profiles.push_back(std::move(made));
    return rig;
}

std::string primariesFor(const rig::Camera& camera, const std::string& profile) {
    const rig::Profile* known = rig::findProfile(camera.sheet, profile);
    return known == nullptr ? std::string() : known->primaries;
}

std::vector<PrimariesChoice> primariesChoices() {
    std::vector<PrimariesChoice> choices;
    for (const char* name : {"bt709", "bt2020", "p3-d65", "bt601", "bt601-625"})
        choices.push_back({name, colour::primariesTitle(name)});
    for (const std::string& name : colour::cameraPrimaries()) choices.push_back({name, name});
    return choices;
}

base::Result<colour::TransferCurve> curveFromTable(const std::filesystem::path& file) {
    return colour::curveFromFile(file);
}

base::Result<match::BracketCurve> curveFromTakes(const rig::Rig& rig,
                                                 const std::string& cameraId,
                                                 const std::string& profile) {
    std::vector<match::BracketStep> steps;
    const rig::Settings* first = nullptr;
    for (const rig::Take& take : rig.takes) {
        const rig::Shot* shot = rig::findShot(take, cameraId);
        if (shot == nullptr || !shot->reading || !rig::isExposureKnown(shot->settings)) continue;
        if (!(shot->settings.profile == profile)) continue;
        if (first == nullptr) first = &shot->settings;
        const double stops =
            optics::exposureChange(rig::exposureOf(*first), rig::exposureOf(shot->settings))
                .value();
        steps.push_back({&*shot->reading, stops, "take " + std::to_string(take.number)});
    }
    return match::curveFromBracket(steps);
}

}  // namespace rigmatch::jobs
