// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/match_report.h"

#include <algorithm>
#include <cmath>
#include <deque>

#include "match/compare_parts.h"
#include "match/correction.h"
#include "match/details.h"
#include "match/face_differences.h"
#include "match/match_columns.h"
#include "match/turn_options.h"

namespace rigmatch::match {
namespace {

using base::say;

Judging judgingOf(const rig::Rig& rig) {
    return rig.judge == "linear" ? Judging::Linear
           : rig.judge == "lut"  ? Judging::ThroughLut
                                 : Judging::Recorded;
}

struct ColouredCamera {
    std::string cameraId;
    PatchSignals now;
    PatchSignals after;
    PatchErrors errors;
    Judge judge;
    double turned = 0.0;  ///< what its turns leave unsure of a mean ΔE2000
};

std::optional<WorstPair> worstPair(const std::vector<ColouredCamera>& cameras, bool isAfter) {
    std::optional<WorstPair> worst;
    for (std::size_t i = 0; i < cameras.size(); ++i) {
        for (std::size_t k = i + 1; k < cameras.size(); ++k) {
            const ColouredCamera& first = cameras[i];
            const ColouredCamera& second = cameras[k];
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
    match.facesSeen = side.reading->faces.size();
    putSkin(match.skin, match.facesSeen, match.differences);
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

namespace {

/// One take matched to one target.
class Matcher {
public:
    Matcher(const rig::Rig& rig,
            const rig::Take& take,
            bool hasControls,
            const People& people,
            const Target& target)
        : m_rig(rig), m_take(take), m_people(people), m_hasControls(hasControls) {
        m_report.referenceId = target.outside            ? std::string()
                               : target.cameraId.empty() ? rig.referenceId
                                                         : target.cameraId;
        m_report.targetWords = target.words;
        m_report.judging = judgingOf(rig);
        for (const rig::Camera& camera : rig.cameras)
            fillColumn(camera, rig::findShot(take, camera.id), m_columns.emplace_back());
        if (target.outside) {
            fillColumn(target.outside->camera, &target.outside->shot, m_outside.emplace_back());
            m_reference = &m_outside.front();
        }
        for (Column& column : m_columns) {
            if (!target.outside && column.camera->id == m_report.referenceId) m_reference = &column;
        }
        if (m_reference == nullptr) return;
        for (const Column& column : m_columns)
            m_mismatches.push_back(
                column.hasChart() && m_reference->hasChart()
                    ? chartMismatch(*column.side.reading, *m_reference->side.reading)
                    : std::nullopt);
        // Of another light than the take's: it is evened by itself.
        (void)evenOut(m_outside);
        m_report.light = evenOut(m_columns);
        for (std::deque<Column>* columns : {&m_columns, &m_outside}) {
            for (Column& column : *columns) {
                if (column.side.reading != nullptr) column.view = viewOf(column.side);
            }
        }
        if (m_reference->hasChart())
            m_referenceJudge = judgeOf(m_reference->side, m_reference->view, m_report.judging);
    }

    MatchReport report() {
        if (m_reference == nullptr) return m_report;
        for (std::size_t i = 0; i < m_columns.size(); ++i) {
            CameraMatch match = compared(i);
            if (m_columns[i].hasChart())
                byChart(i, match);
            else if (!match.isReference)
                byFaces(m_columns[i], match);
            m_report.cameras.push_back(std::move(match));
        }
        if (m_report.referenceId.empty()) {
            std::vector<const CameraDifferences*> all;
            all.reserve(m_report.cameras.size());
            for (const CameraMatch& match : m_report.cameras) {
                if (match.compared) all.push_back(&match.differences);
            }
            m_report.commonLight = commonLight(all);
        }
        m_report.worstNow = worstPair(m_coloured, false);
        m_report.worstAfter = worstPair(m_coloured, true);
        return std::move(m_report);
    }

private:
    /// The differences of one camera, and what is to be said about them.
    CameraMatch compared(std::size_t index) {
        const Column& column = m_columns[index];
        CameraMatch match;
        match.cameraId = column.camera->id;
        match.isReference = &column == m_reference;
        match.conversion = conversionText(column.view);
        match.toBt709 = column.view.toBt709;
        match.isToConvert = column.view.isToConvert();
        if (match.isToConvert && column.view.curve)
            match.finishing = judgeOf(column.side, column.view, Judging::Recorded);
        Side side = column.side;
        if (m_mismatches[index]) {
            side.reading = nullptr;
            side.missing = *m_mismatches[index];
        }
        match.differences =
            compare(side, column.view, m_reference->side, m_reference->view, m_report.judging);
        match.differences.cameraId = column.camera->id;
        if (m_report.judging == Judging::ThroughLut && !column.camera->viewingLut.empty() &&
            !side.lut) {
            match.differences.notes.push_back(say(
                "note.chooseAnotherViewing", {{"viewingLut", column.camera->viewingLut.string()}}));
        }
        if (m_report.light && column.hasChart())
            tellOwnFall(column, *m_report.light, m_columns.size(), match.differences);
        if (column.hasChart()) tellBlackAgainstBefore(m_rig, m_take, column, match.differences);
        addSkin(m_people, column.side, m_reference->camera->id, *m_reference, match);
        return match;
    }

    [[nodiscard]] SolverOptions optionsFor(const Column& column,
                                           const Judge& judge,
                                           CameraMatch& match) const {
        SolverOptions options =
            turnOptions(m_rig, *column.camera, *column.shot, *m_reference->shot);
        options.judge = judge;
        options.referenceJudge = m_referenceJudge.value_or(Judge{});
        match.learned = learnControls(m_rig, m_take, column.camera->id);
        options.learned = match.learned;
        // Of what did not answer only the newest is news.
        if (!match.learned.surprises.empty())
            match.differences.notes.push_back(match.learned.surprises.back());
        return options;
    }

    /// Turns by the chart that camera and reference show.
    void byChart(std::size_t index, CameraMatch& match) {
        const Column& column = m_columns[index];
        const rig::Camera& camera = *column.camera;
        match.compared = std::make_shared<const rig::Reading>(*column.view.reading);
        match.plan.after = signalsOf(*column.view.reading);
        const bool isComparable = m_reference->hasChart() && !m_mismatches[index] &&
                                  !column.side.reading->areColoursDoubtful &&
                                  !m_reference->side.reading->areColoursDoubtful;
        if (!isComparable) {
            if (!m_reference->hasChart() && !match.isReference) byFaces(column, match);
            return;
        }
        const auto judge = judgeOf(column.side, column.view, m_report.judging);
        if (!match.isReference) {
            SolverOptions options = optionsFor(column, judge.value_or(Judge{}), match);
            if (m_reference->view.fit)
                options.referenceGrey = m_reference->view.fit->greySignal(0.0);
            if (match.differences.fit) {
                match.body =
                    std::make_shared<const BodyModel>(*column.view.reading, *match.differences.fit);
                findSkinAims(column, match);
                options.skin = match.skinAims;
                match.plan = solveTurns(m_hasControls ? &camera : nullptr,
                                        column.shot->settings,
                                        *column.view.reading,
                                        *m_reference->view.reading,
                                        match.differences,
                                        *match.body,
                                        options);
                tellSkin(column, match);
            }
        }
        if (judge && m_referenceJudge) {
            m_coloured.push_back({camera.id,
                                  signalsOf(*column.view.reading),
                                  match.plan.after,
                                  errorsOf(*column.view.reading),
                                  *judge,
                                  match.isReference ? 0.0 : turnedError(match.differences)});
        }
    }

    /// What the reference's camera makes of the people whom both see, by the side of the chart.
    void findSkinAims(const Column& column, CameraMatch& match) {
        const bool isSeen = std::any_of(match.skin.begin(), match.skin.end(), [](const auto& one) {
            return one.reference.has_value();
        });
        // Of a target from elsewhere nobody says who is who.
        const bool isHere = m_outside.empty();
        if (!isSeen || !isHere || !m_reference->view.fit || !m_referenceJudge) return;
        if (!m_referenceBody)
            m_referenceBody.emplace(*m_reference->view.reading, *m_reference->view.fit);
        const Correction byChart(
            *column.view.reading, *match.body, *m_reference->view.reading, *m_referenceBody);
        match.skinAims = skinAims(m_people,
                                  skinSide(column),
                                  skinSide(*m_reference),
                                  byChart,
                                  *m_referenceBody,
                                  *m_referenceJudge);
    }

    static SkinSide skinSide(const Column& column) {
        return {column.camera->id, column.side.reading, column.view.toBt709.get()};
    }

    /// What skin tells against the chart, once the turns are known.
    void tellSkin(const Column& column, CameraMatch& match) const {
        for (const SkinAim& aim : match.skinAims) {
            if (isSeenOtherwise(aim)) match.differences.notes.push_back(seenOtherwiseText(aim));
        }
        if (match.plan.turns.empty() || match.skinAims.empty()) return;
        const auto judge = judgeOf(column.side, column.view, m_report.judging);
        if (!judge) return;
        const auto farther = fartherByTurns(m_people,
                                            skinSide(column),
                                            skinSide(*m_reference),
                                            BodyModel::Map(*match.body, match.plan.dial),
                                            {*judge, *m_referenceJudge});
        for (const FartherSkin& one : farther) match.differences.notes.push_back(fartherText(one));
    }

    /// Turns by the people whom camera and reference see, where one of them shows no chart.
    void byFaces(const Column& column, CameraMatch& match) {
        if (column.side.reading == nullptr || m_reference->side.reading == nullptr) return;
        const auto mine = knownShape(m_rig, m_take, column);
        const auto theirs = knownShape(m_rig, m_take, *m_reference);
        const FaceSide camera{column.camera->id,
                              column.side.reading,
                              mine ? &*mine : nullptr,
                              column.view.isToConvert()};
        const FaceSide reference{m_reference->camera->id,
                                 m_reference->side.reading,
                                 theirs ? &*theirs : nullptr,
                                 m_reference->view.isToConvert()};
        if (!compareFaces(m_people, camera, reference, match.differences)) return;
        rig::Reading bare = *column.side.reading;
        bare.patches.clear();
        const SolverOptions options = optionsFor(column, {}, match);
        match.body = std::make_shared<const BodyModel>(bare, *match.differences.fit);
        match.plan = solveTurns(m_hasControls ? column.camera : nullptr,
                                column.shot->settings,
                                bare,
                                bare,
                                onlySure(match.differences),
                                *match.body,
                                options);
    }

    const rig::Rig& m_rig;
    const rig::Take& m_take;
    const People& m_people;
    bool m_hasControls;
    MatchReport m_report;
    std::deque<Column> m_columns, m_outside;
    const Column* m_reference = nullptr;
    std::optional<Judge> m_referenceJudge;
    std::optional<BodyModel> m_referenceBody;
    std::vector<std::optional<base::Text>> m_mismatches;
    std::vector<ColouredCamera> m_coloured;
};

}  // namespace

MatchReport matchTake(const rig::Rig& rig,
                      const rig::Take& take,
                      bool hasControls,
                      const People& people,
                      const Target& target) {
    return Matcher(rig, take, hasControls, people, target).report();
}

}  // namespace rigmatch::match
