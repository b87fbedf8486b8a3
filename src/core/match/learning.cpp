// SPDX-License-Identifier: GPL-3.0-or-later
#include "match/learning.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "match/side_view.h"
#include "optics/exposure.h"

namespace rigmatch::match {
namespace {

constexpr std::ptrdiff_t kMostTakes = 12;  // older ones tell of another day
constexpr double kSurprise = 3.0;          // deviations (Mahalanobis 9: docs/sources.md, 6.6)
constexpr double kWorthLearning = 3.0;     // a change this many deviations of its reading
// Of one reading of a difference, with what scene and method add.
constexpr double kStops = 0.03, kMired = 1.4, kDuv = 0.0005;
constexpr double kSameStops = 1e-6, kSameMired = 1e-6, kSameDuv = 1e-9;

/// One camera against the reference in one take.
struct Seen {
    const rig::Take* take;
    const rig::Shot* camera;
    const rig::Shot* reference;
    NeutralFit mine, theirs;
};

std::optional<Seen> seenIn(const rig::Rig& rig, const rig::Take& take, const std::string& id) {
    const rig::Shot* camera = rig::findShot(take, id);
    const rig::Shot* reference = rig::findShot(take, rig.referenceId);
    const auto hasChart = [](const rig::Shot* shot) {
        return shot != nullptr && shot->reading && shot->reading->hasChart &&
               !shot->reading->areColoursDoubtful;
    };
    if (!rig::isFor(take, rig::Purpose::Match) || !hasChart(camera) || !hasChart(reference))
        return std::nullopt;
    const auto mine = fitNeutrals(*camera->reading);
    const auto theirs = fitNeutrals(*reference->reading);
    if (!mine || !theirs || !mine->isCastKnown || !theirs->isCastKnown) return std::nullopt;
    return Seen{&take, camera, reference, *mine, *theirs};
}

/// Light at which the camera records the reference's grey, against its own: the exposure it would
/// have to be turned by.
double exposureOf(const Seen& seen) { return -(seen.mine.greyStops(seen.theirs.greySignal(0.0))); }

/// Settings by which pictures differ, apart from the three dials, are the same.
bool isOtherwiseSame(const rig::Settings& a, const rig::Settings& b) {
    return a.profile == b.profile && a.knobs == b.knobs && a.detailSteps == b.detailSteps &&
           !a.isAutoExposure && !b.isAutoExposure && !a.isAutoWhiteBalance && !b.isAutoWhiteBalance;
}

bool isReferenceLeftAlone(const rig::Settings& a, const rig::Settings& b) {
    return a == b && !a.isAutoExposure && !a.isAutoWhiteBalance;
}

/// A weighted mean of the prior and what was seen.
class Learner {
public:
    explicit Learner(Response& response)
        : m_response(response),
          m_weight(1.0 / (response.uncertainty * response.uncertainty)),
          m_sum(m_weight * response.share) {}

