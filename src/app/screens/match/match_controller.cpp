// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/match_controller.h"

#include <QCoreApplication>
#include <algorithm>

#include "app/services/texts.h"
#include "base/format.h"

#include "match/keep_learned.h"
#include "words/english.h"
#include "words/learned_text.h"
#include "words/match_text.h"
#include "words/rest_reasons.h"
#include "words/shooter_words.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using match::Quality;

/// What of an uncertainty scene and method add.
QString floorText(const match::Difference& difference) {
    if (difference.floor <= 0.0 || difference.uncertainty <= 0.0) return {};
    return u" "_s + QCoreApplication::translate(
                        "MatchController",
                        "Of the uncertainty, %1 % is what scene and method add, however often it "
                        "is measured.")
                        .arg(100.0 * difference.floor / difference.uncertainty, 0, 'f', 0);
}

}  // namespace

MatchController::MatchController(AppContext& context, QObject* parent)
    : QObject(parent), m_context(context), m_whatIf(new WhatIf(context, this)) {
    connect(m_whatIf, &WhatIf::changed, this, &MatchController::update);
    connect(&context.document, &RigDocument::rigChanged, this, &MatchController::update);
    connect(&context.selection, &Selection::changed, this, &MatchController::update);
    connect(context.reports.get(), &ReportCache::ready, this, &MatchController::update);
    update();
}

void MatchController::update() {
    if (take() == nullptr) {
        m_report = match::MatchReport{};
        m_rest.clear();
        m_shown.reset();
        m_measured.reset();
        m_history.clear();
        m_whatIf->follow(nullptr, nullptr);
    } else {
        const auto measured = m_context.reports->of(rig(), *take());
        m_whatIf->follow(take(), measured);
        const bool isNew = measured != m_measured;
        m_measured = measured;
        if (const auto shown = m_whatIf->report(); shown != m_shown) {
            m_report = *shown;
            m_shown = shown;
            m_rest = words::restReasons(rig(), *take(), m_report);
        }
        if (isNew) startHistory();
    }
    updateLight();
    Q_EMIT changed();
}

/// What lamps would do is worked out anew where the plan or the measured match changed.
void MatchController::updateLight() {
    const bool isAsked = isNewestTake() && m_measured && m_measured->commonLight && rig().plan;
    if (!isAsked) {
        m_light.clear();
        m_lightPlan = {};
        m_lightReport.reset();
    } else if (m_lightReport != m_measured || !(m_lightPlan == rig().plan)) {
        m_light = jobs::lightTurns(rig(), *take(), *m_measured);
        m_lightPlan = rig().plan;
        m_lightReport = m_measured;
    }
    m_formerLight.clear();
    if (isNewestTake()) m_formerLight = jobs::formerLightTurns(rig(), *take(), m_light);
}

void MatchController::untickFormerLight(std::size_t index) {
    if (!isNewestTake() || index >= m_formerLight.size()) return;
    const plan::LampAdvice turn = m_formerLight[index];
    m_context.document.change(tr("Light: %1").arg(plain(turn.name)),
                              jobs::withLightTurn(rig(), take()->id, turn.turn, false));
}

void MatchController::tickLight(std::size_t index, bool isDone) {
    if (!isNewestTake() || index >= m_light.size()) return;
    const plan::LampAdvice advice = m_light[index].advice;
    m_context.document.change(tr("Light: %1").arg(plain(advice.name)),
                              jobs::withLightTurn(rig(), take()->id, advice.turn, isDone));
}

/// Of the takes before: beside the interface, as each of them is matched anew.
void MatchController::startHistory() {
    m_history.clear();
    const rig::Take* now = take();
    if (isPending() || now == nullptr || now == &rig().takes.front()) return;
    m_context.jobs.startQuick<jobs::History>(
        tr("Looking at earlier takes"),
        this,
        [rig = rig(), id = now->id](const base::Progress&) {
            for (const rig::Take& one : rig.takes) {
                if (one.id == id) return jobs::historyOf(rig, one);
            }
            return jobs::History{};
        },
        [this, of = m_measured](const jobs::History& history) {
            if (of != m_measured) return;
            m_history = history;
            Q_EMIT changed();
        });
}

const std::vector<jobs::HistoryPoint>& MatchController::historyOf(
    const std::string& cameraId) const {
    static const std::vector<jobs::HistoryPoint> kNone;
    const auto found = m_history.find(cameraId);
    return found == m_history.end() ? kNone : found->second;
}

void MatchController::carryOut(const rig::Turn& turn, rig::Camera& camera) const {
    const rig::Shot* shot = take() != nullptr ? rig::findShot(*take(), turn.cameraId) : nullptr;
    camera.settings = shot == nullptr ? rig::applied(camera.settings, turn)
                                      : rig::applied(camera.settings, turn, shot->settings);
}

bool MatchController::isNewestTake() const {
    return take() != nullptr && take() == rig::newestTake(rig(), rig::Purpose::Match);
}

