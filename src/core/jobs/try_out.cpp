// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/try_out.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "base/luma.h"
#include "jobs/match_job.h"
#include "match/correction.h"

namespace rigmatch::jobs {
namespace {

/// A tried profile with the shot that shows it.
struct Candidate {
    TriedProfile told;
    rig::Shot shot;
};

/// What one camera in one profile leaves against the reference in one of its profiles.
struct PairLeft {
    double afterTurns = 0.0, uncertainty = 0.0, readingError = 0.0, afterLut = 0.0;
    std::vector<base::Text> leftOver;
};

void measureHeadroom(const rig::Shot& shot, TriedProfile& told) {
    const rig::Reading& reading = *shot.reading;
    if (reading.noise) {
        // Luma of single pixels: the channels' noise is not tied.
        const auto& grey = reading.noise->grey;
        const auto& weight = base::kLumaBt709;
        told.noisePercent =
            100.0 * std::hypot(weight[0] * grey[0], weight[1] * grey[1], weight[2] * grey[2]);
        told.isNoiseKnown = true;
    }
    const auto fit = match::fitNeutrals(reading);
    if (!fit) return;
    constexpr double kTop = 1.0;
    told.headroomStops = fit->curve.stopsAt(kTop);
    const auto black = rig::blackPatch(reading);
    if (black) {
        const double signal = reading.patches[*black].signal[1];
        told.rangeStops = *told.headroomStops - fit->curve.stopsAt(signal);
    }
}

/// Of each profile of a camera the newest shot with a chart.
std::vector<Candidate> candidatesOf(const rig::Rig& rig,
                                    const rig::Camera& camera,
                                    std::vector<base::Text>& notes) {
    std::map<std::string, Candidate> newest;
    const auto take = [&](const rig::Take& from, bool isTryOut) {
        const rig::Shot* shot = rig::findShot(from, camera.id);
        if (shot == nullptr || !shot->reading) return;
        if (!shot->reading->hasChart) {
            if (isTryOut)
                notes.push_back(base::say(
                    "tryOut.noChart",
                    {{"camera", camera.letter}, {"take", base::Number{double(from.number)}}}));
            return;
        }
        const std::string profile =
            shot->settings.profile.isTold() ? shot->settings.profile.value() : "as shot";
        Candidate made;
        made.told.cameraId = camera.id;
        made.told.profile = profile;
        made.told.takeId = from.id;
        made.told.takeNumber = from.number;
        made.shot = *shot;
        measureHeadroom(*shot, made.told);
        newest[profile] = made;
    };
    for (const rig::Take& from : rig.takes) {
        if (rig::isFor(from, rig::Purpose::TryOut)) take(from, true);
    }
    if (newest.empty()) {
        for (const rig::Take& from : rig.takes) {
            if (!rig::isFor(from, rig::Purpose::Match)) continue;
            newest.clear();
            take(from, false);
        }
    }
    std::vector<Candidate> all;
    all.reserve(newest.size());
    for (auto& [profile, candidate] : newest) all.push_back(std::move(candidate));
    return all;
}

std::optional<PairLeft> leftBetween(const rig::Rig& rig,
                                    const Candidate& reference,
                                    const Candidate& camera) {
    rig::Take pair;
    pair.id = "try-out";
    pair.shots = {reference.shot, camera.shot};
    rig::Rig alone = rig;
    alone.referenceId = reference.told.cameraId;
    const match::MatchReport report = match::matchTake(alone, pair);
    const match::CameraMatch* mine = report.find(camera.told.cameraId);
    const match::CameraMatch* theirs = report.find(reference.told.cameraId);
    if (mine == nullptr || theirs == nullptr || !report.worstAfter || !mine->compared ||
        !theirs->compared || !mine->differences.fit || !theirs->differences.fit)
        return std::nullopt;
    PairLeft left;
    left.afterTurns = report.worstAfter->deltaE;
    left.uncertainty = report.worstAfter->uncertainty;
    left.readingError = mine->plan.predicted.meanError;
    for (const match::LeftOver& one : mine->plan.leftOver) left.leftOver.push_back(one.text);
    // A correction is made for the camera as it stands after its turns.
    const match::BodyModel body(*mine->compared, *mine->differences.fit);
    rig::Reading turned = *mine->compared;
    for (std::size_t i = 0; i < std::min(turned.patches.size(), mine->plan.after.size()); ++i)
        turned.patches[i].signal = mine->plan.after[i];
    const match::Correction correction(
        turned,
        body.turned(mine->plan.dial),
        *theirs->compared,
        match::BodyModel(*theirs->compared, *theirs->differences.fit));
    match::PatchSignals corrected;
    for (const auto& signal : match::signalsOf(turned))
        corrected.push_back(correction.apply(signal));
    left.afterLut =
        match::colourDifference(corrected, {}, match::signalsOf(*theirs->compared), {}).mean;
    return left;
}

constexpr std::size_t kMostRanked = 60;

/// All ways to choose one candidate per camera for one profile of the reference, the best of them
/// only: what a camera leaves does not hang on the others.
class Combiner {
public:
    Combiner(const std::vector<std::vector<std::size_t>>& byCamera, std::size_t reference)
        : m_byCamera(byCamera), m_reference(reference) {}

