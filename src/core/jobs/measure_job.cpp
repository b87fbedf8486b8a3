// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/measure_job.h"

#include <algorithm>

#include "chart/chart_file.h"
#include "measure/measure_media.h"
#include "measure/measurer.h"

namespace rigmatch::jobs {
namespace {

namespace fs = std::filesystem;

/// Where hand-set corners hold: the frame on which they were set, else where the chart was found.
std::optional<double> atOf(const rig::Shot& shot) {
    if (!shot.manualCorners) return std::nullopt;
    if (shot.cornersAtSeconds) return shot.cornersAtSeconds;
    if (shot.reading && shot.reading->hasChart)
        return 0.5 * (shot.reading->spanStartSeconds + shot.reading->spanEndSeconds);
    return std::nullopt;
}

/// True where the whole clip was watched before, under the same reading of its codes.
bool isWatched(const rig::Shot& shot) {
    const bool isSameRange =
        shot.rangeOverride.empty() || (shot.reading && shot.reading->range == shot.rangeOverride);
    const bool isSameMatrix = shot.matrixOverride.empty() ||
                              (shot.reading && shot.reading->matrix == shot.matrixOverride);
    const bool isPart =
        shot.reading && std::any_of(shot.reading->warnings.begin(),
                                    shot.reading->warnings.end(),
                                    [](const auto& w) { return w.code == "PartLookedAt"; });
    return shot.manualCorners && shot.reading && !shot.reading->isStill && isSameRange &&
           isSameMatrix && !(isPart && shot.isWholeWanted);
}

/// What only a look at the whole clip tells, taken over into a reading of some of its frames.
void keepWatched(const rig::Reading& before, rig::Reading& after) {
    for (const rig::FaceReading& face : before.faces) {
        if (!face.isManual) after.faces.push_back(face);
    }
    std::sort(after.faces.begin(), after.faces.end(), [](const auto& a, const auto& b) {
        return a.left + 0.5 * a.width < b.left + 0.5 * b.width;
    });
    after.sound = before.sound;
    after.framing = before.framing;
    after.heard = before.heard;
    after.frames = before.frames;
    after.sync = before.sync;
    after.measuredBy = before.measuredBy;
    constexpr std::array kOfTheClip{"Flicker",
                                    "VariableFrameRate",
                                    "CodesStretched",
                                    "CodesSqueezed",
                                    "DisplaysBurnedIn",
                                    "ClipTruncated",
                                    "RangeTagContradicted",
                                    "SoundClipped",
                                    "PartLookedAt"};
    for (const base::Warning& warning : before.warnings) {
        if (std::find(kOfTheClip.begin(), kOfTheClip.end(), warning.code) != kOfTheClip.end())
            after.warnings.push_back(warning);
    }
}

const rig::Observation* ofContent(const std::vector<rig::Observation>& known,
                                  const std::string& identity) {
    if (identity.empty()) return nullptr;
    for (const rig::Observation& one : known) {
        if (one.reading && one.reading->identity == identity && measure::isOfToday(*one.reading))
            return &one;
    }
    return nullptr;
}

/// What the file holds, without what it was laid on elsewhere.
void takeOver(const rig::Observation& known, MeasuredShot& result) {
    rig::Reading reading = *known.reading;
    reading.sync.reset();
    if (reading.framing) reading.framing->drift.reset();
    result.shot.reading = std::move(reading);
    result.shot.isIsoRecorded = result.shot.isIsoRecorded || known.isIsoRecorded;
    result.shot.isKelvinRecorded = result.shot.isKelvinRecorded || known.isKelvinRecorded;
    result.recorded.isoValue = known.isoValue;
    result.recorded.shutterSeconds = known.shutterSeconds;
    result.recorded.fNumber = known.fNumber;
    result.recorded.whiteBalanceKelvin = known.whiteBalanceKelvin;
}

}  // namespace

LookFor lookFor(const rig::Rig& rig, const rig::Take& take, const std::string& sourceId) {
    LookFor what(rig::chartFor(rig, take, sourceId));
    what.asked = rig::askedOf(rig, take, sourceId);
    what.isFramingWanted = rig::isFramingAsked(rig, take, sourceId);
    what.isTimingWanted = rig::isTimingAsked(take);
    what.isSoundEnough = rig::findSource(rig, sourceId) != nullptr;
    return what;
}

MeasuredShot measureShot(const rig::Shot& shot,
                         const LookFor& lookFor,
                         const base::Progress& progress,
                         const std::vector<rig::Observation>& known) {
    MeasuredShot result{shot, {}, false};
    result.shot.failure = {};
    const bool isSameFile = isWatched(shot) && !shot.reading->identity.empty();
    const std::string identity = isSameFile ? shot.reading->identity : rig::identityOf(shot);
    if (const rig::Observation* same = ofContent(known, identity)) {
        takeOver(*same, result);
        return result;
    }
    measure::MeasureOptions options;
    options.isChartWanted = !lookFor.chart.empty();
    options.isSoundEnough = lookFor.isSoundEnough;
    options.isFramingWanted = lookFor.isFramingWanted;
    options.isTimingWanted = lookFor.isTimingWanted;
    const auto reference = options.isChartWanted
                               ? chart::chartOf(lookFor.chart)
                               : base::Result<chart::ReferenceChart>(chart::ReferenceChart{});
    if (!reference) {
        result.shot.reading.reset();
        result.shot.failure = base::fullText(reference.error());
        return result;
    }
    options.chart = *reference;
    options.corners = shot.manualCorners;
    options.atSeconds = atOf(shot);
    options.skinMarks = shot.skinMarks;
    options.range = image::rangeNamed(shot.rangeOverride);
    options.matrix = image::matrixNamed(shot.matrixOverride);
    options.isEndToEnd = shot.isWholeWanted;
    const bool isKnownClip = isWatched(shot);
    options.isWholeClip = !isKnownClip;
    auto measured = measure::measureMedia(shot.media, options, progress);
    if (measured) {
        if (isKnownClip) keepWatched(*shot.reading, measured->reading);
        measured->reading.identity = identity;
        result.shot.reading = std::move(measured->reading);
        result.recorded = std::move(measured->recorded);
        result.shot.isIsoRecorded = shot.isIsoRecorded || result.recorded.isoValue.has_value();
        result.shot.isKelvinRecorded =
            shot.isKelvinRecorded || result.recorded.whiteBalanceKelvin.has_value();
        return result;
    }
    result.isCancelled = measured.error().code == base::ErrorCode::Cancelled;
    result.shot.reading.reset();
    result.shot.failure = base::fullText(measured.error());
    return result;
}

rig::Observation observationOf(const MeasuredShot& measured, const std::string& asked) {
    rig::Observation observation = rig::observed(measured.shot, asked);
    observation.isoValue = measured.recorded.isoValue;
    observation.shutterSeconds = measured.recorded.shutterSeconds;
    observation.fNumber = measured.recorded.fNumber;
    observation.whiteBalanceKelvin = measured.recorded.whiteBalanceKelvin;
    return observation;
}

}  // namespace rigmatch::jobs
