// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/lut_job.h"

#include <algorithm>
#include <cctype>
#include <functional>
#include <memory>
#include <utility>

#include "base/atomic_file.h"
#include "base/format.h"
#include "colour/viewing_lut.h"
#include "jobs/curve_job.h"
#include "jobs/match_job.h"
#include "jobs/people_job.h"
#include "match/cdl_fit.h"
#include "match/correction.h"
#include "match/finishing.h"

namespace rigmatch::jobs {
namespace {

/// "B-restorer-close-to-A": letters, digits and hyphens.
std::string fileName(const rig::Camera& camera, const std::string& to) {
    std::string name = camera.letter;
    const auto add = [&](const std::string& words) {
        for (const char letter : words) {
            const bool isPlain = std::isalnum(static_cast<unsigned char>(letter)) != 0;
            if (isPlain) name += letter;
            if (!isPlain && name.back() != '-') name += '-';
        }
    };
    if (!camera.role.empty()) add("-" + camera.role);
    if (name.back() == '-') name.pop_back();
    return name + "-to-" + to;
}

/// Codes of ten bits, black and nominal white (ITU-R BT.709-6 item 3.4).
constexpr double kBlackCode = 64.0, kWhiteCode = 940.0, kTopCode = 1023.0;

std::array<double, 3> placesOf(const std::array<double, 3>& signal, LutUse use) {
    return {lutPlace(signal[0], use), lutPlace(signal[1], use), lutPlace(signal[2], use)};
}
std::array<double, 3> signalsAt(const std::array<double, 3>& place, LutUse use) {
    return {lutSignal(place[0], use), lutSignal(place[1], use), lutSignal(place[2], use)};
}

using Signal = std::array<double, 3>;
using SignalMap = std::function<Signal(const Signal&)>;

colour::Table3d tableOf(const SignalMap& corrected,
                        const LutOptions& options,
                        double& beyondShare) {
    colour::Table3d table;
    table.size = options.size;
    const double last = options.size - 1;
    std::size_t beyond = 0;
    for (int b = 0; b < options.size; ++b) {
        for (int g = 0; g < options.size; ++g) {
            for (int r = 0; r < options.size; ++r) {
                auto out = placesOf(
                    corrected(signalsAt({r / last, g / last, b / last}, options.use)), options.use);
                if (std::any_of(
                        out.begin(), out.end(), [](double v) { return v < 0.0 || v > 1.0; }))
                    ++beyond;
                if (options.use != LutUse::Editor) {
                    for (double& value : out) value = std::clamp(value, 0.0, 1.0);
                }
                table.values.push_back(out);
            }
        }
    }
    beyondShare = static_cast<double>(beyond) / static_cast<double>(table.values.size());
    return table;
}

/// Patches that a decision list cuts.
double cutShare(const colour::Cdl& cdl, const match::PatchSignals& signals) {
    std::size_t cut = 0;
    for (const auto& signal : signals) {
        for (std::size_t c = 0; c < 3; ++c) {
            const double value = signal[c] * cdl.slope[c] + cdl.offset[c];
            if (value >= 0.0 && value <= 1.0) continue;
            ++cut;
            break;
        }
    }
    return static_cast<double>(cut) / static_cast<double>(std::max<std::size_t>(signals.size(), 1));
}

/// What the numbers of a file stand for, in words for its comments.
std::string useText(const LutOptions& options) {
    if (colour::isCdl(options.format))
        return "On signals of 0 (black) to 1 (nominal white); what lies above white is cut.";
    switch (options.use) {
        case LutUse::Editor:
            return "For an editor: takes and gives signals, 0 black, 1 nominal white.";
        case LutUse::Monitor:
            return "For a monitor or LUT box that takes the whole code range: black at 64, white "
                   "at 940 of 1023. Feed it as limited range, and set it to change no range.";
        case LutUse::Camera:
            return "For the monitor path of a camera: takes and gives signals 0 to 1. It is not "
                   "recorded unless the camera is told so.";
    }
    return {};
}

/// Primaries that a shot is recorded in and that nothing tells how to convert; empty: none.
std::string unknownPrimariesOf(const rig::Camera& camera,
                               const rig::Shot* shot,
                               const match::CameraMatch& match) {
    if (shot == nullptr || !shot->reading || match.toBt709) return {};
    std::string name = shot->primariesOverride;
    if (name.empty()) name = primariesFor(camera, shot->settings.profile);
    if (name.empty()) name = shot->reading->primaries;
    return name == "bt709" || name == "unknown" ? std::string() : name;
}

/// Why a camera gets no table; empty: it does.
base::Text reasonAgainst(const rig::Camera& camera,
                         const rig::Shot* shot,
                         const match::CameraMatch& match) {
    if (!match.body || !match.compared)
        return base::say("lutJob.showsNoChart", {{"camera", camera.letter}});
    const std::string wide = unknownPrimariesOf(camera, shot, match);
    if (!wide.empty())
        return base::say("lutJob.recordsIn", {{"camera", camera.letter}, {"primaries", wide}});
    if (shot != nullptr && (shot->settings.isAutoExposure || shot->settings.isAutoWhiteBalance))
        return base::say("lutJob.wasAutomatic", {{"camera", camera.letter}});
    return {};
}

/// A camera that is corrected, and what it is corrected to.
struct Corrected {
    const rig::Rig& rig;
    const rig::Take& take;
    const rig::Camera& camera;
    const rig::Camera& target;
    const match::CameraMatch& match;
    const match::CameraMatch& reference;
    const match::BodyModel& theirs;
    bool isFinished = false;  ///< the result is a finished picture