    void add(std::size_t mine, const std::map<std::size_t, PairLeft>& left) {
        std::vector<std::size_t> chosen(m_byCamera.size());
        choose(0, mine, left, chosen);
    }
    std::vector<ProfileCombination> ranked() {
        std::stable_sort(m_all.begin(), m_all.end(), [](const auto& a, const auto& b) {
            return a.afterTurns != b.afterTurns ? a.afterTurns < b.afterTurns : a.mean < b.mean;
        });
        if (m_all.size() > kMostRanked) m_all.resize(kMostRanked);
        return std::move(m_all);
    }

private:
    void choose(std::size_t camera,
                std::size_t mine,
                const std::map<std::size_t, PairLeft>& left,
                std::vector<std::size_t>& chosen) {
        constexpr std::size_t kMostTried = 20000;
        if (m_all.size() >= kMostTried) return;
        if (camera == m_byCamera.size()) {
            put(left, chosen);
            return;
        }
        if (camera == m_reference) {
            chosen[camera] = mine;
            choose(camera + 1, mine, left, chosen);
            return;
        }
        for (const std::size_t candidate : m_byCamera[camera]) {
            if (left.count(candidate) == 0) continue;
            chosen[camera] = candidate;
            choose(camera + 1, mine, left, chosen);
        }
    }
    void put(const std::map<std::size_t, PairLeft>& left, const std::vector<std::size_t>& chosen) {
        ProfileCombination made;
        made.chosen = chosen;
        int others = 0;
        for (std::size_t i = 0; i < chosen.size(); ++i) {
            if (i == m_reference) continue;
            const PairLeft& one = left.at(chosen[i]);
            if (one.afterTurns > made.afterTurns) {
                made.afterTurns = one.afterTurns;
                made.uncertainty = one.uncertainty;
                made.readingError = one.readingError;
            }
            made.afterLut = std::max(made.afterLut, one.afterLut);
            made.mean += one.afterTurns;
            made.leftOver.insert(made.leftOver.end(), one.leftOver.begin(), one.leftOver.end());
            ++others;
        }
        made.mean /= std::max(others, 1);
        m_all.push_back(made);
    }

