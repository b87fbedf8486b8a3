// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/check_picture.h"

#include <algorithm>
#include <cmath>

#include "base/atomic_file.h"
#include "base/format.h"
#include "card/picture_sheet.h"
#include "colour/viewing_lut.h"
#include "image/frame.h"
#include "jobs/picture_job.h"

namespace rigmatch::jobs {
namespace {

constexpr double kAroundChart = 0.12, kAroundFace = 0.45;  // of their size, on each side
constexpr int kMostPixels = 400;                           // across a picture of the sheet

/// A part of a frame, px.
struct Part {
    double seconds = 0.0;
    double left = 0.0, top = 0.0, right = 0.0, bottom = 0.0;

    void widen(double share) {
        const double x = share * (right - left), y = share * (bottom - top);
        left -= x;
        right += x;
        top -= y;
        bottom += y;
    }
};

std::optional<Part> chartPart(const rig::Reading& reading) {
    if (!reading.hasChart) return std::nullopt;
    Part part{0.5 * (reading.spanStartSeconds + reading.spanEndSeconds), 1e9, 1e9, -1e9, -1e9};
    if (reading.isStill) part.seconds = 0.0;
    for (const auto& corner : reading.corners) {
        part.left = std::min(part.left, corner.x);
        part.right = std::max(part.right, corner.x);
        part.top = std::min(part.top, corner.y);
        part.bottom = std::max(part.bottom, corner.y);
    }
    part.widen(kAroundChart);
    return part;
}

std::optional<Part> facePart(const rig::Reading& reading) {
    const auto largest = std::max_element(
        reading.faces.begin(), reading.faces.end(), [](const auto& a, const auto& b) {
            return a.height < b.height;
        });
    if (largest == reading.faces.end() || largest->width <= 0.0) return std::nullopt;
    Part part{largest->atSeconds,
              largest->left,
              largest->top,
              largest->left + largest->width,
              largest->top + largest->height};
    part.widen(kAroundFace);
    return part;
}

/// The part's signal, shrunk by a whole factor.
base::Result<image::Frame> cutOut(const rig::Shot& shot, const Part& part) {
    const auto frame = frameAt(shot.media, part.seconds, codeReading(shot));
    if (!frame) return tl::unexpected(frame.error());
    const int step =
        std::max(1, static_cast<int>(std::floor((part.right - part.left) / kMostPixels)));
    const image::Frame whole = image::shrunkSignal(*frame, step);
    const int left = std::clamp(static_cast<int>(part.left / step), 0, whole.width - 1);
    const int top = std::clamp(static_cast<int>(part.top / step), 0, whole.height - 1);
    const int right = std::clamp(static_cast<int>(part.right / step), left + 1, whole.width);
    const int bottom = std::clamp(static_cast<int>(part.bottom / step), top + 1, whole.height);
    image::Frame cut = image::blankFrame(right - left, bottom - top);
    for (std::size_t c = 0; c < 3; ++c) {
        for (int y = top; y < bottom; ++y) {
            for (int x = left; x < right; ++x)
                cut.channels[c][static_cast<std::size_t>(y - top) *
                                    static_cast<std::size_t>(cut.width) +
                                static_cast<std::size_t>(x - left)] =
                    whole.at(static_cast<int>(c), x, y);
        }
    }
    return cut;
}

card::SheetPicture pictureOf(const image::Frame& signal) {
    return {signal.width, signal.height, bytesOf(signal)};
}

class Sheet {
public:
    Sheet(const rig::Rig& rig, const rig::Take& take, const LutOptions& options)
        : m_rig(rig),
          m_reference(rig::findShot(take, rig.referenceId)),
          m_take(take),
          m_options(options) {}

    base::Result<void> add(const WrittenLut& written) {
        const rig::Shot* shot = rig::findShot(m_take, written.cameraId);
        const rig::Camera* camera = rig::findCamera(m_rig, written.cameraId);
        if (shot == nullptr || camera == nullptr || !shot->reading || m_reference == nullptr ||
            !m_reference->reading)
            return {};
        const auto lut = colour::ViewingLut::read(written.file);
        if (!lut) return tl::unexpected(lut.error());
        const std::string chart = "Camera " + camera->letter + ", chart: mean ΔE2000 " +
                                  base::fixed(written.before.mean, 1) + " → " +
                                  base::fixed(written.after.mean, 1);
        if (auto done = addRow(
                chart, chartPart(*m_reference->reading), chartPart(*shot->reading), *shot, *lut);
            !done)
            return done;
        std::string face = "Camera " + camera->letter + ", face";
        if (written.skinBefore && written.skinAfter)
            face += ": skin ΔE2000 " + base::fixed(*written.skinBefore, 1) + " → " +
                    base::fixed(*written.skinAfter, 1);
        return addRow(face, facePart(*m_reference->reading), facePart(*shot->reading), *shot, *lut);
    }

