// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cairo.h>

#include <memory>

namespace rigmatch::card {

template <class Type, void (*destroy)(Type*)>
struct Destroy {
    void operator()(Type* object) const { destroy(object); }
};
using Surface = std::unique_ptr<cairo_surface_t, Destroy<cairo_surface_t, cairo_surface_destroy>>;
using Context = std::unique_ptr<cairo_t, Destroy<cairo_t, cairo_destroy>>;

/// The program's typeface for a page: made once, lives as long as the program.
class Typeface {
public:
    [[nodiscard]] static const Typeface& regular();
    [[nodiscard]] static const Typeface& semibold();
    Typeface(const Typeface&) = delete;
    Typeface& operator=(const Typeface&) = delete;
    ~Typeface();

    /// Null where the library cannot open it.
    [[nodiscard]] cairo_font_face_t* font() const { return m_font; }

private:
    Typeface(const unsigned char* first, const unsigned char* last);
    cairo_font_face_t* m_font = nullptr;
};

}  // namespace rigmatch::card
