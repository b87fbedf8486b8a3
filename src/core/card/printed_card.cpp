// SPDX-License-Identifier: GPL-3.0-or-later
#include "card/printed_card.h"

#include <cairo-pdf.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <numbers>
#include <vector>

#include "base/atomic_file.h"
#include "card/typeface.h"
#include "chart/chart_file.h"
#include "colour/transfer.h"

namespace rigmatch::card {
namespace {

constexpr double kPointsPerMm = 72.0 / 25.4;
constexpr double kPitchMm = 36.0;    // from patch to patch
constexpr double kBorderMm = 8.0;    // dark field beyond the patches
constexpr double kTopMm = 21.0;      // page above the dark field
constexpr double kMarginMm = 9.0;    // what printers leave white
constexpr double kPanelGrey = 0.14;  // signal of the dark field
constexpr double kInk = 0.1;         // signal of text and targets

void grey(cairo_t* page, double signal) { cairo_set_source_rgb(page, signal, signal, signal); }

void text(cairo_t* page,
          const Typeface& face,
          double sizeMm,
          double x,
          double y,
          const std::string& words) {
    if (face.font() != nullptr) cairo_set_font_face(page, face.font());
    cairo_set_font_size(page, sizeMm);
    cairo_move_to(page, x, y);
    cairo_show_text(page, words.c_str());
}

/// A target: two black quadrants in a ring, whose middle is where they meet.
void target(cairo_t* page, double x, double y) {
    constexpr double kRadius = 4.0;
    grey(page, kInk);
    for (const double from : {0.0, std::numbers::pi}) {
        cairo_move_to(page, x, y);
        cairo_arc(page, x, y, kRadius, from, from + 0.5 * std::numbers::pi);
        cairo_close_path(page);
        cairo_fill(page);
    }
    cairo_set_line_width(page, 0.4);
    cairo_arc(page, x, y, kRadius + 1.0, 0.0, 2.0 * std::numbers::pi);
    cairo_stroke(page);
}

/// A star of 36 wedges: its grey middle shrinks as focus comes.
void star(cairo_t* page, double x, double y, double radius) {
    constexpr int kWedges = 36;
    grey(page, kInk);
    for (int i = 0; i < kWedges; ++i) {
        const double from = 2.0 * std::numbers::pi * i / kWedges;
        cairo_move_to(page, x, y);
        cairo_arc(page, x, y, radius, from, from + std::numbers::pi / kWedges);
        cairo_close_path(page);
    }
    cairo_fill(page);
}

void scale(cairo_t* page, double left, double y) {
    constexpr int kMm = 100;
    grey(page, kInk);
    cairo_set_line_width(page, 0.25);
    for (int mm = 0; mm <= kMm; ++mm) {
        const double length = mm % 10 == 0 ? 4.0 : mm % 5 == 0 ? 3.0 : 2.0;
        cairo_move_to(page, left + mm, y);
        cairo_line_to(page, left + mm, y - length);
    }
    cairo_move_to(page, left, y);
    cairo_line_to(page, left + kMm, y);
    cairo_stroke(page);
    for (int cm = 0; cm <= 10; cm += 5)
        text(
            page, Typeface::regular(), 2.8, left + 10 * cm + 0.8, y - 4.6, std::to_string(10 * cm));
}

void patches(cairo_t* page, const chart::ReferenceChart& chart, const FieldOnPage& field) {
    const colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Srgb);
    grey(page, kPanelGrey);
    cairo_rectangle(page,
                    field.left - kBorderMm,
                    field.top - kBorderMm,
                    field.width + 2.0 * kBorderMm,
                    field.height + 2.0 * kBorderMm);
    cairo_fill(page);
    const double side = chart.patchShare * kPitchMm;
    for (std::size_t i = 0; i < chart.patches.size(); ++i) {
        std::array<double, 3> signal{};
        for (std::size_t c = 0; c < 3; ++c)
            signal[c] =
                std::clamp(curve.encode(chart.patches[i].linear(static_cast<long>(c))), 0.0, 1.0);
        cairo_set_source_rgb(page, signal[0], signal[1], signal[2]);
        const std::size_t column = i % chart.columns, row = i / chart.columns;
        cairo_rectangle(page,
                        field.left + kPitchMm * static_cast<double>(column),
                        field.top + kPitchMm * static_cast<double>(row),
                        side,
                        side);
        cairo_fill(page);
    }
}

void words(cairo_t* page, const FieldOnPage& field) {
    const double left = field.left - kBorderMm;
    const double below = field.top + field.height + kBorderMm;
    grey(page, kInk);
    text(page, Typeface::semibold(), 5.0, left, 13.5, "Rig Match card");
    text(page,
         Typeface::regular(),
         3.0,
         left + 42.0,
         13.5,
         "chart \"printed-card\"  \xC2\xB7  toward the cameras, this way up");
    const std::array<const char*, 4> kLines{
        "A home print is good for matching cameras to each other, not for absolute colour. To use "
        "it for that, measure it and open the values as your own chart.",
        "Print at 100 % on matte paper, best quality, without colour \"enhancement\"; the scale "
        "must "
        "measure 100 mm. Let it dry for a day. Mount it flat.",
        "Hold it at the subject\xE2\x80\x99s place, in its light, without glare, all 24 patches in "
        "view and at least an eighth of the picture wide, for five seconds on all cameras.",
        "Keep paper away from hot lamps. Keep it dark when not in use; print a new one when it "
        "fades, and never mix two prints in one take."};
    double y = below + 7.0;
    for (const char* line : kLines) {
        text(page, Typeface::regular(), 2.75, left, y, line);
        y += 4.3;
    }
    scale(page, left, below + 30.0);
    grey(page, kInk);
    text(page, Typeface::regular(), 2.75, left + 106.0, below + 30.0, "mm");
}

cairo_status_t append(void* closure, const unsigned char* data, unsigned int length) {
    static_cast<std::string*>(closure)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

}  // namespace

FieldOnPage fieldOnPage(Paper paper) {
    constexpr double kShare = 0.86;
    FieldOnPage field;
    field.pageWidth = paper == Paper::A4 ? 297.0 : 279.4;
    field.pageHeight = paper == Paper::A4 ? 210.0 : 215.9;
    field.width = (5.0 + kShare) * kPitchMm;
    field.height = (3.0 + kShare) * kPitchMm;
    field.left = 0.5 * (field.pageWidth - field.width);
    field.top = kTopMm + kBorderMm - 2.0;
    return field;
}

base::Result<std::string> cardPdf(Paper paper) {
    const auto chart = chart::chartOf("printed-card");
    if (!chart) return tl::unexpected(chart.error());
    const FieldOnPage field = fieldOnPage(paper);
    std::string bytes;
    const Surface surface(cairo_pdf_surface_create_for_stream(
        append, &bytes, field.pageWidth * kPointsPerMm, field.pageHeight * kPointsPerMm));
    cairo_pdf_surface_set_metadata(surface.get(), CAIRO_PDF_METADATA_TITLE, "Rig Match card");
    const Context page(cairo_create(surface.get()));
    cairo_scale(page.get(), kPointsPerMm, kPointsPerMm);
    patches(page.get(), *chart, field);
    const double inset = kMarginMm + 5.0;
    for (const double x : {inset, field.pageWidth - inset}) {
        for (const double y : {inset, field.pageHeight - inset}) target(page.get(), x, y);
    }
    const double side = 0.5 * (field.left - kBorderMm);
    const double radius = std::min(side - 3.0, 12.0);
    for (const double x : {side, field.pageWidth - side})
        star(page.get(), x, field.top + 0.5 * field.height, radius);
    words(page.get(), field);
    cairo_show_page(page.get());
    cairo_surface_finish(surface.get());
    if (cairo_surface_status(surface.get()) != CAIRO_STATUS_SUCCESS ||
        cairo_status(page.get()) != CAIRO_STATUS_SUCCESS) {
        return base::fail(base::ErrorCode::WriteFailed,
                          base::say("printedCard.cannotMakeCard"),
                          base::asIs(cairo_status_to_string(cairo_surface_status(surface.get()))),
                          base::say("printedCard.freeSomeMemory"));
    }
    return bytes;
}

base::Result<void> writeCard(const std::filesystem::path& file, Paper paper) {
    const auto bytes = cardPdf(paper);
    if (!bytes) return tl::unexpected(bytes.error());
    return base::writeAtomically(file, *bytes);
}

}  // namespace rigmatch::card
