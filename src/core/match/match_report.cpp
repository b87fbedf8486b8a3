// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/match_report.h"

#include <algorithm>
#include <cmath>
#include <deque>

#include "match/details.h"

namespace rigmatch::match {
namespace {

/// Readings whose uneven light was taken out; they must outlive the sides that show them.
using EvenReadings = std::deque<rig::Reading>;

Judging judgingOf(const rig::Rig& rig) {
    return rig.judge == "linear" ? Judging::Linear
           : rig.judge == "lut"  ? Judging::ThroughLut
                                 : Judging::Recorded;
}

Side sideOf(const rig::Camera& camera, const rig::Shot* shot, EvenReadings& even) {
    Side side;
    if (shot == nullptr || (!shot->reading && shot->failure.empty())) {
        side.missing = "No clip in this take. Drop one on Test take.";
        return side;
    }
    if (!shot->reading) {
        side.missing = shot->failure;
        return side;
    }
    side.reading = &*shot->reading;
    if (auto changed = evened(*shot->reading)) {
        even.push_back(std::move(*changed));
        side.reading = &even.back();
        side.isEvened = true;
    }
    side.declared = declaredCurve(camera, *shot);
    if (!camera.viewingLut.empty()) {
        if (auto lut = colour::ViewingLut::read(camera.viewingLut)) side.lut = std::move(*lut);
    }
    return side;
}

struct Coloured {
    std::string cameraId;
    PatchSignals now;
    PatchSignals after;
    double error = 0.0;       ///< of a mean ΔE2000, from noise
    double afterError = 0.0;  ///< the same for the prediction
};

std::optional<WorstPair> worstPair(const std::vector<Coloured>& cameras, bool isAfter) {
    std::optional<WorstPair> worst;
    for (std::size_t i = 0; i < cameras.size(); ++i) {
        for (std::size_t k = i + 1; k < cameras.size(); ++k) {
            const double deltaE =
                isAfter ? colourDifference(cameras[k].after, {}, cameras[i].after, {}).mean
                        : colourDifference(cameras[k].now, {}, cameras[i].now, {}).mean;
            if (!worst || deltaE > worst->deltaE)
                worst = WorstPair{cameras[i].cameraId,
                                  cameras[k].cameraId,
                                  deltaE,
                                  isAfter ? std::hypot(cameras[i].afterError, cameras[k].afterError)
                                          : std::hypot(cameras[i].error, cameras[k].error)};
        }
    }
    return worst;
}

/// Skin of one camera against the reference; the fits are those of the charts, where there are any.
void addSkin(const People& people,
             const Side& side,
             const std::string& referenceId,
             const Side& referenceSide,
             const std::optional<NeutralFit>& referenceFit,
             CameraMatch& match) {
    if (side.reading == nullptr) return;
    const auto& fit = match.differences.fit;
    match.skin = compareSkin(people,
                             match.cameraId,
                             *side.reading,
                             fit ? &*fit : nullptr,
                             referenceId,
                             referenceSide.reading,
                             referenceFit ? &*referenceFit : nullptr);
    putSkin(match.skin, match.differences);
}

}  // namespace

std::optional<colour::TransferCurve> declaredCurve(const rig::Camera& camera,
                                                   const rig::Shot& shot) {
    const rig::Profile* profile = rig::findProfile(camera.sheet, shot.settings.profile);
    if (profile != nullptr && profile->hasDeclaredCurve) return profile->curve;
    // An HLG tag is a published curve; a BT.709 tag is what every file says, whatever the profile
    // (handbook 5.5).
    if (shot.reading && shot.reading->transfer == "hlg")
        return colour::curveOf(colour::CurveKind::Hlg);
    if (shot.reading && shot.reading->transfer == "linear")
        return colour::curveOf(colour::CurveKind::Linear);
    return std::nullopt;
}

const CameraMatch* MatchReport::find(const std::string& cameraId) const {
    const auto found = std::find_if(cameras.begin(), cameras.end(), [&](const CameraMatch& m) {
        return m.cameraId == cameraId;
    });
    return found == cameras.end() ? nullptr : &*found;
}

std::vector<rig::Turn> MatchReport::turns() const {
    std::vector<rig::Turn> all;
    for (const CameraMatch& camera : cameras)
        all.insert(all.end(), camera.plan.turns.begin(), camera.plan.turns.end());
    std::stable_sort(all.begin(), all.end(), [](const rig::Turn& a, const rig::Turn& b) {
        return a.control < b.control;
    });
    return all;
}

int MatchReport::attentionCount() const {
    int count = 0;
    for (const CameraMatch& camera : cameras) {
        if (camera.isReference) continue;
        for (std::size_t i = 0; i < kQualityCount; ++i) {
            const Difference& difference = camera.differences.qualities[i];
            const bool isSkin = static_cast<Quality>(i) == Quality::SkinLevel ||
                                static_cast<Quality>(i) == Quality::SkinHue;
            // A take without faces is no fault of the cameras, nor is a card without colours.
            const bool isNoFault = isSkin || difference.isBeyondChart;
            if (isNoFault && difference.verdict == Verdict::Unknown) continue;
            if (difference.verdict != Verdict::Good) ++count;
        }
    }
    return count;
}

MatchReport matchTake(const rig::Rig& rig,
                      const rig::Take& take,
                      bool hasControls,
                      const People& people) {
    MatchReport report;
    report.referenceId = rig.referenceId;
    const rig::Camera* reference = rig::findCamera(rig, rig.referenceId);
    if (reference == nullptr) return report;
    const rig::Shot* referenceShot = rig::findShot(take, reference->id);
    EvenReadings even;
    const Judging judging = judgingOf(rig);
    const Side referenceSide = sideOf(*reference, referenceShot, even);
    std::optional<NeutralFit> referenceFit;
    if (referenceSide.reading != nullptr && referenceSide.reading->hasChart) {
        if (const auto fit = fitNeutrals(*referenceSide.reading, declaredOf(referenceSide)))
            referenceFit = *fit;
    }
    std::vector<Coloured> coloured;
    for (const rig::Camera& camera : rig.cameras) {
        const rig::Shot* shot = rig::findShot(take, camera.id);
        const Side side = sideOf(camera, shot, even);
        CameraMatch match;
        match.cameraId = camera.id;
        match.isReference = camera.id == reference->id;
        match.differences = compare(side, referenceSide, judging);
        match.differences.cameraId = camera.id;
        if (judging == Judging::ThroughLut && !camera.viewingLut.empty() && !side.lut) {
            match.differences.notes.push_back(
                "The viewing LUT cannot be read: " + camera.viewingLut.string() +
                ". This camera is judged as recorded.");
        }
        addSkin(people, side, reference->id, referenceSide, referenceFit, match);
        const bool isMeasured = side.reading != nullptr && side.reading->hasChart;
        const bool isComparable = isMeasured && referenceSide.reading != nullptr &&
                                  referenceSide.reading->hasChart &&
                                  side.reading->layout == referenceSide.reading->layout;
        if (isComparable && !match.isReference) {
            SolverOptions options;
            options.isIsoKnown = !shot->settings.isAutoExposure || shot->isIsoRecorded;
            options.isKelvinKnown = !shot->settings.isAutoWhiteBalance || shot->isKelvinRecorded;
            match.plan = solveTurns(hasControls ? &camera : nullptr,
                                    shot->settings,
                                    *side.reading,
                                    *referenceSide.reading,
                                    match.differences,
                                    options);
        } else if (isMeasured) {
            match.plan.after = signalsOf(*side.reading);
        }
        if (isComparable) {
            const CameraDifferences& d = match.differences;
            const double error = d.of(Quality::DeltaE).uncertainty;
            // A tenth of a stop is 1.5 L* at grey (handbook 5.10); 0.2 ΔE2000 a mired is our own
            // estimate.
            const double turned = match.isReference
                                      ? 0.0
                                      : std::hypot(15.0 * d.of(Quality::Exposure).uncertainty,
                                                   0.2 * d.of(Quality::WhiteBalance).uncertainty);
            coloured.push_back({camera.id,
                                signalsOf(*side.reading),
                                match.plan.after,
                                error,
                                std::hypot(error, turned)});
        }
        report.cameras.push_back(std::move(match));
    }
    report.worstNow = worstPair(coloured, false);
    report.worstAfter = worstPair(coloured, true);
    return report;
}

}  // namespace rigmatch::match
