// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/frame.h"

#include <algorithm>
#include <cmath>
#include <type_traits>

#include "base/wide.h"
#include "image/shrunk_part.h"

namespace rigmatch::image {
namespace {

/// Linear map from code value to signal: (code - offset) * scale.
struct Scale {
    float offset;
    float scale;
};

Scale lumaScale(const CodedFrame& frame) {
    if (frame.samples == SampleKind::Float32) return {0.0F, 1.0F};
    const double unit = std::exp2(frame.bitDepth - 8);
    if (frame.tags.range == Range::Limited) {
        return {static_cast<float>(16.0 * unit), static_cast<float>(1.0 / (219.0 * unit))};
    }
    return {0.0F, static_cast<float>(1.0 / (std::exp2(frame.bitDepth) - 1.0))};
}

Scale chromaScale(const CodedFrame& frame) {
    const double unit = std::exp2(frame.bitDepth - 8);
    const double span =
        frame.tags.range == Range::Limited ? 224.0 * unit : std::exp2(frame.bitDepth) - 1.0;
    return {static_cast<float>(128.0 * unit), static_cast<float>(1.0 / span)};
}

/// R' = Y' + redCr Cr, G' = Y' - greenCb Cb - greenCr Cr, B' = Y' + blueCb Cb.
struct ChromaGains {
    float redCr, greenCb, greenCr, blueCb;
};

ChromaGains chromaGains(Matrix matrix) {
    const LumaWeights k = lumaWeights(matrix);
    const double redCr = 2.0 * (1.0 - k.red);
    const double blueCb = 2.0 * (1.0 - k.blue);
    return {static_cast<float>(redCr),
            static_cast<float>(blueCb * k.blue / k.green),
            static_cast<float>(redCr * k.red / k.green),
            static_cast<float>(blueCb)};
}

template <class Sample>
const Sample* rowOf(const Plane& plane, int y) {
    return reinterpret_cast<const Sample*>(plane.data + plane.strideBytes * y);
}

/// sums += the sums of `Each` neighbouring samples.
template <int Each, class Sample>
void addSums(const Sample* __restrict from, std::size_t count, float* __restrict sums) {
    using Sum = std::conditional_t<std::is_integral_v<Sample>, std::int32_t, float>;
    for (std::size_t i = 0; i < count; ++i) {
        Sum sum = 0;
        for (std::size_t k = 0; k < Each; ++k) sum += static_cast<Sum>(from[Each * i + k]);
        sums[i] += static_cast<float>(sum);
    }
}

/// sums += samples that two columns share, from column `x0` of the plane's picture on.
template <class Sample>
void addShared(const Sample* __restrict source, int x0, std::size_t count, float* __restrict sums) {
    const Sample* from = source + x0 / 2;
    if (x0 % 2 != 0 && count > 0) {  // begins with the second column of a sample
        *sums++ += static_cast<float>(*from++);
        --count;
    }
    const std::size_t pairs = count / 2;
    for (std::size_t i = 0; i < pairs; ++i) {
        sums[2 * i] += static_cast<float>(from[i]);
        sums[2 * i + 1] += static_cast<float>(from[i]);
    }
    if (count % 2 != 0) sums[2 * pairs] += static_cast<float>(from[pairs]);
}

RIGMATCH_WIDE void scaleRow(float* values, std::size_t count, float scale, float offset) {
    for (std::size_t i = 0; i < count; ++i) values[i] = values[i] * scale - offset;
}

/// Which samples of a plane belong to row `row` and to columns from `x0` on of a picture shrunken
/// by `step`; the plane has one sample for 2^shift pixels.
struct Boxes {
    int step = 1;
    int shiftX = 0;
    int shiftY = 0;
    int x0 = 0;
    int row = 0;