    /// The reference as its own file shows it, where it has one.
    base::Result<void> showReferenceBy(const std::filesystem::path& file) {
        auto lut = colour::ViewingLut::read(file);
        if (!lut) return tl::unexpected(lut.error());
        m_referenceLut = std::move(*lut);
        return {};
    }

    std::vector<card::SheetRow> rows;

private:
    base::Result<void> addRow(const std::string& heading,
                              const std::optional<Part>& theirs,
                              const std::optional<Part>& mine,
                              const rig::Shot& shot,
                              const colour::ViewingLut& lut) {
        if (!theirs || !mine) return {};
        const auto reference = cutOut(*m_reference, *theirs);
        if (!reference) return tl::unexpected(reference.error());
        const auto before = cutOut(shot, *mine);
        if (!before) return tl::unexpected(before.error());
        rows.push_back(
            {heading,
             {pictureOf(m_referenceLut ? through(*reference, *m_referenceLut) : *reference),
              pictureOf(*before),
              pictureOf(through(*before, lut))}});
        return {};
    }

    /// As others will see it: through the file, in its own numbers.
    [[nodiscard]] image::Frame through(const image::Frame& signal,
                                       const colour::ViewingLut& lut) const {
        image::Frame made = signal;
        const LutUse use = colour::isCdl(m_options.format) ? LutUse::Editor : m_options.use;
        const auto each = [&](double (*change)(double, LutUse)) {
            for (auto& channel : made.channels)
                for (float& value : channel)
                    value = static_cast<float>(change(static_cast<double>(value), use));
        };
        each(lutPlace);
        lut.apply(made.channels);
        each(lutSignal);
        return made;
    }

    const rig::Rig& m_rig;
    const rig::Shot* m_reference;
    const rig::Take& m_take;
    const LutOptions& m_options;
    std::optional<colour::ViewingLut> m_referenceLut;
};

}  // namespace

base::Result<void> writeCheckPicture(const rig::Rig& rig,
                                     const rig::Take& take,
                                     const std::vector<WrittenLut>& written,
                                     const LutOptions& options,
                                     const std::filesystem::path& file,
                                     const base::Progress& progress) {
    Sheet sheet(rig, take, options);
    for (const WrittenLut& one : written) {
        if (!one.isReference) continue;
        if (auto shown = sheet.showReferenceBy(one.file); !shown) return shown;
    }
    for (std::size_t i = 0; i < written.size(); ++i) {
        if (progress.isCancelled()) return tl::unexpected(base::cancelledError());
        progress.report(static_cast<double>(i) / static_cast<double>(written.size()),
                        base::say("progress.drawingTheCheckPicture"));
        if (!written[i].failure.empty() || written[i].isReference) continue;
        if (auto added = sheet.add(written[i]); !added) return added;
    }
    if (sheet.rows.empty()) {
        return base::fail(base::ErrorCode::Unmeasurable,
                          base::say("checkPicture.noCheckPicture"),
                          base::say("checkPicture.noCameraCorrected"),
                          base::say("checkPicture.shootChartFace"));
    }
    const rig::Camera* reference = rig::findCamera(rig, rig.referenceId);
    const std::string letter = reference == nullptr ? "?" : reference->letter;
    card::PictureSheet page;
    page.title = rig.name.empty() ? "Corrections" : rig.name + ": corrections";
    page.note = "Take " + std::to_string(take.number) +
                (options.result == LutResult::Finished
                     ? ". Reference and result as finished pictures, the middle as recorded."
                     : ". Pictures as recorded: log recordings look flat here.") +
                std::string(" A correction holds for the light of its take.");
    page.columns = {"Reference, camera " + letter, "As recorded", "Corrected"};
    page.rows = std::move(sheet.rows);
    const auto bytes = card::sheetPng(page);
    if (!bytes) return tl::unexpected(bytes.error());
    return base::writeAtomically(file, *bytes);
}

}  // namespace rigmatch::jobs