rig::Rig MatchController::rigOf(const rig::Take* of) const {
    rig::Rig then = rig();
    if (of == nullptr) return then;
    for (const rig::Shot& shot : of->shots) {
        if (rig::Camera* camera = rig::findCamera(then, shot.cameraId))
            camera->settings = shot.settings;
    }
    return then;
}

rig::Rig MatchController::rigAtTake() const { return rigOf(isNewestTake() ? nullptr : take()); }

rig::Rig MatchController::rigAfterTake() const {
    if (take() == nullptr || isNewestTake()) return rig();
    const auto& takes = rig().takes;
    for (std::size_t i = 0; i + 1 < takes.size(); ++i) {
        if (takes[i].id != take()->id) continue;
        for (std::size_t later = i + 1; later < takes.size(); ++later) {
            if (rig::isFor(takes[later], rig::Purpose::Match)) return rigOf(&takes[later]);
        }
    }
    return rig();
}

void MatchController::tick(const rig::Turn& turn, bool isDone) {
    // What an earlier take asked for was carried out, or not, before a later one was shot.
    if (!isNewestTake()) return;
    rig::Rig next = rig();
    rig::Camera* camera = rig::findCamera(next, turn.cameraId);
    if (camera == nullptr) return;
    if (isDone) {
        carryOut(turn, *camera);
    } else {
        camera->settings = rig::takenBack(camera->settings, turn);
    }
    m_context.document.change(
        tr("Camera %1: %2").arg(plain(camera->letter), fromCore(words::controlTitle(turn))), next);
}

void MatchController::tickAll() {
    if (!isNewestTake() || !m_measured) return;
    rig::Rig next = rig();
    for (const rig::Turn& turn : m_measured->turns()) {
        rig::Camera* camera = rig::findCamera(next, turn.cameraId);
        if (camera != nullptr) carryOut(turn, *camera);
    }
    m_context.document.change(tr("All turns"), next);
}

void MatchController::setJudge(const QString& judge) {
    rig::Rig next = rig();
    next.judge = judge.toStdString();
    m_context.document.change(tr("Judge differently"), next);
}

void MatchController::setTarget(const std::string& words, const std::string& referenceId) {
    rig::Rig next = rig();
    next.target = words;
    if (!referenceId.empty()) next.referenceId = referenceId;
    m_context.document.change(tr("Match to another picture"), next);
}

QString MatchController::targetText() const {
    const rig::Camera* reference = rig::findCamera(rig(), m_report.referenceId);
    if (reference != nullptr) return tr("camera %1").arg(plain(reference->letter));
    if (!m_report.targetWords.empty()) return fromCore(m_report.targetWords);
    reference = rig::findCamera(rig(), rig().referenceId);
    return reference != nullptr ? tr("camera %1").arg(plain(reference->letter)) : tr("nothing yet");
}

void MatchController::keepLearned(const std::string& cameraId) {
    rig::Rig next = rig();
    rig::Camera* camera = rig::findCamera(next, cameraId);
    const match::CameraMatch* match = m_report.find(cameraId);
    if (camera == nullptr || match == nullptr) return;
    match::keepLearned(match->learned, camera->sheet);
    // From here on the sheet says it: the takes that taught it would count twice.
    if (!next.takes.empty()) camera->forgottenUpTo = std::as_const(next.takes).back().id;
    m_context.document.change(tr("Keep what camera %1's controls do").arg(plain(camera->letter)),
                              next);
}

void MatchController::forgetLearned(const std::string& cameraId) {
    rig::Rig next = rig();
    rig::Camera* camera = rig::findCamera(next, cameraId);
    if (camera == nullptr) return;
    match::forgetKept(camera->sheet);
    if (!next.takes.empty()) camera->forgottenUpTo = std::as_const(next.takes).back().id;
    m_context.document.change(tr("Forget what camera %1's controls did").arg(plain(camera->letter)),
                              next);
}

QString MatchController::skinExplanation(const match::CameraMatch& camera) const {
    QStringList lines;
    for (const match::SkinDifference& person : camera.skin) {
        QString line = (person.values.isForehead ? tr("%1: forehead %2 % at %3°")
                                                 : tr("%1: brighter cheek %2 % at %3°"))
                           .arg(fromCore(person.person))
                           .arg(person.values.levelPercent.value, 0, 'f', 1)
                           .arg(person.values.hueDegrees.value, 0, 'f', 1);
        if (person.reference) {
            line += tr(", on the reference %1 % at %2°")
                        .arg(person.reference->levelPercent.value, 0, 'f', 1)
                        .arg(person.reference->hueDegrees.value, 0, 'f', 1);
        }
        if (person.values.keyFillStops) {
            line += tr("; key : fill %1 ± %2 stop (%3)")
                        .arg(fromCore(base::signedFixed(person.values.keyFillStops->value, 2)))
                        .arg(person.values.keyFillStops->uncertainty, 0, 'f', 2)
                        .arg(fromCore(words::keySideText(person.values)));
        }
        lines << line + u"."_s;
    }
    if (lines.isEmpty())
        return fromCore(words::inEnglish(camera.differences.of(Quality::SkinLevel).reason));
    return lines.join(u' ') + u" "_s +
           tr("Angles are in the BT.709 Cb/Cr plane, where the skin line is drawn at 123°. As the "
              "reference has it is right: no level fits all skins.");
}