    const std::vector<std::vector<std::size_t>>& m_byCamera;
    std::size_t m_reference;
    std::vector<ProfileCombination> m_all;
};

/// Those that are as good as the best, by the least noise.
void preferQuiet(TryOutReport& report) {
    if (report.ranked.empty()) return;
    const ProfileCombination best = report.ranked.front();
    for (ProfileCombination& one : report.ranked) {
        constexpr double kPrediction = 0.2;  // ΔE2000 by which one is off, own estimate
        const double unsure = std::hypot(best.readingError, one.readingError, kPrediction);
        one.isAsGoodAsBest = one.afterTurns <= best.afterTurns + unsure;
    }
    const auto end = std::stable_partition(report.ranked.begin(),
                                           report.ranked.end(),
                                           [](const auto& one) { return one.isAsGoodAsBest; });
    std::stable_sort(report.ranked.begin(), end, [&](const auto& a, const auto& b) {
        return noisiest(report, a) < noisiest(report, b);
    });
}

}  // namespace

double noisiest(const TryOutReport& report, const ProfileCombination& combination) {
    double most = 0.0;
    for (const std::size_t i : combination.chosen)
        most = std::max(most, report.profiles[i].noisePercent);
    return most;
}

base::Result<TryOutReport> rankProfiles(const rig::Rig& rig, const base::Progress& progress) {
    TryOutReport report;
    std::vector<Candidate> candidates;
    std::vector<std::vector<std::size_t>> byCamera;
    std::optional<std::size_t> reference;
    bool isAnyTried = false;
    for (const rig::Camera& camera : rig.cameras) {
        auto found = candidatesOf(rig, camera, report.notes);
        if (found.empty()) continue;
        if (camera.id == rig.referenceId) reference = byCamera.size();
        isAnyTried |= found.size() > 1;
        auto& indices = byCamera.emplace_back();
        for (Candidate& one : found) {
            indices.push_back(candidates.size());
            candidates.push_back(std::move(one));
        }
    }
    for (const Candidate& one : candidates) report.profiles.push_back(one.told);
    if (byCamera.size() < 2 || !isAnyTried || !reference) {
        return base::fail(base::ErrorCode::NotFound,
                          base::say("tryOut.noProfilesRank"),
                          !reference            ? base::say("tryOut.referenceShowsNo")
                          : byCamera.size() < 2 ? base::say("tryOut.onlyOneCamera")
                                                : base::say("tryOut.noCameraShot"),
                          base::say("tryOut.shootChartOnce"));
    }
    Combiner combiner(byCamera, *reference);
    const auto& references = byCamera[*reference];
    for (std::size_t r = 0; r < references.size(); ++r) {
        std::map<std::size_t, PairLeft> left;
        for (std::size_t i = 0; i < candidates.size(); ++i) {
            if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
            progress.report((static_cast<double>(r) +
                             static_cast<double>(i) / static_cast<double>(candidates.size())) /
                                static_cast<double>(references.size()),
                            base::say("progress.comparingProfiles"));
            if (candidates[i].told.cameraId == rig.referenceId) continue;
            if (auto one = leftBetween(rig, candidates[references[r]], candidates[i]))
                left[i] = std::move(*one);
        }
        combiner.add(references[r], left);
    }
    report.ranked = combiner.ranked();
    preferQuiet(report);
    return report;
}

std::vector<TryOutRound> tryOutRounds(const rig::Rig& rig) {
    std::size_t most = 0;
    for (const rig::Camera& camera : rig.cameras)
        most = std::max(most, camera.sheet.profiles.size());
    std::vector<TryOutRound> rounds(most);
    for (std::size_t i = 0; i < most; ++i) {
        for (const rig::Camera& camera : rig.cameras) {
            const auto& profiles = camera.sheet.profiles;
            if (profiles.empty()) continue;
            rounds[i].settings.push_back(
                {camera.id, profiles[std::min(i, profiles.size() - 1)].name});
        }
        rounds[i].isShot =
            std::any_of(rig.takes.begin(), rig.takes.end(), [&](const rig::Take& take) {
                return rig::isFor(take, rig::Purpose::TryOut) &&
                       std::all_of(
                           rounds[i].settings.begin(),
                           rounds[i].settings.end(),
                           [&](const TryOutRound::Setting& setting) {
                               const rig::Shot* shot = rig::findShot(take, setting.cameraId);
                               return shot != nullptr && shot->settings.profile == setting.profile;
                           });
            });
    }
    return rounds;
}

void setRound(const TryOutRound& round, rig::Rig& rig) {
    for (const TryOutRound::Setting& setting : round.settings) {
        if (rig::Camera* camera = rig::findCamera(rig, setting.cameraId))
            camera->settings.profile = setting.profile;
    }
}

void useProfiles(const TryOutReport& report, const ProfileCombination& combination, rig::Rig& rig) {
    for (const std::size_t i : combination.chosen) {
        const TriedProfile& tried = report.profiles[i];
        const rig::Camera* camera = rig::findCamera(std::as_const(rig), tried.cameraId);
        if (camera == nullptr || rig::findProfile(camera->sheet, tried.profile) == nullptr)
            continue;
        rig::findCamera(rig, tried.cameraId)->settings.profile = tried.profile;
    }
}

}  // namespace rigmatch::jobs