    /// False where `seen` is no answer of this control as it is known so far.
    bool learn(double nominal, double seen, double sigma) {
        if (std::abs(nominal) < kWorthLearning * sigma) return true;
        const double share = seen / nominal;
        const double error = sigma / std::abs(nominal);
        const double expected = std::hypot(error, m_response.uncertainty);
        if (std::abs(share - m_response.share) > kSurprise * expected) return false;
        m_weight += 1.0 / (error * error);
        m_sum += share / (error * error);
        m_response.share = m_sum / m_weight;
        m_response.uncertainty = std::sqrt(1.0 / m_weight);
        ++m_response.takes;
        return true;
    }

private:
    Response& m_response;
    double m_weight, m_sum;
};

}  // namespace

Change nominalChange(const rig::Camera& camera,
                     const rig::Settings& from,
                     const rig::Settings& to) {
    return {optics::exposureChange(rig::exposureOf(from), rig::exposureOf(to)).value(),
            1e6 / from.whiteBalanceKelvin - 1e6 / to.whiteBalanceKelvin,
            (to.tintSteps - from.tintSteps) * camera.sheet.tintDuvPerStep};
}

Change answered(const Change& nominal, const LearnedControls& learned) {
    return {nominal.exposureStops * learned.exposure.share,
            nominal.whiteBalanceMired * learned.whiteBalance.share,
            nominal.tintDuv * learned.tint.share};
}

LearnedControls learnControls(const rig::Rig& rig,
                              const rig::Take& upTo,
                              const std::string& cameraId) {
    LearnedControls learned;
    const rig::Camera* camera = rig::findCamera(rig, cameraId);
    if (camera == nullptr || cameraId == rig.referenceId) return learned;
    Learner exposure(learned.exposure), balance(learned.whiteBalance), tint(learned.tint);
    std::optional<Seen> before;
    const auto last = std::find_if(
        rig.takes.begin(), rig.takes.end(), [&](const rig::Take& t) { return t.id == upTo.id; });
    const auto all = std::distance(rig.takes.begin(), last);
    for (auto at = rig.takes.begin() + std::max<std::ptrdiff_t>(0, all - kMostTakes);
         at != rig.takes.end();
         ++at) {
        const rig::Take& take = *at;
        auto now = seenIn(rig, take, cameraId);
        if (!now) {
            if (take.id == upTo.id) break;
            continue;
        }
        const bool isUsable =
            before && !(before->camera->settings == now->camera->settings) &&
            isReferenceLeftAlone(before->reference->settings, now->reference->settings) &&
            isOtherwiseSame(before->camera->settings, now->camera->settings);
        if (isUsable) {
            const rig::Settings& from = before->camera->settings;
            const rig::Settings& to = now->camera->settings;
            const Change nominal = nominalChange(*camera, from, to);
            // What the neutral did against the reference's, seen back through the body.
            const Change shown{exposureOf(*now) - exposureOf(*before),
                               ((now->mine.white.mired - now->theirs.white.mired) -
                                (before->mine.white.mired - before->theirs.white.mired))
                                   .value(),
                               ((now->mine.white.duv - now->theirs.white.duv) -
                                (before->mine.white.duv - before->theirs.white.duv))
                                   .value()};
            const BodyModel body(*before->camera->reading, before->mine);
            const Change dial = body.dialFor(shown, before->theirs.greySignal(0.0));
            const bool areBalancesTold = from.whiteBalanceKelvin.isTold() &&
                                         to.whiteBalanceKelvin.isTold() &&
                                         from.tintSteps.isTold() && to.tintSteps.isTold();
            bool isAsKnown = true;
            if (rig::isExposureKnown(from) && rig::isExposureKnown(to) &&
                std::abs(nominal.exposureStops) > kSameStops)
                isAsKnown =
                    exposure.learn(nominal.exposureStops,
                                   dial.exposureStops,
                                   std::hypot(kStops, 0.0012 * nominal.whiteBalanceMired)) &&
                    isAsKnown;
            if (areBalancesTold && std::abs(nominal.whiteBalanceMired) > kSameMired)
                isAsKnown = balance.learn(nominal.whiteBalanceMired,
                                          dial.whiteBalanceMired,
                                          std::hypot(kMired, 0.03 * nominal.whiteBalanceMired)) &&
                            isAsKnown;
            if (areBalancesTold && std::abs(nominal.tintDuv) > kSameDuv)
                isAsKnown = tint.learn(nominal.tintDuv,
                                       dial.tintDuv,
                                       std::hypot(kDuv,
                                                  0.05 * nominal.tintDuv,
                                                  1e-5 * nominal.whiteBalanceMired)) &&
                            isAsKnown;
            if (!isAsKnown)
                learned.surprises.push_back(
                    "Take " + std::to_string(take.number) +
                    ": a turn did not answer as it did before, or as such controls do. Was it "
                    "turned twice, the other way, or on another camera? Nothing is learned from "
                    "it.");
        }
        before = std::move(now);
        if (take.id == upTo.id) break;
    }
    return learned;
}

}  // namespace rigmatch::match