    [[nodiscard]] int firstRow() const { return (row * step) >> shiftY; }
    [[nodiscard]] int lastRow() const { return (row * step + step - 1) >> shiftY; }
    [[nodiscard]] int firstColumn(int x) const { return ((x0 + x) * step) >> shiftX; }
    [[nodiscard]] int lastColumn(int x) const { return ((x0 + x) * step + step - 1) >> shiftX; }
    /// Samples per box along a row where all boxes have as many, else 0.
    [[nodiscard]] int columns() const { return step % (1 << shiftX) == 0 ? step >> shiftX : 0; }
};

/// Adds the means over the boxes' columns of one row of samples.
template <class Sample>
void addMeans(const Sample* source, int sourceWidth, const Boxes& boxes, std::vector<float>& sums) {
    for (std::size_t x = 0; x < sums.size(); ++x) {
        const int first = std::min(boxes.firstColumn(static_cast<int>(x)), sourceWidth - 1);
        const int last = std::min(boxes.lastColumn(static_cast<int>(x)), sourceWidth - 1);
        float sum = 0.0F;
        for (int k = first; k <= last; ++k) sum += static_cast<float>(source[k]);
        sums[x] += sum / static_cast<float>(last - first + 1);
    }
}

/// Box means of one plane, in signal units.
template <class Sample>
void boxRow(const Plane& plane, const Boxes& boxes, Scale scale, std::vector<float>& out) {
    std::fill(out.begin(), out.end(), 0.0F);
    const int first = std::min(boxes.firstRow(), plane.height - 1);
    const int last = std::min(boxes.lastRow(), plane.height - 1);
    const int columns = boxes.columns();
    const int start = boxes.firstColumn(0);
    // What the fast paths below read in one go must lie in the row.
    const int reach = start + columns * static_cast<int>(out.size());
    const bool isInside = columns > 0 && reach <= plane.width;
    const bool isShared = boxes.step == 1 && boxes.shiftX == 1;
    float perRow = 1.0F;
    for (int row = first; row <= last; ++row) {
        const Sample* source = rowOf<Sample>(plane, row);
        if (isShared) {
            addShared(source, boxes.x0, out.size(), out.data());
        } else if (isInside && columns == 1) {
            addSums<1>(source + start, out.size(), out.data());
        } else if (isInside && columns == 2) {
            addSums<2>(source + start, out.size(), out.data());
            perRow = 2.0F;
        } else if (isInside && columns == 4) {
            addSums<4>(source + start, out.size(), out.data());
            perRow = 4.0F;
        } else {
            addMeans(source, plane.width, boxes, out);
        }
    }
    const float mean = 1.0F / (perRow * static_cast<float>(last - first + 1));
    scaleRow(out.data(), out.size(), mean * scale.scale, scale.offset * scale.scale);
}

void boxRowOf(const CodedFrame& frame,
              std::size_t planeIndex,
              const Boxes& boxes,
              Scale scale,
              std::vector<float>& out) {
    const Plane& plane = frame.planes[planeIndex];
    switch (frame.samples) {
        case SampleKind::Unsigned8:
            boxRow<std::uint8_t>(plane, boxes, scale, out);
            break;
        case SampleKind::Unsigned16:
            boxRow<std::uint16_t>(plane, boxes, scale, out);
            break;
        case SampleKind::Float32:
            boxRow<float>(plane, boxes, scale, out);
            break;
    }
}

RIGMATCH_WIDE void combineRow(const ChromaGains& gains,
                              std::size_t width,
                              const float* __restrict cb,
                              const float* __restrict cr,
                              float* __restrict red,
                              float* __restrict green,
                              float* __restrict blue) {
    for (std::size_t x = 0; x < width; ++x) {
        const float y = green[x];
        red[x] = y + gains.redCr * cr[x];
        green[x] = y - gains.greenCb * cb[x] - gains.greenCr * cr[x];
        blue[x] = y + gains.blueCb * cb[x];
    }
}

/// Rows of `region` (in units of the shrunken picture) into `result`.
void fillRows(const CodedFrame& frame, PixelRect region, int step, Frame& result) {
    const auto width = static_cast<std::size_t>(region.width);
    const bool isYcc = frame.tags.matrix != Matrix::None && frame.planeCount == 3;
    const Scale luma = lumaScale(frame);
    const Scale chroma = chromaScale(frame);
    const ChromaGains gains = chromaGains(frame.tags.matrix);
    std::array<std::vector<float>, 3> rows;
    for (auto& row : rows) row.resize(width);
    for (int y = 0; y < region.height; ++y) {
        for (std::size_t plane = 0; plane < static_cast<std::size_t>(frame.planeCount); ++plane) {
            const bool isChroma = isYcc && plane > 0;
            const Boxes boxes{step,
                              isChroma ? frame.chromaShiftX : 0,
                              isChroma ? frame.chromaShiftY : 0,
                              region.x,
                              region.y + y};
            boxRowOf(frame, plane, boxes, isChroma ? chroma : luma, rows[plane]);
        }
        float* out[3];
        for (std::size_t c = 0; c < 3; ++c) {
            out[c] = result.channels[c].data() + static_cast<std::size_t>(y) * width;
        }
        if (frame.planeCount == 1) {
            for (float* channel : out) std::copy_n(rows[0].data(), width, channel);
        } else if (!isYcc) {
            for (std::size_t c = 0; c < 3; ++c) std::copy_n(rows[c].data(), width, out[c]);
        } else {
            std::copy_n(rows[0].data(), width, out[1]);
            combineRow(gains, width, rows[1].data(), rows[2].data(), out[0], out[1], out[2]);
        }
    }
}

/// Planes in memory that a CodedFrame made here shares.
struct OwnedPlanes {
    std::array<std::vector<std::uint16_t>, 3> wide;
    std::array<std::vector<std::uint8_t>, 3> narrow;
};

/// Y', Cb, Cr of a signal, chroma about 0.
std::array<std::vector<float>, 3> yccPlanes(const Frame& signal, Matrix matrix) {
    const LumaWeights k = lumaWeights(matrix);
    const double perBlue = 1.0 / (2.0 * (1.0 - k.blue)), perRed = 1.0 / (2.0 * (1.0 - k.red));
    std::array<std::vector<float>, 3> planes;
    for (auto& plane : planes) plane.resize(signal.channels[0].size());
    for (std::size_t i = 0; i < planes[0].size(); ++i) {
        const double red = signal.channels[0][i];
        const double blue = signal.channels[2][i];
        const double y = k.red * red + k.green * double(signal.channels[1][i]) + k.blue * blue;
        planes[0][i] = static_cast<float>(y);
        planes[1][i] = static_cast<float>((blue - y) * perBlue);
        planes[2][i] = static_cast<float>((red - y) * perRed);
    }
    return planes;
}

/// Codes of one plane, averaged over blocks of 2^shift, rounded to the nearest.
template <class Code>
std::vector<Code> coded(
    const std::vector<float>& plane, int width, int height, int shift, Scale scale, int bitDepth) {
    const double top = std::exp2(bitDepth) - 1.0;
    const double perSignal = 1.0 / double(scale.scale), offset = double(scale.offset);
    // After the clamp nothing is below zero: cut off behind a half is rounded.
    const auto codeOf = [&](double mean) {
        return static_cast<Code>(
            static_cast<int>(std::clamp(mean * perSignal + offset, 0.0, top) + 0.5));
    };
    std::vector<Code> codes;
    if (shift == 0) {
        codes.resize(plane.size());
        for (std::size_t i = 0; i < plane.size(); ++i) codes[i] = codeOf(double(plane[i]));
        return codes;
    }
    const int block = 1 << shift;
    codes.reserve(plane.size() >> (2 * shift));
    for (int y = 0; y < height; y += block) {
        for (int x = 0; x < width; x += block) {
            double sum = 0.0;
            const int rows = std::min(block, height - y), columns = std::min(block, width - x);
            for (int dy = 0; dy < rows; ++dy) {
                const float* row = plane.data() + static_cast<std::ptrdiff_t>(y + dy) * width + x;
                for (int dx = 0; dx < columns; ++dx) sum += double(row[dx]);
            }
            codes.push_back(codeOf(sum / (rows * columns)));
        }
    }
    return codes;
}

}  // namespace

Frame blankFrame(int width, int height) {
    Frame frame;
    frame.width = width;
    frame.height = height;
    for (auto& channel : frame.channels) {
        channel.assign(static_cast<std::size_t>(width) * static_cast<std::size_t>(height), 0.0F);
    }
    return frame;
}

Frame shrunkPart(const CodedFrame& frame, PixelRect part, int step) {
    const int width = shrunkSize(frame.width, step), height = shrunkSize(frame.height, step);
    const int left = std::clamp(part.x, 0, width - 1);
    const int top = std::clamp(part.y, 0, height - 1);
    const int right = std::clamp(part.x + part.width, left + 1, width);
    const int bottom = std::clamp(part.y + part.height, top + 1, height);
    const PixelRect inside{left, top, right - left, bottom - top};
    Frame result = blankFrame(inside.width, inside.height);
    fillRows(frame, inside, std::max(step, 1), result);
    return result;
}

Frame signalFrame(const CodedFrame& frame, PixelRect region) {
    return shrunkPart(frame, region, 1);
}

Frame signalFrame(const CodedFrame& frame) {
    return signalFrame(frame, {0, 0, frame.width, frame.height});
}

int shrunkSize(int pixels, int step) { return std::max(pixels / std::max(step, 1), 1); }

Frame shrunkRows(const CodedFrame& frame, int step, int first, int count) {
    step = std::max(step, 1);
    const PixelRect rows{0, first, shrunkSize(frame.width, step), count};
    Frame result = blankFrame(rows.width, rows.height);
    fillRows(frame, rows, step, result);
    return result;
}

Frame shrunkSignal(const CodedFrame& frame, int step) {
    return shrunkRows(frame, step, 0, shrunkSize(frame.height, step));
}

LumaCodes lumaCodes(const CodedFrame& frame) {
    const Scale scale = lumaScale(frame);
    return {double(scale.offset), 1.0 / double(scale.scale)};
}

std::array<double, 3> roundingError(const CodedFrame& frame) {
    if (frame.samples == SampleKind::Float32) return {};
    const double luma = double(lumaScale(frame).scale) / std::sqrt(12.0);
    if (frame.tags.matrix == Matrix::None || frame.planeCount < 3) return {luma, luma, luma};
    const double chroma = double(chromaScale(frame).scale) / std::sqrt(12.0);
    const ChromaGains gains = chromaGains(frame.tags.matrix);
    return {std::hypot(luma, double(gains.redCr) * chroma),
            std::hypot(luma, double(gains.greenCb) * chroma, double(gains.greenCr) * chroma),
            std::hypot(luma, double(gains.blueCb) * chroma)};
}

SignalSampler::SignalSampler(const CodedFrame& frame)
    : m_frame(frame), m_isYcc(frame.tags.matrix != Matrix::None && frame.planeCount == 3) {
    const Scale luma = lumaScale(frame);
    const Scale chroma = chromaScale(frame);
    const ChromaGains gains = chromaGains(frame.tags.matrix);
    m_offset = {luma.offset, chroma.offset};
    m_scale = {luma.scale, chroma.scale};
    m_gains = {gains.redCr, gains.greenCb, gains.greenCr, gains.blueCb};
}

template <class Sample>
std::array<float, 3> SignalSampler::read(int x, int y) const {
    const auto code = [&](std::size_t plane, int shiftX, int shiftY) {
        return static_cast<float>(rowOf<Sample>(m_frame.planes[plane], y >> shiftY)[x >> shiftX]);
    };
    const float luma = (code(0, 0, 0) - m_offset[0]) * m_scale[0];
    if (m_frame.planeCount == 1) return {luma, luma, luma};
    if (!m_isYcc) {
        return {luma,
                (code(1, 0, 0) - m_offset[0]) * m_scale[0],
                (code(2, 0, 0) - m_offset[0]) * m_scale[0]};
    }
    const int shiftX = m_frame.chromaShiftX;
    const int shiftY = m_frame.chromaShiftY;
    const float cb = (code(1, shiftX, shiftY) - m_offset[1]) * m_scale[1];
    const float cr = (code(2, shiftX, shiftY) - m_offset[1]) * m_scale[1];
    return {
        luma + m_gains[0] * cr, luma - m_gains[1] * cb - m_gains[2] * cr, luma + m_gains[3] * cb};
}

std::array<float, 3> SignalSampler::at(int x, int y) const {
    switch (m_frame.samples) {
        case SampleKind::Unsigned8:
            return read<std::uint8_t>(x, y);
        case SampleKind::Unsigned16:
            return read<std::uint16_t>(x, y);
        case SampleKind::Float32:
            break;
    }
    return read<float>(x, y);
}

double clipSignal(const CodedFrame& frame) {
    if (frame.samples == SampleKind::Float32) return 1e9;
    if (frame.tags.range == Range::Full) return 1.0 - 0.5 / (std::exp2(frame.bitDepth) - 1.0);
    return (254.0 - 16.0) / 219.0 - 0.002;
}

CodedFrame codedFromSignal(const Frame& signal,
                           const SignalTags& tags,
                           int bitDepth,
                           int chromaShift) {
    CodedFrame frame;
    frame.width = signal.width;
    frame.height = signal.height;
    frame.bitDepth = bitDepth;
    frame.samples = bitDepth > 8 ? SampleKind::Unsigned16 : SampleKind::Unsigned8;
    frame.tags = tags;
    const bool isYcc = tags.matrix != Matrix::None;
    frame.chromaShiftX = isYcc ? chromaShift : 0;
    frame.chromaShiftY = frame.chromaShiftX;
    const std::array<std::vector<float>, 3> planes =
        isYcc ? yccPlanes(signal, tags.matrix) : signal.channels;
    auto owner = std::make_shared<OwnedPlanes>();
    const std::ptrdiff_t bytes = bitDepth > 8 ? 2 : 1;
    for (std::size_t c = 0; c < 3; ++c) {
        const bool isChroma = isYcc && c > 0;
        const int shift = isChroma ? chromaShift : 0;
        const int width = (signal.width + (1 << shift) - 1) >> shift;
        const int height = (signal.height + (1 << shift) - 1) >> shift;
        const Scale scale = isChroma ? chromaScale(frame) : lumaScale(frame);
        if (bitDepth > 8)
            owner->wide[c] = coded<std::uint16_t>(
                planes[c], signal.width, signal.height, shift, scale, bitDepth);
        else
            owner->narrow[c] =
                coded<std::uint8_t>(planes[c], signal.width, signal.height, shift, scale, bitDepth);
        const void* data = bitDepth > 8 ? static_cast<const void*>(owner->wide[c].data())
                                        : static_cast<const void*>(owner->narrow[c].data());
        frame.planes[c] = {static_cast<const std::byte*>(data), bytes * width, width, height};
    }
    frame.owner = owner;
    return frame;
}

}  // namespace rigmatch::image
