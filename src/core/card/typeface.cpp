// SPDX-License-Identifier: GPL-3.0-or-later
#include "card/typeface.h"

#include <cairo-ft.h>
#include <ft2build.h>
#include FT_FREETYPE_H

extern "C" {
extern const unsigned char rigmatch_font_regular[];       // NOLINT(readability-identifier-naming)
extern const unsigned char rigmatch_font_regular_end[];   // NOLINT(readability-identifier-naming)
extern const unsigned char rigmatch_font_semibold[];      // NOLINT(readability-identifier-naming)
extern const unsigned char rigmatch_font_semibold_end[];  // NOLINT(readability-identifier-naming)
}

namespace rigmatch::card {

Typeface::Typeface(const unsigned char* first, const unsigned char* last) {
    // The library's caches may look at the face later: both live as long as the program.
    FT_Library library = nullptr;
    FT_Face face = nullptr;
    if (FT_Init_FreeType(&library) != 0) return;
    if (FT_New_Memory_Face(library, first, last - first, 0, &face) != 0) return;
    m_font = cairo_ft_font_face_create_for_ft_face(face, 0);
}

Typeface::~Typeface() {
    if (m_font != nullptr) cairo_font_face_destroy(m_font);
}

const Typeface& Typeface::regular() {
    static const Typeface kFace(rigmatch_font_regular, rigmatch_font_regular_end);
    return kFace;
}

const Typeface& Typeface::semibold() {
    static const Typeface kFace(rigmatch_font_semibold, rigmatch_font_semibold_end);
    return kFace;
}

}  // namespace rigmatch::card
