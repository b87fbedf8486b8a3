// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/lut_job.h"

#include <algorithm>
#include <cctype>
#include <functional>

#include "base/atomic_file.h"
#include "base/format.h"
#include "colour/viewing_lut.h"
#include "jobs/curve_job.h"
#include "jobs/match_job.h"
#include "jobs/people_job.h"
#include "match/cdl_fit.h"
#include "match/correction.h"

namespace rigmatch::jobs {
namespace {

/// "B-restorer-close-to-A": letters, digits and hyphens.
std::string fileName(const rig::Camera& camera, const rig::Camera& reference) {
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
    return name + "-to-" + reference.letter;
}

/// Codes of ten bits, black and nominal white (ITU-R BT.709-6 item 3.4).
constexpr double kBlackCode = 64.0, kWhiteCode = 940.0, kTopCode = 1023.0;

std::array<double, 3> placesOf(const std::array<double, 3>& signal, LutUse use) {
    return {lutPlace(signal[0], use), lutPlace(signal[1], use), lutPlace(signal[2], use)};
}
std::array<double, 3> signalsAt(const std::array<double, 3>& place, LutUse use) {
    return {lutSignal(place[0], use), lutSignal(place[1], use), lutSignal(place[2], use)};
}

colour::Table3d tableOf(const match::Correction& correction,
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
                    correction.apply(signalsAt({r / last, g / last, b / last}, options.use),
                                     options.strength),
                    options.use);
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

/// Primaries other than BT.709's that a shot is recorded in; empty: none.
std::string primariesOf(const rig::Camera& camera, const rig::Shot* shot) {
    if (shot == nullptr || !shot->reading) return {};
    std::string name = shot->primariesOverride;
    if (name.empty()) name = primariesFor(camera, shot->settings.profile);
    if (name.empty()) name = shot->reading->primaries;
    return name == "bt709" || name == "unknown" ? std::string() : name;
}

/// Why a camera gets no table; empty: it does.
std::string reasonAgainst(const rig::Camera& camera,
                          const rig::Shot* shot,
                          const match::CameraMatch& match) {
    if (!match.body || !match.compared)
        return "Camera " + camera.letter +
               " shows no chart that can be measured in this take: no table is written for it. "
               "Shoot the chart with it.";
    const std::string wide = primariesOf(camera, shot);
    if (!wide.empty())
        return "Camera " + camera.letter + " records in " + wide +
               ": a table from its recorded signal is made for BT.709 alone. Convert it first.";
    if (shot != nullptr && (shot->settings.isAutoExposure || shot->settings.isAutoWhiteBalance))
        return "Camera " + camera.letter +
               " was on automatic: its picture will not stay as it was. Lock it and shoot again.";
    return {};
}

/// Mean ΔE2000 of the skin of people whom both see, before and after.
void judgeSkin(const rig::Rig& rig,
               const rig::Take& take,
               const std::function<std::array<double, 3>(const std::array<double, 3>&)>& through,
               WrittenLut& written) {
    const rig::Shot* mine = rig::findShot(take, written.cameraId);
    const rig::Shot* theirs = rig::findShot(take, rig.referenceId);
    if (mine == nullptr || theirs == nullptr || !mine->reading || !theirs->reading) return;
    match::PatchSignals before, after, reference;
    for (const match::Person& person : peopleOf(rig, take)) {
        const auto a = person.faces.find(written.cameraId);
        const auto b = person.faces.find(rig.referenceId);
        if (a == person.faces.end() || b == person.faces.end()) continue;
        const auto& faceA = mine->reading->faces[a->second];
        const auto& faceB = theirs->reading->faces[b->second];
        if (!faceA.forehead || !faceB.forehead) continue;
        before.push_back(faceA.forehead->signal);
        after.push_back(through(faceA.forehead->signal));
        reference.push_back(faceB.forehead->signal);
    }
    if (before.empty()) return;
    written.skinBefore = match::colourDifference(before, {}, reference, {}).mean;
    written.skinAfter = match::colourDifference(after, {}, reference, {}).mean;
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
};

base::Result<void> writeOne(const Corrected& c,
                            const std::filesystem::path& folder,
                            const LutOptions& options,
                            WrittenLut& written) {
    const match::PatchSignals before = match::signalsOf(*c.match.compared);
    const match::PatchSignals aim = match::signalsOf(*c.reference.compared);
    written.before = match::colourDifference(before, {}, aim, {});
    colour::GradeWords words;
    words.id = fileName(c.camera, c.target);
    words.title =
        c.camera.letter + " " + c.camera.role + " to " + c.target.letter + " " + c.target.role;
    words.comments = {"From the recorded signal of camera " + c.camera.letter +
                          " to that of camera " + c.target.letter + ". " + useText(options),
                      "Rig: " + c.rig.name + ", take " + std::to_string(c.take.number) + " of " +
                          c.take.startedAt +
                          ". Made in the light of that take: it holds for that light."};
    const auto tell = [&](const match::PatchSignals& planned) {
        words.comments.push_back(
            "Mean dE2000 of the patches " + base::fixed(written.before.mean, 2) + " before, " +
            base::fixed(match::colourDifference(planned, {}, aim, {}).mean, 2) +
            " after; strength " + base::fixed(100.0 * options.strength, 0) + " %.");
    };
    match::PatchSignals planned;
    base::Result<std::string> text;
    if (colour::isCdl(options.format)) {
        const colour::Cdl cdl = match::weakened(match::fitCdl(before, aim), options.strength);
        for (const auto& signal : before) planned.push_back(cdl.apply(signal));
        written.cdl = cdl;
        written.beyondShare = cutShare(cdl, before);
        tell(planned);
        text = colour::gradeText(options.format, cdl, words);
    } else {
        const match::Correction correction(
            *c.match.compared, *c.match.body, *c.reference.compared, c.theirs);
        for (const auto& signal : before)
            planned.push_back(correction.apply(signal, options.strength));
        written.leftOutSignal = correction.left().leftOut;
        const colour::Table3d table = tableOf(correction, options, written.beyondShare);
        tell(planned);
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
    const auto through = [&](const std::array<double, 3>& signal) {
        return signalsAt(file->apply(placesOf(signal, use)), use);
    };
    match::PatchSignals after;
    for (const auto& signal : before) after.push_back(through(signal));
    written.after = match::colourDifference(after, {}, aim, {});
    judgeSkin(c.rig, c.take, through, written);
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
    if (reference == nullptr || target == nullptr || !reference->compared ||
        !reference->differences.fit) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          "No look-up tables",
                          "The reference shows no chart that can be measured in take " +
                              std::to_string(take.number) + ".",
                          "Choose another reference, or shoot the chart with it.");
    }
    const std::string wide = primariesOf(*target, rig::findShot(take, target->id));
    if (!wide.empty()) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          "No look-up tables",
                          "The reference records in " + wide +
                              ": a table to it would have to change the primaries too.",
                          "Choose a reference that records in BT.709.");
    }
    std::error_code code;
    std::filesystem::create_directories(folder, code);
    const match::BodyModel theirs(*reference->compared, *reference->differences.fit);
    std::vector<WrittenLut> all;
    for (const match::CameraMatch& match : report.cameras) {
        const rig::Camera* camera = rig::findCamera(rig, match.cameraId);
        if (match.isReference || camera == nullptr) continue;
        WrittenLut written;
        written.cameraId = match.cameraId;
        written.failure = reasonAgainst(*camera, rig::findShot(take, camera->id), match);
        if (!written.failure.empty()) {
            all.push_back(written);
            continue;
        }
        if (auto done = writeOne(
                {rig, take, *camera, *target, match, *reference, theirs}, folder, options, written);
            !done)
            return tl::unexpected(done.error());
        all.push_back(written);
    }
    return all;
}

}  // namespace rigmatch::jobs