QString MatchController::exposureExplanation(const match::CameraMatch& camera,
                                             const QString& basis) const {
    const auto& contrast = camera.differences.of(Quality::Contrast);
    const QString shape =
        !contrast.value ? tr("Whether the curves have the same shape is not told by this chart.")
        : contrast.verdict == match::Verdict::Good
            ? tr("The two curves have the same shape, so this is exposure, not profile.")
            : tr("The two curves differ in shape: part of what is seen is the profile.");
    const QString scene =
        camera.differences.sceneExposure && camera.differences.sceneExposure->value
            ? u" "_s + tr("By the known curves the scene light differs by %1 ± %2 stop.")
                           .arg(*camera.differences.sceneExposure->value, 0, 'f', 2)
                           .arg(camera.differences.sceneExposure->uncertainty, 0, 'f', 2)
            : QString();
    const QString turned = fromCore(words::inEnglish(camera.differences.exposureReason));
    return (turned.isEmpty()
                ? tr("The light this camera must change by, so that its grey sits where "
                     "the reference's does, through its own curve.")
                : turned) +
           u" "_s + basis + u" "_s + shape + scene +
           floorText(camera.differences.judged(Quality::Exposure));
}

QString MatchController::explanation(const match::CameraMatch& camera, Quality quality) const {
    const QString measured = measuredBy(camera, quality);
    const auto rest = std::find_if(m_rest.begin(), m_rest.end(), [&](const auto& one) {
        return one.cameraId == camera.cameraId && one.quality == quality;
    });
    return rest == m_rest.end() ? measured : fromCore(rest->text) + u' ' + measured;
}

QString MatchController::measuredBy(const match::CameraMatch& camera, Quality quality) const {
    const match::Difference& d = camera.differences.judged(quality);
    if (!d.value) return fromCore(words::inEnglish(d.reason));
    const match::CameraMatch* reference = m_report.find(m_report.referenceId);
    const int patches = camera.differences.fit ? camera.differences.fit->patchesUsed : 0;
    const rig::Shot* shot = take() != nullptr ? rig::findShot(*take(), camera.cameraId) : nullptr;
    const int frames = shot != nullptr && shot->reading ? shot->reading->framesUsed : 0;
    QString basis = counted(patches, tr("1 neutral patch, "), tr("%1 neutral patches, ")) +
                    counted(frames, tr("1 frame measured."), tr("%1 frames averaged."));
    switch (quality) {
        case Quality::Exposure:
            return exposureExplanation(camera, basis);
        case Quality::WhiteBalance:
        case Quality::Tint:
            if (camera.differences.fit && reference != nullptr && reference->differences.fit) {
                return tr("Neutrals linearised by this camera's own curve: %1 K, Duv %2; the "
                          "reference's: %3 K, Duv %4.")
                           .arg(1e6 / camera.differences.fit->white.mired.value(), 0, 'f', 0)
                           .arg(camera.differences.fit->white.duv.value(), 0, 'f', 4)
                           .arg(1e6 / reference->differences.fit->white.mired.value(), 0, 'f', 0)
                           .arg(reference->differences.fit->white.duv.value(), 0, 'f', 4) +
                       u" "_s + basis + floorText(d);
            }
            return basis;
        case Quality::Contrast:
            return tr("Slope of this camera's curve where it passes the reference's grey, over the "
                      "reference's slope.") +
                   u" "_s + basis;
        case Quality::BlackLevel:
            return tr("Signal of the black patch once exposure is equal, minus the reference's.") +
                   u" "_s + basis;
        case Quality::Saturation:
        case Quality::Hue:
            return tr(
                "Chroma of the coloured patches once exposure and white balance are equal: one "
                "scale and one turn for all, cyan left out.");
        case Quality::DeltaE:
            return tr("Largest: %1 at %2. Left half of each patch: reference; right half: this "
                      "camera. Noise alone would show %3; it is taken out.")
                .arg(camera.differences.colour.max, 0, 'f', 1)
                .arg(fromCore(camera.differences.worstPatch))
                .arg(camera.differences.colour.noiseFloor, 0, 'f', 2);
        case Quality::SkinLevel:
        case Quality::SkinHue:
            return skinExplanation(camera);
    }
    return basis;
}

std::string MatchController::titleOf(match::Quality quality) const {
    return m_context.selection.isTechnical() ? words::qualityTitle(quality)
                                             : words::shooterTitle(quality);
}

}  // namespace rigmatch::app
