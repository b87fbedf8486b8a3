// SPDX-License-Identifier: GPL-3.0-or-later
#include "card/picture_sheet.h"

#include <algorithm>
#include <cstdint>
#include <cstring>

#include "card/typeface.h"

namespace rigmatch::card {
namespace {

constexpr int kTileWidth = 380, kTileHeight = 260;
constexpr int kGap = 12, kMargin = 24, kTitle = 54, kHead = 28, kHeading = 30;
constexpr double kGround = 0.18, kText = 0.92, kDim = 0.66;  // signal

void words(cairo_t* page,
           const Typeface& face,
           double size,
           double signal,
           double x,
           double y,
           const std::string& text) {
    cairo_set_source_rgb(page, signal, signal, signal);
    if (face.font() != nullptr) cairo_set_font_face(page, face.font());
    cairo_set_font_size(page, size);
    cairo_move_to(page, x, y);
    cairo_show_text(page, text.c_str());
}

/// As large as the tile lets it be, at its own shape.
void draw(cairo_t* page, const SheetPicture& picture, double x, double y) {
    if (picture.width <= 0 || picture.height <= 0) return;
    const Surface image(
        cairo_image_surface_create(CAIRO_FORMAT_RGB24, picture.width, picture.height));
    if (cairo_surface_status(image.get()) != CAIRO_STATUS_SUCCESS) return;
    unsigned char* data = cairo_image_surface_get_data(image.get());
    const int stride = cairo_image_surface_get_stride(image.get());
    for (int row = 0; row < picture.height; ++row) {
        for (int column = 0; column < picture.width; ++column) {
            const std::size_t at =
                3 * (static_cast<std::size_t>(row) * static_cast<std::size_t>(picture.width) +
                     static_cast<std::size_t>(column));
            const std::uint32_t pixel = static_cast<std::uint32_t>(picture.rgb[at]) << 16U |
                                        static_cast<std::uint32_t>(picture.rgb[at + 1]) << 8U |
                                        static_cast<std::uint32_t>(picture.rgb[at + 2]);
            std::memcpy(data + std::ptrdiff_t{stride} * row + std::ptrdiff_t{4} * column,
                        &pixel,
                        sizeof(pixel));
        }
    }
    cairo_surface_mark_dirty(image.get());
    const double scale = std::min(static_cast<double>(kTileWidth) / picture.width,
                                  static_cast<double>(kTileHeight) / picture.height);
    cairo_save(page);
    cairo_translate(page, x, y);
    cairo_scale(page, scale, scale);
    cairo_set_source_surface(page, image.get(), 0.0, 0.0);
    cairo_pattern_set_filter(cairo_get_source(page), CAIRO_FILTER_GOOD);
    cairo_rectangle(page, 0.0, 0.0, picture.width, picture.height);
    cairo_fill(page);
    cairo_restore(page);
}

cairo_status_t appendTo(void* to, const unsigned char* bytes, unsigned count) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

}  // namespace

base::Result<std::string> sheetPng(const PictureSheet& sheet) {
    const auto columns = static_cast<int>(sheet.columns.size());
    const auto rows = static_cast<int>(sheet.rows.size());
    if (columns == 0 || rows == 0) {
        return base::fail(base::ErrorCode::OutOfRange,
                          base::say("pictureSheet.noSheetPictures"),
                          base::say("pictureSheet.thereNothingShow"),
                          base::say("pictureSheet.giveOneRow"));
    }
    const int width = 2 * kMargin + columns * kTileWidth + (columns - 1) * kGap;
    const int height = kTitle + kHead + rows * (kHeading + kTileHeight + kGap) + kMargin;
    const Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, width, height));
    const Context page(cairo_create(surface.get()));
    cairo_set_source_rgb(page.get(), kGround, kGround, kGround);
    cairo_paint(page.get());
    words(page.get(), Typeface::semibold(), 20.0, kText, kMargin, 34.0, sheet.title);
    words(page.get(), Typeface::regular(), 13.0, kDim, kMargin, 54.0, sheet.note);
    for (int c = 0; c < columns; ++c)
        words(page.get(),
              Typeface::semibold(),
              14.0,
              kText,
              kMargin + c * (kTileWidth + kGap),
              kTitle + kHead - 4.0,
              sheet.columns[static_cast<std::size_t>(c)]);
    double y = kTitle + kHead;
    for (const SheetRow& row : sheet.rows) {
        words(
            page.get(), Typeface::regular(), 13.0, kDim, kMargin, y + kHeading - 9.0, row.heading);
        y += kHeading;
        for (std::size_t c = 0; c < row.pictures.size(); ++c)
            draw(page.get(),
                 row.pictures[c],
                 kMargin + static_cast<double>(c) * (kTileWidth + kGap),
                 y);
        y += kTileHeight + kGap;
    }
    std::string bytes;
    if (cairo_surface_write_to_png_stream(surface.get(), appendTo, &bytes) !=
        CAIRO_STATUS_SUCCESS) {
        return base::fail(
            base::ErrorCode::WriteFailed,
            base::say("pictureSheet.noSheetPictures"),
            base::say("pictureSheet.picturePxCould",
                      {{"width", base::whole(width)}, {"height", base::whole(height)}}),
            base::say("pictureSheet.showFewerCameras"));
    }
    return bytes;
}

}  // namespace rigmatch::card
