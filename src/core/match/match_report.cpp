// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/match_report.h"

#include <algorithm>
#include <cmath>
#include <deque>

#include "base/format.h"
#include "match/compare_parts.h"
#include "match/details.h"

namespace rigmatch::match {
namespace {

constexpr double kOwnFallStops = 0.1;  // of light, beyond what all cameras see
constexpr double kSure = 4.0;

Judging judgingOf(const rig::Rig& rig) {
    return rig.judge == "linear" ? Judging::Linear
           : rig.judge == "lut"  ? Judging::ThroughLut
                                 : Judging::Recorded;
}

/// One camera of the take, ready to be compared.
struct Column {
    const rig::Camera* camera = nullptr;
    const rig::Shot* shot = nullptr;
    Side side;
    SideView view;
    std::optional<rig::Reading> even;  ///< the reading as on an evenly lit chart
    std::optional<LightFall> fall;     ///< of light over the chart, as this camera alone sees it

    [[nodiscard]] bool hasChart() const {
        return side.reading != nullptr && side.reading->hasChart;
    }
};

/// Primaries of a shot: chosen by hand, else the profile's; empty: as the file says.
std::string primariesOf(const rig::Camera& camera, const rig::Shot& shot) {
    if (!shot.primariesOverride.empty()) return shot.primariesOverride;
    const rig::Profile* profile = rig::findProfile(camera.sheet, shot.settings.profile);
    return profile != nullptr ? profile->primaries : std::string();
}

void fillColumn(const rig::Camera& camera, const rig::Shot* shot, Column& column) {
    column.camera = &camera;
    column.shot = shot;
    Side& side = column.side;
    if (shot == nullptr || (!shot->reading && shot->failure.empty())) {
        side.missing = "No clip in this take. Drop one on Test take.";
        return;
    }
    if (!shot->reading) {
        side.missing = shot->failure;
        return;
    }
    side.reading = &*shot->reading;
    side.declared = declaredCurve(camera, *shot);
    side.primaries = primariesOf(camera, *shot);
    if (!camera.viewingLut.empty()) {
        if (auto lut = colour::ViewingLut::read(camera.viewingLut)) side.lut = std::move(*lut);
    }
    if (!column.hasChart()) return;
    if (const auto fit = fitNeutrals(*side.reading, declaredOf(side)))
        column.fall = lightFall(*side.reading, *fit);
}

/// The light that all cameras see alike is taken out of all of them, so that none is compared under
/// another light than the rest.
std::optional<LightPlane> evenOut(std::deque<Column>& columns) {
    std::vector<LightFall> falls;
    for (const Column& column : columns) {
        if (column.fall) falls.push_back(*column.fall);
    }
    const auto plane = commonLight(falls);
    if (!plane) return std::nullopt;
    for (Column& column : columns) {
        if (!column.hasChart()) continue;
        column.even = evened(*column.side.reading, *plane);
        column.side.reading = &*column.even;
        column.side.isEvened =
            std::max(std::abs(plane->acrossStops), std::abs(plane->downStops)) > kOwnFallStops;
    }
    return plane;
}

/// What one camera keeps of falling light when the common fall is out: its own doing.
void tellOwnFall(const Column& column,
                 const LightPlane& plane,
                 std::size_t cameras,
                 CameraDifferences& result) {
    if (!column.fall || cameras < 2) return;
    const double across = column.fall->acrossStops.value - plane.acrossStops;
    const double down = column.fall->downStops.value - plane.downStops;
    const bool isAcross = std::abs(across) > std::abs(down);
    const Measured& axis = isAcross ? column.fall->acrossStops : column.fall->downStops;
    const double own = isAcross ? across : down;
    if (std::abs(own) < kOwnFallStops || std::abs(own) < kSure * axis.uncertainty) return;
    result.notes.push_back(
        "On this camera the chart's light falls by " + base::fixed(std::abs(own), 2) + " ± " +
        base::fixed(std::max(axis.uncertainty, 0.01), 2) +
        " stop more than the other cameras see (toward its " +
        (isAcross ? (own < 0.0 ? "right" : "left") : (own < 0.0 ? "foot" : "top")) +
        "): sheen on the chart from this side, a vignetting lens, or a local tone function. Turn "
        "the chart toward the middle of the cameras, and hold it nearer this picture's middle.");
}

/// The last earlier take in which this camera was set as now and saw the same chart.
const rig::Reading* earlierReading(const rig::Rig& rig, const rig::Take& take, const Column& now) {
    const rig::Reading* found = nullptr;
    for (const rig::Take& earlier : rig.takes) {
        if (earlier.id == take.id) break;
        const rig::Shot* shot = rig::findShot(earlier, now.camera->id);
        const bool isAlike = shot != nullptr && shot->reading && shot->reading->hasChart &&
                             shot->settings == now.shot->settings &&
                             !chartMismatch(*shot->reading, *now.shot->reading);
        if (isAlike) found = &*shot->reading;
    }
    return found;
}

/// A black that lies elsewhere than before while nothing was turned: the chart shines, not the
/// camera.
void tellBlackAgainstBefore(const rig::Rig& rig,
                            const rig::Take& take,
                            const Column& column,
                            CameraDifferences& result) {
    constexpr double kNotable = 1.0;  // % of signal
    constexpr double kSureBlack = 3.0;
    const rig::Reading* before = earlierReading(rig, take, column);
    if (before == nullptr) return;
    const Side then{before, column.side.declared, {}};
    const Side now{&*column.shot->reading, column.side.declared, {}};
    const SideView thenView = viewOf(then);
    const SideView nowView = viewOf(now);
    if (!thenView.fit || !nowView.fit) return;
    // Only the neutrals: compare() would find the veil itself, and be less sure of black by it.
    CameraDifferences change;
    compareNeutrals({now, nowView, then, thenView, Judging::Recorded}, change);
    const Difference& black = change.of(Quality::BlackLevel);
    if (!black.value || std::abs(*black.value) < kNotable ||
        std::abs(*black.value) < kSureBlack * black.uncertainty)
        return;
    result.notes.push_back(
        "Nothing was turned on this camera since an earlier take, and yet its black lies " +
        base::signedFixed(*black.value, 1) + " ± " +
        base::fixed(std::max(black.uncertainty, 0.1), 1) +
        " % of signal elsewhere: the chart shines toward it, or light falls into the lens. Tilt "
        "the chart or shade the lens, and shoot again before black or contrast is judged.");
}

struct Coloured {
    std::string cameraId;
    PatchSignals now;
    PatchSignals after;
    PatchErrors errors;
    Judge judge;
    double turned = 0.0;  ///< what its turns leave unsure of a mean ΔE2000
};

std::optional<WorstPair> worstPair(const std::vector<Coloured>& cameras, bool isAfter) {
    std::optional<WorstPair> worst;
    for (std::size_t i = 0; i < cameras.size(); ++i) {
        for (std::size_t k = i + 1; k < cameras.size(); ++k) {
            const Coloured& first = cameras[i];
            const Coloured& second = cameras[k];
            const ColourDifference difference =
                colourDifference(isAfter ? second.after : second.now,
                                 second.judge,
                                 second.errors,
                                 isAfter ? first.after : first.now,
                                 first.judge,
                                 first.errors);
            if (worst && difference.mean <= worst->deltaE) continue;
            worst =
                WorstPair{first.cameraId,
                          second.cameraId,
                          difference.mean,
                          isAfter ? std::hypot(difference.meanError, first.turned, second.turned)
                                  : difference.meanError};
        }
    }
    return worst;
}

/// Skin of one camera against the reference; the fits are those of the charts, where there are any.
void addSkin(const People& people,
             const Side& side,
             const std::string& referenceId,
             const Column& reference,
             CameraMatch& match) {
    if (side.reading == nullptr) return;
    const auto& fit = match.differences.fit;
    match.skin = compareSkin(people,
                             match.cameraId,
                             *side.reading,
                             fit ? &*fit : nullptr,
                             referenceId,
                             reference.side.reading,
                             reference.view.fit ? &*reference.view.fit : nullptr);
    putSkin(match.skin, match.differences);
    for (const SkinDifference& person : match.skin) {
        if (!person.sideMismatch.empty()) match.differences.notes.push_back(person.sideMismatch);
    }
}

/// What the turns of a camera leave unsure of a mean ΔE2000. A tenth of a stop is 1.5 L* at grey
/// (common practice, docs/sources.md); 0.2 ΔE2000 a mired is our own estimate.
double turnedError(const CameraDifferences& d) {
    return std::hypot(15.0 * d.judged(Quality::Exposure).uncertainty,
                      0.2 * d.of(Quality::WhiteBalance).uncertainty);
}

SolverOptions optionsOf(const rig::Shot& shot, const Judge& judge, const Judge& referenceJudge) {
    SolverOptions options;
    options.isIsoKnown = !shot.settings.isAutoExposure || shot.isIsoRecorded;
    options.isKelvinKnown = !shot.settings.isAutoWhiteBalance || shot.isKelvinRecorded;
    options.judge = judge;
    options.referenceJudge = referenceJudge;
    return options;
}

}  // namespace

std::optional<colour::TransferCurve> declaredCurve(const rig::Camera& camera,
                                                   const rig::Shot& shot) {
    const rig::Profile* profile = rig::findProfile(camera.sheet, shot.settings.profile);
    if (profile != nullptr && profile->curve) return profile->curve;
    // An HLG tag is a published curve; a BT.709 tag is what every file says, whatever the profile
    // (sources 5.5).
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
            const Difference& difference = camera.differences.judged(static_cast<Quality>(i));
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
    report.judging = judgingOf(rig);
    std::deque<Column> columns;
    for (const rig::Camera& camera : rig.cameras)
        fillColumn(camera, rig::findShot(take, camera.id), columns.emplace_back());
    const auto reference = std::find_if(columns.begin(), columns.end(), [&](const Column& column) {
        return column.camera->id == rig.referenceId;
    });
    if (reference == columns.end()) return report;
    std::vector<std::optional<std::string>> mismatches;
    for (const Column& column : columns)
        mismatches.push_back(column.hasChart() && reference->hasChart()
                                 ? chartMismatch(*column.side.reading, *reference->side.reading)
                                 : std::nullopt);
    report.light = evenOut(columns);
    for (Column& column : columns) {
        if (column.side.reading != nullptr) column.view = viewOf(column.side);
    }
    const auto referenceJudge = reference->hasChart()
                                    ? judgeOf(reference->side, reference->view, report.judging)
                                    : std::nullopt;
    std::vector<Coloured> coloured;
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const Column& column = columns[i];
        const rig::Camera& camera = *column.camera;
        CameraMatch match;
        match.cameraId = camera.id;
        match.isReference = &column == &*reference;
        match.conversion = conversionText(column.view);
        Side side = column.side;
        if (mismatches[i]) {
            side.reading = nullptr;
            side.missing = *mismatches[i];
        }
        match.differences =
            compare(side, column.view, reference->side, reference->view, report.judging);
        match.differences.cameraId = camera.id;
        if (report.judging == Judging::ThroughLut && !camera.viewingLut.empty() && !side.lut) {
            match.differences.notes.push_back(
                "The viewing LUT cannot be read: " + camera.viewingLut.string() +
                ". This camera is judged as recorded.");
        }
        if (report.light && column.hasChart())
            tellOwnFall(column, *report.light, columns.size(), match.differences);
        if (column.hasChart()) tellBlackAgainstBefore(rig, take, column, match.differences);
        addSkin(people, column.side, reference->camera->id, *reference, match);
        const bool isMeasured = column.hasChart();
        if (isMeasured) match.compared = std::make_shared<const rig::Reading>(*column.view.reading);
        const bool isComparable = isMeasured && reference->hasChart() && !mismatches[i] &&
                                  !column.side.reading->areColoursDoubtful &&
                                  !reference->side.reading->areColoursDoubtful;
        const auto judge =
            isMeasured ? judgeOf(column.side, column.view, report.judging) : std::nullopt;
        if (isComparable && !match.isReference) {
            SolverOptions options =
                optionsOf(*column.shot, judge.value_or(Judge{}), referenceJudge.value_or(Judge{}));
            if (reference->view.fit) options.referenceGrey = reference->view.fit->greySignal(0.0);
            if (match.differences.fit)
                match.body =
                    std::make_shared<const BodyModel>(*column.view.reading, *match.differences.fit);
            match.learned = learnControls(rig, take, camera.id);
            options.learned = match.learned;
            // Of what did not answer only the newest is news.
            if (!match.learned.surprises.empty())
                match.differences.notes.push_back(match.learned.surprises.back());
            if (match.body) {
                match.plan = solveTurns(hasControls ? &camera : nullptr,
                                        column.shot->settings,
                                        *column.view.reading,
                                        *reference->view.reading,
                                        match.differences,
                                        *match.body,
                                        options);
            } else {
                match.plan.after = signalsOf(*column.view.reading);
            }
        } else if (isMeasured) {
            match.plan.after = signalsOf(*column.view.reading);
        }
        if (isComparable && judge && referenceJudge) {
            coloured.push_back({camera.id,
                                signalsOf(*column.view.reading),
                                match.plan.after,
                                errorsOf(*column.view.reading),
                                *judge,
                                match.isReference ? 0.0 : turnedError(match.differences)});
        }
        report.cameras.push_back(std::move(match));
    }
    report.worstNow = worstPair(coloured, false);
    report.worstAfter = worstPair(coloured, true);
    return report;
}

}  // namespace rigmatch::match