    /// In BT.709's primaries, and finished where that is asked for: as it is judged.
    [[nodiscard]] Signal seen(const match::CameraMatch& by, const Signal& recorded) const {
        return finished(by, by.toBt709 ? by.toBt709->toBt709(recorded) : recorded);
    }
    [[nodiscard]] Signal finished(const match::CameraMatch& by, const Signal& inBt709) const {
        return isFinished && by.finishing ? match::finishedSignal(inBt709, *by.finishing) : inBt709;
    }
    /// A result as it is judged.
    [[nodiscard]] Signal seenResult(const Signal& result) const {
        return !isFinished && reference.toBt709 ? reference.toBt709->toBt709(result) : result;
    }
    /// As recorded, of what was compared.
    [[nodiscard]] match::PatchSignals recorded(const match::CameraMatch& by) const {
        match::PatchSignals signals = match::signalsOf(*by.compared);
        if (by.toBt709)
            for (Signal& signal : signals) signal = by.toBt709->fromBt709(signal);
        return signals;
    }
    /// With the people whom both see, as `by` records them.
    [[nodiscard]] match::PatchSignals withSkin(match::PatchSignals signals,
                                               const match::CameraMatch& by,
                                               Signal match::SkinAim::*skin) const {
        for (const match::SkinAim& aim : match.skinAims)
            signals.push_back(by.toBt709 ? by.toBt709->fromBt709(aim.*skin) : aim.*skin);
        return signals;
    }
};

/// From what the camera records to the result.
SignalMap correctedBy(const Corrected& c,
                      const std::shared_ptr<const match::Correction>& correction,
                      double strength) {
    return [&c, correction, strength](const Signal& recorded) {
        const Signal mine = c.match.toBt709 ? c.match.toBt709->toBt709(recorded) : recorded;
        Signal full = correction ? correction->apply(mine) : mine;
        full = c.isFinished          ? c.finished(c.reference, full)
               : c.reference.toBt709 ? c.reference.toBt709->fromBt709(full)
                                     : full;
        const Signal none = c.isFinished ? c.finished(c.match, mine) : recorded;
        Signal made{};
        for (std::size_t i = 0; i < 3; ++i) made[i] = none[i] + strength * (full[i] - none[i]);
        return made;
    };
}

/// Mean ΔE2000 of the skin of people whom both see, before and after.
void judgeSkin(const Corrected& c, const SignalMap& through, WrittenLut& written) {
    const rig::Shot* mine = rig::findShot(c.take, written.cameraId);
    const rig::Shot* theirs = rig::findShot(c.take, c.target.id);
    if (mine == nullptr || theirs == nullptr || !mine->reading || !theirs->reading) return;
    match::PatchSignals before, after, reference;
    for (const match::Person& person : peopleOf(c.rig, c.take)) {
        const auto a = person.faces.find(written.cameraId);
        const auto b = person.faces.find(c.target.id);
        if (a == person.faces.end() || b == person.faces.end()) continue;
        const auto& faceA = mine->reading->faces[a->second];
        const auto& faceB = theirs->reading->faces[b->second];
        if (!faceA.forehead || !faceB.forehead) continue;
        before.push_back(c.seen(c.match, faceA.forehead->signal));
        after.push_back(c.seenResult(through(faceA.forehead->signal)));
        reference.push_back(c.seen(c.reference, faceB.forehead->signal));
    }
    if (before.empty()) return;
    written.skinBefore = match::colourDifference(before, {}, reference, {}).mean;
    written.skinAfter = match::colourDifference(after, {}, reference, {}).mean;
}

colour::GradeWords wordsFor(const Corrected& c, const LutOptions& options) {
    colour::GradeWords words;
    const std::string mine = c.camera.letter, theirs = c.target.letter;
    words.id = fileName(c.camera, c.isFinished ? "finished" : theirs);
    words.title = mine + " " + c.camera.role + " to " +
                  (c.isFinished ? "a finished picture" : theirs + " " + c.target.role);
    std::string what = "From the recorded signal of camera " + mine;
    if (!c.isFinished) {
        what += " to that of camera " + theirs + ". ";
    } else {
        what += " to a finished BT.709 picture";
        if (!c.match.isReference) what += ", as camera " + theirs + " makes it";
        if (c.reference.finishing) what += " (" + c.reference.conversion + ")";
        what += ". ";
    }
    words.comments = {what + useText(options),
                      "Rig: " + c.rig.name + ", take " + std::to_string(c.take.number) + " of " +
                          c.take.startedAt +
                          ". Made in the light of that take: it holds for that light."};
    return words;
}

base::Result<void> writeOne(const Corrected& c,
                            const std::filesystem::path& folder,
                            const LutOptions& options,
                            WrittenLut& written) {
    const match::PatchSignals recorded = c.recorded(c.match);
    match::PatchSignals before, aim, planned;
    for (const Signal& signal : recorded) before.push_back(c.seen(c.match, signal));
    for (const Signal& signal : c.recorded(c.reference)) aim.push_back(c.seen(c.reference, signal));
    written.isReference = c.match.isReference;
    written.before = match::colourDifference(before, {}, aim, {});
    colour::GradeWords words = wordsFor(c, options);
    const auto tell = [&] {
        if (written.isReference) return;
        words.comments.push_back(
            "Mean dE2000 of the patches " + base::fixed(written.before.mean, 2) + " before, " +
            base::fixed(match::colourDifference(planned, {}, aim, {}).mean, 2) +
            " after; strength " + base::fixed(100.0 * options.strength, 0) + " %.");
    };
    base::Result<std::string> text;
    if (colour::isCdl(options.format)) {
        const colour::Cdl cdl = match::weakened(
            match::fitCdl(c.withSkin(recorded, c.match, &match::SkinAim::recorded),
                          c.withSkin(c.recorded(c.reference), c.reference, &match::SkinAim::aim)),
            options.strength);
        for (const Signal& signal : recorded) planned.push_back(c.seenResult(cdl.apply(signal)));
        written.cdl = cdl;
        written.beyondShare = cutShare(cdl, recorded);
        tell();
        text = colour::gradeText(options.format, cdl, words);
    } else {
        std::shared_ptr<const match::Correction> correction;
        if (!written.isReference) {
            correction = std::make_shared<const match::Correction>(*c.match.compared,
                                                                   *c.match.body,
                                                                   *c.reference.compared,
                                                                   c.theirs,
                                                                   c.match.skinAims);
            written.leftOutSignal = correction->left().leftOut;
        }
        const SignalMap corrected = correctedBy(c, correction, options.strength);
        for (const Signal& signal : recorded) planned.push_back(c.seenResult(corrected(signal)));
        const colour::Table3d table = tableOf(corrected, options, written.beyondShare);
        tell();
        text = colour::gradeText(options.format, table, words);
    }
    if (!text) return tl::unexpected(text.error());
    written.file = folder / (words.id + colour::suffixOf(options.format));
    if (auto saved = base::writeAtomically(written.file, *text); !saved)
        return tl::unexpected(saved.error());
    // Judged as others will see it: through the file that was written.
    const auto file = colour::ViewingLut::read(written.file);
    if (!file) return tl::unexpected(file.error());
    const LutUse use = colour::isCdl(options.format) ? LutUse::Editor : options.use;
    const auto through = [&](const Signal& signal) {
        return signalsAt(file->apply(placesOf(signal, use)), use);
    };
    match::PatchSignals after;
    for (const Signal& signal : recorded) after.push_back(c.seenResult(through(signal)));
    written.after = match::colourDifference(after, {}, aim, {});
    judgeSkin(c, through, written);
    return {};
}

/// Why nothing can be written for the take; no error: it can.
base::Result<void> mayWrite(const match::CameraMatch* reference,
                            const rig::Camera* target,
                            const rig::Take& take,
                            const LutOptions& options) {
    const auto refused = [](base::ErrorCode code, base::Text why, base::Text hint) {
        return base::fail(code, base::say("lutJob.noLookUp"), std::move(why), std::move(hint));
    };
    const bool isFinished = options.result == LutResult::Finished;
    if (isFinished && colour::isCdl(options.format)) {
        return refused(base::ErrorCode::OutOfRange,
                       base::say("lutJob.decisionListCannot"),
                       base::say("lutJob.askTableCube"));
    }
    if (reference == nullptr || target == nullptr || !reference->compared ||
        !reference->differences.fit) {
        return refused(base::ErrorCode::Unmeasurable,
                       base::say("lutJob.referenceShowsNo", {{"number", base::whole(take.number)}}),
                       base::say("lutJob.chooseAnotherReference"));
    }
    const std::string wide =
        unknownPrimariesOf(*target, rig::findShot(take, target->id), *reference);
    if (!wide.empty()) {
        return refused(base::ErrorCode::Unmeasurable,
                       base::say("lutJob.referenceRecordsNothing", {{"wide", wide}}),
                       base::say("lutJob.choosePrimariesCompare"));
    }
    if (isFinished && reference->isToConvert && !reference->finishing) {
        return refused(base::ErrorCode::Unmeasurable,
                       base::say("lutJob.cameraReferenceRecords", {{"target", target->letter}}),
                       base::say("lutJob.chooseCurveProfile"));
    }
    return {};
}

}  // namespace

double lutSignal(double place, LutUse use) {
    return use == LutUse::Monitor ? (place * kTopCode - kBlackCode) / (kWhiteCode - kBlackCode)
                                  : place;
}

double lutPlace(double signal, LutUse use) {
    return use == LutUse::Monitor ? (signal * (kWhiteCode - kBlackCode) + kBlackCode) / kTopCode
                                  : signal;
}

base::Result<std::vector<WrittenLut>> writeLuts(const rig::Rig& rig,
                                                const rig::Take& take,
                                                const std::filesystem::path& folder,
                                                const LutOptions& options) {
    const match::MatchReport report = matchReport(rig, take);
    const match::CameraMatch* reference = report.find(report.referenceId);
    const rig::Camera* target = rig::findCamera(rig, report.referenceId);
    if (auto may = mayWrite(reference, target, take, options); !may)
        return tl::unexpected(may.error());
    const bool isFinished = options.result == LutResult::Finished;
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    const match::BodyModel theirs(*reference->compared, *reference->differences.fit);
    std::vector<WrittenLut> all;
    for (const match::CameraMatch& match : report.cameras) {
        const rig::Camera* camera = rig::findCamera(rig, match.cameraId);
        const bool isWanted = !match.isReference || (isFinished && match.finishing);
        if (!isWanted || camera == nullptr) continue;
        WrittenLut written;
        written.cameraId = match.cameraId;
        if (!match.isReference)
            written.failure = reasonAgainst(*camera, rig::findShot(take, camera->id), match);
        if (written.failure.empty()) {
            const Corrected corrected{
                rig, take, *camera, *target, match, *reference, theirs, isFinished};
            if (auto done = writeOne(corrected, folder, options, written); !done)
                return tl::unexpected(done.error());
        }
        all.push_back(written);
    }
    return all;
}

}  // namespace rigmatch::jobs
