// SPDX-License-Identifier: GPL-3.0-or-later
#include "rig/observations.h"

#include <charconv>
#include <utility>

#include "base/file_identity.h"

namespace rigmatch::rig {
namespace {

void append(std::string& text, double value) {
    std::array<char, 32> buffer{};
    const auto end = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value);
    text.append(buffer.data(), end.ptr);
    text += ' ';
}

}  // namespace

std::string identityOf(const Shot& shot) {
    std::string text = base::fileIdentity(shot.media);
    for (const auto& part : shot.laterParts) {
        const std::string more = base::fileIdentity(part);
        if (more.empty() || text.empty()) return {};
        text += '+' + more;
    }
    return text;
}

std::string restsOn(const Shot& shot, const std::string& asked) {
    std::string text = shot.media.string();
    for (const auto& part : shot.laterParts) text += '\n' + part.string();
    return text + '\n' + correctionsOf(shot, asked);
}

std::string correctionsOf(const Shot& shot, const std::string& asked) {
    std::string text = asked + '\n' + shot.rangeOverride + '\n' + shot.matrixOverride + '\n';
    if (shot.isWholeWanted) text += "whole\n";
    if (shot.manualCorners) {
        for (const PicturePoint& corner : *shot.manualCorners) {
            append(text, corner.x);
            append(text, corner.y);
        }
        append(text, shot.cornersAtSeconds.value_or(-1.0));
    }
    for (const SkinMark& mark : shot.skinMarks) {
        for (const double value : {mark.left, mark.top, mark.width, mark.height, mark.atSeconds})
            append(text, value);
    }
    return text;
}

void putTold(const Observation& observation, Settings& settings) {
    const auto put = [](const std::optional<double>& told, base::Told<double>& value) {
        if (told) value = *told;
    };
    put(observation.isoValue, settings.isoValue);
    put(observation.shutterSeconds, settings.shutterSeconds);
    put(observation.fNumber, settings.fNumber);
    put(observation.whiteBalanceKelvin, settings.whiteBalanceKelvin);
}

void putInto(const Observation& observation, Shot& shot) {
    shot.reading = observation.reading;
    shot.failure = observation.failure;
    shot.isIsoRecorded = observation.isIsoRecorded;
    shot.isKelvinRecorded = observation.isKelvinRecorded;
    putTold(observation, shot.settings);
}

Observation observed(const Shot& shot, const std::string& asked) {
    Observation observation;
    observation.rests = restsOn(shot, asked);
    observation.corrections = correctionsOf(shot, asked);
    observation.reading = shot.reading;
    observation.failure = shot.failure;
    observation.isIsoRecorded = shot.isIsoRecorded;
    observation.isKelvinRecorded = shot.isKelvinRecorded;
    return observation;
}

void Observations::addAll(const Rig& rig) {
    for (const Take& take : rig.takes) {
        for (const Shot& shot : take.shots) {
            if (shot.reading || !shot.failure.empty())
                add(observed(shot, askedOf(rig, take, shot.cameraId)));
        }
    }
}

const Observation* Observations::find(const std::string& rests) const {
    const auto found = m_all.find(rests);
    return found == m_all.end() ? nullptr : &found->second;
}

std::vector<Observation> Observations::correctedAlike(const Shot& shot,
                                                      const std::string& asked) const {
    const std::string corrections = correctionsOf(shot, asked);
    std::vector<Observation> alike;
    for (const auto& [rests, observation] : m_all) {
        if (observation.reading && !observation.reading->identity.empty() &&
            observation.corrections == corrections)
            alike.push_back(observation);
    }
    return alike;
}

void Observations::putInto(Rig& rig, const Rig& known) const {
    const bool isSameChart = rig.chart == known.chart;
    for (std::size_t t = 0; t < rig.takes.size(); ++t) {
        if (isSameChart && t < known.takes.size() && rig.takes.share(t) == known.takes.share(t))
            continue;
        const auto take = rig.takes.share(t);
        for (std::size_t s = 0; s < take->shots.size(); ++s) {
            const Shot& shot = take->shots[s];
            const Observation* found = find(restsOn(shot, askedOf(rig, *take, shot.cameraId)));
            if (found == nullptr) continue;
            Shot filled = shot;
            rig::putInto(*found, filled);
            if (filled.reading.isSame(shot.reading) && filled == shot) continue;
            rig.takes[t].shots[s] = std::move(filled);
        }
    }
}

}  // namespace rigmatch::rig
