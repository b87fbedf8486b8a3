// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <vector>

#include "image/geometry.h"
#include "image/signal_tags.h"

namespace rigmatch::image {

enum class SampleKind { Unsigned8, Unsigned16, Float32 };

/// One plane of code values; the bytes belong to `CodedFrame::owner`.
struct Plane {
    const std::byte* data = nullptr;
    std::ptrdiff_t strideBytes = 0;
    int width = 0;
    int height = 0;
};

/// A frame as the decoder gave it: planes Y, Cb, Cr or (matrix None) R, G, B; one plane for grey.
/// Cheap to copy: copies share the planes.
struct CodedFrame {
    int width = 0;
    int height = 0;
    int bitDepth = 8;  ///< of the code values; 32 for floating point
    SampleKind samples = SampleKind::Unsigned8;
    int chromaShiftX = 0;  ///< log2 of the chroma subsampling
    int chromaShiftY = 0;
    int planeCount = 3;
    std::array<Plane, 3> planes;
    SignalTags tags;
    double seconds = 0.0;  ///< presentation time
    std::shared_ptr<const void> owner;
};

/// Planar R'G'B' signal: 0 = black, 1 = nominal white, after range and matrix are undone; not
/// clipped.
struct Frame {
    int width = 0;
    int height = 0;
    std::array<std::vector<float>, 3> channels;  ///< red, green, blue; row by row

    [[nodiscard]] float at(int channel, int x, int y) const {
        return channels[static_cast<std::size_t>(channel)]
                       [static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                        static_cast<std::size_t>(x)];
    }
};

/// An all-black Frame of that size.
[[nodiscard]] Frame blankFrame(int width, int height);

/// The signal of `region` (clipped to the frame), chroma taken from the covering sample.
[[nodiscard]] Frame signalFrame(const CodedFrame& frame, PixelRect region);
/// The signal of the whole frame.
[[nodiscard]] Frame signalFrame(const CodedFrame& frame);

/// The signal box-averaged by the whole factor `step` >= 1; odd rests at the right and bottom are
/// dropped. Pixel (x, y) of the result is centred on ((x + 0.5) step - 0.5, …) of the frame.
[[nodiscard]] Frame shrunkSignal(const CodedFrame& frame, int step);
/// Rows `first` to `first + count` of the same picture, which must have them: for passes that need
/// no more than a few rows at a time, and are faster so.
[[nodiscard]] Frame shrunkRows(const CodedFrame& frame, int step, int first, int count);
/// Size of shrunkSignal(): never below 1 × 1.
[[nodiscard]] int shrunkSize(int pixels, int step);

/// Where black lies in the codes of luma (and of R, G, B), and how many codes one of signal is.
struct LumaCodes {
    double black = 0.0;
    double perSignal = 1.0;
};
[[nodiscard]] LumaCodes lumaCodes(const CodedFrame& frame);

/// Standard deviation that rounding to whole codes adds to red, green and blue of one pixel, signal
/// (a step over the square root of 12, through the colour matrix); 0 for floating point.
[[nodiscard]] std::array<double, 3> roundingError(const CodedFrame& frame);

/// Single pixels of a frame as signal, as signalFrame() has them, without converting more than is
/// asked for. The frame must outlive it.
class SignalSampler {
public:
    explicit SignalSampler(const CodedFrame& frame);

    /// R'G'B' of pixel (x, y), which must lie in the frame.
    [[nodiscard]] std::array<float, 3> at(int x, int y) const;

private:
    template <class Sample>
    [[nodiscard]] std::array<float, 3> read(int x, int y) const;

    const CodedFrame& m_frame;
    bool m_isYcc;
    std::array<float, 2> m_offset{}, m_scale{};  ///< code to signal, of luma and of chroma
    std::array<float, 4> m_gains{};              ///< red of Cr, green of Cb and Cr, blue of Cb
};

/// Code range of a clipped sample: at or above this share of the code span counts as clipped.
/// Full range clips at the last code; limited range at 254 of 8 bit, as most encoders stop there.
[[nodiscard]] double clipSignal(const CodedFrame& frame);

/// A frame that owns 16-bit or 8-bit planes made in memory, for tests and for the simulator.
/// `chromaShift` 1 halves the chroma both ways (4:2:0), 0 keeps it.
[[nodiscard]] CodedFrame codedFromSignal(const Frame& signal,
                                         const SignalTags& tags,
                                         int bitDepth,
                                         int chromaShift = 0);

}  // namespace rigmatch::image
